"""A simulated crew: the entries a bench would make in a lesson, from a seed, with a chosen slip."""

from __future__ import annotations

import math
import random
from collections.abc import Iterable, Sequence
from typing import Any, Literal

from foodsafety.foods import is_raw
from foodsafety.lesson.between import owed_after, soiled
from foodsafety.lesson.contacts import would_breach
from foodsafety.lesson.entry import Event
from foodsafety.lesson.evidence import bricks
from foodsafety.lesson.folding import advance
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.proving import heats_of, verdict_of
from foodsafety.lesson.state import READY_CHECKS, State, next_step, opening_state
from foodsafety.measuring import SimulatedCook
from foodsafety.recipes import Step

Slip = Literal["none", "unwashed_hands", "raw_tongs", "warm_fridge", "too_early", "forgotten_chill_reading"]
SLIPS: tuple[Slip, ...] = ("none", "unwashed_hands", "raw_tongs", "warm_fridge", "too_early", "forgotten_chill_reading")
_LONGEST_STEPS = 400
# With these slips a crew washes only what the recipe tells it to.
_LEAVES_UNWASHED: tuple[Slip, ...] = ("unwashed_hands", "raw_tongs")
# From so long a heat step on [s] a crew says when it begins: the raw clock must not run through it.
_LONG_HEAT_S = 1800.0


# Breaches that the recipe itself brings about: made again just so, they would come again.
_THE_RECIPES_OWN = ("produce-not-rinsed", "no-kill-step", "raw-meat-rinsed", "raw-tasted", "allergen-inside")


class Crew:
    """One bench working through a plan. Times are seconds from the start of the lesson."""

    def __init__(self, plan: Plan, learners: Iterable[str], *, seed: int, slip: Slip = "none") -> None:
        self.plan = plan
        self.learners = tuple(learners)
        self.random = random.Random(seed)
        self.slip = slip
        self.now_s = self.random.uniform(5, 40)
        self.state: State = opening_state(plan, self.learners)
        self.events: list[Event] = []
        self.made_again: set[str] = set()
        self.pieces = [
            SimulatedCook(
                half_m=self.random.uniform(0.0085, 0.0095),
                start_c=self.random.uniform(7, 11),
                surface_c=self.random.uniform(92, 97),
            )
            for _ in range(plan.profile.pieces)
        ]

    def say(self, kind: str, wait_s: float, **data: Any) -> None:
        """One entry, after waiting about this long."""
        self.now_s += wait_s * self.random.uniform(0.85, 1.2)
        number = len(self.events)
        event = Event(id=f"{self.random.getrandbits(64):016x}-{number}", kind=kind, at_s=self.now_s, data=data)
        self.events.append(event)
        self.state, _ = advance(self.state, event)

    def wash(self, learner: str) -> None:
        """One whole hand-wash."""
        self.say("wash_started", 3, learner=learner)
        scrub_s = float(math.ceil(self.plan.scrub_s) + self.random.randint(0, 6))
        self.say("hands_washed", scrub_s + 20, learner=learner, scrub_s=scrub_s)

    def run(self) -> list[Event]:
        """The whole lesson of this bench."""
        self._arrive()
        for _ in range(_LONGEST_STEPS):
            step = next_step(self.state)
            if step is None:
                break
            self._do(step)
        self._after_serving()
        return self.events

    def _arrive(self) -> None:
        for learner in self.learners:
            self.say("ready", 6, learner=learner, checks=list(READY_CHECKS))
        if any(brick.control.rule == "fridge-cold" for brick in bricks(self.state, self.now_s)):
            if self.slip == "warm_fridge":
                self.say("fridge_read", 20, core_c=9.5)
                self.say("fridge_read", 400, core_c=4.0)
            else:
                self.say("fridge_read", 20, core_c=round(self.random.uniform(2.5, 4.2), 1))
        for learner in self.learners:
            self.wash(learner)

    def _doer(self, step: Step) -> str:
        index = self.plan.process.step_index[step.id]
        if self.slip == "unwashed_hands" and step.id == self._first_after_raw():
            raw = [name for name in self.state.learners if self._raw_hands(name)]
            return raw[0] if raw else self.learners[0]
        return self.learners[index // 4 % len(self.learners)]

    def _raw_hands(self, name: str) -> bool:
        return any(is_raw(soil) for soil in self.state.surfaces.get(name, ()))

    def _dirty_hands(self) -> list[str]:
        return [name for name in self.learners if self.state.surfaces.get(name)]

    def _first_after_raw(self) -> str | None:
        """The first ready-to-eat step that comes after the raw ones."""
        control = next(
            (c for c in self.plan.controls if c.rule == "ready-to-eat-clean" and c.phase == "wash_back"), None
        )
        return control.steps[0] if control else None

    def _do(self, step: Step) -> None:
        self._act(step)
        if self.slip not in _LEAVES_UNWASHED:
            self._wash_what_is_owed()

    def _wash_before(self, step: Step) -> None:
        """What stands in the way of a step is washed, though the recipe does not say so."""
        who = self._doer(step)
        hands, kit = soiled(self.state, step, who, would_breach(self.state, step.id, [who]))
        self._clean(kit)
        for name in hands:
            self.wash(name)

    def _wash_what_is_owed(self) -> None:
        """What the rules want washed once raw work is over, and no step of the recipe washes."""
        for due, owed in owed_after(self.state, bricks(self.state, self.now_s)).items():
            if due in self.state.done:
                self._clean(owed.kit)
                for name in sorted(owed.hands):
                    self.wash(name)

    def _clean(self, kit: Sequence[str]) -> None:
        if kit:
            self.say("cleaned", 40, tools=list(kit), how="clean")

    def _act(self, step: Step) -> None:
        wait_s = max(20.0, step.planned_s * 0.9)
        if step.do == "wash_hands":
            if self.slip != "unwashed_hands":
                for name in self._dirty_hands():
                    self.wash(name)
            self.say("step_done", 10, step=step.id, by=[])
            return
        if self.slip not in _LEAVES_UNWASHED:
            self._wash_before(step)
        if step.do == "clean" and self.slip == "raw_tongs" and "tongs" in step.tools:
            self.say("cleaned", 10, tools=list(step.tools), how="wipe")
            self.now_s += 15
            self._skip(step)
            return
        if step.do == "probe" and step.foods:
            self._probe(step)
            return
        if step.do == "serve" and any(c.rule == "chilled-in-time" for c in self.plan.controls):
            self._chill_readings()
        if step.do in ("chill", "freeze"):
            # It is done when the food goes in; the cold takes its time afterwards.
            self.say("step_done", min(wait_s, 60.0), step=step.id, by=[self._doer(step)])
            self.now_s += max(0.0, wait_s - 60.0)
        elif step.id in self.plan.heat_steps and step.planned_s >= _LONG_HEAT_S:
            self.say("on_heat", 45, step=step.id)
            self.say("step_done", wait_s - 45, step=step.id, by=[self._doer(step)])
        else:
            self.say("step_done", wait_s, step=step.id, by=[self._doer(step)])
        self._measure_after(step)
        self._mend()

    def _measure_after(self, step: Step) -> None:
        """What comes off the heat is measured where no step of the recipe does it."""
        for control in self.plan.controls:
            if control.rule != "core-temperature" or not control.due_after or control.due_after[-1] != step.id:
                continue
            for food in control.measured:
                probed = any(s.do == "probe" and food in s.foods[:1] for s in self.plan.process.steps)
                if not probed and self.slip != "too_early":
                    self._measure(food, self._probes())

    def _probes(self) -> tuple[str, ...]:
        """The thermometers among the kit."""
        return tuple(name for name, row in self.plan.process.tools.items() if row.kind == "probe")

    def _skip(self, step: Step) -> None:
        """Go on without the step: nothing is recorded, so later steps must not wait for it."""
        while True:
            upcoming = [s for s in self.plan.process.steps if s.id not in self.state.done and s.id != step.id]
            ready = [s for s in upcoming if all(name in self.state.done for name in s.after)]
            if not ready:
                self.say("step_done", 5, step=step.id, by=[self._doer(step)])
                return
            self._do(ready[0])

    def _chill_readings(self) -> None:
        for control in self.plan.controls:
            if control.rule != "chilled-in-time" or self.slip == "forgotten_chill_reading":
                continue
            if not all(name in self.state.done for name in control.steps) or self.state.food(control.foods[0]).cold:
                continue
            for food in control.foods:
                self.say("cold_read", 15, food=food, core_c=round(self.random.uniform(3.0, 4.2), 1))

    def _probe(self, step: Step) -> None:
        if self.slip == "too_early":
            self.say("step_done", 20, step=step.id, by=[self._doer(step)])
            return
        self._measure(step.foods[0], step.tools)
        self.say("step_done", 5, step=step.id, by=[self._doer(step)])

    def _measure(self, food: str, probes: Sequence[str]) -> None:
        heats = heats_of(self.state, food)
        control = self.plan.core_control(food)
        on_since_s = self.state.done.get(heats[-1].id, self.now_s) - 480 if heats else self.now_s
        for _ in range(12):
            for i, piece in enumerate(self.pieces):
                core_c = piece.core_c(self.now_s - on_since_s) + self.random.gauss(0, 0.2)
                self.say("core_read", 9, food=food, piece=str(i + 1), core_c=round(core_c, 1))
                if control and control.limit and not control.limit.met_by(round(core_c, 1)):
                    # A probe from an undercooked piece is cleaned before it goes into the next.
                    self._clean_probe(probes)
            verdict = verdict_of(self.state, food, self.now_s)
            if verdict is None or verdict.status == "reached":
                break
            self.now_s += max(75.0, verdict.remaining_s + 2)

    def _clean_probe(self, probes: Sequence[str]) -> None:
        if probes:
            self.say("cleaned", 15, tools=list(probes), how="clean")

    def _mend(self) -> None:
        """What a bench does once the educator has seen the breach."""
        for incident in self.state.open_incidents:
            food = incident.finding.food
            self.now_s += 75
            if incident.finding.rule in ("served-not-measured", "served-below-limit"):
                self.say("cooked_again", 10, food=food)
                for i in range(self.plan.profile.pieces):
                    self.say("core_read", 12, food=food, piece=str(i + 1), core_c=84.0 + i)
                verdict = verdict_of(self.state, food, self.now_s)
                if verdict and verdict.status != "reached":
                    for i in range(self.plan.profile.pieces):
                        wait_s = verdict.remaining_s + 5 if i == 0 else 10
                        self.say("core_read", wait_s, food=food, piece=str(i + 1), core_c=83.0 + i)
            elif self.plan.core_behind(food) or incident.finding.rule in _THE_RECIPES_OWN or food in self.made_again:
                self.say("gone", 20, food=food, how="discarded")
            else:
                for name in self._dirty_hands():
                    self.wash(name)
                self.say("cleaned", 40, tools=list(self._dirty_tools()), how="clean")
                self.say("remade", 30, food=food)
                self.made_again.add(food)

    def _dirty_tools(self) -> tuple[str, ...]:
        dirty = [t for t in self.plan.process.tools if self.state.surfaces.get(t)]
        return tuple(dirty) or tuple(self.plan.process.tools)[:1]

    def _after_serving(self) -> None:
        self._chill_readings()
        self.now_s += 600
        for control in self.plan.controls:
            if control.rule != "time-out":
                continue
            for food in control.foods:
                if self.state.food(food).gone:
                    continue
                if self.plan.core_behind(food):
                    self.say("stored", 60, food=food, place="fridge")
                else:
                    self.say("gone", 30, food=food, how="eaten")


def rehearse(plan: Plan, learners: Iterable[str], *, seed: int, slip: Slip = "none") -> list[Event]:
    """The entries of one simulated bench, in order; the same seed gives the same lesson."""
    return Crew(plan, learners, seed=seed, slip=slip).run()
