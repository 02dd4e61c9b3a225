"""The log: append-only, one entry for one id, a chain that can be proved."""

import threading
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from io import StringIO
from pathlib import Path
from typing import Any
from unittest.mock import patch

import pytest
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from django.db.utils import IntegrityError, ProgrammingError
from django.utils import timezone

from bulwark.demo.management.commands.prepare import GRANTS
from bulwark.lessons import selectors, services
from bulwark.lessons.context import context_hash
from bulwark.lessons.log import prove
from bulwark.lessons.models import Event, Lesson, LessonSeal
from bulwark.people.actors import bench_actor
from foodsafety.quantities import CoreError
from foodsafety.rules import profile_digest, profile_ids
from tests.web.conftest import Hostel, post_entry


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

    proof = prove()
    assert (proof.checked, proof.broken, proof.old) == (6, [], [])


AGAIN = """
DO $$ DECLARE e record; last text; BEGIN
  SELECT context INTO last FROM lessons_loghead WHERE bench_id = {bench};
  FOR e IN SELECT * FROM lessons_event WHERE bench_id = {bench} ORDER BY seq LOOP
    UPDATE lessons_event SET previous_hash = last, hash = encode(sha256(convert_to(concat_ws(E'\n',
        last, e.bench_id, e.seq, e.uuid, e.kind, e.data::text,
        to_char(e.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
        to_char(e.recorded_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'), e.recorded_by), 'UTF8')), 'hex')
      WHERE id = e.id RETURNING hash INTO last;
  END LOOP; END $$
"""
DATA = """UPDATE lessons_event SET data = '{{"core_c": 4}}' WHERE seq = 2"""
WHOLE_BENCH = "DELETE FROM lessons_learner WHERE bench_id = {bench}; DELETE FROM lessons_bench WHERE id = {bench}"


@pytest.mark.parametrize(
    ("statements", "why"),
    [
        ([DATA], "was changed after it was recorded"),
        (["UPDATE lessons_event SET happened_at = happened_at + interval '1 s' WHERE seq = 2"], "was changed"),
        (["DELETE FROM lessons_event WHERE seq = 2"], "an entry is missing"),
        (["UPDATE lessons_event SET previous_hash = repeat('0', 64) WHERE seq = 2"], "does not link"),
        (["DELETE FROM lessons_event WHERE seq = 3"], "ends too soon: its head says 3 entries"),
        (["DELETE FROM lessons_event WHERE seq > 1"], "ends too soon"),
        (["DELETE FROM lessons_event"], "ends too soon"),
        ([DATA, AGAIN], "was written again"),
        (["DELETE FROM lessons_event WHERE seq = 3", DATA, AGAIN], "ends too soon"),
        (["DELETE FROM lessons_event", WHOLE_BENCH], "is missing, with its part of lesson"),
        (["UPDATE lessons_lesson SET profile = 'canada'"], "was judged by something else"),
        (["UPDATE lessons_lesson SET rehearsal = true"], "was judged by something else"),
        (["UPDATE lessons_lesson SET house = jsonb_set(house, '{{scrub_s}}', '5')"], "was judged by something else"),
        (["UPDATE lessons_lesson SET process = jsonb_set(process, '{{serve}}', '[]')"], "was judged by something else"),
        (["UPDATE lessons_learner SET initials = 'ZZ' WHERE initials = 'AK'"], "was judged by something else"),
        (["DELETE FROM lessons_loghead"], "its head is missing"),
        (["UPDATE lessons_loghead SET context = repeat('0', 64)"], "was judged by something else"),
    ],
)
def test_verify_log_finds_what_was_done_behind_its_back(hostel: Hostel, statements: list[str], why: str) -> None:
    hostel.open()
    for core_c in (9, 8, 7):
        hostel.says("fridge_read", core_c=core_c)
    with guard_off(), connection.cursor() as cursor:
        for statement in statements:
            cursor.execute(statement.format(bench=hostel.puffin.pk) if "{" in statement else statement)
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")

    err = StringIO()
    with pytest.raises(CommandError):
        call_command("verify_log", stderr=err)
    assert why in err.getvalue()


def test_a_file_of_heads_that_was_kept_finds_a_log_and_its_head_cut_off_together(
    hostel: Hostel, tmp_path: Path
) -> None:
    hostel.open()
    for core_c in (9, 8, 7):
        hostel.says("fridge_read", core_c=core_c)
    kept = tmp_path / "heads.jsonl"
    call_command("verify_log", keep=kept, stdout=StringIO())
    hostel.says("called")
    call_command("verify_log", kept=kept, stdout=StringIO())

    with guard_off(), connection.cursor() as cursor:
        cursor.execute("DELETE FROM lessons_event WHERE seq > 2")
        cursor.execute("UPDATE lessons_loghead SET seq = 2, hash = (SELECT hash FROM lessons_event WHERE seq = 2) "
                       "WHERE bench_id = %s", [hostel.puffin.pk])  # fmt: skip
    assert prove().broken == []
    err = StringIO()
    with pytest.raises(CommandError):
        call_command("verify_log", kept=kept, stderr=err)
    assert "is not as the kept file has it" in err.getvalue()


@pytest.mark.parametrize("text", ["{", "[1]", '{"bench": 1}', None])
def test_a_file_that_is_no_file_of_heads_is_refused(db: None, tmp_path: Path, text: str | None) -> None:
    kept = tmp_path / "heads.jsonl"
    if text is not None:
        kept.write_text(text)
    with pytest.raises(CommandError, match="no file of heads"):
        call_command("verify_log", kept=kept)


def test_a_rule_profile_the_program_has_changed_since_is_said_and_is_no_break(hostel: Hostel) -> None:
    hostel.open().says("called")
    with patch("bulwark.lessons.log.profile_digest", return_value="0" * 64):
        proof = prove()

    assert (proof.broken, len(proof.other_rules)) == ([], 2)


def test_a_lesson_opened_before_contexts_were_kept_still_holds(hostel: Hostel) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=timezone.now())
    hostel.says("called")
    hostel.says("called")
    proof = prove()

    assert (proof.checked, proof.broken, proof.old) == (2, [], [hostel.puffin.pk])


def test_a_context_is_of_each_bench_and_of_the_rules(hostel: Hostel) -> None:
    lesson, bench = hostel.lesson, hostel.puffin
    one = context_hash(lesson, bench, ["AK"], "r")

    others = [context_hash(lesson, bench, ["AK", "JT"], "r"), context_hash(lesson, bench, ["AK"], "s")]
    others.append(context_hash(lesson, hostel.gannet, ["AK"], "r"))
    assert one == context_hash(lesson, bench, ["AK"], "r")
    assert len({one, *others}) == 4
    assert len({profile_digest(name) for name in profile_ids()}) == len(profile_ids())


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
    proof = prove()
    assert (proof.checked, proof.broken) == (40, [])


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


# --- what the server may do in the database --------------------------------------------------------------------------


@contextmanager
def as_the_server() -> Iterator[None]:
    """What the server signs in as, with the rights that a start gives it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = 'bulwark_web'")
        if cursor.fetchone() is None:
            pytest.skip("this database has no role for the server: it is not the project's own cluster")
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute(GRANTS.read_text(encoding="utf-8"))
        cursor.execute("SET ROLE bulwark_web")
        yield
        cursor.execute("RESET ROLE")


@pytest.mark.parametrize(
    "statement",
    [
        "ALTER TABLE lessons_event DISABLE TRIGGER ALL",
        "ALTER TABLE lessons_event OWNER TO bulwark_web",
        "DROP TRIGGER event_chain ON lessons_event",
        "UPDATE lessons_event SET kind = 'called'",
        "DELETE FROM lessons_event",
        "TRUNCATE lessons_event CASCADE",
        "UPDATE lessons_loghead SET seq = 0",
        "INSERT INTO lessons_loghead VALUES (0, 0, '', '', 0, '', now())",
        "DELETE FROM lessons_loghead",
        "CREATE OR REPLACE FUNCTION bulwark_event_chain() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END'",
        "SET SESSION AUTHORIZATION bulwark_keeper",
        "SET session_replication_role = replica",
    ],
)
def test_the_server_cannot_touch_the_log_behind_its_back(hostel: Hostel, statement: str) -> None:
    hostel.open().says("called")
    with as_the_server(), connection.cursor() as cursor, pytest.raises(ProgrammingError), transaction.atomic():
        cursor.execute(statement)

    assert prove().broken == []


def test_the_server_can_do_all_that_a_lesson_needs(hostel: Hostel) -> None:
    with as_the_server():
        hostel.open()
        tablet = hostel.tablet()
        assert post_entry(tablet, "called").status_code == 200
        hostel.says("answered")
        assert hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").status_code == 200
        services.close_lesson(lesson=hostel.lesson)

    proof = prove()
    assert (proof.checked, proof.broken) == (2, [])


def test_a_chain_is_begun_once(hostel: Hostel) -> None:
    hostel.open().says("called")
    with as_the_server(), connection.cursor() as cursor:
        cursor.execute("SELECT bulwark_chain_begun(%s, %s, 'x', 'y')", [hostel.puffin.pk, hostel.lesson.pk])

    assert prove().broken == []


REWRITTEN = [
    DATA,
    AGAIN,
    "UPDATE lessons_loghead h SET hash = e.hash FROM lessons_event e WHERE e.bench_id = h.bench_id AND e.seq = h.seq",
]


@pytest.mark.parametrize(
    ("statements", "why"),
    [
        (REWRITTEN, "is not as the seal of lesson"),
        (["DELETE FROM lessons_event", "DELETE FROM lessons_loghead"], "is not as the seal of lesson"),
        (["UPDATE lessons_lessonseal SET heads = '[]' WHERE number = 2"], "is not signed with this server's key"),
        (["DELETE FROM lessons_lessonseal WHERE number = 1"], "a seal of lesson"),
    ],
)
def test_a_seal_finds_what_even_the_owner_of_the_database_has_written_again(
    hostel: Hostel, statements: list[str], why: str
) -> None:
    hostel.open()
    for core_c in (9, 8, 7):
        hostel.says("fridge_read", core_c=core_c)
    hostel.close()
    services.reopen_lesson(lesson=hostel.lesson, by=hostel.actor, reason="the soup")
    hostel.lesson.refresh_from_db()
    hostel.close()
    call_command("verify_log", stdout=StringIO())
    with guard_off(), connection.cursor() as cursor:
        for statement in statements:
            cursor.execute(statement.format(bench=hostel.puffin.pk) if "{" in statement else statement)
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    err = StringIO()
    with pytest.raises(CommandError):
        call_command("verify_log", stderr=err)
    assert why in err.getvalue()


def test_a_lesson_is_sealed_at_its_end_and_on_the_way_and_its_record_says_so(hostel: Hostel) -> None:
    hostel.open()
    with patch("bulwark.lessons.appending.EVERY", 2):
        hostel.says("fridge_read", core_c=4)
        assert not LessonSeal.objects.exists()
        hostel.says("fridge_read", core_c=3)
        assert LessonSeal.objects.count() == 1
    hostel.close()
    assert LessonSeal.objects.count() == 2
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    assert LessonSeal.objects.get(number=2).signature[:16] in page


def test_seals_of_another_server_are_said_to_prove_nothing(hostel: Hostel, settings: Any) -> None:
    hostel.open()
    hostel.says("fridge_read", core_c=4)
    hostel.close()
    settings.SECRET_KEY = "the key of another machine"
    out = StringIO()
    call_command("verify_log", stdout=out)
    assert "1 seals are signed with another server's key" in out.getvalue()
