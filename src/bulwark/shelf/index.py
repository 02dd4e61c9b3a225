"""What is kept, to be looked in: a row for each part, read from the logs and again when one goes on. Thousands of parts
are one query; their histories stay in the logs."""

from __future__ import annotations

import datetime as dt
import hashlib
from functools import cache
from pathlib import Path

from django.db import connection, transaction
from django.db.models import Exists, F, OuterRef, Q, QuerySet
from django.utils import timezone

import foodsafety
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench
from bulwark.people.actors import Actor
from bulwark.shelf import stock
from bulwark.shelf.models import Shelved, ShelvedUpTo

# So many logs are read at once.
_AT_ONCE = 100


@cache
def program() -> str:
    """Which program judges: another one judges everything anew."""
    digest = hashlib.sha256()
    root = Path(foodsafety.__file__).parent
    for path in sorted(path for path in root.rglob("*") if path.suffix in (".py", ".toml", ".csv")):
        digest.update(path.read_bytes())
    return digest.hexdigest()


def shelved(actor: Actor) -> QuerySet[Shelved]:
    """Every part that is kept and not gone, what is over first, then the first to use."""
    keep_up(actor)
    # Without their lessons: each has its whole recipe with it.
    return Shelved.objects.filter(bench__in=lessons.benches_for(actor).values("pk")).select_related("bench")


def items_of(actor: Actor, now: dt.datetime | None = None, **where: str) -> list[stock.Item]:
    """Everything that is kept and not gone, or what of it stands at a place, with its history."""
    keep_up(actor)
    there = Shelved.objects.filter(**where).values("bench")
    benches = list(lessons.benches_for(actor).filter(pk__in=there))
    lessons.read_logs(benches)
    rows = stock.items_at(benches, now or timezone.now())
    return [row for row in rows if all(getattr(row, name) == value for name, value in where.items())]


def keep_up(actor: Actor) -> None:
    """Reads the logs that went on, or in which time alone has changed something."""
    behind = list(_behind(actor))
    for at in range(0, len(behind), _AT_ONCE):
        _read(actor, behind[at : at + _AT_ONCE])


def _behind(actor: Actor) -> QuerySet[Bench, int]:
    stale = Q(shelved=None) | ~Q(shelved__seq=F("head")) | Q(shelved__again_at__lte=timezone.now())
    # What is gone is gone, whichever program judged it.
    stale |= Q(~Q(shelved__program=program()), Exists(Shelved.objects.filter(bench=OuterRef("pk"))))
    return lessons.benches_that_keep(actor).filter(stale).order_by("pk").values_list("pk", flat=True)


@transaction.atomic
def _read(actor: Actor, pks: list[int]) -> None:
    """Some benches' rows, made anew. Two that read at once wait for each other."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtext('shelved'))")
    benches = list(lessons.benches_for(actor).filter(pk__in=pks))
    lessons.read_logs(benches)
    now, rows, marks = timezone.now(), list[Shelved](), list[ShelvedUpTo]()
    for bench in benches:
        items = stock.items_at([bench], now)
        rows += [_row(item) for item in items]
        _, seq = lessons.bench_state(bench)
        marks.append(ShelvedUpTo(bench=bench, seq=seq, program=program(), again_at=_again(items, now)))
    Shelved.objects.filter(bench__in=pks).delete()
    Shelved.objects.bulk_create(rows)
    ShelvedUpTo.objects.filter(bench__in=pks).delete()
    ShelvedUpTo.objects.bulk_create(marks)


def _again(items: list[stock.Item], now: dt.datetime) -> dt.datetime | None:
    """When these must be read again though nothing is entered: at once while one stands out, when a reading is due
    while one cools."""
    if any(item.row.place == "out" for item in items):
        return now
    due = [row.at_s for item in items if item.chilling for row in item.chilling.due]
    return dt.datetime.fromtimestamp(min(due), tz=dt.UTC) if due else None


def _row(item: stock.Item) -> Shelved:
    return Shelved(
        bench=item.bench,
        food=item.food,
        part=item.part,
        place=item.place,
        store=item.store,
        portions=item.portions,
        raw=item.raw,
        state=item.state,
        until=item.until,
        by_the_hour=item.by_the_hour,
        made_at=item.made_at,
        contains=list(item.contains),
        due=[[row.limit.value, row.limit.unit, row.at_s] for row in (item.chilling.due if item.chilling else ())],
        container=item.row.box.container if item.row.box else "",
    )


def is_over(now: dt.datetime) -> Q:
    """What may not be eaten any more, whatever else is known of it."""
    return Q(until=None, state="") | Q(until__lte=now)


def ends_today(now: dt.datetime) -> Q:
    """What must be used today."""
    midnight = timezone.localtime(now).replace(hour=0, minute=0, second=0, microsecond=0) + dt.timedelta(days=1)
    return Q(until__gt=now, until__lt=midnight, state="")


def good_on(actor: Actor, day_end: dt.datetime) -> QuerySet[Shelved]:
    """What will still be good then, as far as its history has no hole and it does not cool."""
    return shelved(actor).filter(until__gte=day_end, state="")


def to_use_up(actor: Actor, before: dt.datetime) -> QuerySet[Shelved]:
    """What is good now and over by then: used first, or thrown away."""
    return shelved(actor).filter(until__gt=timezone.now(), until__lt=before, state="", raw=False)
