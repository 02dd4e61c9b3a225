"""A slip has happened at a bench: what is done next?"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from foodsafety.contamination import Finding, rule_source
from foodsafety.lesson import (
    PLANTED,
    Correction,
    Event,
    State,
    advance,
    allowed,
    brick_corrections,
    bricks,
    corrections,
    fold,
    opening_state,
    plant,
    rehearse,
)
from foodsafety.practice.puzzle import Choice, Material, Sketch, wrong_choice

_BENCH = ("AK", "JT", "NB")
# One bench that makes no slip, always the same: what is planted into it is what is asked about.
_SEED = 19
# What is never a way out (wiping and rinsing clear nothing), and what is none where the rules do not offer it.
NEVER = ("carry_on", "wipe", "rinse")
_SOMETIMES = ("serve_now", "chill", "label", "rest")


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """A bench at which something has just gone wrong: by which ``slip``, against which ``rule``, and what can be done
    now, best first."""

    slip: str
    rule: str
    step: str
    food: str
    path: tuple[str, ...]
    soil: str
    ways: tuple[Correction, ...]


@lru_cache(maxsize=64)
def _script(material: Material) -> tuple[Event, ...]:
    return tuple(rehearse(material.plan, _BENCH, seed=_SEED))


@lru_cache(maxsize=1024)
def moment_of(material: Material, slip: str) -> Moment | None:
    """The first moment at which a slip can be seen; None where the lesson has no place for it or nothing puts it
    right."""
    events = plant(material.plan, _BENCH, _script(material), slip)
    if events is None:
        return None
    state, (own, walls) = opening_state(material.plan, _BENCH), _without_slip(material)
    for event in events:
        state, _ = advance(state, event)
        new = [row.finding for row in state.open_incidents if row.finding.key not in own]
        if new:
            return _at_incident(state, slip, new[-1], event.at_s)
    return _at_the_end(state, slip, max(row.at_s for row in events) + 60, walls)


@lru_cache(maxsize=64)
def _without_slip(material: Material) -> tuple[frozenset[Any], frozenset[tuple[str, str]]]:
    """What goes wrong at the bench that makes no slip (an order of work may be none of the best), and how its control
    points stand at the end: none of that is the slip's."""
    events = _script(material)
    state = fold(material.plan, _BENCH, events)
    rows = bricks(state, max(row.at_s for row in events) + 60, ended=True)
    return frozenset(row.finding.key for row in state.incidents), frozenset(
        (row.control.id, row.status) for row in rows
    )


def _at_incident(state: State, slip: str, found: Finding, now_s: float) -> Moment:
    ways = corrections(state, found, now_s)
    return Moment(
        slip=slip,
        rule=found.rule,
        step=found.step,
        food=found.food,
        path=found.path,
        soil=found.soil,
        ways=ways,
    )


def _at_the_end(state: State, slip: str, end_s: float, walls: frozenset[tuple[str, str]]) -> Moment | None:
    """A control point that was missed, or failed, where a bench without the slip has laid it."""
    for brick in bricks(state, end_s, ended=True):
        ways = brick_corrections(state, brick)
        if (brick.control.id, brick.status) not in walls and brick.status in ("missed", "breach") and ways:
            step = brick.control.steps[0] if brick.control.steps else ""
            food = next(iter(brick.control.foods), "")
            return Moment(
                slip=slip,
                rule=brick.control.rule,
                step=step,
                food=food,
                path=(),
                soil="",
                ways=ways,
            )
    return None


def what_next(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """What a bench does after a slip: the first of what its rules offer."""
    names = sorted(PLANTED)
    draw.shuffle(names)
    found = next((row for name in names if (row := moment_of(material, name)) is not None and _known(row)), None)
    if found is None:
        return None
    best = found.ways[0]
    return Sketch(
        rule=found.rule,
        asks=_asks(found),
        right=Choice(id=best.do, says=_way(best), right=True),
        others=list(_harmful(material, found, best.food or found.food, draw)),
        why={"then": [_way(row) for row in found.ways[1:]]},
        section=_section(material, found.rule),
    )


def _asks(found: Moment) -> dict[str, Any]:
    return {
        "step": found.step,
        "food": found.food,
        "path": list(found.path),
        "soil": found.soil,
    }


def _harmful(material: Material, found: Moment, food: str, draw: random.Random) -> Iterator[Choice]:
    """What would not put it right, or is not allowed."""
    can = allowed(found.rule, material.plan.profile.id)
    wrong = [*NEVER, *(name for name in _SOMETIMES if name not in can)]
    draw.shuffle(wrong)
    return (wrong_choice(do, {"why": do}, do=do, food=food, who=[], tools=[]) for do in wrong)


def _section(material: Material, rule: str) -> str:
    stated = next((row.section for row in material.plan.controls if row.rule == rule), "")
    return rule_source(rule, material.plan.profile.id) or stated


def _known(row: Moment) -> bool:
    return bool(row.ways) and row.ways[0].do != "ask"


def _way(row: Correction) -> dict[str, Any]:
    return {"do": row.do, "food": row.food, "who": list(row.who), "tools": list(row.tools)}
