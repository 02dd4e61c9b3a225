"""A recipe over two lessons: after which steps it is safe to stop, and what each of the two lessons cooks then."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from foodsafety.contamination import after_alone, analyse, foods_alone
from foodsafety.foods import is_raw
from foodsafety.planning.figures import figures
from foodsafety.planning.step_order import befores, parts_of, raw_handed
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, Step, process_from
from foodsafety.shelf import dish_categories

HALF = "half"
TAKE_OUT = "kept-from-before"
WASH_LAST = "wash-before-leaving"


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A step after which all of it may stop until another day: ``kept`` is the one food that is kept then, where, and
    as what (storage categories; the strictest counts). ``first``: the steps of the first lesson. ``soils``: what of
    its own the kept food still has on it."""

    step: str
    kept: str
    place: Literal["fridge", "freezer"]
    categories: tuple[str, ...]
    first: frozenset[str]
    soils: frozenset[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class HalfTitles:
    """What the steps are called that only a half has: taking out what was kept, and the last wash of hands."""

    take_out: str
    wash: str


def safe_stops(process: Process) -> tuple[Stop, ...]:
    """The steps of a recipe after which it may stop until another day, in its order. Only what the recipe itself
    chills or freezes is kept, and nothing beside it that anybody has worked on. Never food that was heated while it
    is still raw: a cook that was begun is ended in the same lesson. Never food that was cooked and is to be heated
    again: that is reheating, which the recipe does not say."""
    before = befores(process)
    found = (_stop(process, step, before) for step in process.steps if step.do in figures()["halves"]["after"])
    return tuple(row for row in found if row is not None)


def _stop(process: Process, step: Step, before: Mapping[str, tuple[str, ...]]) -> Stop | None:
    kept = step.makes or (step.foods[0] if len(step.foods) == 1 else "")
    first = _with_cleaning(process, before, _all_before(before, step.id))
    if kept not in process.made or _crossing(process, first) != {kept}:
        return None
    soils = _own_soils(process, first, kept)
    if not _worth_two(process, first) or _is_begun_cook(process, first, kept, soils):
        return None
    inside = process.ingredients_of(kept)
    kinds = [process.foods[name].kind for name in sorted(inside)]
    heated = any(row.do == "heat" and parts_of(process, row) & inside for row in process.steps if row.id in first)
    # Of what is heated and still has something raw in it both are true, and the strictest counts.
    as_what = {True} if heated and not soils else {True, False} if heated else {False}
    return Stop(
        step=step.id,
        kept=kept,
        place="freezer" if step.do == "freeze" else "fridge",
        categories=tuple(sorted({name for cooked in as_what for name in dish_categories(kinds, cooked=cooked)})),
        first=first,
        soils=soils,
    )


def _all_before(before: Mapping[str, tuple[str, ...]], step: str) -> set[str]:
    """A step with all that must come before it."""
    found, waiting = set[str](), [step]
    while waiting:
        name = waiting.pop()
        if name not in found:
            found.add(name)
            waiting += before[name]
    return found


def _with_cleaning(process: Process, before: Mapping[str, tuple[str, ...]], first: set[str]) -> frozenset[str]:
    """With what is washed after it: nobody goes home with raw dough on their hands."""
    for step in process.steps:
        if step.do in figures()["halves"]["cleaning"] and first.issuperset(before[step.id]):
            first.add(step.id)
    return frozenset(first)


def _crossing(process: Process, first: Collection[str]) -> set[str]:
    """The foods that the first lesson has made or changed and that are still wanted."""
    done = [step for step in process.steps if step.id in first and step.do not in figures()["halves"]["cleaning"]]
    made = {step.makes for step in done if step.makes}
    changed = {name for step in done if not step.makes for name in step.foods}
    later = {name for step in process.steps if step.id not in first for name in step.foods} | set(process.serve)
    return (made | changed) & later


def _own_soils(process: Process, first: Collection[str], kept: str) -> frozenset[str]:
    """What a food has on it of its own after the first lesson."""
    surfaces = foods_alone(process)
    for step in process.steps:
        if step.id in first:
            surfaces = after_alone(surfaces, process, step)
    return frozenset(surfaces.get(kept, {}))


def _worth_two(process: Process, first: Collection[str]) -> bool:
    """True where both lessons have work."""
    work = [step for step in process.steps if step.do not in figures()["halves"]["cleaning"]]
    here = sum(step.id in first for step in work)
    return bool(min(here, len(work) - here) >= figures()["halves"]["least_steps"])


def _is_begun_cook(process: Process, first: Collection[str], kept: str, soils: Collection[str]) -> bool:
    """True where the kept food was heated and is raw, or was cooked and is heated again."""
    inside = process.ingredients_of(kept)
    heats = [step for step in process.steps if step.do in ("heat", "part_cook") and parts_of(process, step) & inside]
    again = any(step.id not in first for step in heats)
    for step in (row for row in heats if row.id in first):
        foods = [process.foods[name] for name in parts_of(process, step) & inside if name in process.foods]
        raw = {soil for food in foods for soil in food.soils if is_raw(soil) or soil == "unknown"}
        if step.do == "part_cook" or step.underdone or raw & set(soils):
            return True
        melted = all(food.kind and food.kind.group in figures()["halves"]["melts"] for food in foods)
        if again and not melted:
            return True
    return False


def halved(data: Mapping[str, Any], stop: Stop, titles: HalfTitles) -> tuple[dict[str, Any], dict[str, Any]]:
    """The process in plain data of each lesson. The first ends with what it keeps, and with clean hands; the second
    begins by taking that out and knows what is in it. Raises CoreError where the second would have a finding that the
    whole recipe has not."""
    process = process_from(data)
    rows = [dict(row) for row in data["steps"]]
    early = [_kept_on(row) if str(row["id"]) == stop.step else row for row in rows if str(row["id"]) in stop.first]
    if _raw_hands_at_end(process, stop.first):
        wash = {"id": WASH_LAST, "do": "wash_hands", "title": titles.wash, "hands": list(process.people), "minutes": 1}
        early.append({**wash, "after": [stop.step]})
    late = [row for row in rows if str(row["id"]) not in stop.first]
    inside = sorted(process.ingredients_of(stop.kept))
    step: dict[str, Any] = {
        "id": TAKE_OUT,
        "do": "transfer",
        "title": titles.take_out,
        "foods": inside,
        "makes": stop.kept,
    }
    step |= {"tools": [], "hands": [], "minutes": 1}
    also = {name for row in late for name in row.get("foods") or ()}
    foods = dict(data["foods"])
    for name in inside:
        if name not in also:
            left = sorted(process.foods[name].soils & stop.soils)
            foods[name] = {**foods[name], "kind": foods[name].get("kind", name), "soils": left}
    mark = {"stop": stop.step, "kept": stop.kept, "place": stop.place}
    first = {**_only(data, early, data["foods"]), HALF: {"n": 1, **mark}}
    second = {**_only(data, [step, *late], foods), HALF: {"n": 2, **mark, "had": inside}}
    _check(process, second)
    return first, second


def _raw_hands_at_end(process: Process, first: Collection[str]) -> bool:
    """True where nobody washes after the last raw work of the first lesson."""
    raw, soiled = raw_handed(process), False
    for step in process.steps:
        if step.id in first:
            soiled = step.id in raw or (soiled and step.do != "wash_hands")
    return soiled


def _kept_on(row: Mapping[str, Any]) -> dict[str, Any]:
    """The step after which it stops: what it does by itself goes on after the lesson."""
    active = max(1.0, float(row.get("minutes") or 0) - float(row.get("waiting_min") or 0))
    return {**row, "minutes": active, "low_min": None, "waiting_min": 0}


def _only(data: Mapping[str, Any], steps: list[dict[str, Any]], foods: Mapping[str, Any]) -> dict[str, Any]:
    """A process with these steps alone and what they use."""
    ids = {str(row["id"]) for row in steps}
    used = {name for row in steps for key in ("foods", "tools", "through") for name in row.get(key) or ()}
    there = {*used, *(row["makes"] for row in steps if row.get("makes"))}
    served = {name for row in steps if row["do"] == "serve" for name in row.get("foods") or ()}
    left = {
        **data,
        "foods": {name: row for name, row in foods.items() if name in used},
        "tools": {name: row for name, row in (data.get("tools") or {}).items() if name in used},
        "steps": [{**row, "after": [name for name in row.get("after") or () if str(name) in ids]} for row in steps],
        "free_of": {name: tags for name, tags in (data.get("free_of") or {}).items() if name in there},
        "discarded": [name for name in data.get("discarded") or () if name in there],
        "serve": [name for name in data.get("serve") or () if name in served],
    }
    process_from(left)
    return left


def _check(whole: Process, second: Mapping[str, Any]) -> None:
    known = {(row.rule, row.soil) for row in analyse(whole).findings}
    if any((row.rule, row.soil) not in known for row in analyse(process_from(second)).findings):
        raise CoreError("of", "no_safe_stop")


def half_of(data: Mapping[str, Any], mark: Mapping[str, Any], titles: HalfTitles) -> dict[str, Any]:
    """A recipe's process as a lesson cooks it that has a half of it (``mark``: the ``half`` of its process). Raises
    CoreError where the recipe can no longer be stopped there."""
    stop = next((row for row in safe_stops(process_from(data)) if row.step == mark.get("stop")), None)
    if stop is None:
        raise CoreError("of", "no_safe_stop")
    return halved(data, stop, titles)[0 if mark.get("n") == 1 else 1]
