"""A whole lesson as a file that another installation reads back, with the chain of every bench and its head.

A zip of plain text: ``manifest.json`` (format, version, heads), ``lesson.json`` (what it was judged by), and for each
bench ``benches/<number>.jsonl``, an entry a line, its data in the very words that were hashed. The same lesson makes
the same bytes.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import io
import json
import zipfile
import zlib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from bulwark.lessons import adapters
from bulwark.lessons.context import context_hash
from bulwark.lessons.log import entry_hash, rows_of
from bulwark.lessons.models import Bench, Lesson, LessonPurge, LogHead
from bulwark.lessons.seals import last_seal
from foodsafety.lesson import Event as CoreEvent
from foodsafety.lesson import Plan, names_given
from foodsafety.quantities import CoreError

FORMAT, VERSION = "bulwark-lesson", 1
# No lesson is larger, packed or not.
MOST_BYTES, MOST_UNPACKED = 20 * 1024 * 1024, 200 * 1024 * 1024
_ENTRY = ("seq", "uuid", "kind", "data", "happened_at", "recorded_at", "recorded_by", "previous_hash", "hash")
_KEPT = (
    *("title", "place", "process", "pieces", "eaters", "variants", "profile", "house", "local_limits"),
    *("unconfirmed", "rehearsal", "pace", "length_min", "arranged", "planned", "shared", "teach_next"),
)
_TIMES = ("starts_at", "opened_at", "closed_at")

Entry = Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchFile:
    """A bench's log as it was: ``number`` is its own in the installation that wrote it, and part of every hash.
    ``context``: with which its chain begins; ``rules``: the digest of its rule profile; ``seq``, ``hash``: its head.
    ``purged``: of entries out of which names and words were taken, by their place, the hash of what they say now, and
    what its verdict rests on since."""

    number: int
    name: str
    learners: tuple[str, ...]
    dishes: tuple[str, ...]
    context: str
    rules: str
    seq: int
    hash: str
    entries: tuple[Entry, ...]
    purged: Mapping[str, str] = field(default_factory=dict)
    purged_context: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LessonFile:
    """A lesson as it was. ``seal``: the heads as the server that wrote it has signed them last."""

    number: int
    lesson: Mapping[str, Any]
    benches: tuple[BenchFile, ...]
    seal: Mapping[str, Any]
    signed: tuple[Mapping[str, Any], ...] = ()

    @property
    def key(self) -> str:
        """What makes two files the same lesson: where it was written, by the heads of its chains; as a digest, for a
        file may name any number of benches."""
        told = json.dumps([self.number, [[row.number, row.context] for row in self.benches]])
        return hashlib.sha256(told.encode()).hexdigest()


# --- out --------------------------------------------------------------------------------------------------


def lesson_file(lesson: Lesson, signed: Sequence[Mapping[str, Any]] = ()) -> LessonFile:
    """A lesson with all its logs, as it stands."""
    entries: dict[int, list[Entry]] = {}
    for bench, entry in rows_of(lesson.pk):
        entries.setdefault(bench, []).append(entry)
    heads = {row.bench_id: row for row in LogHead.objects.filter(lesson_id=lesson.pk)}
    rows = lesson.benches.prefetch_related("learners")
    taken = LessonPurge.objects.filter(lesson_id=lesson.pk).first()
    benches = tuple(_bench_file(row, heads.get(row.pk), entries.get(row.pk, []), taken) for row in rows)
    seal = last_seal(lesson.pk)
    told = {"number": seal.number, "heads": seal.heads, "signature": seal.signature} if seal is not None else {}
    values = {name: getattr(lesson, name) for name in _KEPT}
    times = {name: at.isoformat() if (at := getattr(lesson, name)) is not None else None for name in _TIMES}
    return LessonFile(number=lesson.pk, lesson={**values, **times}, benches=benches, seal=told, signed=tuple(signed))


def _bench_file(bench: Bench, head: LogHead | None, entries: list[Entry], taken: LessonPurge | None) -> BenchFile:
    return BenchFile(
        number=bench.pk,
        name=bench.name,
        learners=tuple(row.initials for row in bench.learners.all()),
        dishes=tuple(bench.dishes),
        context=head.context if head else "",
        rules=head.rules if head else "",
        seq=head.seq if head else 0,
        hash=head.hash if head else "",
        entries=tuple(entries),
        purged={str(seq): now for number, seq, _was, now in taken.entries if number == bench.pk} if taken else {},
        purged_context=taken.contexts.get(str(bench.pk), "") if taken else "",
    )


def zip_of(file: LessonFile) -> bytes:
    """The file as bytes."""
    manifest = {
        "format": FORMAT,
        "version": VERSION,
        "lesson": file.number,
        "seal": dict(file.seal),
        "signed": [dict(row) for row in file.signed],
        "benches": [_head(row) for row in file.benches],
    }
    parts = {"manifest.json": _text(manifest), "lesson.json": _text(file.lesson)}
    for row in file.benches:
        lines = [json.dumps({name: entry[name] for name in _ENTRY}, ensure_ascii=False) for entry in row.entries]
        parts[f"benches/{row.number}.jsonl"] = "".join(f"{line}\n" for line in lines)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, text in parts.items():
            packed.writestr(zipfile.ZipInfo(name, (2020, 1, 1, 0, 0, 0)), text, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def _head(row: BenchFile) -> dict[str, Any]:
    return {
        "number": row.number,
        "name": row.name,
        "learners": list(row.learners),
        "dishes": list(row.dishes),
        "context": row.context,
        "rules": row.rules,
        "seq": row.seq,
        "hash": row.hash,
        "purged": dict(row.purged),
        "purged_context": row.purged_context,
    }


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, indent=1, sort_keys=True) + "\n"


# --- in ---------------------------------------------------------------------------------------------------


def file_of(data: bytes) -> LessonFile:
    """A file read back. Raises CoreError for what is none of ours, is newer than this program, or lacks a part."""
    parts = _unpacked(data)
    manifest = _json(parts, "manifest.json")
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise CoreError("file", "no_lesson_file")
    if manifest.get("version") != VERSION:
        raise CoreError("file", "newer_lesson_file", version=str(manifest.get("version"))[:10], ours=VERSION)
    try:
        return LessonFile(
            number=int(manifest["lesson"]),
            lesson=dict(_json(parts, "lesson.json")),
            benches=tuple(_bench(row, parts) for row in manifest["benches"]),
            seal=dict(manifest["seal"]),
            signed=tuple(dict(row) for row in manifest["signed"]),
        )
    except (ArithmeticError, AttributeError, KeyError, RecursionError, TypeError, ValueError) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("file", "broken_lesson_file") from wrong


def _unpacked(data: bytes) -> dict[str, bytes]:
    if len(data) > MOST_BYTES:
        raise CoreError("file", "too_long", count=len(data), most=MOST_BYTES)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            rows = packed.infolist()
            if sum(row.file_size for row in rows) > MOST_UNPACKED or len(rows) > 200:
                raise CoreError("file", "too_long", count=sum(row.file_size for row in rows), most=MOST_UNPACKED)
            return {row.filename: packed.read(row) for row in rows}
    except (zipfile.BadZipFile, OSError, EOFError, NotImplementedError, RuntimeError, ValueError, zlib.error) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("file", "no_lesson_file") from wrong


def _json(parts: Mapping[str, bytes], name: str) -> Any:
    try:
        return json.loads(parts[name])
    except (KeyError, ValueError, RecursionError) as wrong:
        raise CoreError("file", "broken_lesson_file") from wrong


def _bench(row: Mapping[str, Any], parts: Mapping[str, bytes]) -> BenchFile:
    # A text may hold signs that a reader of lines takes for an end of one: only ours is.
    lines = [line for line in parts[f"benches/{int(row['number'])}.jsonl"].decode().split("\n") if line]
    entries = tuple({name: json.loads(line)[name] for name in _ENTRY} for line in lines)
    return BenchFile(
        number=int(row["number"]),
        name=str(row["name"]),
        learners=tuple(str(name) for name in row["learners"]),
        dishes=tuple(str(name) for name in row["dishes"]),
        context=str(row["context"]),
        rules=str(row["rules"]),
        seq=int(row["seq"]),
        hash=str(row["hash"]),
        entries=entries,
        purged={str(seq): str(now) for seq, now in dict(row["purged"]).items()},
        purged_context=str(row["purged_context"]),
    )


# --- proven, and read -------------------------------------------------------------------------------------


def breaks_in(file: LessonFile) -> list[tuple[str, int, str]]:
    """What does not hold: (bench, place in its log, why). Every hash is made again from what the entry says."""
    return [row for bench in file.benches for row in _breaks(file, bench)]


def _breaks(file: LessonFile, bench: BenchFile) -> Iterator[tuple[str, int, str]]:
    if bench.context and _context(file, bench) not in (bench.context, bench.purged_context):
        yield bench.name, 0, "context"
    before = bench.context
    for n, row in enumerate(bench.entries, start=1):
        if row["seq"] != n:
            yield bench.name, n, "missing"
        elif row["previous_hash"] != before:
            yield bench.name, n, "link"
        if not _holds(bench, row):
            yield bench.name, n, "changed"
        before = row["hash"]
    if (len(bench.entries), before) != (bench.seq, bench.hash or bench.context):
        yield bench.name, len(bench.entries), "head"


def _holds(bench: BenchFile, row: Entry) -> bool:
    """True if an entry makes its own hash again, or says what the purge of its lesson has it say now: its words may be
    gone, its place in the chain is not."""
    fields = ("uuid", "kind", "data", "happened_at", "recorded_at", "recorded_by")
    if entry_hash(row["previous_hash"], bench.number, row["seq"], *(str(row[f]) for f in fields)) == row["hash"]:
        return True
    return hashlib.sha256(str(row["data"]).encode()).hexdigest() == bench.purged.get(str(row["seq"]))


def _context(file: LessonFile, bench: BenchFile) -> str:
    as_row = Bench(name=bench.name, dishes=list(bench.dishes))
    return context_hash(as_lesson(file), as_row, bench.learners, bench.rules)


def as_lesson(file: LessonFile) -> Lesson:
    """The lesson of a file as a row that is in no table. Raises CoreError where it lacks something, or holds something
    of another sort than a lesson does."""
    try:
        values = {name: _as_kept(name, file.lesson[name]) for name in _KEPT}
        times = {name: _moment(at) if (at := file.lesson[name]) or name == "starts_at" else None for name in _TIMES}
    except (KeyError, TypeError, ValueError) as wrong:
        raise CoreError("file", "broken_lesson_file") from wrong
    return Lesson(pk=0, **values, **times)


def _as_kept(name: str, value: Any) -> Any:
    # A new lesson has something of the right sort everywhere; only its process it must be given.
    sort = dict if name == "process" else type(getattr(Lesson(), name))
    if type(value) is not sort or (sort is str and "\x00" in value):
        raise TypeError(name)
    return value


def _moment(text: str) -> dt.datetime:
    at = dt.datetime.fromisoformat(text)
    # The first and the last year there is have no time in some zone.
    if at.tzinfo is None or not dt.MINYEAR < at.year < dt.MAXYEAR:
        raise ValueError(text)
    return at


def plan_in(file: LessonFile, bench: BenchFile) -> Plan:
    """What a bench of a file was judged by, in the names it gave its foods. Raises CoreError for a process that cannot
    be read."""
    lesson = as_lesson(file)
    names = names_given(adapters.to_plan(lesson, dishes=bench.dishes).process, events_in(bench))
    order = dict(lesson.planned.get("order", {})).get(bench.name, ())
    return adapters.to_plan(lesson, names=names.now, dishes=bench.dishes, order=order)


def events_in(bench: BenchFile) -> list[CoreEvent]:
    """A bench's entries as the core takes them. Raises CoreError for an entry that is none."""
    try:
        return [
            CoreEvent(
                id=str(row["uuid"]),
                kind=str(row["kind"]),
                at_s=dt.datetime.fromisoformat(row["happened_at"]).replace(tzinfo=dt.UTC).timestamp(),
                data=json.loads(row["data"]),
                by=str(row["recorded_by"]),
            )
            for row in bench.entries
        ]
    except (TypeError, ValueError) as wrong:
        raise CoreError("file", "broken_lesson_file") from wrong
