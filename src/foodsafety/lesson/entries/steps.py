"""Entries about steps and heat: done, on the heat, off the heat, back on the heat."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding, Trace
from foodsafety.lesson.breaches import record
from foodsafety.lesson.changed import changed
from foodsafety.lesson.contacts import done, kitchen_rules, live_step
from foodsafety.lesson.entries.kit import kit_cleaned
from foodsafety.lesson.entry import AtBench, Entry, a_food, a_name, one_of
from foodsafety.lesson.food_state import FoodState
from foodsafety.lesson.ovens import heat_findings, uses_for
from foodsafety.lesson.proving import judge, owed
from foodsafety.lesson.state import Move, State
from foodsafety.lesson.telling import Telling, Told
from foodsafety.quantities import CoreError
from foodsafety.recipes import Step
from foodsafety.shelf import Clock


def _made(step: Step) -> tuple[str, ...]:
    return (step.makes,) if step.makes and step.makes not in step.foods else ()


def _each(state: State, change: Mapping[str, FoodState]) -> State:
    return changed(state, foods={**state.foods, **change}) if change else state


def _heating(state: State, step: Step) -> dict[str, FoodState]:
    """The foods of a heat step as they go on the heat. Food that was ready and is heated again must
    be shown hot."""
    again = state.plan.reheated.get(step.id, frozenset())
    change = {}
    for name in step.foods:
        food = state.food(name)
        begins = food.on_heat_s is None and not food.off_since_heated
        change[name] = changed(food.unread(), reheating=True) if name in again and begins else food
    return change


def _is_raw_here(state: State, step: Step, name: str) -> bool:
    return name in state.plan.provable and name not in state.plan.reheated.get(step.id, ())


def put_on_heat(state: State, step: Step, at_s: float) -> State:
    """The foods of a heat step, on the heat: no longer standing out, raw or not."""
    rows = _heating(state, step)
    change = {name: food.on_the_heat(at_s, raw=_is_raw_here(state, step, name)) for name, food in rows.items()}
    return _each(state, change)


def _heat_done(state: State, step: Step, at_s: float) -> State:
    rows = _heating(state, step)
    change = {name: food.heat_done(at_s, raw=_is_raw_here(state, step, name)) for name, food in rows.items()}
    for name in _made(step):
        parts = [change[part] for part in step.foods]
        raw_s = max((part.raw.total_s(at_s) if part.raw else 0.0 for part in parts), default=0.0)
        spent_s = max((part.clock.spent_s for part in parts), default=0.0)
        off_s = max((part.clock.since_s for part in parts if part.clock.since_s is not None), default=at_s)
        raw = Clock(spent_s=raw_s) if name in state.plan.provable else None
        change[name] = FoodState(
            made_s=at_s, heated_s=at_s, raw=raw, clock=Clock(spent_s=spent_s, since_s=off_s), reheating=_again(parts)
        )
        change |= {part: change[part].under_control(at_s) for part in step.foods}
    return _each(state, _only_controlled(state, change))


def _again(parts: Iterable[FoodState]) -> bool:
    return any(part.reheating for part in parts)


def _only_controlled(state: State, change: dict[str, FoodState]) -> dict[str, FoodState]:
    """Food that needs neither hot nor cold holding has no clock."""
    return {n: food if n in state.plan.controlled else changed(food, clock=Clock()) for n, food in change.items()}


def run_clocks(state: State, step: Step, at_s: float) -> State:
    """Food leaves temperature control when it is first handled and regains it in the cold; what a
    step makes inherits the longest time of its parts, and goes on from there."""
    if step.do == "heat":
        return _heat_done(state, step, at_s)
    made = _made(step)
    if step.do in ("chill", "freeze"):
        change = {name: state.food(name).under_control(at_s) for name in step.foods}
    else:
        change = {name: state.food(name).handled(at_s) for name in step.foods}
    for name in made:
        longest_s = max((food.out_s(at_s) for food in change.values()), default=0.0)
        running = any(food.clock.since_s is not None for food in change.values())
        clock = Clock(spent_s=longest_s, since_s=at_s if running else None)
        change[name] = FoodState(made_s=at_s, clock=clock)
        change |= {part: change[part].under_control(at_s) for part in step.foods if not _goes_on(state, step, part)}
    return _each(state, _only_controlled(state, change))


def _goes_on(state: State, step: Step, food: str) -> bool:
    """True if some of a food is left for a later step or the plate."""
    later = state.plan.process.steps[state.plan.process.step_index[step.id] + 1 :]
    return food in state.plan.serve_step or any(food in other.foods for other in later)


# A step may be done a little before the time its recipe gives; less than this share of it is early.
_EARLY_SHARE = 0.8
_SHORTEST_TIMED_S = 120.0
_TIMED = frozenset({"heat", "part_cook", "chill", "freeze", "rest", "marinate"})


def begun_s(state: State, step: Step) -> float | None:
    """When a step began [s]: when it went on the heat, else when the step before it was done. None
    where nobody can know."""
    on_s = state.on_heat.get(step.id)
    return on_s if on_s is not None else max(state.done.values(), default=None)


def left_s(state: State, step: Step, now_s: float) -> float:
    """Seconds that a step would be short of the least time its recipe gives it, were it done now; 0
    where it is long enough, gives no time, or nobody knows when it began."""
    begun = begun_s(state, step)
    if step.do not in _TIMED or step.least_s < _SHORTEST_TIMED_S or begun is None:
        return 0.0
    gone_s = now_s - begun
    return step.least_s - gone_s if gone_s < _EARLY_SHARE * step.least_s else 0.0


def _before_its_time(state: State, step: Step, at_s: float) -> tuple[Finding, ...]:
    short_s = left_s(state, step, at_s)
    if not short_s:
        return ()
    evidence = {"gone_s": step.least_s - short_s, "least_s": step.least_s}
    return (Finding(rule="done-early", step=step.id, evidence=evidence),)


# More people than stand at a bench.
MOST_DOERS = 40


@dataclass(frozen=True, slots=True)
class StepDone(Entry):
    """A step of the recipe is done, by somebody."""

    kind: ClassVar[str] = "step_done"
    step: str
    by: tuple[str, ...]
    goes_on: bool | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        by = data.get("by") or ()
        names = [by] if isinstance(by, str) else by
        if not isinstance(names, (list, tuple)) or len(names) > MOST_DOERS:
            raise CoreError("by", "initials_needed")
        who = tuple(dict.fromkeys(a_name({"by": name}, "by") for name in names))
        step = one_of(data, "step", bench.plan.process.step_index)
        return cls(step, who, True if data.get("goes_on") is True else None)

    def move(self, state: State, at_s: float) -> Move:
        if self.step in state.done:
            return state, ()  # a second tap, or the bench's other tablet
        state, strangers = _with_strangers(state, self.by, self.step)
        written = state.plan.step(self.step)
        early = () if self.goes_on else _before_its_time(state, written, at_s)
        step = live_step(state, written, self.by)
        state, own = kitchen_rules(state, step)
        state, findings = done(state, step)
        state = changed(
            state,
            done={**state.done, self.step: at_s},
            done_by={**state.done_by, self.step: self.by},
        )
        if step.do == "clean":
            state = kit_cleaned(state, step.tools, at_s)
        state = run_clocks(record(state, findings, at_s), step, at_s)
        return state, (
            *strangers,
            *early,
            *findings,
            *own,
            *_nobody_named(written, step, self.by),
            *_not_washed(state, written),
        )

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        row = telling.plan.step(self.step)
        if self.step in before.done or row.do in ("wash_hands", "clean", "probe"):
            return  # told by their own entries: a tap proves nothing
        told = Told(what="step", at_s=at_s, recipe_step=row.id)
        if row.do == "heat" and owed(before, row):
            row, told = replace(row, do="part_cook"), replace(told, what="heat-step")
        telling.add(replace(row, hands=live_step(before, row, self.by).hands), told)


@dataclass(frozen=True, slots=True)
class LeftOut(Entry):
    """A rinse of the recipe is left out: raw meat and poultry are not washed. Nothing else may be left
    out unsaid, since what a step does not do, the food still needs."""

    kind: ClassVar[str] = "left_out"
    step: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        rinses = {step.id for step in bench.plan.process.steps if step.do == "rinse"}
        return cls(one_of(data, "step", rinses))

    def move(self, state: State, at_s: float) -> Move:
        if self.step in state.done:
            return state, ()
        done_by: Mapping[str, tuple[str, ...]] = {**state.done_by, self.step: ()}
        return changed(state, done={**state.done, self.step: at_s}, done_by=done_by), ()


def _with_strangers(state: State, by: Iterable[str], step: str) -> tuple[State, tuple[Finding, ...]]:
    """Somebody who is not at this bench: nobody saw them wash, so their hands count as unwashed."""
    names = [name for name in by if name not in state.learners and name not in state.surfaces]
    surfaces = {**state.surfaces, **{name: {"person": Trace((name,))} for name in names}}
    findings = tuple(Finding(rule="doer-not-at-this-bench", step=step, path=(name,)) for name in names)
    return (changed(state, surfaces=surfaces) if names else state), findings


def _nobody_named(written: Step, step: Step, by: tuple[str, ...]) -> tuple[Finding, ...]:
    if by or not written.hands or not (step.foods and step.hands):
        return ()
    return (Finding(rule="doer-not-named", step=written.id, path=step.hands),)


def _not_washed(state: State, step: Step) -> tuple[Finding, ...]:
    """A hand-washing step tapped past while somebody's hands are not clean: the tap is no wash, and a
    wash from before they were soiled is none either."""
    if step.do != "wash_hands":
        return ()
    soiled = tuple(name for name in state.present if state.surfaces.get(name))
    return (Finding(rule="wash-step-without-wash", step=step.id, path=soiled),) if soiled else ()


@dataclass(frozen=True, slots=True)
class OnHeat(Entry):
    """A heat step has begun: nothing is proven by it, but nothing stands about either."""

    kind: ClassVar[str] = "on_heat"
    step: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        heats = {step.id for step in bench.plan.process.steps if step.do == "heat"}
        return cls(one_of(data, "step", heats))

    def move(self, state: State, at_s: float) -> Move:
        if self.step in state.done or self.step in state.on_heat:
            return state, ()
        step = state.plan.step(self.step)
        found = heat_findings(state, step, uses_for(state, step))
        return put_on_heat(changed(state, on_heat={**state.on_heat, self.step: at_s}), step, at_s), found


@dataclass(frozen=True, slots=True)
class OffHeat(Entry):
    """A food is off the heat: its rest and its clock begin."""

    kind: ClassVar[str] = "off_heat"
    food: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        food = state.food(self.food).off_the_heat(at_s, raw=self.food in state.plan.provable)
        food = food if self.food in state.plan.controlled else changed(food, clock=Clock())
        return judge(state.with_food(self.food, food), self.food, at_s), ()


@dataclass(frozen=True, slots=True)
class CookedAgain(Entry):
    """Back on the heat: what was read before proves nothing any more, and no time is given back."""

    kind: ClassVar[str] = "cooked_again"
    food: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        if self.food not in state.plan.provable:
            return state, (Finding(rule="no-heat-for-this-food", step="", food=self.food),)
        food = state.food(self.food).on_the_heat(at_s, raw=False).unread()
        return state.with_food(self.food, food), ()
