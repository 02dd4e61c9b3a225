"""Hand-wash queue: how long a group takes at so many basins."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.basins.answer import answer
from bulwark.workbench.tools.basins.form import HandsForm

TOOL = Tool(
    slug="basins",
    rank=100,
    name=_l("Hand-wash queue"),
    about=_l("How long a group takes at so many basins."),
    form=HandsForm,
    answer=answer,
)
