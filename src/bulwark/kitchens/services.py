"""Changes to what a kitchen has decided, owns and pays."""

import datetime as dt
from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.kitchens.models import Kitchen, KnownFood, LocalLimit, Price
from bulwark.people.actors import Actor
from foodsafety.foods import allergen_sets, food_kind, locale_from, plain_id, stem_words
from foodsafety.quantities import CoreError, finite
from foodsafety.review import PRICE_UNITS
from foodsafety.rules import LocalChange, house_from, local_profile, rule_profile


def _kitchen(actor: Actor) -> Kitchen:
    return Kitchen.objects.select_for_update().get_or_create(organisation_id=actor.organisation)[0]


@transaction.atomic
def set_kitchen(
    *, by: Actor, profile_id: str, locale: str, house: Mapping[str, Any], benches: int, currency: str
) -> Kitchen:
    """Records the base profile and the house rules. Raises CoreError naming a choice that is not one."""
    rule_profile(profile_id)
    locale_from(locale)
    house_from(house)
    finite(benches, "benches", low=1, high=40)
    kitchen = _kitchen(by)
    kitchen.profile, kitchen.locale, kitchen.house = profile_id, locale, dict(house)
    kitchen.benches, kitchen.currency = benches, currency
    kitchen.save()
    return kitchen


@transaction.atomic
def set_equipment(*, by: Actor, counts: Mapping[str, int | None]) -> None:
    """Records how many there are of each kind; None takes the count back to "not counted"."""
    kitchen = _kitchen(by)
    equipment = dict(kitchen.equipment)
    for kind, count in counts.items():
        equipment.pop(kind, None)
        if count is not None:
            equipment[plain_id(kind)] = int(finite(count, kind, low=0, high=999))
    kitchen.equipment = equipment
    kitchen.save(update_fields=["equipment"])


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
