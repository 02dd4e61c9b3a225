"""The tools of the workbench, one folder each: form, answer, wording. A new one is a folder and a line here."""

from bulwark.workbench.tool import Tool
from bulwark.workbench.tools import (
    basins,
    chill_planner,
    clocks,
    cook_check,
    cool_box,
    freeze_thaw,
    portions,
    sanitiser,
    slow_cooker,
    temperature_log,
    thermometers,
)

_ALL = (
    cook_check.TOOL,
    chill_planner.TOOL,
    freeze_thaw.TOOL,
    slow_cooker.TOOL,
    cool_box.TOOL,
    thermometers.TOOL,
    clocks.TOOL,
    temperature_log.TOOL,
    sanitiser.TOOL,
    basins.TOOL,
    portions.TOOL,
)
TOOLS: dict[str, Tool] = {tool.slug: tool for tool in _ALL}
