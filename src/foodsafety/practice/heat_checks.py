"""Is it done? What does this display mean? Where does the tip go?"""

from __future__ import annotations

import math
import random
import tomllib
from collections.abc import Iterator, Mapping
from functools import cache
from typing import Any

from foodsafety.cooking import CookRule, CookVerdict, Probing, cook_verdict
from foodsafety.data import data_text
from foodsafety.measuring import check_thermometer
from foodsafety.practice.puzzle import Choice, Material, Sketch, right_choice, wrong_choice
from foodsafety.rules import CookLimit

CORE = "core-temperature"
# What somebody may do next, by the verdict on the readings.
_NEXT = {"too_few": "more_pieces", "below": "cook_on", "hold": "hold", "rest": "rest", "reached": "done"}
# What would do no harm where another answer is right is not offered beside it.
_AS_GOOD = {"hold": ("cook_on",), "cook_on": ("hold",), "rest": ("hold",), "more_pieces": ("cook_on", "hold")}


@cache
def practice_table() -> Mapping[str, Any]:
    """What puzzles are made of (practice.toml)."""
    return tomllib.loads(data_text("practice.toml"))


def practised_by(watched: str) -> str:
    """The rule that practises what an adult watches beside a bench. Raises KeyError for what nobody watches."""
    return str(practice_table()["watched"][watched])


def _cooked(material: Material, draw: random.Random) -> tuple[str, CookLimit] | None:
    """A food of the recipe that a reading can prove, and its limit."""
    rows = sorted((name, limit) for name, limit in material.plan.provable.items() if limit.main is not None)
    return draw.choice(rows) if rows else None


def _limit_c(limit: CookLimit) -> float:
    return limit.main.temperature.c if limit.main is not None else math.inf


def _told(limit: CookLimit) -> list[Any]:
    """A limit as its source states it: its figure and its unit."""
    return [] if limit.main is None else [limit.main.temperature.value, limit.main.temperature.unit]


def is_it_done(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """Readings of several pieces against the limit: what next?"""
    picked = _cooked(material, draw)
    if picked is None:
        return None
    food, limit = picked
    readings = _readings(CookRule(limit, material.plan.profile, house=material.plan.house), draw, level)
    now_s = readings[-1].at_s + draw.choice((0, 10, 20))
    found = cook_verdict(readings, limit, material.plan.profile, now_s=now_s, house=material.plan.house)
    right = _NEXT.get(found.status)
    if right is None:
        return None
    rows = [{"piece": row.piece, "at_s": row.at_s, "core_c": row.core_c} for row in readings]
    return Sketch(
        rule=CORE,
        asks={"food": food, "readings": rows, "now_s": now_s},
        right=_next(right, found, right=True),
        others=[_next(name, found, right=False) for name in _other_moves(right, draw)],
        why=_shown(found, limit),
        section=limit.section,
    )


def _other_moves(right: str, draw: random.Random) -> list[str]:
    """What is wrong where this is right: to call it done first of all."""
    others = [n for n in ("cook_on", "more_pieces", "hold", "rest") if n != right and n not in _AS_GOOD.get(right, ())]
    draw.shuffle(others)
    return [*(() if right == "done" else ("done",)), *others]


def _shown(found: CookVerdict, limit: CookLimit) -> dict[str, Any]:
    return {
        "status": found.status,
        "lowest_c": found.lowest_c,
        "lowest_piece": found.lowest_piece or "",
        "pieces": found.pieces,
        "needed": found.pieces_needed,
        "limit": _told(limit),
        "hold_s": limit.main.hold_s if limit.main else 0.0,
        "rest_s": limit.rest_s,
        "remaining_s": found.remaining_s,
    }


def _next(name: str, found: CookVerdict, *, right: bool) -> Choice:
    says = {"do": name}
    return right_choice(name, **says) if right else wrong_choice(name, {"why": found.status}, **says)


def _readings(rule: CookRule, draw: random.Random, level: int) -> list[Probing]:
    """Readings of one, some or all pieces around the limit: a case of one sort, drawn evenly."""
    limit_c = _limit_c(rule.limit)
    sort = draw.choice(("below", "too_few", "one_low", "all", "all", "hold"))
    pieces = max(1, rule.needed - 1) if sort == "too_few" and rule.needed > 1 else rule.needed
    near = {1: 6.0, 2: 3.0, 3: 1.0}[level]
    cores = [round(limit_c + draw.uniform(0.3, 5), 1) for _ in range(pieces)]
    if sort == "below":
        cores = [round(limit_c - draw.uniform(near / 2, near * 2), 1) for _ in cores]
    if sort == "one_low":
        cores[draw.randrange(len(cores))] = round(limit_c - draw.uniform(0.2, near), 1)
    rows = [Probing(at_s=10.0 * n, piece=str(n + 1), core_c=core) for n, core in enumerate(cores)]
    hold_s = rule.limit.main.hold_s if rule.limit.main else 0.0
    if sort == "all" and hold_s:
        # Each piece read again, no longer apart than a hold may go unseen, until it is over.
        last_s, step_s = rows[-1].at_s, min(rule.profile.longest_gap_s, 60.0)
        for n in range(1, math.ceil(hold_s / step_s) + 2):
            rows += [Probing(at_s=last_s + n * step_s, piece=row.piece, core_c=row.core_c) for row in rows[:pieces]]
    return rows


# --- read this display ------------------------------------------------------------------------------------


def read_the_display(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A thermometer that shows too much or too little in ice: how warm is the food?"""
    picked = _cooked(material, draw)
    if picked is None:
        return None
    food, limit = picked
    limit_c = _limit_c(limit)
    error_c = draw.choice([-1, 1]) * round(draw.uniform(0.3, 0.9) + (level - 1) * draw.uniform(0, 0.8), 1)
    shows_c = round(limit_c + draw.choice([-1, 1]) * draw.uniform(0.1, 2.5) + error_c, 1)
    offset_c = check_thermometer(ice_shows_c=error_c, boil_shows_c=None, altitude_m=0.0).offset_c or 0.0
    right_c = round(shows_c + offset_c, 1)
    return Sketch(
        rule=CORE,
        asks={"food": food, "ice_c": error_c, "shows_c": shows_c, "dial": draw.random() < 0.5},
        right=right_choice(f"{right_c:g}", core_c=right_c),
        others=list(_misread(shows_c, offset_c, limit_c)),
        why={"offset_c": offset_c, "reached": right_c >= limit_c, "limit": _told(limit)},
        section=limit.section,
        ordered=lambda row: float(row.id),
    )


def _misread(shows_c: float, offset_c: float, limit_c: float) -> Iterator[Choice]:
    """What comes of it where the error is forgotten, put on the wrong way, or what one would like to read."""
    right_c = round(shows_c + offset_c, 1)
    wrong = {shows_c: "not-corrected", round(shows_c - offset_c, 1): "wrong-way", round(limit_c, 1): "limit"}
    wrong |= {round(right_c + step, 1): "not-it" for step in (0.5, -0.5, 1.0)}
    return (wrong_choice(f"{c:g}", {"why": why}, core_c=c) for c, why in wrong.items() if c != right_c)


# --- where does the tip go? -------------------------------------------------------------------------------

Tip = tuple[float, float]


def tip_judged(piece: Mapping[str, Any], tip: Tip) -> str:
    """What is wrong with a tip at (from the left, from below) [mm] in a drawn piece that lies in a pan: "" where it is
    right. The middle of the thickest part counts, clear of bone and pan (thermometers.toml)."""
    table = practice_table()["tip"]
    x, y = tip
    length, thick = float(piece["length_mm"]), float(piece["thick_mm"])
    if not (0 <= x <= length and 0 <= y <= thick):
        return "outside"
    if "bone" in piece:
        left, up, radius = piece["bone"]
        if math.hypot(x - left, y - up) < radius + table["clear_mm"]:
            return "bone"
    if y < table["clear_mm"]:
        return "pan"
    if abs(y - thick / 2) > table["within"] * thick:
        return "surface"
    if not 0.3 <= x / length <= 0.7:
        return "thin-end"
    return ""


def _places(piece: Mapping[str, Any], draw: random.Random) -> dict[str, list[Tip]]:
    """Tips in a piece by what is wrong with them."""
    length, thick = float(piece["length_mm"]), float(piece["thick_mm"])
    found: dict[str, list[Tip]] = {}
    for _ in range(120):
        tip = (round(draw.uniform(0.04, 0.96) * length, 0), round(draw.uniform(0.03, 0.97) * thick, 0))
        found.setdefault(tip_judged(piece, tip), []).append(tip)
    return found


def _tips(piece: Mapping[str, Any], draw: random.Random) -> tuple[Tip | None, list[tuple[Tip, str]]]:
    """A tip that is right and some that are not, with what is wrong: one beside another, so that each is tapped by
    itself, for the probe is drawn from above."""
    found = _places(piece, draw)
    right = min(found.get("", ()), key=lambda tip: abs(tip[1] - piece["thick_mm"] / 2), default=None)
    if right is None:
        return None, []
    apart_mm = practice_table()["tip"]["apart"] * piece["length_mm"]
    kinds = [why for why in sorted(found) if why]
    draw.shuffle(kinds)
    taken: list[float] = [right[0]]
    wrong: list[tuple[Tip, str]] = []
    for why in kinds:
        free = (tip for tip in found[why] if all(abs(tip[0] - x) >= apart_mm for x in taken))
        tip = next(free, None)
        if tip is not None:
            taken.append(tip[0])
            wrong.append((tip, why))
    return right, wrong


def where_the_tip_goes(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A piece from its side, and tips in it."""
    picked = _cooked(material, draw)
    if picked is None:
        return None
    food, limit = picked
    rows = sorted(practice_table()["pieces"].items())
    shape = draw.choice([name for name, row in rows if limit.food_class in row["classes"]] or ["dish"])
    piece = practice_table()["pieces"][shape]
    right, wrong = _tips(piece, draw)
    if right is None:
        return None
    return Sketch(
        rule=CORE,
        asks={"food": food, "shape": shape, "piece": {k: v for k, v in piece.items() if k != "classes"}},
        right=right_choice(f"{right[0]:g},{right[1]:g}", tip=list(right)),
        others=[wrong_choice(f"{tip[0]:g},{tip[1]:g}", {"why": why}, tip=list(tip)) for tip, why in wrong],
        section=limit.section,
        ordered=lambda row: tuple(row.says["tip"]),
    )
