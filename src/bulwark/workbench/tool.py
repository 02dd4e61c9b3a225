"""What a tool of the workbench is: a folder of ``tools`` with a form, an answer and its wording."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from django.utils.functional import Promise

from bulwark.presentation.units import Units
from bulwark.workbench.answers import Answer
from bulwark.workbench.fields import ToolForm
from foodsafety.rules import Profile

Asked = Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """Whom a tool answers: in which units, under which rules, with which containers."""

    units: Units
    rules: Callable[[str], Profile]
    owned: dict[str, int] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """One tool: its name, what it is for, its form and its answer. The list shows them by ``rank``."""

    slug: str
    rank: int
    name: str | Promise
    about: str | Promise
    form: type[ToolForm]
    answer: Callable[[Asked, Setting], Answer]
