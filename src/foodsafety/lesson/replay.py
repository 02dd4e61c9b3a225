"""A bench's log told again as a process: what was really done, in the order it was done.

The flow map of a lesson is drawn from it. Heat stands where the readings proved it, not where
somebody tapped the step; a wash that was too short is no wash.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any, Literal

from foodsafety.contamination import heated_with
from foodsafety.lesson.events import TOUCHED, Event
from foodsafety.lesson.folding import advance
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import State, opening_state
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, Step, Tool

EntryKind = Literal["step", "wash", "short-wash", "touched", "clean", "wipe", "swapped", "probe", "proved", "heat-step"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """One step of the retold process: what the entry was, when [s], and the recipe's step if any."""

    what: EntryKind
    at_s: float
    recipe_step: str = ""
    who: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ReplayedLog:
    """A log as a process; ``told`` says for each of its steps where it comes from. What was thrown
    away is in ``discarded``: it is judged as if it had been eaten, since that is what throwing it
    away prevented. ``unproven`` are foods that no reading has shown to be cooked: whether they were
    made or not, nothing raw on them is ruled out. ``served`` are those that an entry serves; the
    recipe's other plates are judged too, but nobody has eaten them as far as is recorded."""

    process: Process
    told: dict[str, Told]
    discarded: frozenset[str] = frozenset()
    unproven: tuple[str, ...] = ()
    served: frozenset[str] = frozenset()


class _Teller:
    def __init__(self, plan: Plan, learners: tuple[str, ...]) -> None:
        self.plan = plan
        self.tools: dict[str, Tool] = dict(plan.process.tools)
        self.steps: list[Step] = []
        self.told: dict[str, Told] = {}
        self.learners = learners
        self.discarded: set[str] = set()
        self.foods = dict(plan.process.foods)

    def add(self, step: Step, told: Told) -> None:
        """One more step, under an id of its own."""
        name = step.id
        n = 2
        while name in self.told:
            name, n = f"{step.id}-{n}", n + 1
        self.steps.append(replace(step, id=name, after=()))
        self.told[name] = told

    def tell(self, event: Event, before: State, after: State) -> None:
        """What an entry says was done."""
        data = event.data
        handler = getattr(self, f"_{event.kind}", None)
        if handler:
            handler(event, data, before, after)
        for food in sorted(set(after.proven) - set(before.proven)):
            self._proved(event, food)

    def _hands_washed(self, event: Event, data: Any, before: State, after: State) -> None:
        who = str(data["learner"])
        enough = after.washed.get(who) != before.washed.get(who)
        step = Step(id="wash", do="wash_hands" if enough else "touch", hands=(who,))
        self.add(step, Told(what="wash" if enough else "short-wash", at_s=event.at_s, who=who))

    def _touched(self, event: Event, data: Any, before: State, after: State) -> None:
        what, who = str(data["what"]), str(data["learner"])
        if what in TOUCHED:
            # A cough or a face: a thing of its own that brings what people carry.
            self.tools.setdefault(what, Tool(id=what, kind="bin" if TOUCHED[what] == "waste" else "face"))
            self.add(
                Step(id="touch", do="touch", tools=(what,), hands=(who,)),
                Told(what="touched", at_s=event.at_s, who=who),
            )

    def _cleaned(self, event: Event, data: Any, before: State, after: State) -> None:
        tools = tuple(data["tools"])
        clean = data["how"] == "clean"
        step = Step(id="clean", do="clean" if clean else "wipe", tools=tools)
        self.add(step, Told(what="clean" if clean else "wipe", at_s=event.at_s))

    def _swapped(self, event: Event, data: Any, before: State, after: State) -> None:
        self.add(Step(id="swap", do="clean", tools=tuple(data["tools"])), Told(what="swapped", at_s=event.at_s))

    def _step_done(self, event: Event, data: Any, before: State, after: State) -> None:
        row = self.plan.process.steps[self.plan.process.step_index[str(data["step"])]]
        if row.do in ("wash_hands", "clean", "probe"):
            return  # these are told by their own entries: a tap proves nothing
        by = data.get("by") or ()
        hands = (by,) if isinstance(by, str) else tuple(by)
        told = Told(what="step", at_s=event.at_s, recipe_step=row.id)
        if row.do == "heat" and any(self.plan.core_control(food) for food in row.foods):
            row, told = replace(row, do="part_cook"), replace(told, what="heat-step")
        self.add(replace(row, hands=hands if row.hands else ()), told)

    def _core_read(self, event: Event, data: Any, before: State, after: State) -> None:
        probes = [name for name, tool in self.tools.items() if tool.kind == "probe"] or ["probe"]
        self.tools.setdefault(probes[0], Tool(id=probes[0], kind="probe"))
        step = Step(id="probe", do="probe", foods=(str(data["food"]),), tools=(probes[0],))
        last = self.steps[-1] if self.steps else None
        if last is None or (last.do, last.foods) != ("probe", step.foods):
            self.add(step, Told(what="probe", at_s=event.at_s))

    def _gone(self, event: Event, data: Any, before: State, after: State) -> None:
        if data["how"] == "discarded":
            self.discarded.add(str(data["food"]))

    def _remade(self, event: Event, data: Any, before: State, after: State) -> None:
        """The first one is thrown away under a name of its own; what follows is the new one."""
        food = str(data["food"])
        process = self.plan.process
        chain = {food} | {name for name in process.made if food in self._becomes(name)}
        parts = {
            name
            for name in process.ingredients_of(food)
            if all(step.makes in chain for step in process.steps if step.makes and name in step.foods)
        }
        n = 1
        while any(f"{food} {n}" in (*step.foods, step.makes) for step in self.steps):
            n += 1
        names = {name: f"{name} {n}" for name in chain | parts}
        self.steps = [
            replace(
                step,
                foods=tuple(names.get(name, name) for name in step.foods),
                makes=names.get(step.makes, step.makes) if step.makes else None,
            )
            for step in self.steps
        ]
        for name in parts & process.foods.keys():
            self.foods[names[name]] = replace(process.foods[name], id=names[name])
        self.discarded.add(names[food])

    def _becomes(self, name: str) -> set[str]:
        """What a made food becomes part of, itself included."""
        found = {name}
        for step in self.plan.process.steps:
            if step.makes and found & set(step.foods):
                found.add(step.makes)
        return found

    def _proved(self, event: Event, food: str) -> None:
        heat = self.plan.heat_for(food)
        row = self.plan.process.steps[self.plan.process.step_index[heat]] if heat else None
        vessels = heated_with(self.plan.process, row) if row else ()
        step = Step(id="proved", do="heat", foods=(food,), tools=vessels)
        self.add(step, Told(what="proved", at_s=event.at_s, recipe_step=heat or ""))

    def process(self) -> Process:
        """The log as a process."""
        process = self.plan.process
        steps = tuple(
            replace(step, foods=tuple(n for n in step.foods if n not in self.discarded)) if step.do == "serve" else step
            for step in self.steps
        )
        served = {name for step in steps if step.do == "serve" for name in step.foods}
        plates = served or {name for name in process.serve if name not in self.discarded}
        serve = tuple(sorted(plates | self.discarded))
        return replace(process, foods=self.foods, tools=self.tools, people=self.learners, steps=steps, serve=serve)


def process_from_log(plan: Plan, learners: Iterable[str], events: Iterable[Event]) -> ReplayedLog:
    """A log as a process, in the order in which things happened; voided entries are left out.

    Raises CoreError while nothing has been done that touches anything.
    """
    names = tuple(learners)
    teller = _Teller(plan, names)
    state = opening_state(plan, names)
    rows = sorted(events, key=lambda row: row.at_s)
    voided = {str(row.data.get("event")) for row in rows if row.kind == "voided"}
    for row in rows:
        if row.id in voided or row.kind == "voided":
            continue
        after, findings = advance(state, row)
        if not any(finding.rule == "entry-not-understood" for finding in findings):
            teller.tell(row, state, after)
        state = after
    if not teller.steps:
        raise CoreError("log", "nothing_done_yet")
    process = teller.process()
    return ReplayedLog(
        process=process,
        served=frozenset(name for step in process.steps if step.do == "serve" for name in step.foods),
        told=teller.told,
        discarded=frozenset(teller.discarded),
        unproven=tuple(
            name for name in _to_be_proven(plan) if name not in state.proven and name not in teller.discarded
        ),
    )


def _to_be_proven(plan: Plan) -> tuple[str, ...]:
    """The foods that a core temperature has to prove: what a heat step makes, or else all it heats."""
    found: dict[str, None] = {}
    for control in plan.controls:
        if control.rule == "core-temperature":
            heat = plan.process.steps[plan.process.step_index[control.steps[0]]]
            found |= dict.fromkeys((heat.makes,) if heat.makes else heat.foods)
    return tuple(found)
