"""The tools of the workbench, each with its questions and its work."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.utils.functional import Promise
from django.utils.translation import gettext_lazy as _l

from bulwark.workbench import cold, forms, hot, sums
from bulwark.workbench.answers import Answer, Asker


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """One tool: its name, what it is for, its form and its work."""

    slug: str
    name: str | Promise
    about: str | Promise
    form: type[forms.ToolForm]
    work: Callable[[dict[str, Any], Asker], Answer]


_ALL = (
    Tool(
        slug="cook",
        name=_l("Cook check"),
        about=_l("Core readings of every piece against the limit: cooked, hold, rest, or back on the heat."),
        form=forms.CookForm,
        work=hot.cook,
    ),
    Tool(
        slug="chill",
        name=_l("Chill planner"),
        about=_l("Will it be cold in time? If not: how deep, how many trays, how much ice, started by when."),
        form=forms.ChillForm,
        work=cold.chill,
    ),
    Tool(
        slug="freeze",
        name=_l("Freeze and thaw"),
        about=_l("In by when, out by when, where it may thaw, and what then."),
        form=forms.FreezeForm,
        work=cold.freeze_or_thaw,
    ),
    Tool(
        slug="slow",
        name=_l("Slow cooker"),
        about=_l("How full, on by when, how long in the danger band, what goes in late."),
        form=forms.SlowForm,
        work=hot.slow,
    ),
    Tool(
        slug="box",
        name=_l("Cool box and field"),
        about=_l("Ice for the hours, eat-by in the heat, water where no tap is."),
        form=forms.BoxForm,
        work=cold.box,
    ),
    Tool(
        slug="probe",
        name=_l("Thermometer bench"),
        about=_l("Ice point, boiling point here, the right kind for the food, where the tip goes."),
        form=forms.ProbeForm,
        work=hot.probe,
    ),
    Tool(
        slug="clocks",
        name=_l("Clocks and growth"),
        about=_l("Time out over every trip, by the school you follow, with the growth budget beside it."),
        form=forms.GrowthForm,
        work=sums.grow,
    ),
    Tool(
        slug="log",
        name=_l("Temperature log"),
        about=_l("A logger's CSV looked over and judged: cooling, fridge or freezer."),
        form=forms.LogForm,
        work=sums.log,
    ),
    Tool(
        slug="sanitiser",
        name=_l("Sanitiser"),
        about=_l("How much bleach for so much water."),
        form=forms.SanitiserForm,
        work=sums.sanitiser,
    ),
    Tool(
        slug="basins",
        name=_l("Hand-wash queue"),
        about=_l("How long a group takes at so many basins."),
        form=forms.HandsForm,
        work=sums.hands,
    ),
    Tool(
        slug="portions",
        name=_l("Cans and portions"),
        about=_l("Part of a can, portions of a batch."),
        form=forms.PortionForm,
        work=sums.cans_and_portions,
    ),
)
TOOLS = {tool.slug: tool for tool in _ALL}
