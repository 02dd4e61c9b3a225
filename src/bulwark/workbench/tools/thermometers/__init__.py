"""Thermometer bench: ice point, boiling point here, the right kind for the food, where the tip goes."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.thermometers.answer import answer
from bulwark.workbench.tools.thermometers.form import ProbeForm

TOOL = Tool(
    slug="probe",
    rank=60,
    name=_l("Thermometer bench"),
    about=_l("Ice point, boiling point here, the right kind for the food, where the tip goes."),
    form=ProbeForm,
    answer=answer,
)
