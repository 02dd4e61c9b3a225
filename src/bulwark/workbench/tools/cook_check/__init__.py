"""Cook check: core readings of every piece against the limit: cooked, hold, rest, or back on the heat."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.cook_check.answer import answer
from bulwark.workbench.tools.cook_check.form import CookForm

TOOL = Tool(
    slug="cook",
    rank=10,
    name=_l("Cook check"),
    about=_l("Core readings of every piece against the limit: cooked, hold, rest, or back on the heat."),
    form=CookForm,
    answer=answer,
)
