"""What the thermometer bench asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Choice, Measured, ToolForm
from foodsafety.measuring import probed_foods


class ProbeForm(ToolForm):
    """The thermometer bench."""

    ice = Measured("temp", _l("Shows in ice slush"), low=-30, high=60, first=0.4, required=False)
    boil = Measured("temp", _l("Shows in boiling water"), low=50, high=140, first=99.1, required=False)
    altitude = Measured("altitude", _l("Altitude"), low=-430, high=6000, first=20)
    food = Choice(_l("To be probed"), [(name, name.replace("_", " ")) for name in probed_foods()], "patty")
    thick = Measured("length", _l("Thickness"), low=0.003, high=0.5, first=0.025)
    wide = Measured("length", _l("Width"), low=0.01, high=1.0, first=0.09)
