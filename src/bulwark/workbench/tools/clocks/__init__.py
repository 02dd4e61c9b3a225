"""Clocks and growth: time out over every trip, by the school you follow, with the growth budget beside it."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.clocks.answer import answer
from bulwark.workbench.tools.clocks.form import ClocksForm

TOOL = Tool(
    slug="clocks",
    rank=70,
    name=_l("Clocks and growth"),
    about=_l("Time out over every trip, by the school you follow, with the growth budget beside it."),
    form=ClocksForm,
    answer=answer,
)
