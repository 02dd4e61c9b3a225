"""The log: append-only, one entry for one id, a chain that can be proved."""

import threading
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from io import StringIO

import pytest
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from django.db.utils import IntegrityError
from django.utils import timezone

from bulwark.lessons import selectors, services
from bulwark.lessons.log import broken_links
from bulwark.lessons.models import Event
from bulwark.people.actors import bench_actor
from foodsafety.quantities import CoreError
from tests.web.conftest import Hostel


@contextmanager
def guard_off() -> Iterator[None]:
    """What somebody with the database's own password could do."""
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("ALTER TABLE lessons_event DISABLE TRIGGER USER")
        yield
        cursor.execute("ALTER TABLE lessons_event ENABLE TRIGGER USER")


@pytest.mark.parametrize(
    "statement",
    ["UPDATE lessons_event SET kind = 'called'", "DELETE FROM lessons_event", "TRUNCATE lessons_event CASCADE"],
)
def test_the_database_refuses_to_change_an_entry(hostel: Hostel, statement: str) -> None:
    hostel.open().says("fridge_read", core_c=4)

    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        with pytest.raises(IntegrityError, match="append-only"), transaction.atomic():
            cursor.execute(statement)

    assert Event.objects.get().kind == "fridge_read"


def test_posting_twice_is_one_entry(hostel: Hostel) -> None:
    hostel.open()
    event_id, now = uuid.uuid4(), timezone.now()

    rows = [
        services.record_event(
            bench=hostel.puffin, by=hostel.actor, kind="fridge_read", data={"core_c": 4}, event_id=event_id, at=now
        )
        for _ in range(2)
    ]

    assert [(row.seq, row.again) for row in rows] == [(1, False), (None, True)]
    assert Event.objects.count() == 1


def test_the_same_id_at_another_bench_is_another_entry(hostel: Hostel) -> None:
    hostel.open()
    event_id = uuid.uuid4()

    for bench in (hostel.puffin, hostel.gannet):
        services.record_event(
            bench=bench, by=hostel.actor, kind="called", data={}, event_id=event_id, at=timezone.now()
        )

    assert Event.objects.count() == 2


def test_a_whole_chain_holds(hostel: Hostel) -> None:
    hostel.open()
    for core_c in (4, 4.5, 3.25):
        hostel.says("fridge_read", core_c=core_c)
        hostel.says("fridge_read", hostel.gannet, core_c=core_c)

    assert broken_links() == (6, [])


@pytest.mark.parametrize(
    ("statement", "why"),
    [
        ("""UPDATE lessons_event SET data = '{"core_c": 4}' WHERE seq = 2""", "was changed after it was recorded"),
        ("UPDATE lessons_event SET happened_at = happened_at + interval '1 s' WHERE seq = 2", "was changed"),
        ("DELETE FROM lessons_event WHERE seq = 2", "an entry is missing"),
        ("UPDATE lessons_event SET previous_hash = repeat('0', 64) WHERE seq = 2", "does not link"),
    ],
    ids=["data", "time", "removed", "link"],
)
def test_verify_log_finds_what_was_done_behind_its_back(hostel: Hostel, statement: str, why: str) -> None:
    hostel.open()
    for core_c in (9, 8, 7):
        hostel.says("fridge_read", core_c=core_c)
    with guard_off(), connection.cursor() as cursor:
        cursor.execute(statement)

    err = StringIO()
    with pytest.raises(CommandError):
        call_command("verify_log", stderr=err)
    assert why in err.getvalue()


def test_verify_log_says_how_many_entries_hold(hostel: Hostel) -> None:
    hostel.open().says("called")
    out = StringIO()

    call_command("verify_log", stdout=out)

    assert out.getvalue().strip() == "1 entries hold"


@pytest.mark.django_db(transaction=True)
def test_two_tablets_at_once_take_different_places() -> None:
    hostel = Hostel().open()

    def post() -> None:
        try:
            for _ in range(10):
                hostel.says("called")
        finally:
            connection.close()

    threads = [threading.Thread(target=post) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()

    assert sorted(Event.objects.values_list("seq", flat=True)) == list(range(1, 41))
    assert broken_links() == (40, [])


def test_a_voided_entry_stays_in_the_log_and_leaves_the_state(hostel: Hostel) -> None:
    hostel.open()
    wrong = hostel.says("fridge_read", core_c=40)
    selectors.bench_state(hostel.puffin)
    hostel.says("voided", event=str(wrong), reason="another fridge")

    state, seq = selectors.bench_state(hostel.puffin)
    assert (state.fridge, seq, Event.objects.count()) == ((), 2, 2)


def test_an_entry_that_arrives_late_is_folded_where_it_happened(hostel: Hostel) -> None:
    hostel.open()
    early = timezone.now()
    hostel.says("step_done", step="mix", by=["AK"])
    selectors.bench_state(hostel.puffin)
    services.record_event(
        bench=hostel.puffin,
        by=hostel.actor,
        kind="hands_washed",
        data={"learner": "AK", "scrub_s": 20},
        event_id=uuid.uuid4(),
        at=early,
    )

    state, _ = selectors.bench_state(hostel.puffin)
    assert "raw_poultry" in state.surfaces["AK"]


def test_only_an_educator_voids(hostel: Hostel) -> None:
    hostel.open()
    bench = selectors.bench_known(hostel.puffin.pk)

    with pytest.raises(CoreError, match="kind"):
        services.record_event(
            bench=bench,
            by=bench_actor(bench.pk),
            kind="voided",
            data={"event": "x", "reason": "y"},
            event_id=uuid.uuid4(),
            at=timezone.now(),
        )
