"""Today, the week, courses: what is to be done, what is practised, and the days of lessons."""

from __future__ import annotations

import datetime as dt
from typing import Any
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.diary import pages, selectors
from bulwark.diary.models import Course
from bulwark.groups import services as groups
from bulwark.groups.rosters import read_roles, read_roster
from bulwark.lessons.models import Learner, Lesson
from bulwark.recipes import services as recipes
from bulwark.recipes.models import Recipe
from bulwark.shelf.models import Shelved
from tests.builders import demo_recipe
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


def at(hostel: Hostel, when: dt.datetime, lesson: Lesson | None = None) -> Lesson:
    """The lesson at a time."""
    lesson = lesson or hostel.lesson
    Lesson.objects.filter(pk=lesson.pk).update(starts_at=when)
    lesson.refresh_from_db()
    return lesson


def noon(days: int = 0) -> dt.datetime:
    return timezone.localtime().replace(hour=12, minute=0, second=0, microsecond=0) + dt.timedelta(days=days)


def today(hostel: Hostel) -> str:
    return " ".join(hostel.client().get("/").content.decode().split())


def crew(hostel: Hostel, lines: str = "SD\nRO\nAK\nJT\nNB") -> Any:
    return groups.keep_group(
        by=hostel.actor, group=None, name="Crew", roster=read_roster(lines), roles=read_roles("chef\nsteward")
    )


def test_todays_lesson_stands_as_bricks_and_what_is_to_be_done_is_counted(hostel: Hostel) -> None:
    soon = timezone.localtime() + dt.timedelta(minutes=1)
    at(hostel, soon)
    before = f"before {soon:%H:%M}"
    assert f"Nothing {before}" in today(hostel)

    Lesson.objects.filter(pk=hostel.lesson.pk).update(unconfirmed=True, group=crew(hostel))
    text = today(hostel)
    assert f"Two things {before}" in text
    assert "NB has no bench" in text
    assert "steps unconfirmed" in text
    assert "13 points" in text
    at(hostel, timezone.localtime() - dt.timedelta(minutes=1))
    assert "Two things to do" in today(hostel), "its time has passed: nothing is before it"


def test_a_question_that_is_open_is_on_today(hostel: Hostel) -> None:
    lesson = at(hostel, noon())
    lesson.process["unread"] = [{"text": "Do the needful with it.", "after": "grate"}]
    lesson.save()

    assert "1 question open" in today(hostel)


def test_what_is_due_for_a_later_lesson_stands_by_the_clock_and_what_is_late_says_so(hostel: Hostel) -> None:
    at(hostel, timezone.now() + dt.timedelta(hours=20))
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=["2 kg frozen turkey mince"])
    text = today(hostel)

    assert "Out of the freezer, into the fridge: 2 kg frozen turkey mince" in text
    assert "overdue" in text, "a ball of two kilograms needs more than twenty hours"
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/did/"
    client.post(path, {"of": "shop:another thing"})
    assert "Shopping for" in today(hostel)
    client.post(path, {"of": "shop:Turkey koftas with cucumber raita"})
    assert "Shopping for" not in today(hostel), "somebody has said that it is done"
    assert "Out of the freezer" in today(hostel)
    hostel.open()
    assert "Out of the freezer" not in today(hostel)


def test_food_whose_time_is_up_stands_by_the_clock(hostel: Hostel) -> None:
    hostel.open()
    rows = [row for row in pages.today_page(hostel.actor)["clock"] if row["kind"] == "food"]
    assert rows == []
    rows = [
        Shelved(bench=hostel.puffin, food=food, part="1", place="fridge", state=state, until=until, due=due)
        for food, state, until, due in (
            ("raita", "", timezone.now() + dt.timedelta(hours=5), []),
            ("broth", "", None, []),
            ("mash", "hole", None, []),
            ("rice", "cooling", timezone.now() + dt.timedelta(days=3), [[41, "F", timezone.now().timestamp() + 60]]),
        )
    ]
    with patch("bulwark.diary.selectors.kept_now", return_value=rows):
        text = today(hostel)
    assert "eat or bin: Puffin" in text
    assert "over: throw it away (Puffin)" in text
    assert "nobody measured that it was cold" in text
    assert "read it: 5 °C by" in text


def test_the_week_shows_what_each_lesson_practises_and_what_none_does(hostel: Hostel) -> None:
    at(hostel, noon())
    bark = recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe("berry-bark"))
    page = pages.week_page(hostel.actor, timezone.localdate())
    [day] = [row for row in page["days"] if row["is_today"]]

    assert day["lessons"][0]["practises"] == ["Dates", "Time out", "Chill", "Core", "Kept apart", "Hands"]
    Lesson.objects.filter(pk=hostel.lesson.pk).update(process=bark.process)
    missing = dict(pages.week_page(hostel.actor, timezone.localdate())["missing"])
    assert "Core" in missing
    for odd in ("2026-13-99", "9999-12-31", "0001-01-01", "x"):
        assert hostel.client().get(f"/week/?of={odd}").status_code == 200, odd
    assert "21 September 2026" in hostel.client().get("/week/?of=2026-09-23").content.decode()


def test_a_lesson_is_moved_until_it_has_begun(hostel: Hostel) -> None:
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/move/"
    client.post(path, {"starts_at": "2026-12-24T10:30"})
    hostel.lesson.refresh_from_db()
    assert f"{timezone.localtime(hostel.lesson.starts_at):%Y-%m-%d %H:%M}" == "2026-12-24 10:30"
    hostel.open()
    before = hostel.lesson.starts_at
    client.post(path, {"starts_at": "2027-01-24T10:30"})
    for odd in ("soon", "9999-12-31T23:59", "0001-01-01T00:00"):
        client.post(path, {"starts_at": odd})
        client.post(f"/lessons/{hostel.lesson.pk}/again/", {"starts_at": odd})
    assert Lesson.objects.filter(organisation=hostel.organisation).count() == 1
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.starts_at == before


def test_a_lesson_is_repeated_for_the_same_group_or_split_for_another(hostel: Hostel) -> None:
    group = crew(hostel, "MO\nVH\nCW\nDF")
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/again/"
    for asked in ({}, {"group_id": group.pk}):
        client.post(path, {"starts_at": "2026-12-24T10:30", **asked})
    other, same = Lesson.objects.filter(organisation=hostel.organisation).order_by("-pk")[:2]
    names = {
        lesson.pk: set(Learner.objects.filter(bench__lesson=lesson).values_list("initials", flat=True))
        for lesson in (same, other)
    }

    assert names == {same.pk: {"SD", "RO", "AK", "JT"}, other.pk: {"MO", "VH", "CW", "DF"}}
    assert other.group == group
    assert {row.role for row in Learner.objects.filter(bench__lesson=other)} == {"chef", "steward"}
    groups.keep_group(by=hostel.actor, group=group, name="Crew", roster=read_roster("MO"), rules="")
    count = Lesson.objects.count()
    client.post(path, {"starts_at": "2026-12-24T10:30", "group_id": group.pk})
    assert Lesson.objects.count() == count, "one learner at two benches"


def test_a_recipe_that_has_moved_on_is_taken_over_before_the_lesson_begins_and_not_after(hostel: Hostel) -> None:
    recipe = Recipe.objects.get(pk=hostel.lesson.recipe_id)
    recipe.process["steps"][0]["minutes"] = 44
    recipe.save()
    client = hostel.client()
    assert "Take the recipe over as it is now" in client.get(f"/lessons/{hostel.lesson.pk}/changes/").content.decode()
    client.post(f"/lessons/{hostel.lesson.pk}/renew/")
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.process["steps"][0]["minutes"] == 44

    hostel.open()
    recipe.process["steps"][0]["minutes"] = 5
    recipe.save()
    client.post(f"/lessons/{hostel.lesson.pk}/renew/")
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.process["steps"][0]["minutes"] == 44


def test_a_course_shows_what_is_covered_who_had_which_role_and_what_is_bought_for_two(hostel: Hostel) -> None:
    client = hostel.client()
    client.post("/courses/", {"name": "Autumn"})
    course = Course.objects.get()
    at(hostel, noon(1))
    client.post(f"/courses/{course.pk}/", {"add": hostel.lesson.pk})
    client.post(f"/lessons/{hostel.lesson.pk}/again/", {"starts_at": f"{noon(9):%Y-%m-%dT%H:%M}"})
    Learner.objects.filter(initials="SD").update(role="chef")

    page = pages.course_page(hostel.actor, course)
    assert len(page["rows"]) == 2, "a repeated lesson joins the course"
    assert "Oven" in page["uncovered"]
    assert "Core" not in page["uncovered"]
    assert page["roles"] == [("SD", [2])]
    keeps = {row["name"]: row["keeps"] for row in page["together"]}
    assert keeps["ground cumin"] is True
    assert keeps["turkey mince"] is False
    assert "buy it for each" in client.get(f"/courses/{course.pk}/").content.decode()
    client.post(f"/courses/{course.pk}/", {"out": hostel.lesson.pk})
    assert course.lessons.count() == 1
    client.post(f"/courses/{course.pk}/", {"away": "1"})
    assert client.get(f"/courses/{course.pk}/").status_code == 404


def test_another_organisation_finds_and_moves_nothing(hostel: Hostel) -> None:
    course = Course.objects.create(organisation=hostel.organisation, name="Autumn")
    other = Hostel("Gull Rock Hostel")
    client = other.client()

    for path in ("move", "again", "renew"):
        assert client.post(f"/lessons/{hostel.lesson.pk}/{path}/", {"starts_at": "2026-12-24T10:30"}).status_code == 404
    assert client.get(f"/courses/{course.pk}/").status_code == 404
    own = Course.objects.create(organisation=other.organisation, name="Own")
    assert client.post(f"/courses/{own.pk}/", {"add": hostel.lesson.pk}).status_code == 404
    assert "Autumn" not in client.get("/courses/").content.decode()


def test_today_of_a_reader_has_no_door_to_the_benches(hostel: Hostel) -> None:
    at(hostel, noon())
    hostel.user.role = "reader"
    hostel.user.save()

    assert hostel.client().get("/").status_code == 200
    assert selectors.lessons_between(hostel.actor, noon(-1), noon(1))


def test_today_asks_the_database_little_however_many_lessons_come(
    hostel: Hostel, django_assert_max_num_queries: Any
) -> None:
    client = hostel.client()
    for n in range(5):
        client.post(f"/lessons/{hostel.lesson.pk}/again/", {"starts_at": f"{noon(n):%Y-%m-%dT%H:%M}"})
    client.get("/")
    with django_assert_max_num_queries(29):
        client.get("/")
