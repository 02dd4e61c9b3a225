"""The tools of the workbench, one folder each: form, answer, wording. Adding one is adding a folder."""

import pkgutil
from importlib import import_module

from bulwark.workbench.tool import Tool


def find_tools() -> dict[str, Tool]:
    """The tool of every folder here, by its slug, in the order of their ranks."""
    found: list[Tool] = [import_module(f"{__name__}.{folder.name}").TOOL for folder in pkgutil.iter_modules(__path__)]
    return {tool.slug: tool for tool in sorted(found, key=lambda tool: tool.rank)}


TOOLS = find_tools()
