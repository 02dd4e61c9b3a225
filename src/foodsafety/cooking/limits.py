"""Which cooking limit a food must meet: asked by the plan, the lesson, the cook check and the command line."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Literal

from foodsafety.foods import FoodKind, raw_of_animals
from foodsafety.rules import CookLimit, Hold, Profile

Appliance = Literal["oven", "hob", "grill", "microwave", "fryer", "slow_cooker"]
APPLIANCES: tuple[Appliance, ...] = ("oven", "hob", "grill", "microwave", "fryer", "slow_cooker")


def strictest(limits: Iterable[CookLimit]) -> CookLimit | None:
    """One limit that meets them all, whatever their order; None for none.

    The hottest row speaks, of equal ones the longest hold and then the longest rest; standing after a
    microwave counts from whichever row asks for it. Another hold that a row offers stands only if
    every row has one that is no hotter and no longer. A row that cannot be measured adds what has to
    be seen.
    """
    rows = sorted(limits, key=_rank, reverse=True)
    if not rows:
        return None
    main = rows[0]
    same = [row for row in rows if row.main and main.main and row.main.temperature.c == main.main.temperature.c]
    seen = dict.fromkeys(row.observation for row in rows if row.observation and (row is main or row.main is None))
    return replace(
        main,
        rest_s=max((row.rest_s for row in same), default=main.rest_s),
        stand_s=max(row.stand_s for row in rows),
        observation="; ".join(seen),
        verify=any(row.verify for row in rows),
        alternatives=_shared(main.alternatives, rows, equivalents=False),
        equivalents=_shared(main.equivalents, rows, equivalents=True),
    )


def _rank(limit: CookLimit) -> tuple[float, float, float, str]:
    waits_s = limit.rest_s + limit.stand_s
    if limit.main is None:
        return (float("-inf"), 0.0, waits_s, limit.food_class)
    return (limit.main.temperature.c, limit.main.hold_s, waits_s, limit.food_class)


def _shared(holds: Iterable[Hold], rows: Iterable[CookLimit], *, equivalents: bool) -> tuple[Hold, ...]:
    measured = [row for row in rows if row.main]

    def meets(hold: Hold, row: CookLimit) -> bool:
        known = (row.main, *row.alternatives, *(row.equivalents if equivalents else ()))
        return any(
            k is not None and k.temperature.c <= hold.temperature.c + 1e-9 and k.hold_s <= hold.hold_s for k in known
        )

    return tuple(hold for hold in holds if all(meets(hold, row) for row in measured))


def limit_of_kind(
    kind: FoodKind, profile: Profile, *, microwave: bool = False, reheat: bool = False
) -> CookLimit | None:
    """The limit of one food as it is heated; None where the profile has no row for it.

    Food that was cooked before is reheated, whatever it is made of; only what a plant has cooked and
    packed (``precooked_meat``) has a row of its own. Raw food of animals in a microwave also meets the
    microwave's row (hotter, and standing after it), as does what is reheated in one.
    """
    if kind.cook_class is None and not reheat:
        return None
    ready = reheat and kind.cook_class != "precooked_meat"
    row = profile.cook["reheat"] if ready else profile.cook.get(kind.cook_class or "")
    stands = microwave and (reheat or raw_of_animals(kind.soils) or kind.cook_class in ("reheat", "precooked_meat"))
    if not stands:
        return row
    return strictest([row, profile.cook["microwave"]] if row else [profile.cook["microwave"]])


def limit_for(
    kinds: Iterable[FoodKind], profile: Profile, *, microwave: bool = False, reheat: bool = False
) -> CookLimit | None:
    """The limit of foods heated together: the strictest of each one's own; None if none has a row."""
    found = (limit_of_kind(kind, profile, microwave=microwave, reheat=reheat) for kind in kinds)
    return strictest(row for row in found if row is not None)
