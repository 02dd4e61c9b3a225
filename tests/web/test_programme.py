"""A programme added up: what the logs hold, no more; small numbers told to nobody."""

from __future__ import annotations

import datetime as dt
import io
import re
from typing import Any

import pytest
from django.utils import timezone
from openpyxl import load_workbook
from pytest_django import DjangoAssertNumQueries

from bulwark.groups.models import Group
from bulwark.lessons import services as lessons
from bulwark.lessons.models import Lesson
from bulwark.practice import programme
from bulwark.practice.models import LessonFigures
from tests.web.conftest import Hostel

CREWS = {"Gannet": ["SD", "RO", "LM"], "Puffin": ["AK", "JT", "NB"]}


def taught(hostel: Hostel, group: Group | None, benches: dict[str, list[str]], *, place: str = "Skerry") -> Lesson:
    """A lesson at which one learner touches the raita with raw hands, washes, and makes it again."""
    lesson = lessons.create_lesson(
        recipe=hostel.lesson.recipe,
        place=place,
        starts_at=timezone.now(),
        length_min=60,
        benches=benches,
        profile_id="us-home",
    )
    lesson.group = group
    lesson.save()
    lessons.open_lesson(lesson=lesson)
    bench = lesson.benches.select_related("lesson").first()
    assert bench is not None
    who = next(iter(benches.values()))[0]
    hostel.says("hands_washed", bench=bench, learner=who, scrub_s=20)
    hostel.says("fridge_read", bench=bench, core_c=3.0)
    hostel.says("touched", bench=bench, learner=who, what="cough")
    hostel.says("step_done", bench=bench, step="grate", by=[who])
    lessons.close_lesson(lesson=lesson)
    lesson.refresh_from_db()
    return lesson


@pytest.fixture
def crew(hostel: Hostel) -> Group:
    return Group.objects.create(organisation=hostel.organisation, name="Tuesday crew")


def between(hostel: Hostel, group_id: int | None = None) -> list[Lesson]:
    today = timezone.localdate()
    return programme.lessons_between(hostel.actor, today - dt.timedelta(days=1), today + dt.timedelta(days=1), group_id)


def test_it_adds_up_what_the_logs_hold(hostel: Hostel, crew: Group) -> None:
    for _ in range(2):
        taught(hostel, crew, CREWS)
    counted, left = programme.count(between(hostel))
    assert left == 0
    found = programme.whole(counted)
    assert found.lessons == 2
    assert len(found.learners) == 6, "the same six, twice"
    assert found.breaches == {"unwashed-hands": 2}
    assert found.laid["fridge-cold"] == 2
    assert found.mended == 0
    assert found.per_100 == pytest.approx(100 * 2 / found.due)


def test_fewer_than_five_are_told_to_nobody_and_cannot_be_reckoned_back(hostel: Hostel, crew: Group) -> None:
    small = Group.objects.create(organisation=hostel.organisation, name="Early crew")
    other = Group.objects.create(organisation=hostel.organisation, name="Late crew")
    taught(hostel, small, {"Tern": ["QX", "ZZ"]})
    taught(hostel, other, {"Tern": [f"L{n}" for n in range(6)]})
    taught(hostel, crew, {"Gannet": [f"M{n}" for n in range(6)], "Puffin": ["N1", "N2"]})
    counted, _left = programme.count(between(hostel))
    rows = {part.name: part.hidden for part in programme.parts(counted, by="group")}
    assert rows == {"Early crew": True, "Late crew": True, "Tuesday crew": False}
    html = hostel.client().get("/programme/").content.decode()
    assert html.count("fewer than 5") >= 8
    assert not re.search(r"\bQX\b", html), "and no token that happens to hold the letters"


def test_what_was_counted_is_kept_until_the_log_goes_on(hostel: Hostel, crew: Group) -> None:
    lesson = taught(hostel, crew, CREWS)
    programme.count(between(hostel))
    before = LessonFigures.objects.get(lesson=lesson)
    bench = lesson.benches.select_related("lesson").first()
    hostel.says("touched", bench=bench, learner="SD", what="phone")
    hostel.says("step_done", bench=bench, step="stir", by=["SD"])
    programme.count(between(hostel))
    after = LessonFigures.objects.get(lesson=lesson)
    assert after.head != before.head
    assert sum(after.data["breaches"].values()) > sum(before.data["breaches"].values())


def test_counting_stops_and_goes_on_and_the_page_says_how_far(hostel: Hostel, crew: Group) -> None:
    for _ in range(3):
        taught(hostel, crew, CREWS)
    counted, left = programme.count(between(hostel), for_s=-1.0)
    assert (len(counted), left) == (0, 3)
    counted, left = programme.count(between(hostel))
    assert (len(counted), left) == (3, 0)


def test_a_term_that_was_counted_asks_little(
    hostel: Hostel, crew: Group, django_assert_max_num_queries: DjangoAssertNumQueries
) -> None:
    for _ in range(4):
        taught(hostel, crew, CREWS)
    client = hostel.client()
    client.get("/programme/")
    with django_assert_max_num_queries(16):
        client.get("/programme/")


def test_rehearsals_and_others_lessons_are_none(hostel: Hostel, crew: Group) -> None:
    lesson = taught(hostel, crew, CREWS)
    lesson.rehearsal = True
    lesson.save()
    assert between(hostel) == []
    assert "No lesson ended" in Hostel("Other House").client().get("/programme/").content.decode()


def test_it_goes_out_as_a_sheet_and_bad_dates_are_said(hostel: Hostel, crew: Group) -> None:
    taught(hostel, crew, CREWS)
    today = timezone.localdate().isoformat()
    asked = f"/programme/?since={today}&until={today}&group=&by=place&sheet=xlsx"
    sheet = load_workbook(io.BytesIO(hostel.client().get(asked).content)).worksheets[0]
    assert sheet["A2"].value == "Skerry"
    assert "since" in hostel.client().get("/programme/?since=x&until=y&by=group").content.decode()


def test_a_lesson_is_counted_as_it_ends_and_anew_when_something_comes_late(
    hostel: Hostel, django_capture_on_commit_callbacks: Any
) -> None:
    hostel.open().arrive()
    with django_capture_on_commit_callbacks(execute=True):
        hostel.close()

    kept = LessonFigures.objects.get(lesson=hostel.lesson)
    hostel.says("fridge_read", core_c=3.0)
    programme.count([hostel.lesson])
    assert LessonFigures.objects.get(lesson=hostel.lesson).head != kept.head
