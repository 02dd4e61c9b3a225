"""What the chill planner asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import READINGS_HINT, Choice, FoodField, Measured, Tick, ToolForm, Words, profile_choices
from foodsafety.cooling import containers

_COLD_PLACES = [
    ("fridge", _l("fridge")),
    ("fan_fridge", _l("fan fridge")),
    ("blast", _l("blast chiller")),
    ("room", _l("left out")),
]
_TEXTURES = [("thick", _l("thick: stew, rice, mash")), ("thin", _l("thin: broth, sauce"))]


def _boxes() -> list[tuple[str, str]]:
    return [(row.id, row.name) for row in containers().values()]


class ChillForm(ToolForm):
    """The chill planner."""

    food = FoodField("vegetable soup")
    litres = Measured("volume", _l("Amount"), low=0.05, high=200, first=8, above=True)
    texture = Choice(_l("It is"), _TEXTURES, "thick")
    box = Choice(_l("Stands in"), _boxes, "pot_10l")
    where = Choice(_l("Where"), _COLD_PLACES, "fridge")
    around = Measured("temp", _l("Air there"), low=-40, high=40, first=4, slip="cold")
    lid = Tick(_l("Lid on"))
    readings = Words(_l("Core readings"), "0 60\n20 57\n40 54.5\n50 53", rows=4, required=True, hint=READINGS_HINT)
    code = Choice(_l("Rules"), profile_choices, "us-foodservice")
