"""A bench's state: everything its log has said so far."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from foodsafety.contamination import (
    Finding,
    Surfaces,
    opening_surfaces,
)
from foodsafety.cooking import Probing
from foodsafety.lesson.events import READY_CHECKS
from foodsafety.lesson.plan import Plan
from foodsafety.recipes import Step
from foodsafety.shelf import Clock


@dataclass(frozen=True, slots=True, kw_only=True)
class Wash:
    """A hand-wash: when it ended [s] and how long it scrubbed [s]."""

    at_s: float
    scrub_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Incident:
    """A breach as it happened, and how it was put right."""

    finding: Finding
    at_s: float
    control: str | None
    mended_s: float | None = None
    action: str = ""

    @property
    def open(self) -> bool:
        """True until a corrective action is recorded."""
        return self.mended_s is None


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """Food put away: when, where, how long [s] it had been out, and the hottest surroundings known."""

    at_s: float
    place: Literal["fridge", "freezer"]
    out_s: float


@dataclass(frozen=True, kw_only=True)
class State:
    """Everything known about one bench, folded from its log."""

    plan: Plan
    learners: tuple[str, ...]
    surfaces: Surfaces
    done: Mapping[str, float] = field(default_factory=dict)
    done_by: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    ready: Mapping[str, frozenset[str]] = field(default_factory=dict)
    unwell: frozenset[str] = frozenset()
    washing: Mapping[str, float] = field(default_factory=dict)
    washed: Mapping[str, Wash] = field(default_factory=dict)
    first_wash: Mapping[str, Wash] = field(default_factory=dict)
    cleaned: Mapping[str, float] = field(default_factory=dict)
    fridge: tuple[tuple[float, float], ...] = ()
    cold: Mapping[str, tuple[tuple[float, float], ...]] = field(default_factory=dict)
    probings: Mapping[str, tuple[Probing, ...]] = field(default_factory=dict)
    on_heat: Mapping[str, float] = field(default_factory=dict)
    off_heat: Mapping[str, float] = field(default_factory=dict)
    proven: Mapping[str, float] = field(default_factory=dict)
    clocks: Mapping[str, Clock] = field(default_factory=dict)
    ambient_c: float | None = None
    kept: Mapping[str, Kept] = field(default_factory=dict)
    gone: Mapping[str, tuple[float, str]] = field(default_factory=dict)
    waived: Mapping[str, str] = field(default_factory=dict)
    incidents: tuple[Incident, ...] = ()
    called_s: float | None = None
    seen: frozenset[str] = frozenset()

    @property
    def present(self) -> tuple[str, ...]:
        """Learners who may handle food: those not sent away as unwell."""
        return tuple(name for name in self.learners if name not in self.unwell)

    @property
    def open_incidents(self) -> tuple[Incident, ...]:
        """Breaches that nobody has put right yet."""
        return tuple(incident for incident in self.incidents if incident.open)


Move = tuple[State, tuple[Finding, ...]]


def opening_state(plan: Plan, learners: Iterable[str]) -> State:
    """A bench before its first event: food as bought, tools clean, every hand unwashed."""
    names = tuple(dict.fromkeys(learners))
    return State(plan=plan, learners=names, surfaces=opening_surfaces(plan.process, people=names, unwashed=True))


def is_ready(state: State, learner: str) -> bool:
    """True if a learner has ticked every readiness check."""
    return state.ready.get(learner, frozenset()) >= frozenset(READY_CHECKS)


def next_step(state: State) -> Step | None:
    """The first step as written that is not done and whose predecessors are."""
    for step in state.plan.process.steps:
        if step.id not in state.done and all(name in state.done for name in step.after):
            return step
    return None
