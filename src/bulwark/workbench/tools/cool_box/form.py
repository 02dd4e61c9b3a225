"""What the cool box asks."""

from collections.abc import Mapping
from typing import Any

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, Measured, ToolForm, profile_choices
from foodsafety.cooling import cold_packs, cool_boxes


def _named(pairs: Mapping[str, Any]) -> list[tuple[str, str]]:
    return [(key, row["name"]) for key, row in pairs.items()]


class BoxForm(ToolForm):
    """The cool box, and cooking where no tap is."""

    box = Choice(_l("Box"), lambda: _named(cool_boxes()), "hard_25l")
    cold = Choice(_l("Kept cold by"), lambda: _named(cold_packs()), "ice")
    ambient = Measured("temp", _l("Hottest outside"), low=-20, high=50, first=27)
    hours = Measured("hours", _l("For"), low=600, high=4 * 86400, first=5 * 3600)
    food_kg = Measured("mass", _l("Food in it"), low=0, high=60, first=5)
    food_c = Measured("temp", _l("Food goes in at"), low=-25, high=60, first=4, slip="cold")
    openings = Measured("count", _l("Opened"), low=0, high=300, first=10, whole=True)
    out = Measured("minutes", _l("Already out"), low=0, high=43_200, first=900)
    people = Measured("count", _l("People"), low=1, high=300, first=12, whole=True)
    washes = Measured("count", _l("Hand-washes each"), low=1, high=30, first=4, whole=True)
    produce = Measured("mass", _l("Produce to rinse"), low=0, high=200, first=2)
    code = Choice(_l("Rules"), profile_choices, "us-home")
