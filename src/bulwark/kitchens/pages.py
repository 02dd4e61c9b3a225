"""What the kitchen's pages show."""

from collections.abc import Callable, Mapping
from typing import Any

from django.utils.translation import gettext as _

from bulwark.kitchens import selectors, wording
from bulwark.kitchens.models import HouseRules, Kitchen, LocalLimit
from bulwark.presentation.phrases import capital
from foodsafety.cooling import containers
from foodsafety.foods import FoodKind, allergens_for, food_kind, food_kinds
from foodsafety.quantities import CoreError
from foodsafety.review import HEAT_SOURCES
from foodsafety.rules import Profile, changeable_limits, ranked_profiles, rule_profile

# What a kitchen counts; other kinds can be added as recipes need them.
COUNTED = (
    "basin",
    "sink",
    "hob_ring",
    "oven",
    "grill",
    "griddle",
    "microwave",
    "slow_cooker",
    "barbecue",
    "board",
    "knife",
    "bowl",
    "tray",
    "saucepan",
    "frying_pan",
    "pot",
    "tongs",
    "spoon",
    "probe",
    "grater",
    "peeler",
    "colander",
    "sieve",
    "whisk",
    "rolling_pin",
    "oven_dish",
    "roasting_tin",
    "tin",
    "plate",
    "container",
    "blender",
    "rack",
    "brush",
    "masher",
    "hand_towel",
    "dish_towel",
    "scales",
)


def kitchen_page(organisation_id: int, typed: dict[str, Any] | None = None) -> dict[str, Any]:
    """House rules and equipment."""
    decided, kitchen = selectors.decided_by(organisation_id), selectors.kitchen_of(organisation_id)
    chosen = selectors.house_of(decided)
    return {
        "decided": decided,
        "kitchen": kitchen,
        "kitchens": selectors.kitchens_of(organisation_id),
        "house": chosen,
        "choices": [
            {"key": key, "name": name, "options": [(v, text, getattr(chosen, key) == v) for v, text in options.items()]}
            for key, (name, options) in wording.HOUSE.items()
        ],
        "profiles": list(ranked_profiles()),
        "rules": selectors.rules_for(organisation_id, decided.profile),
        "sources": HEAT_SOURCES,
        "typed": typed or {},
    }


def _counted(*kitchens: Kitchen) -> list[str]:
    named = (*COUNTED, *containers())
    return [*named, *sorted({kind for kitchen in kitchens for kind in kitchen.equipment} - set(named))]


def kitchens_page(organisation_id: int, typed: Mapping[str, str] | None = None) -> dict[str, Any]:
    """All kitchens side by side in one table, a row for each thing; what somebody typed stays as it was typed."""
    rooms = selectors.kitchens_of(organisation_id)
    said = typed or {}

    def row(field: str, name: str, values: list[Any], kind: str = "number") -> dict[str, Any]:
        names = [f"k{room.pk}-{field}" for room in rooms]
        shown = [said.get(key, "" if value is None else str(value)) for key, value in zip(names, values, strict=True)]
        return {"name": name, "kind": kind, "cells": list(zip(names, shown, rooms, strict=True))}

    rows = [
        row("name", _("Name"), [room.name for room in rooms], "text"),
        row("benches", _("Benches"), [room.benches for room in rooms]),
        row("tap", _("Tap"), [room.tap for room in rooms], "tap"),
        row(
            "oven_shelves",
            _("Ovens: shelves of each"),
            [", ".join(map(str, room.oven_shelves)) for room in rooms],
            "text",
        ),
        row("rings", _("Hob rings by size"), [_pairs(room.rings) for room in rooms], "text"),
        row("boards", _("Boards by what they are for here"), [_pairs(room.boards) for room in rooms], "text"),
        row(
            "ages",
            _("Youngest that may (as “10 hob, 8 knife”; also oven, blade, hot oil)"),
            [_pairs({name.replace("_", " "): age for name, age in room.ages.items()}) for room in rooms],
            "text",
        ),
        row("fridge_l", _("Fridge space, litres"), [room.fridge_l for room in rooms]),
        row("freezer_l", _("Freezer space, litres"), [room.freezer_l for room in rooms]),
        row("altitude_m", _("Metres above the sea"), [room.altitude_m for room in rooms]),
    ]
    counts = [
        row(f"n-{kind}", capital(_tool_name(kind)), [room.equipment.get(kind) for room in rooms])
        for kind in _counted(*rooms)
    ]
    parts = [{"name": _("The room"), "rows": rows}, {"name": _("How many there are"), "rows": counts}] if rooms else []
    return {"kitchens": rooms, "parts": parts}


def _pairs(said: Mapping[str, int]) -> str:
    """As it is written: "4 small, 4 large"."""
    return ", ".join(f"{n} {name}" for name, n in said.items())


def _tool_name(kind: str) -> str:
    """What a tool or a container is called on the kitchen's page."""
    return containers()[kind].name if kind in containers() else kind.replace("_", " ")


def rules_page(organisation_id: int, words: str) -> dict[str, Any]:
    """The schools side by side, for one food or for all, and what this kitchen uses."""
    decided = selectors.decided_by(organisation_id)
    mine = selectors.rules_for(organisation_id, decided.profile)
    house = selectors.house_of(decided)
    schools = list(ranked_profiles())
    kind = _asked_kind(words)
    return {
        "decided": decided,
        "mine": mine,
        "schools": schools,
        "words": words,
        "kind": kind,
        "unknown": "" if kind else words,
        "cook": [_cook_row(name, schools, mine) for name in _asked_classes(words, kind)],
        "others": _other_rows(schools, mine),
        "changes": _change_rows(organisation_id, decided, mine),
        "settable": [
            (path, wording.path_name(path), wording.path_value(path, value, rule_profile(decided.profile)))
            for path, value in changeable_limits(decided.profile).items()
        ],
        "house": [(name, options[getattr(house, key)]) for key, (name, options) in wording.HOUSE.items()],
        "kinds": food_kinds(),
        "named": [
            (school.id, kind and ", ".join(allergens_for(profile_id=school.id).named(kind.allergens).values()))
            for school in schools
        ],
        "produce": kind is not None and kind.cook_class is None,
    }


def _asked_kind(words: str) -> FoodKind | None:
    """The food asked about, or None where nobody asked or nobody knows it."""
    try:
        return food_kind(words) if words else None
    except CoreError:
        return None


def _asked_classes(words: str, kind: FoodKind | None) -> list[str]:
    """The cook classes to set side by side: the food's own, or all where no known food was named."""
    if kind is None:
        return list(wording.FOOD_CLASSES)
    return [kind.cook_class] if kind.cook_class else []


def _cook_row(name: str, schools: list[Profile], mine: Profile) -> dict[str, Any]:
    cells = [_cook_cell(name, school) for school in schools]
    weak = any(path.startswith(f"cook.{name}.") for path in mine.weaker)
    local = any(change.path.startswith(f"cook.{name}.") for change in mine.changes)
    return {
        "name": wording.food_class(name),
        "cells": cells,
        "mine": _cook_cell(name, mine),
        "weak": weak,
        "local": local,
    }


def _cook_cell(name: str, school: Profile) -> dict[str, Any]:
    row = school.cook.get(name)
    return {
        "id": school.id,
        "lines": wording.cook(row),
        "section": row.section if row else "",
        "verify": bool(row and row.verify),
    }


def _held(name: str) -> Callable[[Profile], str]:
    def say(profile: Profile) -> str:
        limit = profile.hold[name].temperature
        return f"{limit.value:g} °{limit.unit}"

    return say


def _out(profile: Profile) -> str:
    texts = [f"{wording.seconds(profile.clocks[name].limit_s)} {name}" for name in ("hot", "cold")]
    heat = profile.clocks.get("in_heat")
    above = (
        f"; {wording.seconds(heat.limit_s)} above {heat.above.value:g} °{heat.above.unit}"
        if heat and heat.above
        else ""
    )
    return " · ".join(texts) + above


def _cooling(profile: Profile) -> str:
    stages = [
        f"{s.start.value:g} to {s.end.value:g} °{s.start.unit} in {wording.seconds(s.within_s)}"
        + (f" where there is a {s.needs}" if s.needs else "")
        for s in profile.cooling.stages
    ]
    return " · ".join([*stages, f"in the fridge within {wording.seconds(profile.cooling.into_fridge_s)}"])


def _dates(profile: Profile) -> str:
    changed = any(change.path.startswith("dates.") for change in profile.changes)
    return wording.seconds(profile.dates.leftover_min_s) if changed else profile.dates.section


def _hands(profile: Profile) -> str:
    return wording.seconds(profile.scrub_s)


OTHER_LIMITS: tuple[tuple[str, Callable[[Profile], str], str], ...] = (
    ("Cold, at or below", _held("cold"), "hold.cold"),
    ("Hot, at or above", _held("hot"), "hold.hot"),
    ("Time out of control", _out, "clock."),
    ("Cooling", _cooling, "cooling."),
    ("Leftovers keep", _dates, "dates."),
    ("Hand-washing, at least", _hands, "hands."),
)
"""A row's name, what it says of a profile, and where its limits stand."""


def _other_rows(schools: list[Profile], mine: Profile) -> list[dict[str, Any]]:
    return [
        {
            "name": name,
            "cells": [say(school) for school in schools],
            "mine": say(mine),
            "weak": any(path.startswith(prefix) for path in mine.weaker),
            "local": any(change.path.startswith(prefix) for change in mine.changes),
        }
        for name, say, prefix in OTHER_LIMITS
    ]


def _change_rows(organisation_id: int, decided: HouseRules, mine: Profile) -> list[dict[str, Any]]:
    base = changeable_limits(decided.profile)
    rows = reversed(selectors.limit_rows(organisation_id, decided.profile))
    return [_change_row(row, base[row.path], decided, mine) for row in rows if row.path in base]


def _change_row(row: LocalLimit, was: float, decided: HouseRules, mine: Profile) -> dict[str, Any]:
    shipped = rule_profile(decided.profile)
    back = row.value is None
    return {
        "row": row,
        "name": wording.path_name(row.path),
        "value": _("back to the base") if row.value is None else wording.path_value(row.path, row.value, shipped),
        "was": wording.path_value(row.path, was, shipped),
        "weak": row.path in mine.weaker and not back,
        "counts": row.path in {change.path for change in mine.changes} and not back,
    }
