"""Entries about what becomes of food: put away, eaten, thrown away, made again."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self, cast

from foodsafety.contamination import foods_alone, opening_surfaces
from foodsafety.lesson.breaches import mend, mended_by, record, throw_away
from foodsafety.lesson.changed import changed
from foodsafety.lesson.contacts import eating
from foodsafety.lesson.entry import AtBench, Entry, a_food, a_learner, one_of, words
from foodsafety.lesson.food_state import Gone, Place
from foodsafety.lesson.naming import taken_names
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import Move, State
from foodsafety.lesson.telling import Telling
from foodsafety.quantities import CoreError, positive
from foodsafety.shelf import storage_category_ids


@dataclass(frozen=True, slots=True)
class Stored(Entry):
    """A food was put away; a second entry about food that is away changes nothing."""

    kind: ClassVar[str] = "stored"
    food: str
    place: Place

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), cast(Place, one_of(data, "place", ("fridge", "freezer"))))

    def move(self, state: State, at_s: float) -> Move:
        held = state.food(self.food)
        if held.settled:
            return state, ()
        return state.with_food(self.food, held.put_away(at_s, self.place)), ()


@dataclass(frozen=True, slots=True)
class Categorised(Entry):
    """A person says what a food is kept as."""

    kind: ClassVar[str] = "categorised"
    front_only: ClassVar[bool] = True
    food: str
    category: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), one_of(data, "category", storage_category_ids()))

    def move(self, state: State, at_s: float) -> Move:
        return state.with_food(self.food, changed(state.food(self.food), category=self.category)), ()


@dataclass(frozen=True, slots=True)
class Named(Entry):
    """What the bench calls a food from now on, and on what is already written: a better name moves nothing."""

    kind: ClassVar[str] = "named"
    food: str
    name: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        food, plan = a_food(data, bench), bench.plan
        name = " ".join(words(data, "name", most=60).split())
        if not name.isprintable():
            raise CoreError("name", "words_needed")
        others = taken_names(plan.process, food) | frozenset(bench.learners)
        if name in others or plan.known.get(name, food) != food:
            raise CoreError("name", "id_names_two", id=name)
        return cls(food, name)

    def move(self, state: State, at_s: float) -> Move:
        return state, ()


@dataclass(frozen=True, slots=True)
class GoneAway(Entry):
    """A food was eaten up or thrown away."""

    kind: ClassVar[str] = "gone"
    food: str
    how: Literal["eaten", "discarded"]

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        how = one_of(data, "how", ("eaten", "discarded"))
        return cls(a_food(data, bench), cast(Literal["eaten", "discarded"], how))

    def move(self, state: State, at_s: float) -> Move:
        held = state.food(self.food)
        if held.gone is not None:
            return state, ()
        gone = Gone(at_s=at_s, how=self.how)
        eaten = eating(state, self.food) if self.how == "eaten" else ()
        parts = {name: row if row.ended else row.end(at_s, self.how) for name, row in held.parts.items()}
        state = state.with_food(self.food, changed(held.under_control(at_s), gone=gone, kept=None, parts=parts))
        if self.how == "discarded":
            return mend(throw_away(state, self.food, at_s, "discarded"), self.food, at_s, "discarded"), ()
        return record(state, eaten, at_s), eaten

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        if self.how == "discarded":
            telling.discarded.add(self.food)


# More than a kitchen throws away at once [g, pieces].
_MOST_WASTE = 100_000


@dataclass(frozen=True, slots=True)
class WasteSaid(Entry):
    """How much of a food was thrown away the last time: weighed [g], counted, or not weighed by anybody."""

    kind: ClassVar[str] = "waste_said"
    food: str
    value: float | None
    unit: Literal["g", "pieces", "unweighed"]

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        food = a_food(data, bench)
        unit = cast(Literal["g", "pieces", "unweighed"], one_of(data, "unit", ("g", "pieces", "unweighed")))
        value = None if unit == "unweighed" else positive(data.get("value"), "value")
        if value is not None and value > _MOST_WASTE:
            raise CoreError("value", "too_large", most=_MOST_WASTE)
        return cls(food, value, unit)

    def move(self, state: State, at_s: float) -> Move:
        last = max((n for n, row in enumerate(state.wasted) if row.food == self.food), default=None)
        if last is None:
            return state, ()  # it was never thrown away: nothing to say how much of
        said = replace(state.wasted[last], value=self.value, unit=self.unit)
        return changed(state, wasted=(*state.wasted[:last], said, *state.wasted[last + 1 :])), ()


@dataclass(frozen=True, slots=True)
class BatchSaid(Entry):
    """Which batch a bought food is of, as its packet says: a recall finds it by that."""

    kind: ClassVar[str] = "batch_said"
    food: str
    batch: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), words(data, "batch", most=40))

    def move(self, state: State, at_s: float) -> Move:
        held = state.food(self.food)
        batches = (*(one for one in held.batches if one != self.batch), self.batch)
        return state.with_food(self.food, changed(held, batches=batches)), ()


@dataclass(frozen=True, slots=True)
class MendedBy(Entry):
    """Who put a breach of a food right."""

    kind: ClassVar[str] = "mended_by"
    food: str
    learner: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), a_learner(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        return mended_by(state, self.food, self.learner), ()


def made_only_for(plan: Plan, food: str) -> frozenset[str]:
    """A food, what it is made of, and no part of which anything else has some: what is thrown away
    with it."""
    chain = {food, *(name for name in plan.behind(food) if name in plan.process.made)}
    parts = {
        name
        for name in plan.behind(food)
        if all(step.makes in chain for step in plan.process.steps if step.makes and name in step.foods)
    }
    return frozenset({food} | parts)


@dataclass(frozen=True, slots=True)
class Remade(Entry):
    """Thrown away and made again: its steps are open again, its ingredients are fresh ones."""

    kind: ClassVar[str] = "remade"
    food: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench))

    def move(self, state: State, at_s: float) -> Move:
        parts = made_only_for(state.plan, self.food)
        state = throw_away(state, self.food, at_s, "remade")
        return mend(forget(state, parts), self.food, at_s, "remade"), ()

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        telling.throw_away(self.food, made_only_for(telling.plan, self.food))


def forget(state: State, foods: frozenset[str]) -> State:
    """Foods as if nothing had happened to them: everything known of them goes, and their steps are
    open again, serving among them."""
    process = state.plan.process
    fresh = opening_surfaces(process, people=(), unwashed=False)
    alone = foods_alone(process)
    surfaces = {name: row for name, row in state.surfaces.items() if name not in foods}
    inside = {name: row for name, row in state.inside.items() if name not in foods}
    steps = {
        step.id
        for step in process.steps
        if step.makes in foods
        or (step.foods and set(step.foods) <= foods)
        or (step.do == "serve" and not foods.isdisjoint(step.foods))
    }
    again = {
        row.id for row in state.plan.controls if not foods.isdisjoint(row.foods) or not steps.isdisjoint(row.steps)
    }
    return changed(
        state,
        dropped=state.dropped - again,
        surfaces={**surfaces, **{name: fresh[name] for name in foods if name in fresh}},
        inside={**inside, **{name: alone[name] for name in foods if name in alone}},
        foods={name: food for name, food in state.foods.items() if name not in foods},
        done={name: at for name, at in state.done.items() if name not in steps},
        done_by={name: by for name, by in state.done_by.items() if name not in steps},
        on_heat={name: at for name, at in state.on_heat.items() if name not in steps},
    )
