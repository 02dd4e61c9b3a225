"""Sanitiser: how much bleach for so much water."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.sanitiser.answer import answer
from bulwark.workbench.tools.sanitiser.form import SanitiserForm

TOOL = Tool(
    slug="sanitiser",
    rank=90,
    name=_l("Sanitiser"),
    about=_l("How much bleach for so much water."),
    form=SanitiserForm,
    answer=answer,
)
