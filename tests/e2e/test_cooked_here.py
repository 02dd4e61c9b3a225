"""What a tablet makes of readings by itself, held against the fold: the same cases, judged by both."""

from __future__ import annotations

import json
from random import Random
from typing import Any

import pytest

from bulwark.bench.owed import as_json
from foodsafety.lesson import (
    SERVED_UNPROVEN,
    Event,
    Plan,
    State,
    fold,
    lacking,
    safety_plan,
    settle,
    verdict_of,
    would_breach,
)
from foodsafety.quantities import c_from_f, f_from_c
from foodsafety.rules import House, rule_profile
from tests.builders import a_process
from tests.e2e.test_journey import Opener

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]

JUDGE = """async (cases) => {
    const { verdict } = await import("/static/bulwark/cooked.js");
    return cases.map(({ owed, waiting, now }) => owed.map((row) => verdict(row, waiting, now)));
}"""
KINDS = ("chicken", "beef", "beef mince", "salmon")
BEGAN_S = 1_800_000_000.0


def a_plan(kind: str, profile: str, *, equivalents: bool) -> Plan:
    process = (
        a_process()
        .food("meat", kind=kind)
        .step("heat", "meat", tools="pan", makes="fried")
        .step("serve", "fried")
        .serve("fried")
        .build()
    )
    return safety_plan(process, rule_profile(profile), House(cook_equivalents=equivalents))


def a_cook(plan: Plan, random: Random) -> tuple[list[Event], int]:
    """Readings about the limit, in time, with gaps, holds, a thermometer's error, pieces counted and food off the
    heat, and how many of them come before that."""
    limit_c = plan.cook_rules["fried"].holds[random.randrange(len(plan.cook_rules["fried"].holds))].temperature.c
    rows: list[tuple[str, dict[str, Any]]] = [
        ("hands_washed", {"learner": "AK", "scrub_s": 20}),
        ("on_heat", {"step": "1"}),
    ]
    if random.random() < 0.5:
        rows.append(("step_done", {"step": "1", "by": ["AK"], "goes_on": True}))
    ready = len(rows)
    for _ in range(random.randint(1, 9)):
        what = random.random()
        if what < 0.08:
            rows.append(("counted", {"food": "fried", "pieces": random.randint(1, 4)}))
        elif what < 0.2:
            rows.append(("off_heat", {"food": "fried"}))
        else:
            low = random.random() < 0.15
            core_c = limit_c - random.uniform(0.1, 9) if low else limit_c + random.choice((0, 0.5, 2, 6))
            typed = (round(f_from_c(core_c), 1), "F") if random.random() < 0.5 else (round(core_c, 1), "C")
            error_c = random.choice((0, 0, 0.4, 3))
            data = {"food": "fried", "piece": random.choice("123"), "error_c": error_c, "typed": typed}
            rows.append(("core_read", data | {"core_c": c_from_f(typed[0]) if typed[1] == "F" else typed[0]}))
    at_s, events = BEGAN_S, []
    for n, (kind, data) in enumerate(rows):
        at_s += random.choice((1, 5, 15, 40, 130, 240, 700))
        events.append(Event(id=f"e{n}", kind=kind, at_s=at_s, data=data))
    return events, ready


def by_server(plan: Plan, events: list[Event], now_s: float) -> State:
    return settle(fold(plan, ("AK",), events), now_s)


def stopped(state: State) -> bool:
    return any(row.rule in SERVED_UNPROVEN for row in would_breach(state, "2", ["AK"]))


def as_waiting(event: Event) -> dict[str, Any]:
    """An entry as the outbox keeps it."""
    data = dict(event.data)
    if event.kind == "core_read":
        data |= dict(zip(("value", "unit"), data.pop("typed"), strict=True))
    return {"kind": event.kind, "data": data, "happened_at": round(event.at_s * 1000)}


def a_case(random: Random) -> tuple[dict[str, Any], State, float] | None:
    plan = a_plan(
        random.choice(KINDS),
        random.choice(("anz", "canada", "uk", "us-foodservice", "us-home")),
        equivalents=random.random() < 0.3,
    )
    events, ready = a_cook(plan, random)
    cut = random.randint(ready, len(events))
    before = fold(plan, ("AK",), events[:cut])
    owed = as_json(lacking(before, would_breach(before, "2", ["AK"])), before)
    if not owed:
        return None
    now_s = events[-1].at_s + random.choice((0, 3, 60, 200))
    waiting = [as_waiting(event) for event in events[cut:]]
    case = {"owed": json.loads(owed), "waiting": waiting, "now": round(now_s * 1000)}
    return case, by_server(plan, events, now_s), now_s


def test_a_tablet_and_the_fold_say_the_same_of_the_same_readings(address: str, open_context: Opener) -> None:
    random = Random(17)
    cases = [case for _ in range(1500) if (case := a_case(random))]
    page = open_context(400, 300).new_page()
    page.goto(f"{address}/sign-in/")
    answers = page.evaluate(JUDGE, [case for case, _, _ in cases])

    said: dict[str, int] = {}
    careful = 0
    for (case, state, now_s), (answer,) in zip(cases, answers, strict=True):
        verdict = verdict_of(state, "fried", now_s)
        assert verdict is not None
        # A food that rests is proven by then, if the clock says so; a proof is not given back for coming off the heat.
        if state.food("fried").proof is None:
            assert (answer["status"], answer.get("pieces")) == (verdict.status, verdict.pieces), case
            assert answer.get("left_s", 0) == pytest.approx(verdict.remaining_s, abs=0.01), case
        assert answer["status"] != "reached" or not stopped(state), case
        careful += answer["status"] != "reached" and not stopped(state)
        said[answer["status"]] = said.get(answer["status"], 0) + 1
    assert len(cases) > 700
    assert careful < 0.02 * len(cases)
    assert min(said.get(status, 0) for status in ("reached", "hold", "confirm", "rest", "below", "too_few")) > 10, said


def test_what_is_heated_again_here_makes_what_was_read_before_unknown_and_too_hot_is_asked(
    address: str, open_context: Opener
) -> None:
    read = {"kind": "core_read", "data": {"food": "stew", "piece": "1", "value": 80, "unit": "C"}, "happened_at": 1000}
    again = {"kind": "step_done", "data": {"step": "warm", "by": ["AK"]}, "happened_at": 2000}
    hot = {**read, "data": {**read["data"], "value": 104}}
    row = {
        "food": "stew", "holds": [[75, 0]], "then_s": 0, "pieces": 1, "most": 1, "over_c": 1, "gap_s": 600,
        "readings": [], "off": None, "heats": ["warm"], "again": ["warm"], "hottest_c": 103,
    }  # fmt: skip
    cases = [{"owed": [row], "waiting": waiting, "now": 3000} for waiting in ([read], [read, again], [hot])]
    page = open_context(400, 300).new_page()
    page.goto(f"{address}/sign-in/")

    assert [answer["status"] for (answer,) in page.evaluate(JUDGE, cases)] == ["reached", "unknown", "unknown"]
