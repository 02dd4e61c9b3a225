"""Seals of lessons: the heads of their logs, signed with a key that no database knows."""

import hashlib
import json
from collections.abc import Iterable, Iterator, Sequence

from django.core.signing import Signer
from django.db import IntegrityError, transaction
from django.db.models import Max

from bulwark.lessons.models import LessonSeal, LogHead

# A bench's log is sealed on the way so often.
EVERY = 100
Heads = Sequence[Sequence[int | str]]


def signed(lesson_id: int, number: int, heads: Heads) -> str:
    """The signature of a seal."""
    text = json.dumps([lesson_id, number, [list(row) for row in heads]], separators=(",", ":"))
    return hashlib.sha256(Signer(salt="bulwark.seal").signature(text).encode()).hexdigest()


def seal(lesson_id: int) -> LessonSeal | None:
    """Seals the logs of a lesson as they stand; None where somebody else did at the same moment."""
    rows = LogHead.objects.filter(lesson_id=lesson_id)
    heads: list[list[int | str]] = [[row.bench_id, row.seq, row.hash] for row in rows]
    number = 1 + (LessonSeal.objects.filter(lesson_id=lesson_id).aggregate(last=Max("number"))["last"] or 0)
    try:
        with transaction.atomic():
            return LessonSeal.objects.create(
                lesson_id=lesson_id, number=number, heads=heads, signature=signed(lesson_id, number, heads)
            )
    except IntegrityError:
        return None


def last_seal(lesson_id: int) -> LessonSeal | None:
    """The last seal of a lesson."""
    return LessonSeal.objects.filter(lesson_id=lesson_id).last()


def broken_seals(hashes: dict[int, list[str]], seals: Iterable[LessonSeal]) -> tuple[list[tuple[int, int, str]], int]:
    """What seals say and the logs do not: (bench, place in its log, why). And how many seals there are, where all of
    them were signed with another key, as in a database restored to another machine: they say nothing then."""
    rows = list(seals)
    ours = [row for row in rows if signed(row.lesson_id, row.number, row.heads) == row.signature]
    if rows and not ours:
        return [], len(rows)
    return list(_breaks(hashes, rows, {row.pk for row in ours})), 0


def _breaks(hashes: dict[int, list[str]], rows: Iterable[LessonSeal], ours: set[int]) -> Iterator[tuple[int, int, str]]:
    held = dict[int, int]()
    for row in rows:
        if row.number != held.get(row.lesson_id, 0) + 1:
            yield 0, row.number, f"a seal of lesson {row.lesson_id} is missing"
        held[row.lesson_id] = row.number
        if row.pk not in ours:
            yield 0, row.number, f"a seal of lesson {row.lesson_id} is not signed with this server's key"
            continue
        for bench, seq, own in row.heads:
            found = hashes.get(bench, [])
            if seq and (len(found) < seq or found[seq - 1] != own):
                yield bench, seq, f"is not as the seal of lesson {row.lesson_id} has it"
