"""A bench's state: everything its log has said so far."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from foodsafety.contamination import BoardUses, Finding, Surfaces, Trace, foods_alone, opening_surfaces
from foodsafety.lesson.changed import changed
from foodsafety.lesson.food_state import FoodState, Gone, Kept
from foodsafety.lesson.plan import Plan
from foodsafety.recipes import Step

READY_CHECKS = ("apron", "hair", "jewellery", "cuts", "well")


@dataclass(frozen=True, slots=True, kw_only=True)
class Wash:
    """A hand-wash: when it ended [s] and how long it scrubbed [s]."""

    at_s: float
    scrub_s: float


@dataclass(frozen=True, kw_only=True)
class PersonState:
    """One learner: what was checked, whether they may handle food, and their washes. ``washing_s`` is
    when a wash that has not ended began, ``off`` what the last one took off their hands; ``away``: left, or at another
    bench now."""

    ready: frozenset[str] = frozenset()
    unwell: bool = False
    away: bool = False
    washing_s: float | None = None
    washed: Wash | None = None
    first_wash: Wash | None = None
    off: Mapping[str, Trace] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Incident:
    """A breach as it happened, and how it was put right. ``decided`` is the educator's word that the
    bench may go on: the breach stays open, and its food may not be kept. ``mended_by``: who put it right, where
    somebody has said so."""

    finding: Finding
    at_s: float
    control: str | None
    mended_s: float | None = None
    action: str = ""
    mended_by: str = ""
    decided: str = ""

    @property
    def open(self) -> bool:
        """True until a corrective action is recorded."""
        return self.mended_s is None


@dataclass(frozen=True, slots=True, kw_only=True)
class Waste:
    """Food that was thrown away: by itself ("discarded") or to be made again ("remade"), for which breach's ``rule``
    ("" for none), and how much somebody says it was: ``value`` in ``unit`` "g" or "pieces"; unit "unweighed" where
    nobody weighed it, "" while nobody has said."""

    food: str
    at_s: float
    how: Literal["discarded", "remade"]
    rule: str = ""
    value: float | None = None
    unit: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Noted:
    """Something an entry says that is no breach and must be seen: a wash that was too short, a board
    that was only wiped, an entry nobody can read, good practice."""

    finding: Finding
    at_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Timer:
    """A timer somebody set: what for, when it was set and when it rings [s], and when somebody answered or stopped
    it."""

    name: str
    set_s: float
    rings_s: float
    answered_s: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Watching:
    """What somebody has watched a learner do, how it was seen, and when [s]."""

    what: str
    learner: str
    seen: str
    at_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class OvenUse:
    """What another bench has in an oven that is shared: which oven, whose, the food, at what heat [C], and since
    when until about when [s]; None where nobody wrote it."""

    oven: str
    bench: str
    food: str
    oven_c: float | None
    since_s: float
    until_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """What the front has told a bench that is behind the plan, and when [s]."""

    what: str
    of: str | None
    at_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pause:
    """The last time the lesson stopped: why, from when until when [s] (None: it has not gone on). ``asks``: heats of
    which nobody has said yet whether they were off, ``held_s``: for how long each of them is taken to have been,
    ``off``: those that were. ``seen``: the bench has read what may
    still be used."""

    why: str
    begun_s: float
    ended_s: float | None = None
    asks: tuple[str, ...] = ()
    held_s: Mapping[str, float] = field(default_factory=dict)
    off: tuple[str, ...] = ()
    seen: bool = False


_UNTOUCHED = FoodState()
_UNSEEN = PersonState()


@dataclass(frozen=True, kw_only=True)
class State:
    """Everything known about one bench, folded from its log.

    ``surfaces`` is what rides on every carrier, foods among them; ``inside`` what each food brings of
    itself. ``done`` is when each step was done, ``done_by`` by whom. ``gloved`` are those who wear
    gloves, ``boards`` what each board has met where the kitchen keeps them apart.
    """

    plan: Plan
    learners: tuple[str, ...]
    surfaces: Surfaces
    inside: Surfaces
    foods: Mapping[str, FoodState] = field(default_factory=dict)
    people: Mapping[str, PersonState] = field(default_factory=dict)
    done: Mapping[str, float] = field(default_factory=dict)
    done_by: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    on_heat: Mapping[str, float] = field(default_factory=dict)
    cleaned: Mapping[str, float] = field(default_factory=dict)
    gloved: frozenset[str] = frozenset()
    boards: BoardUses = field(default_factory=dict)
    fridge: tuple[tuple[float, float], ...] = ()
    ambient_c: float | None = None
    waived: Mapping[str, str] = field(default_factory=dict)
    # Control points that watch nothing but what is left out of the meal: never laid, whatever is tapped.
    dropped: frozenset[str] = frozenset()
    incidents: tuple[Incident, ...] = ()
    noted: tuple[Noted, ...] = ()
    wasted: tuple[Waste, ...] = ()
    called_s: float | None = None
    timers: Mapping[str, Timer] = field(default_factory=dict)
    pause: Pause | None = None
    # For how long the lesson has stood still, over all pauses that are over [s].
    stood_still_s: float = 0.0
    advice: tuple[Advice, ...] = ()
    # What other benches have in the ovens that are shared, by a name that its coming out has too.
    ovens: Mapping[str, OvenUse] = field(default_factory=dict)
    watched: Mapping[tuple[str, str], Watching] = field(default_factory=dict)
    seen: frozenset[str] = frozenset()

    def food(self, name: str) -> FoodState:
        """One food, as far as it is known."""
        return self.foods.get(name, _UNTOUCHED)

    def person(self, name: str) -> PersonState:
        """One learner, as far as they are known."""
        return self.people.get(name, _UNSEEN)

    def with_food(self, name: str, food: FoodState) -> State:
        """The state with one food changed."""
        return changed(self, foods={**self.foods, name: food})

    def with_person(self, name: str, **changes: Any) -> State:
        """The state with one learner changed."""
        return changed(self, people={**self.people, name: changed(self.person(name), **changes)})

    @property
    def present(self) -> tuple[str, ...]:
        """Learners who may handle food: those here, and not sent away as unwell."""
        rows = ((name, self.person(name)) for name in self.learners)
        return tuple(name for name, person in rows if not (person.unwell or person.away))

    @property
    def open_incidents(self) -> tuple[Incident, ...]:
        """Breaches that nobody has put right yet."""
        return tuple(incident for incident in self.incidents if incident.open)

    @property
    def alarms(self) -> tuple[Incident, ...]:
        """Open breaches that wait for somebody: those that the educator has not decided on."""
        return tuple(incident for incident in self.open_incidents if not incident.decided)

    @property
    def paused(self) -> bool:
        """True while the lesson stands still."""
        return self.pause is not None and self.pause.ended_s is None

    @property
    def running(self) -> tuple[tuple[str, Timer], ...]:
        """Timers that nobody has answered, with their ids: the one that rings first, first."""
        left = ((name, timer) for name, timer in self.timers.items() if timer.answered_s is None)
        return tuple(sorted(left, key=lambda row: (row[1].rings_s, row[0])))

    @property
    def proven(self) -> Mapping[str, float]:
        """The foods that are shown to be cooked, and since when [s]."""
        return {name: food.proof.at_s for name, food in self.foods.items() if food.proof}

    @property
    def kept(self) -> Mapping[str, Kept]:
        """The foods that are put away."""
        return {name: food.kept for name, food in self.foods.items() if food.kept}

    @property
    def gone(self) -> Mapping[str, Gone]:
        """The foods that are eaten or thrown away."""
        return {name: food.gone for name, food in self.foods.items() if food.gone}


Move = tuple[State, tuple[Finding, ...]]


def opening_state(plan: Plan, learners: Iterable[str]) -> State:
    """A bench before its first event: food as bought, tools clean, every hand unwashed."""
    names = tuple(dict.fromkeys(learners))
    return State(
        plan=plan,
        learners=names,
        surfaces=opening_surfaces(plan.process, people=names, unwashed=True),
        inside=foods_alone(plan.process),
    )


def is_ready(state: State, learner: str) -> bool:
    """True if a learner has ticked every readiness check."""
    return state.person(learner).ready >= frozenset(READY_CHECKS)


def next_step(state: State) -> Step | None:
    """The first step, in the order in which they are done, that is not done and whose predecessors are."""
    for step in state.plan.in_order:
        if step.id not in state.done and all(name in state.done for name in step.after):
            return step
    return None


def all_done(state: State, steps: Iterable[str]) -> bool:
    """True if every one of the steps is done."""
    return all(name in state.done for name in steps)
