"""Chill planner: will it be cold in time? If not: how deep, how many trays, how much ice, started by when."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.chill_planner.answer import answer
from bulwark.workbench.tools.chill_planner.form import ChillForm

TOOL = Tool(
    slug="chill",
    rank=20,
    name=_l("Chill planner"),
    about=_l("Will it be cold in time? If not: how deep, how many trays, how much ice, started by when."),
    form=ChillForm,
    answer=answer,
)
