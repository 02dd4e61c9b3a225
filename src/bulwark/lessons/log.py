"""Proving the logs, outside the database that wrote them: every hash again, every head, every context."""

import datetime as dt
import hashlib
import json
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

from django.db import connection

from bulwark.lessons.context import context_hash
from bulwark.lessons.models import Bench, LessonSeal, LogHead
from bulwark.lessons.purging import Purged, purged
from bulwark.lessons.seals import broken_seals
from foodsafety.rules import profile_digest

_ROWS = """
SELECT bench_id, seq, uuid::text, kind, data::text, happened_at, recorded_at, recorded_by, previous_hash, hash
FROM lessons_event WHERE %s::bigint IS NULL OR bench_id = %s ORDER BY bench_id, seq
"""
_OF_LESSON = """
SELECT bench_id, seq, uuid::text, kind, data::text, happened_at, recorded_at, recorded_by, previous_hash, hash
FROM lessons_event JOIN lessons_bench ON lessons_bench.id = bench_id
WHERE lesson_id = %s ORDER BY lessons_bench.position, bench_id, seq
"""


@dataclass(slots=True)
class Proof:
    """What was looked at and what does not hold: (bench, place in its log, why). No breaks, but said: ``old`` are
    benches opened before contexts were kept, ``other_rules`` those whose rule profile the program has changed since,
    ``foreign_seals`` how many seals were signed with another key, where all of them were."""

    checked: int = 0
    broken: list[tuple[int, int, str]] = field(default_factory=list)
    old: list[int] = field(default_factory=list)
    other_rules: list[int] = field(default_factory=list)
    foreign_seals: int = 0
    # Entries out of which names and words were taken, as a signed purge says; purges signed with another key.
    purged: int = 0
    foreign_purges: int = 0


def _stamp(moment: dt.datetime) -> str:
    return moment.astimezone(dt.UTC).strftime("%Y-%m-%dT%H:%M:%S.%f")


def entry_hash(
    previous: str, bench: int, seq: int, uuid: str, kind: str, data: str, happened: str, recorded: str, by: str
) -> str:
    """The hash of an entry: of all that it says, its data as the database writes it, and of the hash before it. The
    database makes the same (bulwark_event_chain)."""
    text = "\n".join([previous, str(bench), str(seq), uuid, kind, data, happened, recorded, by])
    return hashlib.sha256(text.encode()).hexdigest()


def rows_of(lesson_id: int) -> Iterator[tuple[int, dict[str, str | int]]]:
    """Every entry of a lesson's benches in order, as it was hashed: (bench, entry)."""
    with connection.cursor() as cursor:
        cursor.execute(_OF_LESSON, [lesson_id])
        for bench, seq, uuid, kind, data, happened, recorded, by, previous, own in cursor:
            yield (
                bench,
                {
                    "seq": seq,
                    "uuid": uuid,
                    "kind": kind,
                    "data": data,
                    "happened_at": _stamp(happened),
                    "recorded_at": _stamp(recorded),
                    "recorded_by": by,
                    "previous_hash": previous,
                    "hash": own,
                },
            )


def prove(bench_id: int | None = None, *, kept: Iterable[dict[str, Any]] = ()) -> Proof:
    """Looks at the logs of all benches or of one. ``kept`` are heads that were written to a file before
    (``heads``): what they name must still be there, as it was."""
    proof, taken = Proof(), purged()
    proof.foreign_purges = taken.foreign
    proof.broken += [(0, lesson, "a purge is not signed with this server's key") for lesson in taken.forged]
    heads = {row.bench_id: row for row in LogHead.objects.all() if bench_id in (None, row.bench_id)}
    hashes = _chains(bench_id, heads, proof, taken)
    for head in heads.values():
        _head(head, hashes.get(head.bench_id, []), proof)
    for bench in hashes.keys() - heads.keys():
        proof.broken.append((bench, len(hashes[bench]), "its head is missing"))
    _contexts(heads, proof, taken)
    if bench_id is None:
        breaks, proof.foreign_seals = broken_seals(hashes, LessonSeal.objects.all())
        proof.broken += breaks
    for row in kept:
        if bench_id in (None, row["bench"]):
            _kept(row, hashes, proof)
    return proof


def _chains(bench_id: int | None, heads: dict[int, LogHead], proof: Proof, taken: Purged) -> dict[int, list[str]]:
    """The hashes of every bench's entries in order; what breaks a chain is noted."""
    hashes: dict[int, list[str]] = {}
    with connection.cursor() as cursor:
        cursor.execute(_ROWS, [bench_id, bench_id])
        for bench, seq, uuid, kind, data, happened, recorded, by, previous, own in cursor:
            proof.checked += 1
            row = hashes.setdefault(bench, [])
            before = row[-1] if row else (heads[bench].context if bench in heads else previous)
            own_hash = entry_hash(previous, bench, seq, uuid, kind, data, _stamp(happened), _stamp(recorded), by)
            if seq != len(row) + 1:
                proof.broken.append((bench, seq, f"follows {len(row)}: an entry is missing"))
                row += [""] * (seq - 1 - len(row))
            elif previous != before:
                proof.broken.append((bench, seq, "does not link to the entry before"))
            if own_hash != own and hashlib.sha256(data.encode()).hexdigest() == taken.entries.get((bench, seq)):
                proof.purged += 1
            elif own_hash != own:
                proof.broken.append((bench, seq, "was changed after it was recorded"))
            row.append(own)
    return hashes


def _head(head: LogHead, hashes: list[str], proof: Proof) -> None:
    last = hashes[-1] if hashes else head.context
    if len(hashes) < head.seq:
        proof.broken.append((head.bench_id, len(hashes), f"ends too soon: its head says {head.seq} entries"))
    elif len(hashes) > head.seq or last != head.hash:
        proof.broken.append((head.bench_id, len(hashes), "does not end as its head says: it was written again"))


def _contexts(heads: dict[int, LogHead], proof: Proof, taken: Purged) -> None:
    """What each verdict rests on must be what it rested on when the lesson was opened."""
    benches = Bench.objects.select_related("lesson").prefetch_related("learners").in_bulk(list(heads))
    for head in heads.values():
        bench = benches.get(head.bench_id)
        if bench is None or bench.lesson_id != head.lesson_id:
            proof.broken.append((head.bench_id, 0, f"is missing, with its part of lesson {head.lesson_id}"))
        elif not head.context:
            proof.old.append(head.bench_id)
        else:
            learners = [learner.initials for learner in bench.learners.all()]
            now = context_hash(bench.lesson, bench, learners, head.rules)
            if now not in (head.context, taken.contexts.get(head.bench_id)):
                proof.broken.append(
                    (head.bench_id, 0, "was judged by something else: recipe, limits or people changed")
                )
            if profile_digest(bench.lesson.profile) != head.rules:
                proof.other_rules.append(head.bench_id)


def _kept(row: dict[str, Any], hashes: dict[int, list[str]], proof: Proof) -> None:
    bench, seq, found = row["bench"], row["seq"], hashes.get(row["bench"], [])
    if seq and (len(found) < seq or found[seq - 1] != row["hash"]):
        proof.broken.append((bench, seq, "is not as the kept file has it"))
    head = LogHead.objects.filter(pk=bench).first()
    if head is None or head.context != row["context"]:
        proof.broken.append((bench, 0, "its beginning is not as the kept file has it"))


def heads() -> Iterator[str]:
    """Every head as a line of JSON, for a file that is kept elsewhere."""
    for row in LogHead.objects.all():
        told = {"bench": row.bench_id, "lesson": row.lesson_id, "context": row.context, "seq": row.seq}
        yield json.dumps({**told, "hash": row.hash, "at": row.at.isoformat()})
