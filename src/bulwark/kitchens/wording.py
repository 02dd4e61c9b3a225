"""Sentences about rules and kitchens."""

from django.utils.translation import gettext as _

from foodsafety.rules import CookLimit, Hold, Profile

FOOD_CLASSES = {
    "poultry": "Poultry pieces and mince",
    "poultry_whole": "Whole poultry",
    "ground_meat": "Minced meat, sausages",
    "game": "Game",
    "stuffed": "Stuffed meat, fish, pasta",
    "whole_muscle": "Steaks and chops",
    "whole_pork": "Pork, whole cuts",
    "roast": "Roasts",
    "fish": "Fish",
    "shellfish": "Shellfish",
    "egg_served_at_once": "Eggs, served at once",
    "egg_dish": "Egg dishes, pooled eggs",
    "reheat": "Leftovers, casseroles, reheating",
    "precooked_meat": "Pre-cooked sausage and ham",
    "microwave": "Anything raw, microwaved",
    "plant_hot": "Vegetables, grains, pulses held hot",
}

HOUSE = {
    "boards": (
        "Boards",
        {
            "one_in_order": "one board in order, cleaned between",
            "separate": "a board for raw, another for ready to eat",
        },
    ),
    "gloves": ("Hands", {"bare": "bare washed hands", "gloves": "gloves over washed hands"}),
    "drying": (
        "Drying",
        {"air": "kit dries in the air", "paper": "paper towels", "clean_cloth": "a clean cloth each time"},
    ),
    "produce": (
        "Produce",
        {
            "running_water": "running water",
            "brush": "running water and a brush",
            "soak_and_rinse": "soaked, then rinsed",
        },
    ),
    "unwashed_contact": (
        "Unwashed produce, then other food",
        {"advice": "good practice: wash in between", "rule": "a rule here: wash in between"},
    ),
    "sanitise": ("After cleaning", {"sanitise": "clean, then sanitise", "wash": "wash with hot water and detergent"}),
    "eggs": ("Eggs", {"firm": "white and yolk firm", "assured_runny": "runny from an assured scheme"}),
}


def food_class(name: str) -> str:
    """A row of a cooking table."""
    return _(FOOD_CLASSES.get(name, name.replace("_", " ")))


def hold(row: Hold) -> str:
    """A temperature and how long."""
    text = f"{row.temperature.value:g} °{row.temperature.unit}"
    if row.hold_s:
        text += f", {seconds(row.hold_s)}"
    return text


def seconds(value: float) -> str:
    """A time as its source would write it."""
    if value >= 86400 and value % 86400 == 0:
        days = value / 86400
        return f"{days:g} day" + ("" if days == 1 else "s")
    if value >= 3600 and value % 1800 == 0:
        return f"{value / 3600:g} h"
    if value >= 60 and value % 60 == 0:
        return f"{value / 60:g} min"
    return f"{value:g} s"


def cook(row: CookLimit | None) -> list[str]:
    """A cooking limit in lines: the limit, what else, and what it leaves to be seen."""
    if row is None:
        return [_("no limit of its own")]
    lines = [hold(row.main)] if row.main else []
    if row.alternatives and len(row.alternatives) <= 4:
        lines.append(_("or %(rows)s") % {"rows": " · ".join(hold(option) for option in row.alternatives)})
    elif row.alternatives:
        lines.append(_("or any row of its table"))
    if row.rest_s:
        lines.append(_("then rest %(time)s") % {"time": seconds(row.rest_s)})
    if row.stand_s:
        lines.append(_("stand %(time)s") % {"time": seconds(row.stand_s)})
    if row.observation:
        lines.append(row.observation)
    return lines


_FIGURES = {
    "temperature": "temperature",
    "hold_s": "time held",
    "rest_s": "rest",
    "stand_s": "standing",
    "limit_s": "time",
}
_PATHS = {
    "hold.cold": "Cold, at most",
    "hold.hot": "Hot, at least",
    "hold.freezer": "Freezer, at most",
    "clock.hot": "Hot food out",
    "clock.cold": "Cold food out",
    "clock.in_heat": "Out in the heat",
    "clock.leftover": "Leftovers into the fridge",
    "cooling.into_fridge_s": "Cooked food into the fridge",
    "dates.leftover_min_s": "Leftovers keep",
    "hands.scrub_s": "Hand-washing",
    "probe.pieces": "Pieces to probe",
}


def path_name(path: str) -> str:
    """A limit a kitchen may set, in words."""
    part, name, *rest = path.split(".")
    if part == "cook":
        last = rest[0] if rest else name
        return f"{food_class(name)}: {_FIGURES.get(last, last)}"
    return _PATHS.get(f"{part}.{name}", name)


def path_value(path: str, value: float, rules: Profile) -> str:
    """A limit's figure with its unit."""
    if path.endswith("_s"):
        return seconds(value)
    if path == "probe.pieces":
        return f"{value:g}"
    unit = _unit(path, rules)
    return f"{value:g} °{unit}"


def _unit(path: str, rules: Profile) -> str:
    part, name, *_rest = path.split(".")
    if part == "hold":
        return rules.hold[name].temperature.unit
    row = rules.cook.get(name)
    return row.main.temperature.unit if row and row.main else "C"
