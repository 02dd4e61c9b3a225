"""Histories of kept food, each with the date that was worked out by hand and the rule that decides it."""

from __future__ import annotations

import datetime as dt
from pathlib import Path
from typing import Any

import pytest

from foodsafety.lesson import Part, kept_food
from foodsafety.lesson.changed import changed
from foodsafety.lesson.food_state import Kept
from foodsafety.lesson.keeping import made_s
from tests.builders import ABench, a_bench

_LINES = (Path(__file__).parents[2] / "data" / "kept_histories.txt").read_text(encoding="utf-8").splitlines()
CASES = [[cell.strip() for cell in line.split("|")] for line in _LINES if line and not line.startswith("#")]


def _seconds(text: str) -> float:
    hours, minutes = text.split(":")
    return int(hours) * 3600.0 + int(minutes) * 60.0


def _a_kept_dish(profile: str, category: str, out_s: float, place: Any, *, cold: bool) -> tuple[ABench, float]:
    """A dish that is proven and was so long out before it was put away, read ``cold`` then or not; when it was made."""
    bench = (
        a_bench(profile)
        .cooks()
        .probes(80, 80, 80)
        .probes(80, 80, 80, after_s=30)
        .probes(80, 80, 80, after_s=30)
        .does("probe", "plate", "serve")
    )
    bench.says("categorised", food="koftas", category=category)
    since_s = made_s(bench.state, "koftas")
    part = Part(place=place, since_s=since_s, out_s=out_s, frozen_s=since_s if place == "freezer" else None)
    part = changed(part, cold=((since_s, 4.0),)) if cold and out_s < 2 * 3600 else part
    held = changed(
        bench.state.food("koftas"), kept=Kept(at_s=since_s, place=place, out_s=out_s), parts={"1": part}, gone=None
    )
    bench.state = bench.state.with_food("koftas", held)
    return bench, since_s


def _happens(bench: ABench, made: float, act: str) -> None:
    time, what, *more = act.split()
    after_s = made + _seconds(time) - bench.now_s
    moved: dict[str, Any] = {"kind": "part_moved", "place": what}
    acts: dict[str, dict[str, Any]] = {
        "ambient": {"kind": "ambient_read", "ambient_c": float(more[0]) if what == "ambient" else 0},
        "hole": {"kind": "part_warm", "known": False},
        "warm": {"kind": "part_warm", "known": True},
        "lost": {"kind": "part_warm", "unknown": True},
        "reheat": {"kind": "part_reheated", "core_c": float(more[0]) if what == "reheat" else 0},
        "shorten": {"kind": "part_shortened"},
        "read": {"kind": "part_read", "core_c": float(more[0]) if what == "read" else 0},
        "vacuum": {"kind": "part_boxed", "container": "tub_2l", "wrap": "vacuum"},
        "unpack": {"kind": "part_boxed", "container": "tub_2l", "wrap": "lid"},
        "sign": {"kind": "part_signed", "signer": "Deputy cook", "reason": "shallow tray, felt cold at five"},
    }
    data = acts.get(what, moved)
    data |= {"warm_s": _seconds(more[0])} if what in ("hole", "warm") else {}
    data |= {"until_s": made + _seconds(more[0])} if what == "shorten" else {}
    bench.says(data.pop("kind"), food="koftas", part="1", after_s=after_s, **data)
    assert "no-such-part" not in [row.rule for row in bench.findings]


def _until(made_at: dt.datetime, text: str) -> dt.datetime | None:
    if text == "-":
        return None
    if text == "day":
        return made_at.replace(hour=23, minute=59, second=0, microsecond=0)
    if text.endswith("mo"):
        month0 = made_at.month - 1 + int(text[:-2])
        return made_at.replace(year=made_at.year + month0 // 12, month=month0 % 12 + 1)
    days, rest = text.split("d ")
    return made_at + dt.timedelta(days=int(days), seconds=_seconds(rest))


def test_there_are_more_than_sixty_and_every_profile_has_some() -> None:
    assert len(CASES) >= 60
    assert {row[0] for row in CASES} == {"us-home", "us-foodservice", "uk", "canada", "anz"}


@pytest.mark.parametrize("case", CASES, ids=lambda row: " ".join(row[:4]))
def test_the_date_is_the_one_worked_out_by_hand(case: list[str]) -> None:
    profile, category, out, history, until, decides = case
    place, *acts = [act.strip() for act in history.split(";")]
    cold = not any(act.split()[1] in ("read", "unread") for act in acts)
    bench, made = _a_kept_dish(profile, category, _seconds(out), place, cold=cold)
    now_s = made
    for act in acts:
        now_s = made + _seconds(act.split()[0])
        if act.split()[1] not in ("look", "unread"):
            _happens(bench, made, act)
    found = kept_food(bench.state, "koftas", part=bench.state.food("koftas").parts["1"], now_s=now_s)
    assert found is not None
    assert found.until == _until(found.made_at, until)
    assert decides in [row.rule for row in found.use_by.why]
