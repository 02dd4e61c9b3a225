"""The one way into the log: what is added, and what stands in the way of it."""

import datetime as dt
import json
import uuid
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

import psycopg
from django.db import connection

from bulwark.lessons.models import Bench, Event
from bulwark.lessons.seals import EVERY, seal
from bulwark.lessons.selectors import LATE_WITHIN, forget_open_bench, is_sent_away
from bulwark.people.actors import Actor

LessonTrouble = Literal["begun", "closed", "not_open", "sent_away", "long_over", "no_stop", "is_half", "at_two_benches"]


class LessonError(Exception):
    """Something about a lesson that stands in the way; ``code`` says what."""

    def __init__(self, code: LessonTrouble) -> None:
        super().__init__(code)
        self.code = code


@dataclass(frozen=True, slots=True)
class Recorded:
    """Where an entry stands in the log; ``again`` if it was there already."""

    seq: int | None
    again: bool


_INSERT = """
INSERT INTO lessons_event (uuid, bench_id, seq, kind, data, happened_at, recorded_at, recorded_by, previous_hash, hash)
SELECT %s::uuid, %s::bigint, 1, %s::text, %s::jsonb, %s::timestamptz, now(), %s::text, '', ''
FROM lessons_lesson WHERE id = %s::bigint
    AND (closed_at IS NULL OR %s::boolean OR (%s::timestamptz <= closed_at AND now() < closed_at + %s::interval))
    AND NOT EXISTS (SELECT FROM lessons_device WHERE id = %s::bigint AND sent_away_at IS NOT NULL)
ON CONFLICT (bench_id, uuid) DO NOTHING RETURNING seq
"""


def append(
    bench: Bench,
    event_id: uuid.UUID,
    kind: str,
    data: Mapping[str, Any],
    at: dt.datetime,
    by: Actor,
    *,
    really: dt.datetime,
) -> Recorded:
    """The INSERT itself; place in the chain, time and hash are the database's to set.

    Whether the lesson is still open, or was when this happened, is asked in the same statement, so
    that no entry of a bench can slip in behind its end; so is whether its device may still speak. What the program
    tells other benches goes where the entry went that it tells of.
    """
    row: list[Any] = [event_id, bench.pk, kind, json.dumps(data), at, by.label]
    row += [bench.lesson_id, by.kind in ("educator", "program"), really, LATE_WITHIN, by.device_id]
    connection.ensure_connection()
    # Straight to the driver, which keeps the statement prepared on each of the pool's connections.
    with connection.wrap_database_errors, psycopg.Cursor(connection.connection) as cursor:
        placed = cursor.execute(_INSERT, row, prepare=True).fetchone()
    if placed:
        if placed[0] % EVERY == 0:
            seal(bench.lesson_id)
        return Recorded(placed[0], again=False)
    if Event.objects.filter(bench=bench, uuid=event_id).exists():
        return Recorded(None, again=True)
    forget_open_bench(bench.pk)
    raise LessonError("sent_away" if is_sent_away(by) else "closed")
