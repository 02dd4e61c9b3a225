"""What the cook check asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, FoodField, Measured, ToolForm, Words, profile_choices


class CookForm(ToolForm):
    """The cook check."""

    food = FoodField("turkey mince")
    method = Choice(
        _l("Cooked"),
        [("hot", _l("on or in the heat")), ("microwave", _l("in a microwave")), ("reheat", _l("heated again"))],
        "hot",
    )
    pieces = Measured("count", _l("Pieces to probe"), low=1, high=20, first=3, whole=True)
    error = Measured("count", _l("Probe error ±"), low=0, high=10, first=0.5)
    readings = Words(
        _l("Core readings"),
        "1 4:00 58\n2 4:20 61\n3 4:40 57.5\n3 7:30 73.2\n1 8:00 75.1\n2 8:10 75.8\n3 9:10 76.4",
        rows=5,
        required=True,
        hint=_l("One on each line: piece, minutes:seconds, temperature."),
    )
    off = Words(_l("Off the heat at"), "")
    seen = Words(_l("Also seen"), "")
    code = Choice(_l("Rules"), profile_choices, "us-home")
