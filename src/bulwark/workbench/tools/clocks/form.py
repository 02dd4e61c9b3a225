"""What the clocks ask."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import READINGS_HINT, Choice, Measured, ToolForm, Words, profile_choices


class ClocksForm(ToolForm):
    """Time out of temperature, over several trips, and the growth budget."""

    readings = Words(
        _l("Food temperatures"), "0 4\n15 12\n40 22\n70 24\n90 9\n130 4", rows=6, required=True, hint=READINGS_HINT
    )
    ambient = Measured("temp", _l("Hottest around it"), low=-10, high=50, first=24, required=False)
    school = Choice(
        _l("Clock"),
        [("rules", _l("as the rules say")), ("2_4", _l("2 and 4 hours")), ("4_6", _l("4 and 6 hours"))],
        "rules",
    )
    made_from = Choice(
        _l("It began"),
        [
            ("", _l("as its first reading shows")),
            ("hot", _l("hot, off the heat")),
            ("ambient", _l("made at room temperature")),
            ("cold", _l("cold, from the fridge")),
        ],
        "",
        required=False,
    )
    code = Choice(_l("Rules"), profile_choices, "us-home")
