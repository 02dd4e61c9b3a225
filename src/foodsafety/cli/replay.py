"""Topic ``replay``: a bench's log played against its recipe: what every screen of that bench would say."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Any

from foodsafety.cli.analyse import finding_row, spelled_soils
from foodsafety.cli.input import a_list, an_object, asked_profile
from foodsafety.contamination import UNWASHED_CONTACT
from foodsafety.lesson import (
    Brick,
    Event,
    Incident,
    Noted,
    State,
    bricks,
    clock_of,
    fold,
    kept_food,
    safety_plan,
    settle,
    standing_why,
    unproven_in,
)
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes import process_from
from foodsafety.rules import house_from

MOST_EVENTS = 20_000


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``replay``. Entries that cannot be read are findings, not errors: so they are at a bench."""
    profile = asked_profile(data)
    written = an_object(data.get("process") or {})
    plan = safety_plan(process_from(written), profile, house_from(an_object(data.get("house") or {})))
    events = [_event(i, row) for i, row in enumerate(a_list(data, "events", "entries"))]
    now_s = finite(data.get("at_s"), "at_s", low=-1e12, high=1e12)
    state = fold(plan, _learners(data), [event for event in events if event.at_s <= now_s])
    state = settle(state, now_s)
    words = spelled_soils(written)

    def found(row: Incident | Noted) -> dict[str, Any]:
        return finding_row(row.finding, words, profile.id) | {"at_s": row.at_s}

    return {
        "bricks": [_brick(brick) for brick in bricks(state, now_s)],
        "findings": [found(row) for row in _by_time(state) if row.finding.rule not in QUIET],
        "noted": [found(row) for row in _by_time(state) if row.finding.rule in QUIET],
        "foods": {name: _food(state, name, now_s) for name in sorted(plan.process.food_ids)},
        "hands": {who: sorted(words.get(n, n) for n in state.surfaces.get(who, ())) for who in state.learners},
    }


# Good practice and open questions: nobody is harmed by them yet.
QUIET = frozenset({UNWASHED_CONTACT, "doer-not-named", "reading-proves-nothing", "seen-proves-nothing"})


def _by_time(state: State) -> list[Incident | Noted]:
    rows: list[Incident | Noted] = [*state.incidents, *state.noted]
    return sorted(rows, key=lambda row: row.at_s)


def _learners(data: Mapping[str, Any]) -> list[str]:
    names = a_list(data, "learners", "learners")
    for i, name in enumerate(names):
        if not isinstance(name, str):
            raise CoreError(f"learners[{i}]", "not_a_text", value=str(name)[:60])
    return names


def _event(i: int, row: object) -> Event:
    where = f"events[{i}]"
    if not isinstance(row, Mapping):
        raise CoreError(where, "not_an_object")
    kind = row.get("kind")
    if not isinstance(kind, str):
        raise CoreError(f"{where}.kind", "unknown_entry", kind=str(kind)[:60])
    sender = row.get("sender")
    fields = {key: value for key, value in row.items() if key not in ("at_s", "kind", "id", "sender")}
    if kind == "voided" and isinstance(fields.get("event"), int):
        fields["event"] = str(fields["event"])  # an entry without an id is known by its place in the list
    return Event(
        id=str(row.get("id", i)),
        kind=kind,
        at_s=finite(row.get("at_s"), f"{where}.at_s", low=-1e12, high=1e12),
        data=fields,
        by=sender if isinstance(sender, str) else "",
    )


def _plain(value: object) -> object:
    if isinstance(value, (tuple, list, frozenset, set)):
        return [_plain(item) for item in value]
    return value


def _brick(brick: Brick) -> dict[str, Any]:
    control = brick.control
    return {
        "id": control.id,
        "rule": control.rule,
        "foods": list(control.foods),
        "carriers": list(control.carriers),
        "state": brick.status,
        "evidence": {key: _plain(value) for key, value in brick.evidence.items()},
        "remaining_s": brick.remaining_s,
        "section": control.section,
    }


def _food(state: State, food: str, now_s: float) -> dict[str, Any]:
    held = state.food(food)
    standing = clock_of(state, food, now_s)
    kept = kept_food(state, food, dt.UTC)
    why = standing_why(state, food, now_s)
    until = kept.until if kept else None
    return {
        "proven": held.proof is not None,
        "unproven": list(unproven_in(state, food)),
        "out_s": standing.total_s,
        "limit_s": standing.limit.limit_s,
        "kept": held.kept.place if held.kept else None,
        "gone": held.gone.how if held.gone else None,
        "throw_away": bool(why),
        "use_by_s": until.timestamp() if until else None,
        "why": list(why),
    }
