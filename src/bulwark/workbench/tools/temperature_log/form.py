"""What the temperature log asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, ToolForm, Words, profile_choices


class LogForm(ToolForm):
    """A temperature log, looked over and judged."""

    kind = Choice(
        _l("It is a log of"),
        [("cooling", _l("food that cools")), ("fridge", _l("a fridge")), ("freezer", _l("a freezer"))],
        "cooling",
    )
    log = Words(
        _l("Log as CSV"),
        "minutes,core C\n0,62\n30,48.5\n60,36\n90,27.5\n91,67\n120,20.8\n180,12.5\n240,8\n300,5.6\n330,4.8",
        rows=7,
        required=True,
        hint=_l("With a heading that names a time and a temperature."),
    )
    code = Choice(_l("Rules"), profile_choices, "us-foodservice")
