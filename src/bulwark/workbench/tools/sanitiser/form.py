"""What the sanitiser asks."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Measured, ToolForm


class SanitiserForm(ToolForm):
    """Sanitiser."""

    litres = Measured("volume", _l("Water"), low=0.05, high=500, first=5, above=True)
    ppm = Measured("ppm", _l("Strength"), low=1, high=5000, first=100)
    percent = Measured("percent", _l("Bleach has"), low=0.1, high=20, first=5)
