"""Cans and portions: part of a can, portions of a batch."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.portions.answer import answer
from bulwark.workbench.tools.portions.form import PortionForm

TOOL = Tool(
    slug="portions",
    rank=110,
    name=_l("Cans and portions"),
    about=_l("Part of a can, portions of a batch."),
    form=PortionForm,
    answer=answer,
)
