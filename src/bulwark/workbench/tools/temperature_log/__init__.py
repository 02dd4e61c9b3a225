"""Temperature log: a logger's CSV looked over and judged: cooling, fridge or freezer."""

from django.utils.translation import gettext_lazy as _l

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools.temperature_log.answer import answer
from bulwark.workbench.tools.temperature_log.form import LogForm

TOOL = Tool(
    slug="log",
    rank=80,
    name=_l("Temperature log"),
    about=_l("A logger's CSV looked over and judged: cooling, fridge or freezer."),
    form=LogForm,
    answer=answer,
)
