"""Words for what needs care: cautions at a step, and who may not have what is served."""

from collections.abc import Iterable
from dataclasses import dataclass

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import listed
from foodsafety.review import NotFor

_CAUTIONS = {
    "steam": "Steam burns: lift the lid away from your face, tip the far edge first.",
    "hot-oil": "Hot oil: dry food only, lower it in away from you, never water on a fat fire.",
    "deep-oil": "Deep oil is never left alone, and the pot never more than a third full.",
    "knife-claw": "Claw grip: fingertips tucked, the knife against the knuckles.",
    "knife-bridge": "Bridge grip: the knife goes under the arch of thumb and fingers.",
    "grater": "Stop before the knuckles: leave the last piece.",
    "peeler": "Peel away from the hand that holds.",
    "blades-in-suds": "No blades under suds: wash them one at a time and never leave them in the bowl.",
    "blender-hot": "Hot liquid lifts a blender's lid: half full, lid open a crack under a cloth.",
    "blender": "Blades stop before the lid comes off. Unplug to clean.",
    "foil-in-microwave": "No metal or foil in the microwave. Cover, stir, let it stand.",
    "waxed-paper-in-oven": "Baking parchment only: waxed paper burns in the oven.",
    "oven-hot": "Dry oven gloves, both hands, and say \u201chot behind\u201d.",
    "hidden-picks": "Count the picks in and count them out: none stays hidden in the food.",
    "dry-chilli-hot-pan": "Dry ground chilli in a hot pan makes smoke nobody can breathe: oil or liquid first.",
    "chilli-on-skin": "Chilli on fingers goes into eyes: wash before touching a face.",
    "pan-handle": "Pan handles point inward, never over the edge.",
    "towel-near-flame": "Towels, sleeves and hair away from the heat.",
    "open-fire": "Fire: wind behind you, water and sand at hand, one person always with it.",
    "fire-on-shore": "Fire: wind behind you, water and sand at hand, one person always with it.",
    "kidney-bean-boil": "Boil hard for 10 minutes before anything slower: low heat makes these beans worse.",
    "raw-poultry-splash": "Raw poultry or meat is not rinsed: the splash goes over sink and neighbours.",
    "sugar-burn": "Boiling sugar sticks and burns: long sleeves, no tasting, cold water near.",
    "lid-lift": "Leave the lid on: each look costs 15 to 30 minutes.",
    "heavy-hot-pot": "Heavy and hot: two people, a clear way, the container close.",
}

_EATERS = {
    "pregnant": "pregnant",
    "under_5": "under 5 years",
    "under_1": "under 1 year",
    "over_65": "65 and over",
    "weakened": "weakened immunity",
}

_NOT_FOR = {
    "raw-egg": "raw egg reaches the plate",
    "runny-egg": "the egg may stay runny in this kitchen",
    "raw-meat": "raw meat reaches the plate",
    "raw-poultry": "raw poultry reaches the plate",
    "raw-fish": "raw fish reaches the plate",
    "raw-shellfish": "raw shellfish reaches the plate",
    "raw-flour": "raw flour reaches the plate",
    "raw-sprouts": "sprouts that are not cooked through",
    "unpasteurised": "not pasteurised and not heated",
    "mould-ripened-cheese": "mould-ripened soft cheese that is not heated",
    "honey": "honey can carry spores that a baby's gut cannot hold down",
    "whole-nuts": "whole nuts can choke",
    "whole-grapes": "grapes must be quartered",
    "listeria-ready-to-eat": "ready-to-eat food in which Listeria grows",
    "liver": "too much vitamin A",
    "frozen-berries": "frozen berries that are not boiled first",
    "high-mercury-fish": "large fish hold mercury",
    "allergen": "contains it; heat does not remove an allergen",
    "unknown-food": "nobody has said what this food is, so it is not free of anything",
}


def allergen(tag: str) -> str:
    """An allergen of ours in words."""
    return _(tag.replace("_", " "))


def caution_text(name: str) -> str:
    """A caution as it is said at the step."""
    return _(_CAUTIONS[name])


def eater(name: str) -> str:
    """A group of eaters, or an allergy."""
    if name.startswith("allergen:"):
        return _("allergic to %(what)s") % {"what": allergen(name.removeprefix("allergen:"))}
    return _(_EATERS[name])


def not_for(rule: str) -> str:
    """Why somebody may not have it."""
    return _(_NOT_FOR[rule])


@dataclass(frozen=True, slots=True)
class NotForLine:
    """Something served that some eaters may not have: what, for whom, and why."""

    served: str
    food: str
    who: str
    why: str
    verify: bool


def not_for_lines(rows: Iterable[NotFor]) -> list[NotForLine]:
    """Who may not have what, the eaters of one food and reason together."""
    together: dict[tuple[str, str, str, bool], list[str]] = {}
    for row in rows:
        together.setdefault((row.served, row.food, row.rule, row.verify), []).append(eater(row.eater))
    return [
        NotForLine(served=served, food=food, who=listed(dict.fromkeys(who)), why=not_for(rule), verify=verify)
        for (served, food, rule, verify), who in together.items()
    ]
