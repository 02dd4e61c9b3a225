"""What a kitchen has decided, as core values."""

from typing import Any, cast

from bulwark.kitchens.models import HouseRules, KnownFood, LocalLimit
from bulwark.kitchens.models import Kitchen as Kitchen  # what other rooms call a kitchen
from bulwark.kitchens.models import Price as PriceRow
from foodsafety.foods import stem_words
from foodsafety.quantities import CoreError
from foodsafety.recipes import KnownFood as Known
from foodsafety.review import Price, PriceUnit
from foodsafety.rules import House, LocalChange, Profile, house_from, local_profile


def decided_by(organisation_id: int) -> HouseRules:
    """What an organisation has decided; the defaults where it has decided nothing yet."""
    found = HouseRules.objects.filter(organisation_id=organisation_id).first()
    return found or HouseRules(organisation_id=organisation_id)


def kitchens_of(organisation_id: int) -> list[Kitchen]:
    """The organisation's kitchens that are in use, the main one first."""
    return list(Kitchen.objects.filter(organisation_id=organisation_id, archived_at=None))


def kitchen_of(organisation_id: int) -> Kitchen:
    """The organisation's main kitchen; one where nothing is counted where there is none yet."""
    found = Kitchen.objects.filter(organisation_id=organisation_id, archived_at=None).first()
    return found or Kitchen(organisation_id=organisation_id)


def house_of(decided: HouseRules) -> House:
    """The house rules as the core takes them."""
    try:
        return house_from(decided.house)
    except CoreError:
        return House()


def limit_rows(organisation_id: int, base: str) -> list[LocalLimit]:
    """Every change ever made over a base profile, oldest first."""
    return list(LocalLimit.objects.filter(organisation_id=organisation_id, base=base))


def local_changes(organisation_id: int, base: str) -> list[LocalChange]:
    """The changes that count: the last of each limit, those taken back left out."""
    last = {row.path: row for row in limit_rows(organisation_id, base)}
    return [
        LocalChange(path=row.path, value=row.value, by=row.signed, on=row.on, reason=row.reason)
        for row in last.values()
        if row.value is not None
    ]


def rules_for(organisation_id: int, base: str) -> Profile:
    """A rule profile as this organisation uses it. A change the base no longer knows is left out."""
    changes = local_changes(organisation_id, base)
    try:
        return local_profile(base, changes)
    except CoreError:
        return local_profile(base, [change for change in changes if _stands(base, change)])


def lesson_rules(organisation_id: int) -> dict[str, Any]:
    """What a new lesson takes from the kitchen and keeps: profile, house rules, its own limits."""
    decided = decided_by(organisation_id)
    changes = local_changes(organisation_id, decided.profile)
    return {"profile_id": decided.profile, "house": decided.house, "local_limits": changes}


def _stands(base: str, change: LocalChange) -> bool:
    try:
        local_profile(base, [change])
    except CoreError:
        return False
    return True


def prices_of(organisation_id: int) -> dict[str, Price]:
    """The latest price of each food kind."""
    found: dict[str, Price] = {}
    for row in PriceRow.objects.filter(organisation_id=organisation_id):
        found.setdefault(row.kind, Price(kind=row.kind, amount=row.amount, per=cast("PriceUnit", row.per), on=row.on))
    return found


def known_foods(organisation_id: int) -> dict[tuple[str, ...], Known]:
    """Foods this organisation has been asked about, by the stems of their names."""
    rows = KnownFood.objects.filter(organisation_id=organisation_id)
    return {stem_words(row.words): Known(kind=row.kind, allergens=tuple(row.allergens)) for row in rows}
