"""Entries about people: who may handle food, hands washed, faces touched."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding, Trace, clear_carriers, opening_surfaces
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, a_learner, a_name, brought, many_of, one_of, soil_ids, sources_of
from foodsafety.lesson.state import READY_CHECKS, Move, PersonState, State, Wash
from foodsafety.lesson.telling import Telling, Told
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes import Step

# Why somebody is at the bench no more.
WHY_WENT = ("left", "moved")
TOUCHED = {"face": "person", "hair": "person", "phone": "person", "cough": "person", "bin": "waste"}


@dataclass(frozen=True, slots=True)
class Ready(Entry):
    """A learner went through the checks before handling food."""

    kind: ClassVar[str] = "ready"
    learner: str
    checks: tuple[str, ...]

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench), many_of(data, "checks", READY_CHECKS))

    def move(self, state: State, at_s: float) -> Move:
        person = state.person(self.learner)
        unwell = person.unwell and "well" not in self.checks
        ready = person.ready | frozenset(self.checks)
        return state.with_person(self.learner, ready=ready, unwell=unwell), ()


@dataclass(frozen=True, slots=True)
class Unwell(Entry):
    """A learner does not handle food today."""

    kind: ClassVar[str] = "unwell"
    learner: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        return state.with_person(self.learner, unwell=True), ()


@dataclass(frozen=True, slots=True)
class Came(Entry):
    """Somebody joins the bench while the lesson runs, or comes back to it: their hands are unwashed, with the ``soils``
    that they had at another bench on them, and nothing is known of whether they may handle food."""

    kind: ClassVar[str] = "came"
    front_only: ClassVar[bool] = True
    learner: str
    soils: tuple[str, ...]
    sources: tuple[str, ...] = ()

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        name, process = a_name(data), bench.plan.process
        if name in process.tools or name in process.food_ids:
            raise CoreError("learner", "id_names_two", id=name)
        soils = soil_ids(data)
        return cls(name, soils, sources_of(data, soils))

    def move(self, state: State, at_s: float) -> Move:
        names = state.learners if self.learner in state.learners else (*state.learners, self.learner)
        fresh = opening_surfaces(state.plan.process, people=(self.learner,), unwashed=True)
        there = brought(self.soils, self.sources, (self.learner,))
        surfaces = {**state.surfaces, self.learner: {**fresh.get(self.learner, {}), **there}}
        people = {**state.people, self.learner: PersonState()}
        return changed(state, learners=names, surfaces=surfaces, people=people), ()


@dataclass(frozen=True, slots=True)
class Went(Entry):
    """Somebody leaves the bench: for home, or for another bench. What they did stays what it was."""

    kind: ClassVar[str] = "went"
    front_only: ClassVar[bool] = True
    learner: str
    why: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench), one_of(data, "why", WHY_WENT))

    def move(self, state: State, at_s: float) -> Move:
        return state.with_person(self.learner, away=True, washing_s=None), ()


@dataclass(frozen=True, slots=True)
class WashStarted(Entry):
    """A hand-wash has begun."""

    kind: ClassVar[str] = "wash_started"
    learner: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        return state.with_person(self.learner, washing_s=at_s), ()


@dataclass(frozen=True, slots=True)
class HandsWashed(Entry):
    """A hand-wash of so many seconds of scrubbing; one that was too short ends nothing."""

    kind: ClassVar[str] = "hands_washed"
    learner: str
    scrub_s: float

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench), finite(data.get("scrub_s"), "scrub_s", low=0, high=600))

    def move(self, state: State, at_s: float) -> Move:
        who = self.learner
        if self.scrub_s < state.plan.scrub_s:
            evidence = {"learner": who, "scrub_s": self.scrub_s, "limit_s": state.plan.scrub_s}
            finding = Finding(rule="wash-too-short", step="", path=(who,), evidence=evidence)
            return state.with_person(who, washing_s=None, off={}), (finding,)
        wash = Wash(at_s=at_s, scrub_s=self.scrub_s)
        first = state.person(who).first_wash or wash
        off = state.surfaces.get(who, {})
        state = state.with_person(who, washing_s=None, washed=wash, first_wash=first, off=off)
        # Hands under the tap wear no gloves any more.
        gloved = state.gloved - {who}
        return changed(state, surfaces=clear_carriers(state.surfaces, [who]), gloved=gloved), ()

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        enough = after.person(self.learner).washed != before.person(self.learner).washed
        step = Step(id="wash", do="wash_hands" if enough else "touch", hands=(self.learner,))
        telling.add(step, Told(what="wash" if enough else "short-wash", at_s=at_s, who=self.learner))


@dataclass(frozen=True, slots=True)
class Touched(Entry):
    """Hands touched a face, hair, a phone, a bin; or somebody coughed into them."""

    kind: ClassVar[str] = "touched"
    learner: str
    what: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_learner(data, bench), one_of(data, "what", TOUCHED))

    def move(self, state: State, at_s: float) -> Move:
        name = TOUCHED[self.what]
        held = state.surfaces.get(self.learner, {})
        soiled = {**held, name: held.get(name) or Trace((self.what, self.learner))}
        return changed(state, surfaces={**state.surfaces, self.learner: soiled}), ()

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        # A cough or a face: a thing of its own that brings what people carry.
        telling.thing(self.what, "bin" if TOUCHED[self.what] == "waste" else "face")
        step = Step(id="touch", do="touch", tools=(self.what,), hands=(self.learner,))
        telling.add(step, Told(what="touched", at_s=at_s, who=self.learner))
