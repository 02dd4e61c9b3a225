"""Several dishes as one process: a menu that one bench cooks, with one pair of hands for all of it."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from foodsafety.foods import carrier_kinds, is_raw
from foodsafety.quantities import CoreError
from foodsafety.recipes.process import Process, process_from

SERVE = "serve"
MOST_DISHES = 4


@dataclass(frozen=True, kw_only=True)
class Dish:
    """A dish of a menu: its title, its process in plain data, and how many ingredient lines stand before its own."""

    title: str
    process: Mapping[str, Any]
    lines_before: int = 0


@dataclass(frozen=True, kw_only=True)
class Menu:
    """The process of all dishes in plain data, and what each dish's foods are called in it, in the order given."""

    process: dict[str, Any]
    names: tuple[Mapping[str, str], ...]


@dataclass(kw_only=True)
class _Together:
    """What has been put together so far."""

    foods: dict[str, Any] = field(default_factory=dict)
    tools: dict[str, Any] = field(default_factory=dict)
    people: dict[str, None] = field(default_factory=dict)
    before: list[dict[str, Any]] = field(default_factory=list)
    serving: list[dict[str, Any]] = field(default_factory=list)
    after: list[dict[str, Any]] = field(default_factory=list)
    free_of: dict[str, Any] = field(default_factory=dict)
    rest: dict[str, list[Any]] = field(default_factory=dict)

    @property
    def taken(self) -> set[str]:
        """Every name that means something already."""
        made = {row["makes"] for row in (*self.before, *self.after) if row.get("makes")}
        return {*self.foods, *self.tools, *self.people, *made}

    @property
    def steps(self) -> set[str]:
        """Every id of a step."""
        return {SERVE, *(str(row["id"]) for row in (*self.before, *self.after))}


def combined(dishes: Sequence[Dish], serve_title: str) -> Menu:
    """The dishes as one process, eaten together at the end: those without anything raw first, then what cooks longest
    by itself, so that the others are made meanwhile. What stands in the kitchen once is shared (oven, sink, fridge);
    each dish keeps boards, knives and bowls of its own, and hands are everybody's: what they carry from dish to dish is
    found. What a dish is to be free of it is to be free of in the menu. Raises CoreError for too few or too many
    dishes."""
    if not 2 <= len(dishes) <= MOST_DISHES:
        raise CoreError("dishes", "menu_of_dishes", most=MOST_DISHES)
    made = _Together()
    names: dict[int, Mapping[str, str]] = {}
    for n in sorted(range(len(dishes)), key=lambda n: (_has_raw(dishes[n]), -_longest_wait_s(dishes[n]), n)):
        names[n] = _add(made, dishes[n])
    process: dict[str, Any] = {
        "foods": made.foods,
        "tools": made.tools,
        "people": list(made.people),
        "steps": [*made.before, *_serve_all(made.serving, serve_title), *made.after],
        "free_of": made.free_of,
        **made.rest,
    }
    process_from(process)
    return Menu(process=process, names=tuple(names[n] for n in range(len(dishes))))


def _has_raw(dish: Dish) -> bool:
    return any(is_raw(soil) for food in process_from(dish.process).foods.values() for soil in food.soils)


def _longest_wait_s(dish: Dish) -> float:
    return max((step.waiting_s for step in process_from(dish.process).steps), default=0.0)


def _add(made: _Together, dish: Dish) -> Mapping[str, str]:
    """Adds a dish; what its foods are called now."""
    process = process_from(dish.process)
    names = _names(made, dish, process)
    ids = _step_ids(made, dish)
    for name, row in dish.process["foods"].items():
        line = row.get("line")
        shift = {} if line is None else {"line": line + dish.lines_before}
        made.foods[names[name]] = {**row, **shift, "kind": row.get("kind", name), "dish": dish.title}
    for name, row in dish.process["tools"].items():
        # What stands in the kitchen once is no dish's own.
        own = {} if names[name] in made.tools else {"dish": dish.title}
        made.tools[names[name]] = {**row, "kind": row.get("kind", name), **own}
    made.people |= dict.fromkeys(process.people)
    made.free_of |= {names[name]: tags for name, tags in (dish.process.get("free_of") or {}).items()}
    _add_steps(made, [{**_renamed(row, names, ids), "dish": dish.title} for row in dish.process["steps"]])
    for name in ("serve", "discarded"):
        made.rest.setdefault(name, []).extend(names.get(one, one) for one in dish.process.get(name) or ())
    return names


def _names(made: _Together, dish: Dish, process: Process) -> dict[str, str]:
    """What each food and tool of a dish is called among the others."""
    shared = {name for name, tool in process.tools.items() if tool.kind in carrier_kinds("fixed")}
    taken = made.taken - set(made.people)
    own = [*process.foods, *(name for name in process.made if name not in process.foods), *process.tools]
    return {name: _free(name, taken, dish.title, keeps=name in shared and name in made.tools) for name in own}


def _add_steps(made: _Together, steps: Sequence[dict[str, Any]]) -> None:
    """Steps before the dish is served, the serving, and what comes after it."""
    served = False
    for step in steps:
        serves = step["do"] == SERVE
        served = served or serves
        (made.serving if serves else made.after if served else made.before).append(step)


def _step_ids(made: _Together, dish: Dish) -> dict[str, str]:
    taken, ids = made.steps, {}
    for row in dish.process["steps"]:
        old = str(row["id"])
        ids[old] = SERVE if row["do"] == SERVE else _free(old, taken, "")
        taken.add(ids[old])
    return ids


def _free(name: str, taken: set[str], title: str, *, keeps: bool = False) -> str:
    """A name that means nothing else yet: of the dish where that is taken."""
    if keeps or name not in taken:
        return name
    of = f"{name} ({title})" if title else f"{name}-2"
    n = 2
    while of in taken:
        n += 1
        of = f"{name} ({title} {n})" if title else f"{name}-{n}"
    return of


def _renamed(row: Mapping[str, Any], names: Mapping[str, str], ids: Mapping[str, str]) -> dict[str, Any]:
    step = {**row, "id": ids[str(row["id"])]}
    for key in ("foods", "tools", "through", "settled"):
        if row.get(key):
            step[key] = [names.get(name, name) for name in row[key]]
    if row.get("makes"):
        step["makes"] = names[row["makes"]]
    if row.get("after"):
        step["after"] = list(dict.fromkeys(ids[str(name)] for name in row["after"]))
    return step


def _serve_all(serving: Sequence[Mapping[str, Any]], title: str) -> list[dict[str, Any]]:
    """One serving of all that is served."""
    if not serving:
        return []

    def all_of(key: str) -> list[str]:
        return list(dict.fromkeys(name for row in serving for name in row.get(key) or () if name != SERVE))

    minutes = max(float(row.get("minutes") or 0) for row in serving)
    detail = " ".join(row["detail"] for row in serving if row.get("detail"))
    # What each dish says of it, for benches that cook just that one.
    details = {row["dish"]: row["detail"] for row in serving if row.get("detail")}
    step = {"id": SERVE, "do": SERVE, "title": title, "detail": detail, "details": details, "minutes": minutes}
    return [{**step, **{key: all_of(key) for key in ("foods", "tools", "hands", "after")}}]


# --- a menu of which each bench cooks some ---


def dishes_in(process: Mapping[str, Any]) -> tuple[str, ...]:
    """The dishes of a menu's process in plain data, as they are begun; none where it is one recipe."""
    found = dict.fromkeys(str(row["dish"]) for row in process["steps"] if row.get("dish"))
    return tuple(found) if len(found) > 1 else ()


def only_dishes(process: Mapping[str, Any], dishes: Collection[str]) -> Mapping[str, Any]:
    """What a bench cooks that makes some dishes of a menu: their steps with all that these use, whatever dish it is
    of since somebody changed the steps, and steps that belong to no dish as far as there is something for them. All of
    it where it has none of ``dishes``: rather too much than too little."""
    dishes = [title for title in dishes_in(process) if title in dishes]
    if not dishes:
        return process
    steps = _steps_of(process, dishes)
    used = {name for row in steps for key in ("foods", "tools", "through") for name in row.get(key) or ()}
    foods = {name: row for name, row in process["foods"].items() if name in used or row.get("dish") in (None, *dishes)}
    there = {*foods, *(row["makes"] for row in steps if row.get("makes"))}
    left = {
        **process,
        "foods": foods,
        "tools": {name: row for name, row in process["tools"].items() if name in used},
        "steps": steps,
        "free_of": {name: tags for name, tags in (process.get("free_of") or {}).items() if name in there},
        **{key: [name for name in process.get(key) or () if name in there] for key in ("serve", "discarded")},
    }
    process_from(left)
    return left


def _steps_of(process: Mapping[str, Any], dishes: Sequence[str]) -> list[dict[str, Any]]:
    """The steps of dishes in their order."""
    rows = process["steps"]
    ours = {name for name, row in process["foods"].items() if row.get("dish") in dishes}
    kept: set[str] = set()
    grew = True
    while grew:
        made = {row["makes"] for row in rows if str(row["id"]) in kept and row.get("makes")}
        wanted = {name for row in rows if str(row["id"]) in kept and row.get("dish") for name in row.get("foods") or ()}
        more = {
            str(row["id"])
            for row in rows
            if row.get("dish")
            and (
                row["dish"] in dishes
                or not (ours | made).isdisjoint(row.get("foods") or ())
                or row.get("makes") in wanted
            )
        }
        grew = not more <= kept
        kept |= more
    there = {name for name, row in process["foods"].items() if row.get("dish") in (None, *dishes)}
    there |= {name for row in rows if str(row["id"]) in kept for name in (*(row.get("foods") or ()), row.get("makes"))}
    found = [
        _for_these(row, there, process["tools"], dishes)
        for row in rows
        if str(row["id"]) in kept or not row.get("dish")
    ]
    steps = [row for row in found if row is not None]
    ids = {str(row["id"]) for row in steps}
    return [{**row, "after": [name for name in row.get("after") or () if str(name) in ids]} for row in steps]


def _for_these(
    row: Mapping[str, Any], there: Collection[str], tools: Mapping[str, Any], dishes: Sequence[str]
) -> dict[str, Any] | None:
    """A step of a dish as it is; one of no dish with what there is of its foods and tools, or None without any food."""
    if row.get("dish"):
        return dict(row)
    foods = [name for name in row.get("foods") or () if name in there]
    if row.get("foods") and not foods:
        return None
    kit = [name for name in row.get("tools") or () if tools.get(name, {}).get("dish") in (None, *dishes)]
    told = row.get("details") or {}
    detail = " ".join(text for dish, text in told.items() if dish in dishes) if told else row.get("detail", "")
    return {**row, "foods": foods, "tools": kit, "detail": detail}
