"""What cans and portions ask."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.fields import Measured, ToolForm


class PortionForm(ToolForm):
    """Part of a can, and portions."""

    needed = Measured("grams", _l("Recipe needs"), low=0, high=100_000, first=600)
    can = Measured("grams", _l("One can holds"), low=1, high=20_000, first=240)
    batch = Measured("grams", _l("Batch made"), low=1, high=1_000_000, first=4200)
    portion = Measured("grams", _l("One portion"), low=1, high=20_000, first=350)
    people = Measured("count", _l("People"), low=1, high=5000, first=30, whole=True)
