"""A dish that is brought ready made: its own clock, its own use-by, and never better than what was said of it."""

import datetime as dt
import uuid
from typing import Any
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.lessons import services as lessons
from bulwark.lessons.models import Lesson
from bulwark.pack import pages as pack
from bulwark.pack.selectors import Pack
from bulwark.shelf import selectors, services
from bulwark.shelf.models import BroughtDish
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


def brought(
    hostel: Hostel, *, days: float = 0, hours: float = 0, place: str = "fridge", **more: Any
) -> selectors.Brought:
    """A dish made so long before the lesson ends."""
    made_at = selectors.eaten_at(hostel.lesson) - dt.timedelta(days=days, hours=hours)
    said = {"title": "Barley pot", "category": "cooked_dish", "out_min": 10, "contains": "none", **more}
    services.bring(lesson=hostel.lesson, made_at=made_at, place=place, **said)
    return selectors.brought_to(hostel.lesson)[0]


@pytest.mark.parametrize(
    ("made", "may"),
    [
        ({"days": 1}, True),
        ({"days": 2.9}, True),
        ({"days": 3.1}, False),  # a cooked dish keeps 3 to 4 days: the shorter counts
        ({"days": 2.9, "out_min": 110}, True),
        ({"days": 2.95, "out_min": 119}, False),  # time out is taken off
        ({"days": 1, "out_min": 240}, False),  # out too long, whatever its life
        ({"hours": 1.9, "place": "out"}, True),
        ({"hours": 2.1, "place": "out"}, False),
        ({"days": 20, "place": "freezer"}, True),
    ],
)
def test_it_may_be_eaten_as_long_as_its_rules_say(hostel: Hostel, made: dict[str, Any], may: bool) -> None:
    assert brought(hostel, **made).may is may


def test_what_nobody_said_of_its_way_is_asked(hostel: Hostel) -> None:
    row = brought(hostel, days=1, out_min=None)

    assert (row.may, row.ok) == (True, False)
    assert "ask first" in row.says
    assert ["Nobody has said how long" in text for text in row.asked] == [True]
    assert (
        "Nobody has said how long"
        in hostel.client().get(f"/lessons/{hostel.lesson.pk}/brought/lines/").content.decode()
    )


def test_where_nothing_keeps_it_cold_the_heat_nobody_measured_is_asked_about(hostel: Hostel) -> None:
    row = brought(hostel, hours=1.5, place="out")

    assert row.may
    assert ["Nobody has measured how warm" in text for text in row.asked] == [True]
    assert not row.ok


def test_what_is_in_it_is_asked_read_and_kept_from_whoever_may_not_have_it(hostel: Hostel) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(eaters={"groups": {}, "allergens": ["peanut"], "count": 4})
    hostel.lesson.refresh_from_db()
    for number, words in enumerate(("", "none", "milk", "Peanuts; milk", "moon dust")):
        brought(hostel, days=1 + number / 100, contains=words, title=f"Pot {number}")
    rows = {row.dish.contains: row for row in selectors.brought_to(hostel.lesson)}

    assert {words for words, row in rows.items() if row.ok} == {"none", "milk", "Peanuts; milk"}
    assert {words for words, row in rows.items() if row.not_for} == {"Peanuts; milk"}
    assert "moon dust" in rows["moon dust"].asked[0]
    assert "peanut" in hostel.client().get(f"/lessons/{hostel.lesson.pk}/brought/lines/").content.decode().lower()


def said(**more: str) -> dict[str, str]:
    day = timezone.localtime() - dt.timedelta(days=1)
    usual = {"title": "Barley pot", "category": "cooked_dish", "place": "fridge", "made_at": f"{day:%Y-%m-%dT%H:%M}"}
    return {**usual, "out_min": "15", "contains": "celery", **more}


def test_it_is_said_once_and_stands_on_every_page_and_paper_of_the_lesson(hostel: Hostel) -> None:
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/brought/"
    assert "Nothing is brought so far" in client.get(path).content.decode()
    assert client.post(path, said()).status_code == 302

    assert "use by" in client.get(path).content.decode()
    lessons.open_lesson(lesson=hostel.lesson)
    with patch("bulwark.records.views.ask_paper", return_value=uuid.uuid4()) as asked:
        client.post(f"/lessons/{hostel.lesson.pk}/record.pdf")
    assert "Barley pot" in asked.call_args.kwargs["html"]
    for page in ("", "board/", "record/"):
        assert f"{path}lines/" in client.get(f"/lessons/{hostel.lesson.pk}/{page}").content.decode()
    for part in ("run-sheet", "cards"):
        assert pack.paper(Pack(hostel.lesson), [part], letter=False, way_min=0)["brought"][0].dish.contains == "celery"

    dish = BroughtDish.objects.get()
    assert client.post(f"{path}{dish.pk}/not/").status_code == 302
    assert not BroughtDish.objects.exists()


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("title", ""),
        ("title", "x" * 400),
        ("category", "moon rock"),
        ("place", "pocket"),
        ("made_at", "yesterday"),
        ("made_at", "2099-01-01T10:00"),
        ("out_min", "-1"),
        ("out_min", "99999"),
    ],
)
def test_what_is_wrong_is_named_and_what_was_typed_is_kept(hostel: Hostel, field: str, value: str) -> None:
    answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/brought/", said(**{field: value}))

    assert answer.status_code == 422
    assert 'role="alert"' in answer.content.decode()
    assert field == "title" or "Barley pot" in answer.content.decode()
    assert not BroughtDish.objects.exists()


def test_a_lesson_that_is_over_keeps_what_was_brought(hostel: Hostel) -> None:
    brought(hostel, days=1)
    lessons.open_lesson(lesson=hostel.lesson)
    lessons.close_lesson(lesson=hostel.lesson)
    client, dish = hostel.client(), BroughtDish.objects.get()

    assert client.post(f"/lessons/{hostel.lesson.pk}/brought/", said()).status_code == 422
    assert client.post(f"/lessons/{hostel.lesson.pk}/brought/{dish.pk}/not/").status_code == 422
    assert BroughtDish.objects.count() == 1


def test_nobody_elses_lesson_is_brought_anything(hostel: Hostel) -> None:
    dish = brought(hostel, days=1).dish
    other, path = Hostel("Gull Rock Hostel").client(), f"/lessons/{hostel.lesson.pk}/brought/"

    assert [other.get(path).status_code, other.get(f"{path}lines/").status_code] == [404, 404]
    assert [other.post(path, said()).status_code, other.post(f"{path}{dish.pk}/not/").status_code] == [404, 404]
    assert BroughtDish.objects.count() == 1


def test_a_dish_brought_frozen_is_taken_out_in_time_and_one_from_the_fridge_is_not(hostel: Hostel) -> None:
    brought(hostel, days=20, place="freezer", title="Barley pot")
    brought(hostel, days=1, title="Leek bake")
    [thaw] = [row for row in Pack(hostel.lesson).before() if row.kind == "thaw"]

    assert thaw.what == "Barley pot"
    assert hostel.lesson.starts_at - thaw.at == dt.timedelta(hours=48)
    assert "Nobody has said how heavy it is" in thaw.why
