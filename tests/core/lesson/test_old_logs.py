"""Logs written before the core was rebuilt still fold, to the same wall."""

import json
from pathlib import Path
from typing import Any

import pytest

from foodsafety.lesson import ENTRIES, AtBench, Event, bricks, fold, process_from_log, read_entry
from tests.builders import LEARNERS, koftas

FILE = Path(__file__).resolve().parents[2] / "data/old_logs.json"
LOGS: dict[str, Any] = json.loads(FILE.read_text(encoding="utf-8"))


def events(slip: str) -> list[Event]:
    return [Event(id=i, kind=kind, at_s=at_s, data=data) for i, kind, at_s, data in LOGS[slip]["events"]]


@pytest.mark.parametrize("slip", LOGS)
def test_it_folds_to_the_wall_it_had(slip: str) -> None:
    rows, told = events(slip), LOGS[slip]
    state = fold(koftas(), LEARNERS, rows)

    assert {brick.control.id: brick.status for brick in bricks(state, rows[-1].at_s)} == told["bricks"]
    assert [[i.finding.rule, i.finding.food] for i in state.incidents] == told["incidents"]
    assert sorted(state.kept) == told["kept"]
    assert not [n for n in state.noted if n.finding.rule == "entry-not-understood"]


@pytest.mark.parametrize("slip", LOGS)
def test_it_is_told_again_as_a_process(slip: str) -> None:
    told = process_from_log(koftas(), LEARNERS, events(slip))

    assert told.process.steps
    assert told.unproven == ()


def test_every_old_entry_is_read_and_its_junk_left_out() -> None:
    bench = AtBench(koftas(), LEARNERS)
    for row in events("none"):
        entry = read_entry(row.kind, {**row.data, "junk": "x" * 1000, "entered_by": "old tablet"}, bench)
        assert entry.kind in ENTRIES
        assert "junk" not in entry.stored()
