"""A recipe's plain steps to the core's process, and a mended process back."""

from collections.abc import Mapping
from typing import Any

from bulwark.flow import wording
from bulwark.presentation.phrases import aim_degrees, verb
from foodsafety.recipes import Process, Step


def titles(data: Mapping[str, Any], process: Process) -> dict[str, str]:
    """The title of each step, those that a mend adds included."""
    written = {str(row["id"]): str(row.get("title") or "") for row in data["steps"]}
    return {
        step.id: written.get(step.id, "") or (_added_title(step, process) if step.id not in written else "")
        for step in process.steps
    }


def _added_title(step: Step, process: Process) -> str:
    return wording.new_step_title(step.do, [wording.carrier(name, process) for name in (*step.tools, *step.hands)])


def heats(data: Mapping[str, Any], unit: str) -> dict[str, str]:
    """What each heat step heats to, where the recipe says it: the core first."""
    found = {}
    for row in data["steps"]:
        core_c = (row.get("end") or {}).get("core_c")
        if row.get("do") == "heat":
            found[str(row["id"])] = aim_degrees(float(core_c), unit) if core_c else verb("heat")
    return found


def to_plain(data: Mapping[str, Any], process: Process) -> dict[str, Any]:
    """The recipe's own data in the order of a mended process, with what it adds and replaces."""
    rows = {str(row["id"]): row for row in data["steps"]}
    steps = []
    for step in process.steps:
        row: dict[str, Any] = dict(rows.get(step.id) or _new_row(step, process))
        row |= {"tools": list(step.tools), "hands": list(step.hands), "after": list(step.after)}
        steps.append(row)
    tools = dict(data.get("tools", {}))
    for name, tool in process.tools.items():
        tools.setdefault(name, {"kind": tool.kind})
    return {**data, "tools": tools, "steps": steps}


def _new_row(step: Step, process: Process) -> dict[str, Any]:
    title = _added_title(step, process)
    return {
        "id": step.id,
        "do": step.do,
        "foods": [],
        "title": title,
        "detail": f"{title}.",
        "minutes": round(step.planned_s / 60, 1),
    }
