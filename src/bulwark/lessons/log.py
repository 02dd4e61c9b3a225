"""Checking the log's hash chain, outside the database that wrote it."""

import datetime as dt
import hashlib

from django.db import connection

_ROWS = """
SELECT bench_id, seq, uuid::text, kind, data::text, happened_at, recorded_at, recorded_by, previous_hash, hash
FROM lessons_event WHERE %s::bigint IS NULL OR bench_id = %s ORDER BY bench_id, seq
"""


def _stamp(moment: dt.datetime) -> str:
    return moment.astimezone(dt.UTC).strftime("%Y-%m-%dT%H:%M:%S.%f")


def broken_links(bench_id: int | None = None) -> tuple[int, list[tuple[int, int, str]]]:
    """How many entries were checked, and (bench, place, why) of each that does not hold.

    The end of a chain cut off whole cannot be seen from the chain itself; compare the count with
    a printed record.
    """
    broken: list[tuple[int, int, str]] = []
    checked = 0
    last: dict[int, tuple[int, str]] = {}
    with connection.cursor() as cursor:
        cursor.execute(_ROWS, [bench_id, bench_id])
        for bench, seq, uuid, kind, data, happened, recorded, by, previous, own in cursor:
            checked += 1
            before_seq, before_hash = last.get(bench, (0, ""))
            text = "\n".join([previous, str(bench), str(seq), uuid, kind, data, _stamp(happened), _stamp(recorded), by])
            if seq != before_seq + 1:
                broken.append((bench, seq, f"follows {before_seq}: an entry is missing"))
            elif previous != before_hash:
                broken.append((bench, seq, "does not link to the entry before"))
            if hashlib.sha256(text.encode()).hexdigest() != own:
                broken.append((bench, seq, "was changed after it was recorded"))
            last[bench] = (seq, own)
    return checked, broken
