"""Entries about kit: cleaned, only wiped, or changed for clean ones."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding, after_alone, clear_carriers, do_step, rinsed_raw, touch_all
from foodsafety.lesson.breaches import record
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, many_of, one_of
from foodsafety.lesson.state import Move, State
from foodsafety.lesson.telling import Telling, Told
from foodsafety.recipes import Step, washable

CLEANING = ("clean", "wipe", "rinse")


def kit_cleaned(state: State, tools: tuple[str, ...], at_s: float) -> State:
    """Kit that is clean now; a phone or a bin never is."""
    clean = tuple(name for name in tools if washable(state.plan.process, name))
    cleaned = {**state.cleaned, **dict.fromkeys(clean, at_s)}
    return changed(state, surfaces=clear_carriers(state.surfaces, clean), cleaned=cleaned)


@dataclass(frozen=True, slots=True)
class Cleaned(Entry):
    """Kit was cleaned and sanitised, or only wiped or rinsed: that spreads what it holds."""

    kind: ClassVar[str] = "cleaned"
    tools: tuple[str, ...]
    how: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(many_of(data, "tools", bench.plan.process.tools), one_of(data, "how", CLEANING))

    def move(self, state: State, at_s: float) -> Move:
        if self.how == "clean":
            return kit_cleaned(state, self.tools, at_s), ()
        surfaces, _ = touch_all(state.surfaces, self.tools)
        finding = Finding(rule="wiped-not-cleaned", step="", path=self.tools, evidence={"how": self.how})
        return changed(state, surfaces=surfaces), (finding,)

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        clean = self.how == "clean"
        step = Step(id="clean", do="clean" if clean else "wipe", tools=self.tools)
        telling.add(step, Told(what="clean" if clean else "wipe", at_s=at_s))


@dataclass(frozen=True, slots=True)
class Rinsed(Entry):
    """Produce was rinsed under running water, though no step of the recipe says so."""

    kind: ClassVar[str] = "rinsed"
    foods: tuple[str, ...]

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        foods, known = bench.plan.process.foods, bench.plan.known
        said = many_of(data, "foods", {*foods, *(name for name, food in known.items() if food in foods)})
        return cls(tuple(dict.fromkeys(known.get(name, name) for name in said)))

    @property
    def _step(self) -> Step:
        return Step(id="rinse", do="rinse", foods=self.foods)

    def move(self, state: State, at_s: float) -> Move:
        process, step = state.plan.process, self._step
        surfaces, _ = do_step(state.surfaces, process, step)
        findings = tuple(rinsed_raw(process, step))
        state = changed(state, surfaces=surfaces, inside=after_alone(state.inside, process, step))
        return record(state, findings, at_s), findings

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        telling.add(self._step, Told(what="rinsed", at_s=at_s))


@dataclass(frozen=True, slots=True)
class Swapped(Entry):
    """Clean kit was taken instead."""

    kind: ClassVar[str] = "swapped"
    tools: tuple[str, ...]

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(many_of(data, "tools", bench.plan.process.tools))

    def move(self, state: State, at_s: float) -> Move:
        boards = {name: use for name, use in state.boards.items() if name not in self.tools}
        return changed(kit_cleaned(state, self.tools, at_s), boards=boards), ()

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        telling.add(Step(id="swap", do="clean", tools=self.tools), Told(what="swapped", at_s=at_s))
