"""What the pad shows: for each bench what to look at now, and what was seen of whom."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.utils import timezone

from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench
from bulwark.pad import selectors, wording
from bulwark.pad.models import Assistant
from foodsafety.lesson import SEEN, State, next_step, to_watch


def pad_page(assistant: Assistant) -> dict[str, Any]:
    """Everything the pad needs."""
    benches = selectors.benches_of(assistant)
    lessons.read_logs(benches)
    return {
        "assistant": assistant,
        "lesson": assistant.lesson,
        "benches": [_bench(bench) for bench in benches],
        "now": timezone.localtime(lessons.lesson_now(assistant.lesson)),
    }


def _bench(bench: Bench) -> dict[str, Any]:
    state, _seq = lessons.bench_state(bench)
    what, *then = to_watch(state)
    step = next_step(state)
    titles = lessons.step_titles(bench.lesson)
    return {
        "bench": bench,
        "what": what,
        "step": titles.get(step.id, "") if step else "",
        "question": wording.question(what),
        "wrong": wording.is_wrong(what),
        "shout": wording.shout(what),
        "then": [wording.question(name) for name in then],
        "people": [_person(state, what, name) for name in state.present],
    }


def _person(state: State, what: str, name: str) -> dict[str, Any]:
    row = state.watched.get((what, name))
    at = timezone.localtime(dt.datetime.fromtimestamp(row.at_s, tz=dt.UTC)) if row else None
    return {
        "name": name,
        "seen": row.seen if row else "",
        "says": wording.seen(row.seen) if row else "",
        "at": at,
        "choices": [(key, wording.seen(key)) for key in SEEN],
    }
