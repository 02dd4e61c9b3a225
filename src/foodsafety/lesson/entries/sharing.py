"""Entries that the program makes at a bench for what happened at another one: kit and a fridge that they share are one
thing, whoever used it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding
from foodsafety.foods import is_raw
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entries.kit import kit_cleaned
from foodsafety.lesson.entry import AtBench, Entry, a_temperature_c, brought, one_of, soil_ids, sources_of, words
from foodsafety.lesson.ovens import heat_findings, in_ovens
from foodsafety.lesson.state import Move, OvenUse, State
from foodsafety.quantities import finite


@dataclass(frozen=True, slots=True)
class SharedKit(Entry):
    """Shared kit was soiled at another ``bench``, with ``soils``, or cleaned there (no soils). ``source``: the entry
    there."""

    kind: ClassVar[str] = "shared_kit"
    made_here: ClassVar[bool] = True
    tool: str
    soils: tuple[str, ...]
    bench: str
    source: str
    sources: tuple[str, ...] = ()

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        tool, soils = one_of(data, "tool", bench.plan.process.tools), soil_ids(data)
        there, source = words(data, "bench", most=60), words(data, "source", most=64)
        return cls(tool, soils, there, source, sources_of(data, soils))

    def move(self, state: State, at_s: float) -> Move:
        if not self.soils:
            return kit_cleaned(state, (self.tool,), at_s), ()
        held = state.surfaces.get(self.tool, {})
        there = brought(self.soils, self.sources, (self.bench, self.tool))
        state = changed(state, surfaces={**state.surfaces, self.tool: {**there, **held}})
        raw = tuple(name for name in self.soils if is_raw(name))
        found = Finding(rule="shared-kit-soiled", step="", path=(self.bench, self.tool), soil=raw[0]) if raw else None
        return state, (found,) if found else ()


@dataclass(frozen=True, slots=True)
class SharedFridge(Entry):
    """The fridge that benches share was read at another one [C]."""

    kind: ClassVar[str] = "shared_fridge"
    made_here: ClassVar[bool] = True
    core_c: float
    bench: str
    source: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_temperature_c(data), words(data, "bench", most=60), words(data, "source", most=64))

    def move(self, state: State, at_s: float) -> Move:
        return changed(state, fridge=(*state.fridge, (at_s, self.core_c))), ()


@dataclass(frozen=True, slots=True)
class SharedOven(Entry):
    """At another ``bench`` a ``dish`` went into the oven that is shared, at ``oven_c`` [C] and for about ``minutes``
    (None: nobody wrote it), or came out. ``use`` is the same for both."""

    kind: ClassVar[str] = "shared_oven"
    made_here: ClassVar[bool] = True
    tool: str
    use: str
    how: str
    dish: str
    oven_c: float | None
    minutes: float | None
    bench: str
    source: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        tool, use = one_of(data, "tool", bench.plan.process.tools), words(data, "use", most=120)
        oven_c, minutes = _or_none(data, "oven_c", 1000), _or_none(data, "minutes", 10_000)
        there, source = words(data, "bench", most=60), words(data, "source", most=64)
        how, dish = one_of(data, "how", ("in", "out")), words(data, "dish", most=120)
        return cls(tool, use, how, dish, oven_c, minutes, there, source)

    def move(self, state: State, at_s: float) -> Move:
        others = {name: row for name, row in state.ovens.items() if name != self.use}
        if self.how == "out":
            return changed(state, ovens=others), ()
        until_s = None if self.minutes is None else at_s + 60 * self.minutes
        there = OvenUse(
            oven=self.tool, bench=self.bench, food=self.dish, oven_c=self.oven_c, since_s=at_s, until_s=until_s
        )
        state = changed(state, ovens={**others, self.use: there})
        own = [state.plan.step(name) for name, ovens in in_ovens(state).items() if self.tool in ovens]
        return state, tuple(row for step in own for row in heat_findings(state, step, (there,)))


def _or_none(data: Mapping[str, Any], key: str, most: float) -> float | None:
    return None if data.get(key) is None else finite(data[key], key, low=0, high=most)


@dataclass(frozen=True, slots=True)
class SharedVoided(Entry):
    """An entry that was made here for another bench does not count: the one there was taken back."""

    kind: ClassVar[str] = "shared_voided"
    made_here: ClassVar[bool] = True
    event: str
    bench: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(words(data, "event", most=64), words(data, "bench", most=60))

    def move(self, state: State, at_s: float) -> Move:
        return state, ()
