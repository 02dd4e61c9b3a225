"""What the slow cooker asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, Measured, ToolForm, Words
from foodsafety.cooking import crock_sizes_l


class SlowForm(ToolForm):
    """The slow cooker."""

    size = Choice(_l("Cooker"), [(f"{size:g}", f"{size:g} l") for size in crock_sizes_l()], "5")
    volume = Measured("volume", _l("Food in it"), low=0.1, high=10, first=3)
    start = Measured("temp", _l("Food begins at"), low=-40, high=90, first=6, slip="cold")
    setting = Choice(
        _l("Setting"), [("low", _l("low")), ("high", _l("high")), ("high_first", _l("high for 1 h, then low"))], "low"
    )
    simmer = Measured("minutes", _l("On the hob it takes"), low=60, high=36_000, first=7200)
    liquid = Measured("millilitres", _l("Liquid on the hob"), low=0, high=20_000, first=900)
    lifts = Measured("count", _l("Lid lifted"), low=0, high=20, first=1, whole=True)
    room = Measured("temp", _l("Room"), low=0, high=40, first=19, slip="cold")
    serve = Words(_l("Serve at (clock)"), "18:30")
