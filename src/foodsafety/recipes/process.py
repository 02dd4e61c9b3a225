"""A process: a recipe as foods, tools, hands and steps with precedence."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache, cached_property, partial
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import FoodKind, allergen_tag, food_kind, plain_id, shelf_kinds, soil_brought_by, soil_tag
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes.told import accepted_rows, mapping, told_rows, unread_rows

VERBS = frozenset(
    {
        "rinse",
        "cut",
        "peel",
        "grate",
        "mix",
        "coat",
        "marinate",
        "transfer",
        "pour",
        "brush",
        "heat",
        "part_cook",
        "rest",
        "chill",
        "freeze",
        "garnish",
        "probe",
        "touch",
        "wash_hands",
        "gloves_on",
        "gloves_off",
        "clean",
        "wipe",
        "serve",
    }
)
WASHES = frozenset({"wash_hands", "clean"})
MAX_STEPS = 2000


@dataclass(frozen=True, slots=True, kw_only=True)
class Food:
    """A food of this process. ``kind`` is None when only its soils were given."""

    id: str
    soils: frozenset[str]
    allergens: frozenset[str] = frozenset()
    kind: FoodKind | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """Anything used that is not food and not a hand."""

    id: str
    kind: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One thing done. ``hands`` are the people doing it, ``makes`` the food that results,
    ``planned_s`` the time [s] the recipe gives it (0 when it says nothing), ``least_s`` the shortest it
    says, ``waiting_s`` the part for which nobody has to stand by. ``underdone``: the recipe's own cue
    says that heat stops short of cooking it through. ``through``: the foods of which somebody has said that
    this step, which has neither a time nor an end, cooks them through. ``oven_c``: the oven's temperature [C], where
    the recipe gives one."""

    id: str
    do: str
    foods: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    hands: tuple[str, ...] = ()
    makes: str | None = None
    after: tuple[str, ...] = ()
    planned_s: float = 0.0
    waiting_s: float = 0.0
    least_s: float = 0.0
    underdone: bool = False
    through: tuple[str, ...] = ()
    oven_c: float | None = None


@dataclass(frozen=True, kw_only=True)
class Process:
    """A whole recipe, checked: every id is known, foods exist before they are used, and the
    order of ``steps`` respects ``after``."""

    foods: Mapping[str, Food]
    tools: Mapping[str, Tool]
    people: tuple[str, ...]
    steps: tuple[Step, ...]
    serve: tuple[str, ...]
    # What somebody has said is thrown away: a marinade that is left, the shells.
    discarded: tuple[str, ...] = ()
    free_of: Mapping[str, frozenset[str]] = field(default_factory=dict)

    @cached_property
    def step_index(self) -> dict[str, int]:
        """Where each step stands in the order as written."""
        return {step.id: i for i, step in enumerate(self.steps)}

    @cached_property
    def made(self) -> dict[str, tuple[str, ...]]:
        """For each food that a step makes, the foods that go into it."""
        parts: dict[str, tuple[str, ...]] = {}
        for step in self.steps:
            if step.makes:
                parts[step.makes] = tuple(dict.fromkeys((*parts.get(step.makes, ()), *step.foods)))
        return parts

    @cached_property
    def food_ids(self) -> frozenset[str]:
        """Foods given and foods made."""
        return frozenset(self.foods) | frozenset(self.made)

    @cached_property
    def shelves_left(self) -> dict[str, tuple[tuple[str, str], ...]]:
        """For each step, the (food, shelf) pairs that have stood together until then: food put on
        a shelf touches it for as long as it stands there."""
        shelves = {name for name, tool in self.tools.items() if tool.kind in shelf_kinds()}
        if not shelves:
            return {}
        standing: dict[str, tuple[str, ...]] = {}
        left: dict[str, tuple[tuple[str, str], ...]] = {}
        for step in self.steps:
            rows = tuple((food, shelf) for food in step.foods for shelf in standing.pop(food, ()))
            if rows:
                left[step.id] = rows
            here = tuple(name for name in step.tools if name in shelves)
            if here:
                standing |= dict.fromkeys((*step.foods, step.makes) if step.makes else step.foods, here)
        return left

    def ingredients_of(self, food_id: str) -> frozenset[str]:
        """The foods that the given food is made from, down to those that nothing makes."""
        found: set[str] = set()
        waiting = [food_id]
        seen: set[str] = set()
        while waiting:
            current = waiting.pop()
            if current in seen:
                continue
            seen.add(current)
            if current in self.foods:
                found.add(current)
            waiting.extend(self.made.get(current, ()))
        return frozenset(found)


def _names(value: object, where: str) -> tuple[str, ...]:
    if value is None:
        return ()
    if isinstance(value, str):
        return (value,)
    if not isinstance(value, Sequence) or not all(isinstance(item, str) for item in value):
        raise CoreError(where, "not_a_list")
    return tuple(dict.fromkeys(value))


def _food(food_id: str, row: object) -> Food:
    where = f"foods.{food_id}"
    data = mapping(row, where)
    if "kind" not in data and "soils" not in data:
        raise CoreError(where, "food_unknown")
    kind = None
    if data.get("kind") is not None:
        if not isinstance(data["kind"], str):
            raise CoreError(f"{where}.kind", "kind_needed")
        kind = food_kind(data["kind"], f"{where}.kind")
    soils = kind.soils if kind else frozenset[str]()
    allergens = kind.allergens if kind else frozenset[str]()
    if data.get("soils") is not None:
        given = frozenset(soil_tag(name) for name in _names(data["soils"], f"{where}.soils"))
        soils = given
    # What a kitchen adds to a kind it knows better: this brand has nuts in it.
    allergens |= frozenset(allergen_tag(name) for name in _names(data.get("allergens"), f"{where}.allergens"))
    return Food(id=food_id, soils=soils, allergens=allergens, kind=kind)


def _tool(tool_id: str, row: object) -> Tool:
    if isinstance(row, str):
        return Tool(id=tool_id, kind=plain_id(row))
    kind = mapping(row, f"tools.{tool_id}").get("kind", tool_id)
    if not isinstance(kind, str):
        raise CoreError(f"tools.{tool_id}.kind", "tool_kind_needed")
    return Tool(id=tool_id, kind=plain_id(kind))


def _numbers_as_ids(value: object) -> object:
    """Step ids may be written as whole numbers; a list of them becomes a list of ids."""
    if isinstance(value, list):
        return [str(item) if type(item) is int else item for item in value]
    return value


def _step(i: int, row: object) -> Step:
    where = f"steps[{i}]"
    data = mapping(row, where)
    _check_step(data, where)
    planned_s = finite(data.get("minutes") or 0, f"{where}.minutes", low=0, high=10_000) * 60
    low_s = finite(data.get("low_min") or 0, f"{where}.low_min", low=0, high=10_000) * 60
    return Step(
        id=str(data["id"]),
        do=data["do"],
        foods=_names(data.get("foods"), f"{where}.foods"),
        tools=_names(data.get("tools"), f"{where}.tools"),
        hands=_names(data.get("hands"), f"{where}.hands"),
        makes=data.get("makes"),
        after=_names(_numbers_as_ids(data.get("after")), f"{where}.after"),
        planned_s=planned_s,
        underdone=data["do"] == "heat" and says_underdone(_cue(data, where)),
        through=_names(data.get("through"), f"{where}.through"),
        oven_c=_oven_c(data, where),
        least_s=min(planned_s, low_s or planned_s),
        waiting_s=min(planned_s, finite(data.get("waiting_min") or 0, f"{where}.waiting_min", low=0, high=1e4) * 60),
    )


def _oven_c(data: Mapping[str, Any], where: str) -> float | None:
    heat = data.get("heat")
    said = heat.get("oven_c") if isinstance(heat, Mapping) else data.get("oven_c")
    return None if said is None else finite(said, f"{where}.oven_c", low=0, high=1000)


@cache
def doneness() -> Mapping[str, Any]:
    """The data file of what a recipe goes by, and what is too cool to go by."""
    return tomllib.loads(data_text("doneness.toml"))


@cache
def _doneness() -> tuple[re.Pattern[str], re.Pattern[str]]:
    table = doneness()

    def either(words: Sequence[str]) -> str:
        return "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))

    word = rf"\b(?:{either(table['underdone'])})\b"
    before = rf"\b(?:{either(table['unless_after'])})\s+(?:\w+\s+){{0,2}}?$"
    return re.compile(word), re.compile(before)


def says_underdone(cue: str) -> bool:
    """True if a cue ("until the yolk is runny") says that food is not cooked through; "no longer
    pink" does not."""
    word, before = _doneness()
    text = cue.lower()
    return any(before.search(text[: found.start()]) is None for found in word.finditer(text))


def _cue(data: Mapping[str, Any], where: str) -> str:
    """What the recipe goes by: ``until``, or the ``cue`` of its ``end``."""
    end = data.get("end")
    said = data.get("until") or (end.get("cue") if isinstance(end, Mapping) else None) or ""
    if not isinstance(said, str):
        raise CoreError(f"{where}.until", "not_a_text", value=str(said)[:40])
    return said


def _check_step(data: Mapping[str, Any], where: str) -> None:
    if not isinstance(data.get("id"), (str, int)) or isinstance(data.get("id"), bool) or data["id"] == "":
        raise CoreError(f"{where}.id", "id_needed")
    if data.get("do") not in VERBS:
        raise CoreError(f"{where}.do", "not_one_of", value=data.get("do"), allowed=tuple(sorted(VERBS)))
    if data.get("makes") is not None and not isinstance(data["makes"], str):
        raise CoreError(f"{where}.makes", "one_food_needed")


def steps_in_order(steps: Sequence[Step]) -> tuple[Step, ...]:
    """The steps in the order written, moved only where ``after`` demands it.

    Raises CoreError naming a step on a cycle or an unknown predecessor.
    """
    _check_predecessors(steps)
    done: set[str] = set()
    ordered: list[Step] = []
    waiting = list(steps)
    while waiting:
        ready = next((step for step in waiting if done.issuperset(step.after)), None)
        if ready is None:
            stuck = tuple(step.id for step in waiting)
            raise CoreError(f"steps[{steps.index(waiting[0])}].after", "steps_in_a_ring", steps=stuck)
        waiting.remove(ready)
        done.add(ready.id)
        ordered.append(ready)
    return tuple(ordered)


def _check_predecessors(steps: Sequence[Step]) -> None:
    ids = {step.id for step in steps}
    for i, step in enumerate(steps):
        for name in step.after:
            if name not in ids:
                raise CoreError(f"steps[{i}].after", "no_such_step", step=name)


def _check_ids(process: Process) -> None:
    exists = set(process.foods)
    for i, step in enumerate(process.steps):
        _check_step_ids(process, step, f"steps[{i}] ({step.id})", exists)
        if step.makes:
            exists.add(step.makes)
    for i, name in enumerate(process.serve):
        if name not in process.food_ids:
            raise CoreError(f"serve[{i}]", "no_such_food", food=name)
    for name in process.free_of:
        if name not in process.food_ids:
            raise CoreError(f"free_of.{name}", "no_such_food", food=name)


def _check_step_ids(process: Process, step: Step, where: str, exists: Collection[str]) -> None:
    """Every name of a step means something, and every food of it exists by then."""
    for name in step.foods:
        if name not in process.food_ids:
            raise CoreError(f"{where}.foods", "no_such_food", food=name)
        if name not in exists:
            raise CoreError(f"{where}.foods", "used_before_made", food=name)
    for name in step.tools:
        if name not in process.tools:
            raise CoreError(f"{where}.tools", "no_such_tool", tool=name)
    for name in step.hands:
        if name not in process.people:
            raise CoreError(f"{where}.hands", "no_such_person", person=name)


def process_from(data: object) -> Process:
    """A checked process from plain data. Raises CoreError naming the first field that is wrong."""
    top = mapping(data, "input")
    for check in (unread_rows, partial(unread_rows, name="aside"), told_rows, accepted_rows):
        check(top)
    steps = [_step(i, row) for i, row in enumerate(_step_rows(top))]
    _check_unlike(steps)
    process = Process(
        foods={name: _food(name, row) for name, row in mapping(top.get("foods"), "foods").items()},
        tools={name: _tool(name, row) for name, row in mapping(top.get("tools"), "tools").items()},
        people=_names(top.get("people"), "people"),
        steps=steps_in_order(steps),
        serve=_names(top.get("serve"), "serve"),
        discarded=_names(top.get("discarded"), "discarded"),
        free_of={
            name: frozenset(allergen_tag(item) for item in _names(items, f"free_of.{name}"))
            for name, items in mapping(top.get("free_of"), "free_of").items()
        },
    )
    _check_one_meaning(process)
    _check_ids(process)
    return process


def _step_rows(top: Mapping[str, Any]) -> Sequence[object]:
    rows = top.get("steps")
    if rows is None or isinstance(rows, (str, bytes)) or not isinstance(rows, Sequence):
        raise CoreError("steps", "not_a_list")
    if not rows:
        raise CoreError("steps", "empty_process")
    if len(rows) > MAX_STEPS:
        raise CoreError("steps", "too_many_steps", count=len(rows), most=MAX_STEPS)
    return rows


def _check_unlike(steps: Sequence[Step]) -> None:
    seen: set[str] = set()
    for i, step in enumerate(steps):
        if step.id in seen:
            raise CoreError(f"steps[{i}].id", "id_used_twice", id=step.id)
        seen.add(step.id)


def _check_one_meaning(process: Process) -> None:
    """No name is a food and a tool, or a person and either."""
    for group, names in (("tools", process.tools), ("people", process.people)):
        clash = set(names) & (process.food_ids if group == "tools" else process.food_ids | set(process.tools))
        if clash:
            raise CoreError(f"{group}.{min(clash)}", "id_names_two", id=min(clash))


def served_without(
    process: Process, food_id: str, verbs: frozenset[str], *, itself: bool = False, after: str = ""
) -> bool:
    """True if some of a food reaches the plate without a step of ``verbs``, if given ``after`` another
    step: part of it may go another way than the rest. ``itself``: the step must work on the food
    before it is in anything."""
    bare = {food_id}
    for step in process.steps[process.step_index[after] + 1 if after else 0 :]:
        if step.do in verbs and not step.underdone:
            bare -= {food_id} & set(step.foods) if itself else set(step.foods)
            if not itself:
                continue
        if step.makes and bare & set(step.foods):
            bare.add(step.makes)
    return bool(bare & set(process.serve))


def washable(process: Process, carrier: str) -> bool:
    """True if a carrier can be washed clean: hands and tools, but not a phone or a bin."""
    tool = process.tools.get(carrier)
    return carrier in process.people or (tool is not None and soil_brought_by(tool.kind) is None)
