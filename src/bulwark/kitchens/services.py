"""Changes to what a kitchen has decided, owns and pays."""

import datetime as dt
from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.kitchens.models import HouseRules, Kitchen, KnownFood, LocalLimit, Price
from bulwark.people.actors import Actor
from foodsafety.foods import allergen_sets, food_kind, locale_from, plain_id, stem_words
from foodsafety.planning import skill_names
from foodsafety.quantities import CoreError, finite
from foodsafety.review import PRICE_UNITS
from foodsafety.rules import LocalChange, house_from, local_profile, rule_profile


@transaction.atomic
def set_house_rules(*, by: Actor, profile_id: str, locale: str, house: Mapping[str, Any], currency: str) -> HouseRules:
    """Records the base profile and the house rules. Raises CoreError naming a choice that is not one."""
    rule_profile(profile_id)
    locale_from(locale)
    house_from(house)
    decided = HouseRules.objects.select_for_update().get_or_create(organisation_id=by.organisation)[0]
    decided.profile, decided.locale, decided.house, decided.currency = profile_id, locale, dict(house), currency
    decided.save()
    return decided


MOST_KITCHENS = 20
MOST_OVENS = 12
NUMBERS = {"benches": (1, 40), "fridge_l": (0, 10_000), "freezer_l": (0, 10_000), "altitude_m": (-430, 6000)}


def main_kitchen(by: Actor) -> Kitchen:
    """The organisation's main kitchen, to be changed; made where there is none."""
    found = Kitchen.objects.select_for_update().filter(organisation_id=by.organisation, archived_at=None).first()
    return found or Kitchen.objects.create(organisation_id=by.organisation)


@transaction.atomic
def set_equipment(*, by: Actor, counts: Mapping[str, int | None], kitchen: Kitchen | None = None) -> None:
    """Records how many there are of each kind in a kitchen, or in the main one; None takes the count back to "not
    counted"."""
    kitchen = kitchen or main_kitchen(by)
    equipment = dict(kitchen.equipment)
    for kind, count in counts.items():
        equipment.pop(kind, None)
        if count is not None:
            equipment[plain_id(kind)] = int(finite(count, kind, low=0, high=999))
    kitchen.equipment = equipment
    kitchen.save(update_fields=["equipment"])


@transaction.atomic
def set_room(*, kitchen: Kitchen, name: str, said: Mapping[str, Any]) -> None:
    """Records what else is said of a kitchen: numbers by their names (None where nobody has said), shelves of each
    oven, rings by size, boards by use, a tap or none, the youngest that may use something. Raises CoreError naming
    what is wrong."""
    if not name.strip():
        raise CoreError("name", "kitchen_unnamed")
    for field, (low, high) in NUMBERS.items():
        if field in said:
            value = said[field]
            if value is None and field == "benches":
                raise CoreError("benches", "number_missing")
            setattr(kitchen, field, None if value is None else int(finite(value, field, low=low, high=high)))
    shelves = [int(finite(one, "oven_shelves", low=1, high=20)) for one in said.get("oven_shelves", ())]
    if len(shelves) > MOST_OVENS:
        raise CoreError("oven_shelves", "too_many_ovens", most=MOST_OVENS)
    kitchen.name, kitchen.tap, kitchen.oven_shelves = name.strip()[:80], said.get("tap", ""), shelves
    kitchen.rings = {size: int(finite(n, "rings", low=0, high=99)) for size, n in said.get("rings", {}).items()}
    kitchen.boards = {use[:40]: int(finite(n, "boards", low=0, high=99)) for use, n in said.get("boards", {}).items()}
    kitchen.ages = {_skill(name): int(finite(n, "ages", low=3, high=21)) for name, n in said.get("ages", {}).items()}
    kitchen.save()


def _skill(name: str) -> str:
    found = plain_id(name)
    if found not in skill_names():
        raise CoreError("ages", "not_one_of", value=name[:40], allowed=skill_names())
    return found


@transaction.atomic
def copy_kitchen(*, by: Actor, kitchen: Kitchen, name: str) -> Kitchen:
    """A kitchen like another. Raises CoreError where there are too many."""
    there = Kitchen.objects.filter(organisation_id=by.organisation, archived_at=None).count()
    if there >= MOST_KITCHENS:
        raise CoreError("kitchen", "too_many_kitchens", most=MOST_KITCHENS)
    kitchen.pk, kitchen.name, kitchen.position = None, name[:80], there
    kitchen._state.adding = True
    kitchen.save()
    return kitchen


def put_away(kitchen: Kitchen) -> None:
    """Takes a kitchen from the lists; lessons that were planned in it keep it."""
    kitchen.archived_at = timezone.now()
    kitchen.save(update_fields=["archived_at"])


@transaction.atomic
def set_limit(*, by: Actor, base: str, path: str, value: float | None, signed: str, reason: str) -> None:
    """Sets a limit over the base profile, or takes it back to the base (None): signed, dated and
    with its reason. Raises CoreError naming what is wrong."""
    rule_profile(base)
    if not signed.strip() or not reason.strip():
        raise CoreError(path, "unsigned_limit")
    if value is not None:
        change = LocalChange(path=path, value=value, by=signed, on=_today(), reason=reason)
        local_profile(base, [change])
    LocalLimit.objects.create(
        organisation_id=by.organisation,
        base=base,
        path=path,
        value=value,
        reason=reason.strip(),
        signed=signed.strip(),
        by_id=by.user,
        on=_today(),
    )


def _today() -> dt.date:
    return timezone.localdate()


@transaction.atomic
def set_price(*, by: Actor, kind: str, amount: Decimal, per: str, on: dt.date | None = None) -> None:
    """Records what a food costs now; earlier prices stay. Raises CoreError for what cannot be a price."""
    known = food_kind(kind)
    if per not in PRICE_UNITS:
        raise CoreError("per", "not_one_of", value=per, allowed=tuple(PRICE_UNITS))
    if not amount.is_finite() or not Decimal(0) <= amount < Decimal(1_000_000):
        raise CoreError("amount", "price_outside")
    Price.objects.create(organisation_id=by.organisation, kind=known.id, amount=amount, per=per, on=on or _today())


@transaction.atomic
def remember_food(*, by: Actor, words: str, kind: str, allergens: list[str]) -> None:
    """Remembers what a food is that nobody lists. Raises CoreError for an unknown kind or allergen."""
    stems = " ".join(stem_words(words))
    if not stems:
        raise CoreError("food", "food_unnamed")
    tags = {tag for row in allergen_sets().values() for tag in row.members}
    for tag in allergens:
        if tag not in tags:
            raise CoreError("allergens", "not_an_allergen", tag=tag)
    KnownFood.objects.update_or_create(
        organisation_id=by.organisation,
        words=stems[:80],
        defaults={"kind": food_kind(kind).id, "allergens": allergens},
    )
