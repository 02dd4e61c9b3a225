"""A recipe that is too long for the period, over two lessons."""

from __future__ import annotations

import datetime as dt
from typing import Any

import pytest
from django.utils import timezone

from bulwark.board import selectors as boards
from bulwark.diary.models import Course
from bulwark.lessons import services
from bulwark.lessons.models import Lesson
from bulwark.pack.selectors import Pack
from bulwark.recipes import services as recipes
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, ways

pytestmark = pytest.mark.django_db


@pytest.fixture
def bark(hostel: Hostel) -> Lesson:
    recipe = recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe("berry-bark"))
    return services.create_lesson(
        recipe=recipe,
        place="Skerry Point",
        starts_at=timezone.now() + dt.timedelta(minutes=5),
        length_min=60,
        benches={"Gannet": ["SD", "RO"], "Puffin": ["AK", "JT"]},
        profile_id="us-home",
    )


def decide(hostel: Hostel, lesson: Lesson, do: str, of: str = "") -> Any:
    return hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": do, "of": of, "value": ""})


def halves(lesson: Lesson) -> tuple[Lesson, Lesson]:
    first = Lesson.objects.get(pk=lesson.pk)
    return first, Lesson.objects.get(first_half=first)


def page(hostel: Hostel, lesson: Lesson) -> str:
    return " ".join(hostel.client().get(f"/lessons/{lesson.pk}/").content.decode().split())


def test_a_lesson_too_long_is_offered_over_two_where_stopping_is_safe_and_one_tap_makes_both(
    hostel: Hostel, bark: Lesson
) -> None:
    course = Course.objects.create(organisation=hostel.organisation, name="Winter")
    course.lessons.add(bark)
    offered = ways(hostel, bark)
    assert "Over two lessons: stop after “Freeze" in offered
    assert "is kept wrapped and dated in the freezer, until" in offered

    answer = decide(hostel, bark, "split", "freeze")
    assert answer.status_code == 302
    first, second = halves(bark)
    assert [first.title, second.title] == [f"{first.recipe.title}, lesson {n} of 2" for n in (1, 2)]
    assert second.starts_at - first.starts_at == dt.timedelta(days=7)
    assert [row.name for row in second.benches.all()] == ["Gannet", "Puffin"]
    assert second in course.lessons.all(), "a course goes on with both"
    board = boards.board_of(first)
    assert board.end_min <= 60, "the first fits"
    assert boards.board_of(second).end_min <= 60, "and so does the second"


def test_what_is_bought_for_the_first_is_not_bought_again(hostel: Hostel, bark: Lesson) -> None:
    whole = {row.food for row, _g, _at in Pack(bark).weighed()}
    decide(hostel, bark, "split", "freeze")
    first, second = ({row.food for row, _g, _at in Pack(lesson).weighed()} for lesson in halves(bark))
    assert first | second == whole
    assert not first & second


def test_the_second_lesson_says_of_each_bench_whether_what_it_begins_with_may_be_used(
    hostel: Hostel, bark: Lesson
) -> None:
    decide(hostel, bark, "split", "freeze")
    first, second = halves(bark)
    assert "The first lesson is not over: what it keeps is not known yet." in page(hostel, second)

    hostel.lesson = first
    hostel.open()
    gannet, _puffin = services.Lesson.objects.get(pk=first.pk).benches.all()
    hostel.says("hands_washed", gannet, learner="SD", scrub_s=20)
    for step in (row["id"] for row in first.process["steps"]):
        hostel.says("step_done", gannet, step=step, by=["SD"])
    hostel.says("stored", gannet, food="bark", place="freezer")
    services.close_lesson(lesson=Lesson.objects.get(pk=first.pk))

    text = page(hostel, second)
    assert "Gannet: bark keeps until" in text
    assert "Puffin: nobody has said that bark was put away cold. Without that it is not used." in text

    hostel.lesson = Lesson.objects.get(pk=second.pk)
    hostel.open()
    told = {
        name: hostel.tablet(bench).get("/b/").content.decode()
        for name, bench in ((row.name, row) for row in hostel.lesson.benches.all())
    }
    assert "Gannet: bark keeps until" in told["Gannet"]
    assert "Puffin:" not in told["Gannet"]
    assert "Puffin: nobody has said that bark was put away cold" in told["Puffin"]
    hostel.lesson.opened_at = None
    hostel.lesson.save()

    services.move_lesson(lesson=Lesson.objects.get(pk=second.pk), starts_at=timezone.now() + dt.timedelta(days=900))
    assert "Gannet: bark keeps only until" in page(hostel, second)


def test_both_become_one_again_by_taking_it_back_or_by_name(hostel: Hostel, bark: Lesson) -> None:
    whole = bark.process
    for undo in (("take_back", ""), ("join", "freeze")):
        decide(hostel, bark, "split", "freeze")
        assert Lesson.objects.filter(first_half=bark).exists()
        assert "Over two lessons: it stops with bark put away" in (
            hostel.client().get(f"/lessons/{bark.pk}/board/").content.decode()
        )
        decide(hostel, bark, *undo)
        one = Lesson.objects.get(pk=bark.pk)
        assert (one.process, one.title) == (whole, one.recipe.title)
        assert not Lesson.objects.filter(first_half=bark).exists()


def test_once_the_second_has_begun_they_stay_two(hostel: Hostel, bark: Lesson) -> None:
    decide(hostel, bark, "split", "freeze")
    _first, second = halves(bark)
    services.open_lesson(lesson=second)
    answer = decide(hostel, bark, "take_back")
    assert answer.status_code == 422
    assert "The lesson has begun" in answer.content.decode()
    assert Lesson.objects.filter(pk=second.pk).exists()


@pytest.mark.parametrize("step", ["boil", "nothing"])
def test_it_stops_nowhere_else(hostel: Hostel, bark: Lesson, step: str) -> None:
    assert decide(hostel, bark, "split", step).status_code == 422
    assert not Lesson.objects.filter(first_half=bark).exists()


def test_the_recipe_changed_meanwhile_is_taken_over_as_a_half_or_refused_in_words(hostel: Hostel, bark: Lesson) -> None:
    decide(hostel, bark, "split", "freeze")
    first, _second = halves(bark)
    assert "change since this lesson was made" not in page(hostel, first)

    recipe = first.recipe
    recipe.process = {
        **recipe.process,
        "steps": [{**row, "title": row["title"] + "!"} for row in recipe.process["steps"]],
    }
    recipe.save()
    assert "changes since this lesson was made" in page(hostel, first)
    hostel.client().post(f"/lessons/{first.pk}/renew/")
    first.refresh_from_db()
    assert first.half
    assert all(row["title"].endswith("!") for row in first.process["steps"])

    steps = [row for row in recipe.process["steps"] if row["id"] != "freeze"]
    steps = [{**row, "after": [name for name in row.get("after", []) if name != "freeze"]} for row in steps]
    recipe.process = {**recipe.process, "steps": steps}
    recipe.save()
    answer = hostel.client().post(f"/lessons/{first.pk}/renew/", follow=True)
    assert "cannot be stopped there safely any more" in answer.content.decode()
