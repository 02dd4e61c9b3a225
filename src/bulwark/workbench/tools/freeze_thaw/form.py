"""What the freezing and thawing planner asks."""

from typing import Any

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, FoodField, Measured, ToolForm, Words, profile_choices


class FreezeForm(ToolForm):
    """The freeze and thaw planner."""

    way = Choice(_l("Plan"), [("freeze", _l("freeze it")), ("thaw", _l("thaw it"))], "thaw")
    food = FoodField("turkey mince")
    shape = Choice(
        _l("Shape"),
        [
            ("slab", _l("flat: bag, fillet, tray")),
            ("cylinder", _l("roll or log")),
            ("sphere", _l("ball")),
            ("brick", _l("block")),
        ],
        "slab",
    )
    thick = Measured("length", _l("Thickness"), low=0.002, high=0.4, first=0.04, above=True)
    where = Choice(
        _l("Where"),
        [
            ("fridge", _l("fridge")),
            ("fan_fridge", _l("fan fridge")),
            ("tap_water", _l("cold running water")),
            ("room", _l("on the counter")),
            ("freezer", _l("freezer")),
            ("fan_freezer", _l("fan freezer")),
        ],
        "fridge",
    )
    around = Measured("temp", _l("Temperature there"), low=-45, high=40, first=4, slip="cold")
    start = Measured("temp", _l("Food begins at"), low=-40, high=80, first=-18, slip="cold")
    wrap = Choice(
        _l("Wrapped in"),
        [
            ("", _l("nothing")),
            ("film", _l("film or bag")),
            ("plastic_lid", _l("plastic box")),
            ("air_gap_10mm", _l("box with air in it")),
        ],
        "film",
    )
    by = Words(_l("Ready by (clock)"), "09:30")
    code = Choice(_l("Rules"), profile_choices, "us-home")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["wrap"].required = False
