"""Names and words taken out of old lessons: gone for good, and the chain still verified."""

from __future__ import annotations

import datetime as dt
import json
import re
import uuid

import pytest
from django.core.management import CommandError, call_command
from django.db import DatabaseError, connection, transaction
from django.utils import timezone

from bulwark.board.models import PlanChange
from bulwark.groups.models import Group, Member
from bulwark.lessons import files
from bulwark.lessons.log import prove
from bulwark.lessons.models import Event, Hurt, Learner, Lesson, LessonPurge
from bulwark.lessons.purging import preview, purge
from bulwark.lessons.selectors import bench_state
from bulwark.practice import programme, selectors
from bulwark.practice import services as practice
from bulwark.practice.models import LessonFigures, Round
from bulwark.records import keeping
from bulwark.records import services as records
from foodsafety.lesson import bricks, forgotten, other_names, people_in
from tests.web.conftest import Hostel

MONTHS = {"lessons": "24", "answers": "6", "hurts": "36", "certificates": "60", "brought": "24"}


@pytest.fixture
def old(hostel: Hostel) -> Hostel:
    hostel.open().arrive()
    hostel.says("step_done", step="grate", by=["JT"])
    hostel.says("touched", learner="AK", what="cough")
    hostel.says("waived", control="out", reason="Fire drill, Mrs Odum agreed")
    hostel.says("watched", what="grip", learner="AK", seen="right")
    hostel.close()
    Lesson.objects.filter(pk=hostel.lesson.pk).update(closed_at=timezone.now() - dt.timedelta(days=900))
    hostel.lesson.refresh_from_db()
    return hostel


def statuses(hostel: Hostel) -> list[tuple[str, str]]:
    state, _ = bench_state(hostel.puffin)
    return [(row.control.id, row.status) for row in bricks(state, timezone.now().timestamp(), ended=True)]


def test_no_name_and_no_word_is_left_and_the_wall_stays(old: Hostel) -> None:
    before = statuses(old)
    assert purge(old.lesson.pk, old.actor) is not None
    text = json.dumps(list(Event.objects.values_list("data", flat=True)))
    for word in ("AK", "JT", "Odum", "Fire drill"):
        assert f'"{word}"' not in text
        assert "Odum" not in text
    assert set(Learner.objects.values_list("initials", flat=True)) == {"P1", "P2", "P3", "P4"}
    assert statuses(old) == before


def test_the_chain_is_still_verified_and_a_change_after_it_is_found(old: Hostel) -> None:
    assert prove().broken == []
    purge(old.lesson.pk, old.actor)
    proof = prove()
    assert proof.broken == []
    assert proof.purged == Event.objects.exclude(kind="fridge_read").count()
    row = Event.objects.filter(kind="hands_washed").first()
    assert row is not None
    with connection.cursor() as cursor:
        cursor.execute("SELECT bulwark_purge_event(%s, %s::jsonb)", [row.pk, json.dumps({**row.data, "scrub_s": 60})])
    assert [why for _bench, _seq, why in prove().broken] == ["was changed after it was recorded"]


def test_a_purge_that_nobody_signed_hides_nothing(old: Hostel) -> None:
    purge(old.lesson.pk, old.actor)
    other = Hostel("Other House").open().arrive().close()
    row = Event.objects.filter(bench=other.puffin, kind="hands_washed").first()
    assert row is not None
    with connection.cursor() as cursor:
        cursor.execute("SELECT bulwark_purge_event(%s, %s::jsonb)", [row.pk, json.dumps({**row.data, "scrub_s": 60})])
        was, now = cursor.fetchone()[0]
    LessonPurge.objects.create(
        lesson_id=other.lesson.pk, by="x", entries=[[row.bench_id, row.seq, was, now]], contexts={}, signature="0" * 64
    )
    why = [text for _bench, _seq, text in prove().broken]
    assert "a purge is not signed with this server's key" in why
    assert "was changed after it was recorded" in why


def test_nothing_else_of_the_log_can_be_changed(old: Hostel) -> None:
    for order in (
        "UPDATE lessons_event SET kind = 'x'",
        "UPDATE lessons_event SET data = '{}'",
        "DELETE FROM lessons_event",
    ):
        with pytest.raises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute(order)


def test_a_purge_is_done_once_and_previewed_first(old: Hostel) -> None:
    found = preview(old.lesson)
    assert (found.learners, found.entries) == (4, Event.objects.exclude(kind="fridge_read").count())
    html = old.client().get("/names/").content.decode()
    assert old.lesson.title in html
    old.client().post("/names/", {"do": "forget"})
    assert purge(old.lesson.pk, old.actor) is None
    assert LessonPurge.objects.count() == 1
    assert "Nothing is old enough" in old.client().get("/names/").content.decode()


def test_what_is_younger_stays_and_a_month_is_never_short(old: Hostel) -> None:
    client = old.client()
    client.post("/names/", {"do": "months", **MONTHS, "lessons": "36"})
    client.post("/names/", {"do": "forget"})
    assert not LessonPurge.objects.exists()
    wrong = client.post("/names/", {"do": "months", **MONTHS, "hurts": "0"})
    assert wrong.status_code == 422
    assert 'name="hurts" inputmode="numeric" value="0"' in wrong.content.decode(), "what was typed stays"
    stranger = Hostel("Other House")
    stranger.client().post("/names/", {"do": "forget"})
    assert not LessonPurge.objects.exists(), "nobody purges what is not theirs"


def test_the_file_of_a_purged_lesson_holds_and_says_so(old: Hostel) -> None:
    purge(old.lesson.pk, old.actor)
    data = records.lesson_zip(old.lesson)
    assert files.breaks_in(files.file_of(data)) == []
    row, _new = records.bring(by=Hostel("Other House").actor, data=data)
    assert sum(len(bench.purged) for bench in files.file_of(bytes(row.data)).benches) > 3


def test_answers_stay_and_are_nobodys(old: Hostel) -> None:
    group = Group.objects.create(organisation=old.organisation, name="Tuesday crew")
    Member.objects.create(group=group, initials="AK")
    found = practice.make_round(
        by=old.actor,
        recipe=old.lesson.recipe,
        lesson=old.lesson,
        group=group,
        kind=Round.PRACTICE,
        count=2,
        level=1,
        seed=3,
    )
    choices = [row["id"] for row in found.puzzles[0]["choices"]]
    for choice in choices[:2]:
        practice.answer(found=found, number=0, choice=choice, uuid=uuid.uuid4(), learner="AK")
    old.client().post("/names/", {"do": "forget"})
    assert selectors.counted(found)[0].answers == 1
    assert not found.answers.exclude(learner="").exists()


def test_all_that_is_held_of_one_learner_is_given_and_of_no_other(old: Hostel) -> None:
    group = Group.objects.create(organisation=old.organisation, name="Tuesday crew")
    Lesson.objects.filter(pk=old.lesson.pk).update(group=group)
    member = Member.objects.create(group=group, initials="AK", needs="step stool")
    held = old.client().get(f"/practice/learners/{member.pk}/held.json").json()
    assert held["needs"] == "step stool"
    assert {"watched", "touched", "hands_washed"} <= {row["kind"] for row in held["entries"]}
    assert "JT" not in json.dumps(held)
    assert Hostel("Other House").client().get(f"/practice/learners/{member.pk}/held.json").status_code == 404


def test_what_an_entry_says_without_its_people() -> None:
    data = {"learner": "AK", "by": ["AK", "JT"], "food": "AK", "core_c": 71.0, "reason": "told by AK", "note": ""}
    names = other_names(people_in(data))
    assert names == {"AK": "P1", "JT": "P2"}
    gone = forgotten("waived", data, names)
    assert gone == {"learner": "P1", "by": ["P1", "P2"], "food": "AK", "core_c": 71.0, "reason": "\u2013", "note": ""}
    assert forgotten("timer_set", {"name": "AK's rice", "minutes": 5}, names)["name"] == "\u2013"
    assert forgotten("named", {"food": "rice", "name": "AK's rice"}, names)["name"] == "AK's rice"


def test_no_cache_and_no_plan_keeps_a_name(old: Hostel) -> None:
    planned = {"who": {"Puffin": {"grate": ["AK"]}}, "ends_s": 60.0}
    Lesson.objects.filter(pk=old.lesson.pk).update(planned=planned, variants=[{"name": "no nuts", "who": "AK, JT"}])
    PlanChange.objects.create(
        lesson=old.lesson, number=1, do="doer", of="1.grate", value="AK,JT", choices={"doers": {"1.grate": ["AK"]}}
    )
    programme.count([old.lesson])
    assert "AK" in json.dumps(LessonFigures.objects.get().data)
    old.client().post("/names/", {"do": "forget"})
    assert not LessonFigures.objects.exists()
    lesson, change = Lesson.objects.get(pk=old.lesson.pk), PlanChange.objects.get()
    kept = json.dumps([lesson.planned, lesson.variants, change.choices, change.value])
    assert not {"AK", "JT"} & set(re.findall(r"\w+", kept))
    assert "were taken out of" in old.client().get(f"/lessons/{old.lesson.pk}/record/").content.decode()


def test_answers_have_a_time_of_their_own(old: Hostel) -> None:
    group = Group.objects.create(organisation=old.organisation, name="Tuesday crew")
    Member.objects.create(group=group, initials="AK")
    found = practice.make_round(
        by=old.actor, recipe=old.lesson.recipe, lesson=None, group=group, kind=Round.PRACTICE, count=1, level=1, seed=3
    )
    choice = found.puzzles[0]["choices"][0]["id"]
    practice.answer(found=found, number=0, choice=choice, uuid=uuid.uuid4(), learner="AK")
    client = old.client()
    client.post("/names/", {"do": "forget"})
    assert found.answers.get().learner == "AK", "it is young"
    Round.objects.filter(pk=found.pk).update(made_at=timezone.now() - dt.timedelta(days=400))
    assert "Take them out" in client.get("/names/").content.decode()
    client.post("/names/", {"do": "forget"})
    assert found.answers.get().learner == ""


def test_a_machine_takes_them_out_by_itself_only_where_it_is_told_to(
    old: Hostel, capsys: pytest.CaptureFixture
) -> None:
    call_command("purge")
    assert "would go from 1 lessons" in capsys.readouterr().out
    assert Learner.objects.filter(initials="AK").exists(), "it was only said"

    with pytest.raises(CommandError, match="may still arrive"):
        call_command("purge", "--before", f"{timezone.localdate():%Y-%m-%d}", "--yes")

    call_command("purge", "--yes")
    said = capsys.readouterr().out
    assert "taken out of 1 lessons" in said
    assert "AK" not in said
    assert old.lesson.title not in said, "a machine keeps what a program prints"
    assert not Learner.objects.filter(initials="AK").exists()
    assert not prove().broken
    call_command("purge", "--yes")
    assert "taken out of 0 lessons" in capsys.readouterr().out


def test_where_nobody_has_chosen_the_rule_profile_says_how_long_and_the_page_whose_figure_it_is(old: Hostel) -> None:
    page = old.client().get("/names/").content.decode()

    assert re.findall(r"usually (\d+)", page) == ["24", "12", "36", "60", "24"]
    assert "No document of your rule profile says how long" in page


def test_each_kind_of_record_has_a_time_of_its_own(old: Hostel) -> None:
    group = Group.objects.create(organisation=old.organisation, name="Tuesday crew")
    Lesson.objects.filter(pk=old.lesson.pk).update(group=group)
    member = Member.objects.create(group=group, initials="AK")
    long_ago = timezone.now() - dt.timedelta(days=1000)
    hurt = Hurt.objects.create(
        bench=old.puffin, who="AK", what="cut", care=["plaster"], words="left thumb", at=long_ago
    )
    certificate = practice.certify(by=old.actor, member=member, title="Knife", chosen={"grip": True})
    brought, _new = records.bring(by=old.actor, data=records.lesson_zip(old.lesson))
    type(certificate).objects.update(made_on=long_ago.date())
    type(brought).objects.update(held_at=long_ago)
    client = old.client()
    held = client.get(f"/practice/learners/{member.pk}/held.json").json()
    assert [row["words"] for row in held["hurts"]] == ["left thumb"]

    page = " ".join(client.get("/names/").content.decode().split())
    assert f"<li>{brought.title}, " in page, "what would go is seen before it goes"
    client.post("/names/", {"do": "forget"})

    hurt.refresh_from_db()
    assert (hurt.who, hurt.words) == ("AK", "left thumb"), "a hurt is kept longer than a lesson"
    assert type(certificate).objects.exists()
    assert not type(brought).objects.exists()

    client.post("/names/", {"do": "months", **MONTHS, "hurts": "30", "certificates": "30"})
    client.post("/names/", {"do": "forget"})

    hurt.refresh_from_db()
    assert (hurt.who, hurt.words, hurt.care) == ("", "", ["plaster"])
    assert not type(certificate).objects.exists()


def test_a_record_from_elsewhere_without_names_stays(old: Hostel) -> None:
    purge(old.lesson.pk, old.actor)
    brought, _new = records.bring(by=old.actor, data=records.lesson_zip(old.lesson))
    type(brought).objects.update(held_at=timezone.now() - dt.timedelta(days=1000))

    old.client().post("/names/", {"do": "forget"})

    assert type(brought).objects.exists()


@pytest.mark.django_db(transaction=True)
def test_the_time_that_was_chosen_outlives_the_migration_both_ways() -> None:
    hostel = Hostel()
    keeping.choose(hostel.actor, {**{kind: int(n) for kind, n in MONTHS.items()}, "lessons": 7, "answers": 3})
    try:
        call_command("migrate", "records", "0004", verbosity=0)
    finally:
        call_command("migrate", "records", verbosity=0)

    kept = keeping.kept_by(hostel.organisation.pk)
    assert (kept["lessons"], kept["answers"]) == (7, 3)
