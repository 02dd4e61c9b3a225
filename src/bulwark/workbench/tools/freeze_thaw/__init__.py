"""Freeze and thaw: in by when, out by when, where it may thaw, and what then."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.freeze_thaw.answer import answer
from bulwark.workbench.tools.freeze_thaw.form import FreezeForm

TOOL = Tool(
    slug="freeze",
    rank=30,
    name=_l("Freeze and thaw"),
    about=_l("In by when, out by when, where it may thaw, and what then."),
    form=FreezeForm,
    answer=answer,
)
