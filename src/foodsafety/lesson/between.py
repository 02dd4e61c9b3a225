"""What has to be washed between the steps of a recipe that does not say so itself."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.contamination import Finding
from foodsafety.lesson.contacts import live_step, would_breach
from foodsafety.lesson.entry import Event
from foodsafety.lesson.evidence import Brick, bricks
from foodsafety.lesson.folding import advance
from foodsafety.lesson.plan import ControlPoint, Plan
from foodsafety.lesson.state import READY_CHECKS, State, opening_state
from foodsafety.recipes import Step

_WASHING_UP = ("hands-after-raw", "kit-after-raw", "clean-utensils")
# Readings of food that is as it should be: cooked through by every profile, and cold by every profile.
_COOKED_C, _COLD_C = 95.0, 2.0


@dataclass(frozen=True, slots=True)
class Between:
    """A wash before the step (or after it, if ``after``): ``hands`` of everybody who cooks, and the ``kit``."""

    step: str
    after: bool
    hands: bool
    kit: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Owed:
    """Whose hands and which kit still have to be washed once raw work is over."""

    hands: frozenset[str]
    kit: tuple[str, ...]


def soiled(state: State, step: Step, learner: str, findings: Sequence[Finding]) -> tuple[Sequence[str], Sequence[str]]:
    """The hands and the tools that bring what was found to a step, done by this learner."""
    soils = {finding.soil for finding in findings if finding.soil}
    # The hands that really do it: serving is done by hand though no recipe says so.
    hands = live_step(state, step, (learner,)).hands
    return tuple(_carrying(state, soils, hands)), tuple(_carrying(state, soils, step.tools))


def _carrying(state: State, soils: set[str], carriers: Iterable[str]) -> Iterable[str]:
    return (name for name in carriers if soils & set(state.surfaces.get(name, ())))


def owed_after(state: State, rows: Iterable[Brick]) -> dict[str, Owed]:
    """The hands and the kit that the rules want washed and that no step of the recipe washes, by the step after which
    they are due: all that are due at some time, those with nothing left to wash as well."""
    due: dict[str, list[Brick]] = {}
    for brick in rows:
        control = brick.control
        if control.rule in _WASHING_UP and control.due_after and not _recipe_washes(state, control):
            due.setdefault(control.due_after[-1], []).append(brick)
    return {step: _owed(bricks_due) for step, bricks_due in due.items()}


def _owed(rows: Iterable[Brick]) -> Owed:
    left = [brick for brick in rows if brick.status not in ("laid", "mended", "waived")]
    hands = [brick for brick in left if brick.control.rule == "hands-after-raw"]
    kit = dict.fromkeys(name for brick in left if brick not in hands for name in brick.evidence["left"])
    return Owed(frozenset(name for brick in hands for name in brick.evidence["left"]), tuple(kit))


def _recipe_washes(state: State, control: ControlPoint) -> bool:
    """True if steps of the recipe itself that are still to come wash all that this control asks for: what was soiled
    again after them is asked about."""
    process = state.plan.process
    at = process.step_index
    due = max(at[name] for name in control.due_after)
    later = [step for step in process.steps if at[step.id] > due and step.id not in state.done]
    if control.rule == "hands-after-raw":
        return any(step.do == "wash_hands" for step in later)
    cleaned = {tool for step in later if step.do == "clean" for tool in step.tools}
    return cleaned >= set(control.carriers)


def washed_between(plan: Plan, learners: Iterable[str], order: Sequence[Step] = ()) -> tuple[Between, ...]:
    """The washes that a bench is asked for on its way through a recipe in this ``order`` (as written if empty), whoever
    does what: each as soon as going on would bring raw food to a plate, or as the rules want it once raw work is
    over. Where raw food is moved by hand again and again afterwards, hands are washed the first and the last time."""
    who, steps = tuple(learners), order or plan.process.steps
    found = _Bench(plan, who).through(steps)
    late = [row.step for row in found if row.after and row.hands]
    return found if len(late) <= 2 else _Bench(plan, who, frozenset((late[0], late[-1]))).through(steps)


class _Bench:
    """A bench that does each step with everybody's hands, measures all, and washes when it is told to."""

    def __init__(self, plan: Plan, learners: tuple[str, ...], only_after: frozenset[str] | None = None) -> None:
        self.plan, self.learners, self.only_after = plan, learners, only_after
        self.state = opening_state(plan, learners)
        self.found: list[Between] = []
        self.now_s = 0.0
        for name in learners:
            self._say("ready", learner=name, checks=list(READY_CHECKS))
        self._wash(hands=True, kit=())

    def through(self, steps: Iterable[Step]) -> tuple[Between, ...]:
        """What is washed on the way."""
        for step in steps:
            self.do(step)
        return tuple(self.found)

    def _say(self, kind: str, **data: Any) -> None:
        self.now_s += 1.0
        self.state, _ = advance(self.state, Event(id=f"{self.now_s:g}", kind=kind, at_s=self.now_s, data=data))

    def _wash(self, *, hands: bool, kit: Sequence[str]) -> None:
        for name in self.learners if hands else ():
            self._say("hands_washed", learner=name, scrub_s=self.plan.scrub_s)
        if kit:
            self._say("cleaned", tools=list(kit), how="clean")

    def do(self, step: Step) -> None:
        """One step, with what is washed before and after it."""
        if step.do == "wash_hands":
            self._wash(hands=True, kit=())
        else:
            rows = [soiled(self.state, step, who, would_breach(self.state, step.id, [who])) for who in self.learners]
            self._ask(step, any(hands for hands, _ in rows), [name for _, kit in rows for name in kit], after=False)
        self._say("step_done", step=step.id, by=list(self.learners))
        self._measure(step)
        for due, owed in owed_after(self.state, bricks(self.state, self.now_s)).items():
            if due in self.state.done and step.do != "serve":
                hands = bool(owed.hands) and (self.only_after is None or step.id in self.only_after)
                self._ask(step, hands, owed.kit, after=True)

    def _ask(self, step: Step, hands: bool, kit: Iterable[str], *, after: bool) -> None:
        names = tuple(dict.fromkeys(kit))
        if hands or names:
            self.found.append(Between(step.id, after, hands, names))
            self._wash(hands=hands, kit=names)

    def _measure(self, step: Step) -> None:
        for control in self.plan.controls:
            if control.rule == "core-temperature" and control.due_after and control.due_after[-1] == step.id:
                for food in control.measured:
                    for piece in range(self.plan.profile.pieces):
                        self._say("core_read", food=food, piece=str(piece + 1), core_c=_COOKED_C)
            if control.rule == "chilled-in-time" and control.steps and control.steps[-1] == step.id:
                for food in control.foods:
                    self._say("cold_read", food=food, core_c=_COLD_C)
