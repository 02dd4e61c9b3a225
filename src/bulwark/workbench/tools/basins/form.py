"""What the hand-wash queue asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Measured, ToolForm


class HandsForm(ToolForm):
    """The queue at the basins."""

    people = Measured("count", _l("People"), low=1, high=300, first=16, whole=True)
    basins = Measured("count", _l("Basins"), low=1, high=40, first=3, whole=True)
    scrub = Measured("seconds", _l("Scrubbing"), low=5, high=120, first=20)
    around = Measured("seconds", _l("Wetting, rinsing, drying"), low=5, high=300, first=25)
