"""Editing a process step by step: each edit gives a new process, checked, or says why not.

Processes are plain data in the command line's own form, with titles, details and times on the
steps. Nothing here changes what it is given.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from foodsafety.quantities import CoreError, finite
from foodsafety.recipes.instructions import orders, sentences
from foodsafety.recipes.process import VERBS, process_from
from foodsafety.recipes.told import told_rows, unread_rows

ProcessData = Mapping[str, Any]
STEP_FIELDS = ("do", "title", "detail", "foods", "tools", "hands", "makes", "after")
HIGHEST_OVEN_C = 320.0


def _at(process: ProcessData, step_id: str) -> int:
    for i, step in enumerate(process["steps"]):
        if str(step["id"]) == step_id:
            return i
    raise CoreError("step", "no_such_step", step=step_id)


def _checked(process: ProcessData) -> dict[str, Any]:
    process_from(process)
    return dict(process)


def _serving_as_said(before: ProcessData, after: ProcessData) -> ProcessData:
    """What is eaten follows the serving steps wherever an edit changed them."""
    served = [_served_in(process) for process in (before, after)]
    return after if served[0] == served[1] else {**after, "serve": served[1]}


def _served_in(process: ProcessData) -> list[str]:
    return _once(name for step in process["steps"] if step.get("do") == "serve" for name in step.get("foods", []))


def _new_id(steps: Sequence[ProcessData]) -> str:
    taken = {str(step["id"]) for step in steps}
    n = len(steps) + 1
    while f"s{n}" in taken:
        n += 1
    return f"s{n}"


def with_needed_order(steps: Sequence[ProcessData]) -> list[dict[str, Any]]:
    """The steps with what they wait for set anew where the order given contradicts it: a person
    who moves a step means it. What a step needs made is checked apart."""
    seen: set[str] = set()
    result = []
    for step in steps:
        row = dict(step)
        if row.get("after"):
            row["after"] = [name for name in row["after"] if name in seen]
        seen.add(str(step["id"]))
        result.append(row)
    return result


def move_step(process: ProcessData, step_id: str, by: int) -> dict[str, Any]:
    """The step moved up (negative) or down. Raises CoreError if it would use what is not yet made."""
    at = _at(process, step_id)
    steps = list(process["steps"])
    to = max(0, min(len(steps) - 1, at + by))
    steps.insert(to, steps.pop(at))
    return _checked({**process, "steps": with_needed_order(steps)})


def reorder_steps(process: ProcessData, ids: Sequence[str]) -> dict[str, Any]:
    """The steps in the order of ``ids``, which must name each of them once."""
    by_id = {str(step["id"]): step for step in process["steps"]}
    if sorted(ids) != sorted(by_id):
        raise CoreError("order", "order_incomplete")
    return _checked({**process, "steps": with_needed_order([by_id[name] for name in ids])})


def split_step(process: ProcessData, step_id: str) -> dict[str, Any]:
    """One step as two, parted where its words give a second order; with one order, the second
    step is a copy for a person to change."""
    at = _at(process, step_id)
    steps = [dict(step) for step in process["steps"]]
    first = steps[at]
    second: dict[str, Any] = {**first, "id": _new_id(steps), "after": [step_id]}
    _part_words(first, second)
    for key in ("minutes", "waiting_min"):
        if first.get(key):
            first[key] = second[key] = float(first[key]) / 2
    if first.get("makes"):
        _part_makes(first, second)
    steps.insert(at + 1, second)
    for later in steps[at + 2 :]:
        later["after"] = [second["id"] if name == step_id else name for name in later.get("after", [])]
    return _checked({**process, "steps": steps})


def _part_words(first: dict[str, Any], second: dict[str, Any]) -> None:
    """The words from the second order on go to the second step."""
    detail = str(first.get("detail", ""))
    found = [order for sentence in sentences(detail) for order in orders(sentence) if order.do != "none"]
    if len(found) < 2:
        second["title"] = first.get("title", "")
        return
    cut = detail.find(found[1].text[:12])
    head, tail = detail[:cut], detail[cut:]
    first["detail"] = re.sub(r"[\s,]*\b(?:and|then)?\s*$", "", head).strip() + "."
    second |= {"detail": tail[:1].upper() + tail[1:], "do": found[1].do}
    second["title"] = re.split(r"[,.;:(]", second["detail"])[0][:48]


def _part_makes(first: dict[str, Any], second: dict[str, Any]) -> None:
    """What is made is made by the second step, unless that only heats, cools or serves what is made."""
    second["makes"] = made = first.pop("makes")
    if second["do"] in ("heat", "chill", "rest", "freeze", "serve", "probe"):
        first["makes"] = second.pop("makes")
        second["foods"] = [made]


def merge_steps(process: ProcessData, step_id: str) -> dict[str, Any]:
    """The step and the one after it as one. Raises CoreError at the last step, or where what the
    first makes is still needed by itself."""
    at = _at(process, step_id)
    steps = [dict(step) for step in process["steps"]]
    if at + 1 >= len(steps):
        raise CoreError("step", "no_step_after")
    first, second = steps[at], steps[at + 1]
    made = first.get("makes")
    used_later = any(made in step.get("foods", []) for step in steps[at + 2 :]) or made in process.get("serve", [])
    if made and second.get("makes") and second["makes"] != made and used_later:
        raise CoreError("step", "still_needed", food=made)
    steps[at : at + 2] = [_joined(first, second)]
    for later in steps[at + 1 :]:
        later["after"] = _once(step_id if name == str(second["id"]) else name for name in later.get("after", []))
    return _checked({**process, "steps": steps})


def _once(names: Iterable[str]) -> list[str]:
    return list(dict.fromkeys(names))


def _joined(first: ProcessData, second: ProcessData) -> dict[str, Any]:
    """Two steps in one row: the foods, tools, hands and times of both, the first's words and then the second's."""
    made = first.get("makes")
    foods = [*first.get("foods", []), *(name for name in second.get("foods", []) if name != made)]
    joined = {**second, **first, "do": first["do"] if second["do"] in ("transfer", "pour") else second["do"]}
    joined["foods"] = _once(foods)
    for key in ("tools", "hands", "guesses", "through", "settled"):
        joined[key] = _once([*first.get(key, []), *second.get(key, [])])
    after = _once([*first.get("after", []), *second.get("after", [])])
    joined["after"] = [name for name in after if name != str(first["id"])]
    joined["detail"] = f"{first.get('detail', '')} {second.get('detail', '')}".strip()
    for key in ("minutes", "waiting_min"):
        joined[key] = float(first.get(key) or 0) + float(second.get(key) or 0)
    if second.get("makes") or made:
        joined["makes"] = second.get("makes") or made
    return joined


def remove_step(process: ProcessData, step_id: str) -> dict[str, Any]:
    """The process without a step. Raises CoreError if a later step uses what it makes."""
    at = _at(process, step_id)
    steps = [dict(step) for i, step in enumerate(process["steps"]) if i != at]
    gone = process["steps"][at]
    for step in steps:
        if step_id in step.get("after", []):
            others = [name for name in step["after"] if name != step_id]
            step["after"] = list(dict.fromkeys([*others, *gone.get("after", [])]))
    return _checked(_serving_as_said(process, {**process, "steps": steps}))


def add_step_after(process: ProcessData, step_id: str | None, step: ProcessData) -> dict[str, Any]:
    """The process with a new step after one, or first. The step's id is made here."""
    at = _at(process, step_id) + 1 if step_id is not None else 0
    steps = list(process["steps"])
    steps.insert(at, {**step, "id": _new_id(steps)})
    return _checked(_serving_as_said(process, {**process, "steps": steps}))


def guessed_with(process: ProcessData, step_id: str) -> frozenset[str]:
    """The step, and every step that was guessed from its sentence: they are looked at, and answered for, at once.
    Raises CoreError for no such step."""
    told = process["steps"][_at(process, step_id)]
    guessed = [row for row in process["steps"] if "guess" in (row.get("guesses") or ())]
    same = [
        row["id"] for row in guessed if told.get("sentence") is not None and row.get("sentence") == told["sentence"]
    ]
    return frozenset({step_id, *(same if told in guessed else ())})


def trust_step(process: ProcessData, step_id: str) -> dict[str, Any]:
    """The process with what was guessed of a step said to be right. Raises CoreError for no such step."""
    same = guessed_with(process, step_id)
    steps = [{**step, "guesses": []} if step["id"] in same else step for step in process["steps"]]
    return _checked({**process, "steps": steps})


def rinse_first(process: ProcessData, food: str, title: str) -> dict[str, Any]:
    """The process with a food rinsed, by its first person, before anything else is done with it. Raises
    CoreError for a food that no step uses."""
    first = next((i for i, step in enumerate(process["steps"]) if food in step.get("foods", [])), None)
    if first is None or food not in process["foods"]:
        raise CoreError("food", "no_such_food", food=food)
    steps = [dict(step) for step in process["steps"]]
    step = {"id": _new_id(steps), "do": "rinse", "foods": [food], "tools": [], "title": title}
    step["hands"] = list(process.get("people") or ())[:1]
    steps.insert(first, {**step, "detail": f"{title}.", "minutes": 1})
    return _checked({**process, "steps": steps})


def _number(value: object, field: str, high: float) -> float | None:
    if value in (None, ""):
        return None
    return finite(value, field, low=0, high=high)


def change_step(process: ProcessData, step_id: str, fields: ProcessData) -> dict[str, Any]:
    """The process with fields of a step set. New foods are refused, new tools are added. Raises
    CoreError naming the field that is wrong."""
    at = _at(process, step_id)
    was, made = process["steps"][at].get("makes"), fields.get("makes")
    if was and made and made != was:
        process = rename_food(process, str(was), str(made))
    steps = [dict(step) for step in process["steps"]]
    step = steps[at]
    step.update({key: fields[key] for key in STEP_FIELDS if key in fields})
    if not step.get("makes"):
        step.pop("makes", None)
    if step.get("do") not in VERBS:
        raise CoreError("do", "not_one_of", value=step.get("do"), allowed=tuple(sorted(VERBS)))
    _set_times(step, fields)
    _set_heat(step, fields)
    step["guesses"] = []
    new = {name: {"kind": name} for name in step.get("tools", []) if name not in process["tools"]}
    changed = {**process, "steps": steps, "tools": {**process.get("tools", {}), **new}}
    return _checked(_serving_as_said(process, changed))


def _set_times(step: dict[str, Any], fields: ProcessData) -> None:
    for key in ("minutes", "waiting_min"):
        if key in fields:
            step[key] = _number(fields[key], key, 10_000) or 0.0
    if float(step.get("waiting_min") or 0) > float(step.get("minutes") or 0):
        raise CoreError("waiting_min", "waits_longer_than_it_takes")


def _set_heat(step: dict[str, Any], fields: ProcessData) -> None:
    heat, end = dict(step.get("heat", {})), dict(step.get("end", {}))
    for key, place, high in (("oven_c", heat, HIGHEST_OVEN_C), ("core_c", end, 110.0)):
        if key in fields:
            value = _number(fields[key], key, high)
            place.pop(key, None)
            if value is not None:
                place[key] = value
    for key, place in (("level", heat), ("cue", end)):
        if key in fields:
            place.pop(key, None)
            if fields[key]:
                place[key] = str(fields[key])[:120]
    for name, place in (("heat", heat), ("end", end)):
        if place:
            step[name] = place
        else:
            step.pop(name, None)


def rename_food(process: ProcessData, old: str, new: str) -> dict[str, Any]:
    """The process with a food called something else wherever it is named. Raises CoreError for a
    food that is not there, and for a name that something else has."""
    given, steps = process["foods"], process["steps"]
    taken = {*given, *process.get("tools", {}), *process.get("people", []), *(step.get("makes") for step in steps)}
    if old not in taken:
        raise CoreError("food", "no_such_food", food=old)
    if new in taken - {old}:
        raise CoreError("makes", "id_names_two", id=new)

    def renamed(names: Iterable[str]) -> list[str]:
        return [new if name == old else name for name in names]

    rows = [{**step, "foods": renamed(step.get("foods", []))} for step in steps]
    rows = [{**row, "makes": new} if row.get("makes") == old else row for row in rows]
    rows = [{**row, "through": renamed(row["through"])} if row.get("through") else row for row in rows]
    free_of = {(new if name == old else name): tags for name, tags in process.get("free_of", {}).items()}
    foods = {(new if name == old else name): food for name, food in given.items()}
    return _checked(
        {
            **process,
            "discarded": renamed(process.get("discarded", [])),
            "foods": foods,
            "steps": rows,
            "serve": renamed(process.get("serve", [])),
            "free_of": free_of,
        }
    )


def set_food(
    process: ProcessData, food_id: str, kind: str | None, soils: Sequence[str], allergens: Sequence[str]
) -> dict[str, Any]:
    """The process with a food's kind said: a known kind, or soils for one nobody lists."""
    if food_id not in process["foods"]:
        raise CoreError("food", "no_such_food", food=food_id)
    row = {key: value for key, value in process["foods"][food_id].items() if key == "line"}
    row |= {"kind": kind} if kind else {"soils": list(soils)}
    if allergens:
        row["allergens"] = list(allergens)
    return _checked({**process, "foods": {**process["foods"], food_id: row}})


def _without(process: Mapping[str, Any], text: str) -> tuple[dict[str, Any], dict[str, Any]]:
    """The process without a sentence that is no step yet, and the sentence's row. Raises CoreError."""
    for name in ("unread", "aside"):
        rows = unread_rows(process, name)
        found = next((row for row in rows if row["text"] == text), None)
        if found is not None:
            return {**process, name: [row for row in rows if row is not found]}, found
    if not any(row["text"] == text for row in told_rows(process)):
        raise CoreError("text", "no_such_sentence")
    return dict(process), {"text": text, "holds": False, "after": ""}


def _steps_of(process: Mapping[str, Any], text: str) -> list[str]:
    """The steps that were read from a sentence."""
    places = [n for n, row in enumerate(told_rows(process)) if row["text"] == text]
    return [str(step["id"]) for step in process["steps"] if step.get("sentence") in places]


def set_aside(process: Mapping[str, Any], text: str) -> dict[str, Any]:
    """The process with a sentence said to order nothing; the steps that were read from it go. Raises
    CoreError for a sentence that is not of this recipe, and where a later step needs what one of its makes."""
    found, row = _without(process, text)
    ids = [str(step["id"]) for step in process["steps"]]
    own = _steps_of(process, text)
    for step_id in reversed(own):
        found = remove_step(found, step_id)
    before = ids[: ids.index(own[0])] if own else []
    row = {**row, "holds": False, "after": before[-1] if before else row["after"]}
    return {**found, "aside": [*unread_rows(found, "aside"), row]}


def step_of_sentence(process: Mapping[str, Any], text: str, person: str) -> dict[str, Any]:
    """The process with a sentence as a step of its own, by hand, on what the step before it leaves: a
    person says next what it is. Raises CoreError for a sentence that is a step or is not there."""
    found, row = _without(process, text)
    if _steps_of(process, text):
        raise CoreError("text", "sentence_has_steps")
    ids = [str(step["id"]) for step in process["steps"]]
    after = row["after"] if row["after"] in ids else ids[-1]
    before = process["steps"][ids.index(after)]
    foods = [before["makes"]] if before.get("makes") else list(before.get("foods", []))
    step = {
        "do": "touch",
        "foods": foods,
        "tools": [],
        "hands": [person],
        "title": text[:48],
        "detail": text,
        "guesses": ["step"],
    }
    return add_step_after(found, after, step)
