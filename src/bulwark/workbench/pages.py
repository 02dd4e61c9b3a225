"""What the workbench shows."""

import datetime as dt
from collections.abc import Callable, Iterator, Mapping
from typing import Any
from urllib.parse import urlencode

from django.core import signing
from django.utils.translation import gettext as _

from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.presentation.errors import NOT_TAKEN, error_sentence, why_not_taken
from bulwark.presentation.units import System, Units
from bulwark.workbench import selectors
from bulwark.workbench.answers import Answer
from bulwark.workbench.fields import ToolForm
from bulwark.workbench.tool import Setting, Tool
from bulwark.workbench.tools import TOOLS
from bulwark.workbench.tools.temperature_log.answer import answer_for
from foodsafety.measuring import read_log_csv
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

# A link that is shared works for so many days: the choices, and what one has that says nothing.
SHARED_FOR_DAYS = (7, 90, 365)
USUALLY_SHARED_DAYS = 90
_SALT = "workbench.share"
MOST_QUERY = 12_000


def units_of(query: Mapping[str, str], actor: Actor) -> Units:
    """The units of a question: those its link names, else the asker's own."""
    temps = query.get("temps", "")
    system: System = "us" if query.get("units") == "us" else "metric"
    if "units" not in query and actor.language == "en-us":
        system = "us"
    return Units(temps="F" if temps == "F" else "C" if temps == "C" else actor.unit, system=system)


def share_token(tool: str, query: Mapping[str, str], days: int = USUALLY_SHARED_DAYS) -> str:
    """A link's token: anybody who has it sees this one question answered for so many days, and nothing else."""
    return signing.dumps({"tool": tool, "query": dict(query), "days": days}, salt=_SALT, compress=True)


def shared(token: str) -> tuple[Tool, dict[str, str]]:
    """What a token asks. Raises BadSignature for one that is not ours, or too old."""
    days = signing.loads(token, salt=_SALT, max_age=dt.timedelta(days=max(SHARED_FOR_DAYS))).get("days")
    lasts = days if days in SHARED_FOR_DAYS else USUALLY_SHARED_DAYS
    data = signing.loads(token, salt=_SALT, max_age=dt.timedelta(days=lasts))
    if data["tool"] not in TOOLS:
        raise signing.BadSignature(data["tool"])
    return TOOLS[data["tool"]], {str(key): str(value) for key, value in data["query"].items()}


def tool_page(tool: Tool, query: Mapping[str, str], actor: Actor, *, bare: bool = False) -> dict[str, Any]:
    """A tool with its form, and its answer where the form can be read."""
    units = units_of(query, actor)
    code = selectors.usual_code(actor)
    form = tool.form(query, units, {"code": code} if code else {})
    answer, wrong = _answer(tool, form, actor)
    asked = form.typed() | {"temps": units.temps, "units": units.system}
    return {
        "tool": tool,
        "tools": TOOLS.values(),
        "form": form,
        "answer": answer,
        "wrong": wrong,
        "units": units,
        "asked": asked,
        "link": urlencode(asked),
        "other_temps": _in_other_units(form, Units(temps="F" if units.temps == "C" else "C", system=units.system)),
        "other_units": _in_other_units(
            form, Units(temps=units.temps, system="metric" if units.system == "us" else "us")
        ),
        "shares": [] if bare else [(days, share_token(tool.slug, asked, days)) for days in SHARED_FOR_DAYS],
        "local_code": _local_code(asked),
        "bare": bare,
    }


def _in_other_units(form: ToolForm, units: Units) -> str:
    """The link that asks the same in other units."""
    return urlencode(form.in_units(units) | {"temps": units.temps, "units": units.system})


def _answer(tool: Tool, form: ToolForm, actor: Actor) -> tuple[Answer | None, str]:
    """The answer, or what is wrong; where that belongs to a field it stands there as well."""
    if not form.is_valid():
        return None, ""
    setting = Setting(units=form.units, rules=selectors.rules_of(actor), owned=selectors.containers_of(actor))
    try:
        return tool.answer(form.cleaned_data, setting), ""
    except CoreError as error:
        name = error.field.split(" ")[0]
        message = error_sentence(error)
        if name in form.fields:
            form.add_error(name, message)
        return None, message


def _local_code(asked: Mapping[str, str]) -> str:
    try:
        return rule_profile(asked["code"]).local_code
    except (KeyError, CoreError):
        return ""


def attach_page(actor: Actor) -> dict[str, Any]:
    """The lessons a sheet can be attached to."""
    return {"lessons": lessons.lessons_for(actor).filter(closed_at=None).order_by("starts_at")[:30]}


def answer_title(tool: Tool, answer: Answer | None) -> str:
    """What a sheet is called in a lesson."""
    return f"{tool.name}: {answer.title}" if answer else str(_("%(tool)s, not answered") % {"tool": tool.name})


MOST_FILE_BYTES = 80 * 1024 * 1024


def file_answer(
    upload: Any, kind: str, code: str, actor: Actor, progress: Callable[[int], None], cancelled: Callable[[], bool]
) -> dict[str, Any]:
    """The answer to a logger's file, or what is wrong with it."""
    setting = Setting(units=Units(temps=actor.unit), rules=selectors.rules_of(actor))
    try:
        sheet = read_log_csv(_lines_of(upload, cancelled), progress)
        answer = answer_for(sheet, kind, setting.rules(code), setting)
        local_code = _local_code({"code": code})
    except NOT_TAKEN as wrong:
        return {"answer": None, "wrong": why_not_taken(wrong), "local_code": ""}
    return {"answer": answer, "wrong": "", "local_code": local_code}


def _lines_of(upload: Any, cancelled: Callable[[], bool]) -> Iterator[str]:
    """The file's lines as they are read; stopped between them where nobody waits any more."""
    if upload is None:
        raise CoreError("log", "no_log_file")
    if upload.size > MOST_FILE_BYTES:
        size, most = (n // 1024 // 1024 for n in (upload.size, MOST_FILE_BYTES))
        raise CoreError("log", "log_too_large", size=size, most=most)
    for n, line in enumerate(upload):
        if n % 5000 == 0 and cancelled():
            raise CoreError("log", "stopped")
        yield line.decode("utf-8", "replace")
