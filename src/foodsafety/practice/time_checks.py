"""How long may it stand, will this pot be cold in time, until when does it keep, and on which shelf?"""

from __future__ import annotations

import datetime as dt
import random
from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any

from foodsafety.cooling import (
    ChillPlan,
    ChillSituation,
    ChillWay,
    container,
    plan_chill,
    planning_profile,
    stages_of,
    unknown_dish,
)
from foodsafety.foods import raw_of_animals
from foodsafety.lesson import clock_limit, opening_state, storage_categories
from foodsafety.practice.heat_checks import practice_table
from foodsafety.practice.puzzle import Choice, Material, Sketch, right_choice, wrong_choice
from foodsafety.rules import ClockLimit
from foodsafety.shelf import StorageReason, StoredFood, UseBy, storage_category, strictest_use_by

# Puzzles have a calendar of their own, without zones.
_A_DAY = dt.datetime.fromisoformat("2026-03-02")


def _dishes(material: Material) -> list[tuple[str, tuple[str, ...]]]:
    """What a recipe serves, each with every storage category that it falls under."""
    state = opening_state(material.plan, ())
    return [(name, storage_categories(state, name)) for name in sorted(set(material.plan.process.serve))]


# --- how long may it stand? -------------------------------------------------------------------------------


def how_long_to_stand(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """Food has been out for some time, in one go or several: for how long may it stand still?"""
    served = sorted(material.plan.process.serve)
    if not served:
        return None
    food, kind = (picked := draw.choice(served)), material.plan.clock_kind(picked)
    ambient_c = draw.choice((34.0, 36.0)) if level > 1 and draw.random() < 0.4 else draw.choice((19.0, 21.0, 23.0))
    limit = _clock_at(material, food, ambient_c)
    whole_min = most_minutes(limit)
    trips = [draw.randrange(5, max(10, whole_min // 3), 5) for _ in range(1 if level == 1 or limit.one_period else 2)]
    left_min = whole_min - sum(trips)
    if left_min <= 0:
        return None
    return Sketch(
        rule="time-out",
        asks={"food": food, "trips_min": trips, "ambient_c": ambient_c, "hot": kind == "hot"},
        right=right_choice(str(left_min), left_min=left_min),
        others=list(_misjudged(whole_min, most_minutes(_clock_at(material, food, 20.0)), trips)),
        why={"limit_min": whole_min, "out_min": sum(trips), "in_heat": limit.above is not None},
        section=limit.section,
        ordered=lambda row: int(row.id),
    )


def _clock_at(material: Material, food: str, ambient_c: float) -> ClockLimit:
    """The clock that the live lesson holds against a food, in such surroundings [C]."""
    return clock_limit(replace(opening_state(material.plan, ()), ambient_c=ambient_c), food)


def most_minutes(limit: ClockLimit) -> int:
    """How long food may be out and still go back into the cold, in whole minutes: one less where a rule says that so
    long is too long already."""
    whole = int((limit.warn_s or limit.limit_s) // 60)
    return whole - 1 if limit.no_return(60.0 * whole) else whole


def _misjudged(whole_min: int, usual_min: int, trips: Sequence[int]) -> Iterator[Choice]:
    """What comes of it where the clock starts anew, the heat is forgotten, or one trip out is."""
    left_min = whole_min - sum(trips)
    wrong = {whole_min: "starts-anew", usual_min - sum(trips): "not-in-heat", whole_min - trips[-1]: "only-the-last"}
    for more in (30, 60, 15):
        wrong.setdefault(left_min + more, "too-long")
    return (wrong_choice(str(n), {"why": why}, left_min=n) for n, why in wrong.items() if n > 0 and n != left_min)


# --- will this pot be cold in time? -----------------------------------------------------------------------

_POTS = ("pot_4l", "pot_6l", "pot_10l")
_WAYS = (("tray_full", "fridge", 4.0), ("tub_2l", "fridge", 4.0), ("tray_full", "ice_bath", 0.5))


def _way(box_id: str, litres: float, where: str, around_c: float) -> ChillWay | None:
    """Into as many of a container as it takes, none too full; a tray 5 cm deep at most."""
    box = container(box_id)
    for count in range(1, 9):
        depth_m = litres / 1000 / (count * box.area_m2)
        deep = 0.05 if box_id.startswith("tray") else box.height_m
        if litres / count <= box.holds_l and depth_m <= deep:
            return ChillWay(container=box, count=count, depth_m=depth_m, where=where, around_c=around_c)
    return None


@lru_cache(maxsize=512)
def _planned(
    material: Material, litres: float, start_c: float, box_id: str, where: str, around_c: float
) -> ChillPlan | None:
    way = _way(box_id, litres, where, around_c)
    if way is None:
        return None
    situation = ChillSituation(batch=unknown_dish(litres), readings=((0.0, start_c),), profile=material.plan.profile)
    return plan_chill(situation, way)


def cold_in_time(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A hot pot of so much: which way of cooling it is in time?"""
    hot = sorted(name for name in material.plan.process.serve if material.plan.clock_kind(name) == "hot")
    if not hot:
        return None
    litres, start_c = float(draw.choice((2, 3, 4, 5, 6, 8))), float(draw.choice((65, 75, 85)))
    pot = next(name for name in _POTS if container(name).holds_l >= litres)
    rows = [(pot, "fridge", 4.0), (pot, "room", 21.0), (pot, "ice_bath", 0.5), *_WAYS]
    plans = [(row, _planned(material, litres, start_c, *row)) for row in rows]
    good = [(row, plan) for row, plan in plans if plan is not None and plan.passes]
    bad = [(row, plan) for row, plan in plans if plan is not None and not plan.passes]
    if not good or not bad:
        return None
    draw.shuffle(bad)
    right = draw.choice(good)
    return Sketch(
        rule="chilled-in-time",
        asks={"food": _pourable(material, hot), "litres": litres, "start_c": start_c, "pot": pot},
        right=Choice(id=_name(right[0]), says=_said(right[1]), right=True, why=_course(right[1])),
        others=[wrong_choice(_name(row), {"why": "too-slow", **_course(plan)}, **_said(plan)) for row, plan in bad],
        why={"borrowed": not material.plan.profile.cooling.stages, "limits": _limits(material)},
        section=material.plan.profile.cooling.section,
    )


def _pourable(material: Material, hot: list[str]) -> str:
    """A soup or a stew of the recipe's own; nothing where what it makes is in pieces."""
    return next((name for name, own in _dishes(material) if name in hot and "soup_stew" in own), "")


def _limits(material: Material) -> list[list[Any]]:
    """The stages that the key was judged by: to which temperature, in which unit, within [s]."""
    rows = stages_of(planning_profile(material.plan.profile))
    return [[row.end.value, row.end.unit, row.within_s] for row in rows]


def _name(row: tuple[str, str, float]) -> str:
    return f"{row[0]} {row[1]}"


def _said(plan: ChillPlan) -> dict[str, Any]:
    return {
        "container": plan.way.container.id,
        "count": plan.way.count,
        "where": plan.way.where,
        "around_c": plan.way.around_c,
        "depth_mm": round(plan.way.depth_m * 1000),
    }


def _course(plan: ChillPlan) -> dict[str, Any]:
    return {"crossings_s": [[c, s] for c, s in sorted(plan.verdict.crossings_s.items(), reverse=True)]}


# --- until when? ------------------------------------------------------------------------------------------


def until_when(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A kept dish and its history: until when may it be eaten?"""
    dishes = _dishes(material)
    if not dishes:
        return None
    food, categories = draw.choice(dishes)
    stored = _a_history(categories, draw, level)
    found = strictest_use_by(categories, material.plan.profile, stored)
    if found.use_by is None:
        return None
    return Sketch(
        rule="leftovers-labelled",
        asks={"food": food, "categories": list(categories), **_told(stored)},
        right=_dated(found.use_by, None),
        others=[_dated(at, why) for at, why in _wrong_dates(material, categories, stored, found)],
        why={"lines": [_line(row) for row in found.why]},
        section=next((row.section for row in found.why if row.rule == "date-mark"), material.plan.profile.document),
        ordered=lambda row: row.id,
    )


def _a_history(categories: tuple[str, ...], draw: random.Random, level: int) -> StoredFood:
    """A dish put into the fridge, perhaps out for a while before, perhaps frozen and thawed since."""
    made = _A_DAY + dt.timedelta(days=draw.randrange(18), hours=draw.randrange(10, 14), minutes=draw.choice((0, 30)))
    out_s = 60.0 * draw.choice((0, 20, 40, 60)) if level > 1 else 0.0
    spoils = any(storage_category(name).freezer is None for name in categories)
    if level == 1 or spoils or draw.random() < 0.5:
        return StoredFood(made_at=made, place="fridge", out_s=out_s)
    frozen = made + dt.timedelta(hours=draw.choice((2, 20, 26)))
    thawed = frozen + dt.timedelta(days=draw.choice((6, 13, 20)))
    return StoredFood(made_at=made, place="fridge", out_s=out_s, frozen_at=frozen, thawed_at=thawed)


def _told(stored: StoredFood) -> dict[str, Any]:
    return {
        "made_at": stored.made_at.isoformat(),
        "out_s": stored.out_s,
        "frozen_at": stored.frozen_at.isoformat() if stored.frozen_at else "",
        "thawed_at": stored.thawed_at.isoformat() if stored.thawed_at else "",
    }


def _wrong_dates(
    material: Material, categories: tuple[str, ...], stored: StoredFood, found: UseBy
) -> list[tuple[dt.datetime, str]]:
    """Dates that come of a slip: from the day it was thawed, without its time out, by the longer figure."""
    profile, made = material.plan.profile, stored.made_at
    if found.use_by is None:
        return []
    rows: list[tuple[dt.datetime, str]] = []
    if stored.thawed_at is not None:
        anew = strictest_use_by(categories, profile, StoredFood(made_at=stored.thawed_at, place="fridge")).use_by
        rows += [(anew, "thaw-resets")] if anew else []
        never = strictest_use_by(
            categories, profile, StoredFood(made_at=made, place="fridge", out_s=stored.out_s)
        ).use_by
        rows += [(never, "freezer-counts")] if never else []
    if stored.out_s:
        without = found.use_by + dt.timedelta(seconds=stored.out_s)
        rows.append((without, "out-not-counted"))
    rows += [(found.use_by + dt.timedelta(days=n), "too-late") for n in (1, 7, 4)]
    return [(at, why) for at, why in rows if at != found.use_by and at > made]


def _dated(at: dt.datetime, why: str | None) -> Choice:
    says = {"until": at.isoformat()}
    return right_choice(at.isoformat(), **says) if why is None else wrong_choice(at.isoformat(), {"why": why}, **says)


def _line(row: StorageReason) -> dict[str, Any]:
    return {"rule": row.rule, "section": row.section, "low": row.low, "high": row.high, "unit": row.unit}


# --- on which shelf? --------------------------------------------------------------------------------------


def shelf_harm(shelves: tuple[tuple[str, bool], ...]) -> bool:
    """True if something raw stands above something that is eaten as it is; shelves from the top, (food, raw)."""
    raw_above = False
    for _food, raw in shelves:
        if raw:
            raw_above = True
        elif raw_above:
            return True
    return False


def which_shelf(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A fridge with something on each shelf and room between: where does this stand?"""
    raw, ready = _things(material)
    if not raw or not ready:
        return None
    holding_raw = draw.random() < 0.5
    item = draw.choice(raw if holding_raw else ready)
    fridge = _a_fridge(raw, ready, item, draw, level)
    judged = {n: shelf_harm((*fridge[:n], (item, holding_raw), *fridge[n:])) for n in range(len(fridge) + 1)}
    right = [n for n, harm in judged.items() if not harm]
    others = [n for n, harm in judged.items() if harm]
    place = max(right) if holding_raw else min(right)  # of several that are as good one is offered
    return Sketch(
        rule="raw-kept-apart",
        asks={"item": item, "raw": holding_raw, "fridge": [{"food": name, "raw": is_raw} for name, is_raw in fridge]},
        right=right_choice(str(place), place=place),
        others=[wrong_choice(str(n), {"why": "drips"}, place=n) for n in others],
        section=_store_section(material),
        ordered=lambda row: int(row.id),
    )


def _things(material: Material) -> tuple[list[str], list[str]]:
    """What of a recipe is raw, and what is eaten as it is."""
    process = material.plan.process
    raw = sorted(name for name, food in process.foods.items() if raw_of_animals(food.soils))
    return raw, sorted(set(process.serve) - set(raw))


def _a_fridge(raw: list[str], ready: list[str], item: str, draw: random.Random, level: int) -> list[tuple[str, bool]]:
    """What stands in it from the top, well stowed: (food, raw)."""
    beside = practice_table()["fridge"]
    above = [name for name in (*ready, *beside["ready"]) if name != item]
    draw.shuffle(above)
    below = [name for name in raw if name != item] or beside["raw"]
    return [(name, False) for name in above[: 1 + (level > 1)]] + [(draw.choice(below), True)]


def _store_section(material: Material) -> str:
    found = next((row for row in material.plan.controls if row.rule == "raw-kept-apart"), None)
    return found.section if found is not None and found.section else material.plan.profile.document
