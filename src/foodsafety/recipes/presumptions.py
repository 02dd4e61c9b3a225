"""What is taken for granted of a step since nobody said it (in what, on what, by hand, that it cooks through), and
what a person answers to it."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any, Literal

from foodsafety.foods import is_raw
from foodsafety.quantities import CoreError
from foodsafety.recipes.part_cooking import is_hot_through, meat_looks_done
from foodsafety.recipes.process import Food, Process, Step, doneness, process_from
from foodsafety.recipes.vessels import tools_in
from foodsafety.recipes.words import FATS, first_free

# Guesses that are shown at a step and asked about only where a finding rests on them: its kit, the vessel in use,
# and hands.
PRESUMED = frozenset({"tools", "vessel", "hands"})
_KIT_GUESSES = PRESUMED - {"hands"}
Way = Literal["said", "another"]
# "said": it is as it was read; "another": something clean, not what the reader took.
WAYS: tuple[Way, ...] = ("said", "another")


def doubts_of(step: Mapping[str, Any]) -> list[str]:
    """What was guessed of a step in plain data and may be wrong."""
    return [name for name in step.get("guesses", ()) if name not in PRESUMED]


def is_presumed(process: Process, step: Mapping[str, Any], carrier: str) -> bool:
    """True if nobody said that a tool or a person of a step does its work."""
    guesses = set(step.get("guesses", ()))
    if carrier in process.people:
        return "hands" in guesses and carrier in step.get("hands", ())
    if carrier not in process.tools or carrier not in step.get("tools", ()) or guesses.isdisjoint(_KIT_GUESSES):
        return False
    if carrier in step.get("settled", ()):
        return False
    kind = process.tools[carrier].kind
    return all(tool.kind != kind for tool in tools_in(str(step.get("detail") or "")))


def say_way(
    data: Mapping[str, Any], step_id: str, carrier: str, how: str, named: Callable[[str], Sequence[str]]
) -> dict[str, Any]:
    """The process in plain data with what was presumed of a step answered: it is as it was read ("said"), or
    "another": the tool is another of its kind, here and as long as the food stays in it, and hands are a clean
    pair of tongs or a spoon. ``named`` gives names for clean kit of a sort, the first that is free is taken.
    Raises CoreError for another answer, and where nothing of that was presumed."""
    if how not in WAYS:
        raise CoreError("how", "not_one_of", value=how, allowed=WAYS)
    process = process_from(data)
    steps = [dict(step) for step in data["steps"]]
    at = next((i for i, step in enumerate(steps) if str(step["id"]) == step_id), None)
    if at is None or not is_presumed(process, steps[at], carrier):
        raise CoreError("step", "nothing_presumed", step=step_id)
    hands = carrier in process.people
    tools = dict(data.get("tools", {}))
    if how == "another":
        stirred = steps[at]["do"] in ("mix", "coat", "garnish", "pour")
        kind = ("spoon" if stirred else "tongs") if hands else process.tools[carrier].kind
        plain = kind.replace("_", " ") if hands else carrier
        names = named(plain)
        new = first_free(names, names[0], {*tools, *process.food_ids, *process.people})
        tools[new] = {"kind": kind}
        if hands:
            steps[at]["hands"] = [name for name in steps[at]["hands"] if name != carrier]
            steps[at]["tools"] = [*steps[at].get("tools", ()), new]
        else:
            _move_into(process, steps, at, carrier, new)
            carrier = new
    changed = {**data, "tools": tools, "steps": steps}
    process = process_from(changed)
    # What was said of the spoon says nothing of the bowl.
    others = [] if hands else [name for name in steps[at]["tools"] if name != carrier]
    if any(is_presumed(process, steps[at], name) for name in others):
        steps[at]["settled"] = [*steps[at].get("settled", ()), carrier]
    else:
        said = {"hands"} if hands else _KIT_GUESSES
        steps[at]["guesses"] = [name for name in steps[at]["guesses"] if name not in said]
    return changed


def weak_heats(data: Mapping[str, Any], process: Process) -> dict[str, list[str]]:
    """The steps that are all that cooks a raw food of animals, and have neither a time nor a temperature nor an
    end ("turn it over"), or are too cool to be sure of, or that cook dry beans which nobody has boiled: for each, the
    last of its kind, the foods that hang on it.
    None of those that somebody has said to cook through (its ``through``: the foods that was said of). ``process``
    is ``data`` checked."""
    last: dict[str, str] = {}
    sound = set[str]()
    ends = {str(step["id"]): step.get("end") for step in data["steps"]}
    nobody_says = {str(step["id"]) for step in data["steps"] if {"stands", "told"} & {*(step.get("guesses") or ())}}
    texts = {str(step["id"]): f"{step.get('title', '')} {step.get('detail', '')}" for step in data["steps"]}
    thawed = set[str]()
    for step in process.steps:
        parts = {part for name in step.foods for part in process.ingredients_of(name)}
        thawed |= parts if _THAWS.search(texts[step.id]) else set()
        if step.do != "heat":
            continue
        known = [name for name in parts if name in process.foods]
        raw = {name for name in known if _is_raw_animal(process.foods[name])}
        flesh = [process.foods[name] for name in raw]
        ended = (step.planned_s or ends[step.id]) and not _is_too_cool(step, _read_after(process, step, ends), flesh)
        ended = ended and step.id not in nobody_says and not _is_too_short(process, step, ends[step.id], raw)
        frozen = raw - thawed
        ended = ended and not (frozen and _is_short_from_frozen(step, frozen, texts[step.id], ends[step.id]))
        looks = (
            set() if step.planned_s else {name for name in raw if _only_looks_so(process.foods[name], ends[step.id])}
        )
        beans = {name for name in known if boils_first_min(process, name)}
        boiled = {name for name in beans if _boils(process, step, 60 * boils_first_min(process, name))}
        sound |= (raw - looks if ended else set()) | boiled | ((raw | beans) & set(step.through))
        last |= dict.fromkeys(sorted(raw | beans), step.id)
    found: dict[str, list[str]] = {}
    for name, step_id in last.items():
        if name not in sound:
            found.setdefault(step_id, []).append(name)
    return found


def _read_after(process: Process, heat: Step, ends: Mapping[str, object]) -> object:
    """The end of a heat, or where it has none the reading that is wanted right after it: "probe it: 60 C is fine"."""
    end = ends[heat.id]
    if isinstance(end, Mapping) and end.get("core_c") is not None:
        return end
    cooked = {*heat.foods, heat.makes}
    for later in process.steps[process.step_index[heat.id] + 1 :]:
        if cooked.isdisjoint(later.foods):
            continue
        if later.do == "heat":
            break
        if later.do == "probe" and isinstance(ends[later.id], Mapping):
            return ends[later.id]
    return end


def _is_too_cool(step: Step, end: object, foods: Sequence[Food]) -> bool:
    """True for an oven or an end so cool that only its time could make it enough: "60 C for two hours", and 65 C for
    poultry or mince, which need more than a whole piece of meat does."""
    least = doneness()
    core_c = end.get("core_c") if isinstance(end, Mapping) else None
    cool = step.oven_c is not None and step.oven_c < least["coolest_oven_c"]
    groups = {food.kind.group for food in foods if food.kind}
    lowest_c = max([least["lowest_core_c"], *(c for group, c in least["lowest_core_c_of"].items() if group in groups)])
    return cool or (isinstance(core_c, (int, float)) and core_c < lowest_c)


def _is_too_short(process: Process, step: Step, end: object, raw: Collection[str]) -> bool:
    """True for minutes in an oven, and no reading after them, in which nothing raw is known to be cooked through; and
    of mince and poultry anywhere, with the minutes that cooked them in part before."""
    least = doneness()
    kinds = {process.tools[tool].kind for tool in step.tools if tool in process.tools}
    read = isinstance(end, Mapping) and end.get("core_c") is not None
    if read or not step.planned_s:
        return False
    in_oven = "oven" in kinds and step.planned_s < 60 * least["shortest_oven_min"]
    return in_oven or _is_hardly_heated(process, step, raw) or _is_soft_egg(process, step, kinds, end)


def _is_hardly_heated(process: Process, step: Step, raw: Collection[str]) -> bool:
    least = doneness()
    needy = {name for name in raw if (kind := process.foods[name].kind) and kind.group in least["lowest_core_c_of"]}
    upto = process.steps[: process.step_index[step.id] + 1]
    heats = [row for row in upto if row.do in ("heat", "part_cook")]
    return any(
        sum(row.planned_s for row in heats if any(name in process.ingredients_of(food) for food in row.foods))
        < 60 * least["shortest_minced_min"]
        for name in needy
    )


_THAWS = re.compile(r"\b(?:thaw|defrost)", re.IGNORECASE)


def _is_short_from_frozen(step: Step, raw: Collection[str], text: str, end: object) -> bool:
    """True for raw food that is said to go on the heat frozen, by the step or by its own name, for so few minutes that
    its middle may still be, with no reading to tell."""
    frozen = re.search(r"\bfrozen\b", " ".join((text, *raw)), re.IGNORECASE) is not None
    told = isinstance(end, Mapping) and (end.get("core_c") is not None or meat_looks_done(str(end.get("cue") or "")))
    return frozen and not told and 0 < step.planned_s < 60 * doneness()["shortest_frozen_min"]


def _is_soft_egg(process: Process, step: Step, kinds: Collection[str], end: object) -> bool:
    """True for whole eggs boiled, poached or fried for so few minutes that the yolk may run, where no word says that it
    is firm. Beaten eggs, which set in less, are not meant."""
    eggs = [name for name in step.foods if name in process.foods and "raw_egg" in process.foods[name].soils]
    before = process.steps[: process.step_index[step.id]]
    beaten = any(row.do == "mix" and not set(eggs).isdisjoint(row.foods) for row in before)
    kinds_of_food = [process.foods[name].kind if name in process.foods else None for name in step.foods]
    beside = [kind for kind in kinds_of_food if kind is None or kind.group not in FATS]
    if not eggs or beaten or len(eggs) < len(beside):
        return False
    cue = str(end.get("cue") or "") if isinstance(end, Mapping) else ""
    firm = any(re.search(rf"\b{word}\b", cue.lower()) for word in doneness()["firm_egg"])
    least_min = max((float(doneness()["shortest_egg_min"].get(kind, 0)) for kind in kinds), default=0.0)
    return not firm and step.planned_s < 60 * least_min


def boils_first_min(process: Process, name: str) -> float:
    """How long [min] a dry bean of a process has to boil before anything slower; 0 for any other food."""
    food = process.foods.get(name)
    return float(doneness()["boils_first_min"].get(food.kind.id, 0)) if food and food.kind else 0.0


def _boils(process: Process, step: Step, least_s: float) -> bool:
    kinds = {process.tools[tool].kind for tool in step.tools if tool in process.tools}
    return step.planned_s >= least_s and not kinds.isdisjoint(doneness()["boils_in"])


def _only_looks_so(food: Food, end: object) -> bool:
    """True for meat or fish whose cook ends by a look that says nothing of its inside: "until brown"."""
    cue = end.get("cue") if isinstance(end, Mapping) and end.get("core_c") is None else None
    flesh = food.soils - {"raw_flour", "raw_egg"}
    return isinstance(cue, str) and any(map(is_raw, flesh)) and not (meat_looks_done(cue) or is_hot_through(cue))


def _is_raw_animal(food: Food) -> bool:
    return any(is_raw(name) for name in food.soils - {"raw_flour"})


def say_cooked(data: Mapping[str, Any], step_id: str, *, through: bool) -> dict[str, Any]:
    """The process with it said of a heat that has no time and no end whether it cooks its food through; if not,
    it is a part-cook. Raises CoreError where nobody asks."""
    asked = weak_heats(data, process_from(data)).get(step_id)
    if not asked:
        raise CoreError("step", "nothing_presumed", step=step_id)

    def said(step: Mapping[str, Any]) -> dict[str, Any]:
        # Of these foods and those it was said of before: what is put in later is asked about anew.
        before = [name for name in step.get("through", ()) if name not in asked]
        return {**step, "through": [*before, *asked]} if through else {**step, "do": "part_cook"}

    steps = [said(step) if str(step["id"]) == step_id else step for step in data["steps"]]
    changed = {**data, "steps": steps}
    process_from(changed)
    return changed


def _move_into(process: Process, steps: list[dict[str, Any]], at: int, old: str, new: str) -> None:
    """Puts one tool in place of another at a step, and after it wherever the same food is said to be in it
    by nobody but the reader."""
    there = {*steps[at].get("foods", ()), steps[at].get("makes")}
    for n, step in enumerate(steps[at:]):
        if n and (there.isdisjoint(step.get("foods", ())) or not is_presumed(process, step, old)):
            continue
        step["tools"] = [new if name == old else name for name in step.get("tools", ())]
        there.add(step.get("makes"))
