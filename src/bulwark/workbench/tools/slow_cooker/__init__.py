"""Slow cooker: how full, on by when, how long in the danger band, what goes in late."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.slow_cooker.answer import answer
from bulwark.workbench.tools.slow_cooker.form import SlowForm

TOOL = Tool(
    slug="slow",
    rank=40,
    name=_l("Slow cooker"),
    about=_l("How full, on by when, how long in the danger band, what goes in late."),
    form=SlowForm,
    answer=answer,
)
