"""Pressed thinner, chilled shallower, water put on before: how much sooner, and where no promise is made."""

from __future__ import annotations

import datetime as dt
from copy import deepcopy
from dataclasses import replace
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.bench.screens import bench_screen
from bulwark.board import pages, selectors
from bulwark.board.choices import Choices
from bulwark.lessons import services
from bulwark.lessons.models import Bench, Lesson
from bulwark.pack.selectors import Pack
from bulwark.recipes import services as recipes
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, ways

pytestmark = pytest.mark.django_db


def test_koftas_half_as_high_are_a_way_out_and_the_griddle_is_free_sooner(hostel: Hostel) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(length_min=45)
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)
    board = selectors.board_of(lesson)
    row = board.smaller["griddle"]
    # 9 min: half the height takes a quarter to a half of it.
    assert 0.25 * 540 < row.after_s < 0.5 * 540
    with patch.object(selectors, "MOST_WAYS", 9):
        offered = ways(hostel, lesson)
    assert "pieces half as high" in offered
    assert "They take twice the room" in offered

    answer = hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "smaller", "of": "griddle"})
    assert answer.status_code == 302
    less = selectors.board_of(lesson)
    before, after = (one.whole.problem.tasks["1.griddle"].s for one in (board, less))
    assert (before, after) == (540, -(-row.after_s // 30) * 30), "rounded up to half a minute, never down"
    assert less.whole.problem.tasks["1.griddle"].people == board.whole.problem.tasks["1.griddle"].people
    page = pages.board_page(less)
    assert "pieces half as high, done sooner; the probe decides" in str(page["decided"])
    html = hostel.client().get(f"/lessons/{lesson.pk}/board/").content.decode()
    assert "”: pieces half as high" in html, "among the changes too"

    # The bench is told where it shapes them, and where it heats them; not any more once it is taken back.
    def told() -> set[str]:
        bench = Bench.objects.select_related("lesson").get(lesson=lesson, name="Gannet")
        panels = [panel for panel, _ in bench_screen(bench, unit="C")["panels"] if panel.care]
        return {panel.extra["step"] for panel in panels if any("half as high" in text for text in panel.care.cautions)}

    assert told() == {"shape", "griddle"}
    hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "not_smaller", "of": "griddle"})
    assert told() == set()


@pytest.mark.parametrize("spoil", ["pieces", "time", "tool", "probe"])
def test_where_the_number_the_time_the_pan_or_the_limit_is_not_known_nothing_is_promised(
    hostel: Hostel, spoil: str
) -> None:
    lesson = hostel.lesson
    board = selectors.Board(lesson, Choices())
    assert set(board.smaller) == {"griddle"}
    if spoil == "pieces":
        lesson.pieces = {}
    if spoil == "probe":
        board = selectors.Board(lesson, Choices())
        board._rules = replace(board._rules, provable={})
        assert board.smaller == {}
        return
    lesson.process = deepcopy(lesson.process)
    for row in lesson.process["steps"]:
        if row["id"] == "griddle" and spoil == "time":
            row.pop("minutes")
        if row["id"] == "griddle" and spoil == "tool":
            row["tools"] = ["tray"]

    assert selectors.Board(lesson, Choices()).smaller == {}


def test_what_waits_long_in_the_cold_is_cold_sooner_half_as_deep_and_a_tart_is_not(hostel: Hostel) -> None:
    def of(name: str) -> Lesson:
        recipe = recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe(name))
        return services.create_lesson(
            recipe=recipe,
            place="",
            starts_at=timezone.now(),
            length_min=60,
            benches={"Gannet": ["SD"]},
            profile_id="us-home",
        )

    lesson = of("berry-bark")
    row = selectors.board_of(lesson).smaller["freeze"]
    assert row.after_s == 0.75 * row.before_s, "of a cube cooled through all its faces; what is flatter wins more"
    with patch.object(selectors, "MOST_WAYS", 9):
        assert "half as deep, in twice as many boxes" in ways(hostel, lesson)
    hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "smaller", "of": "freeze"})
    assert "half as deep, cold sooner; the thermometer decides" in (
        hostel.client().get(f"/lessons/{lesson.pk}/board/").content.decode()
    )
    assert selectors.board_of(of("custard-tart")).smaller == {}


def test_water_put_on_before_is_told_in_time_and_not_called_cold(hostel: Hostel) -> None:
    process = deepcopy(hostel.lesson.process)
    process["foods"]["water"] = {"kind": "water"}
    process["tools"]["pot"] = {"kind": "pot"}
    boil = {"id": "boil", "do": "heat", "title": "Boil the water", "foods": ["water"], "tools": ["pot"], "minutes": 12}
    process["steps"].insert(0, boil)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(process=process)
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)
    assert hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "ahead", "of": "boil"}).status_code == 302

    html = hostel.client().get(f"/lessons/{lesson.pk}/board/").content.decode()
    assert "is begun before the lesson by an adult who stays with it" in html
    [told] = [row for row in Pack(lesson).before() if row.kind == "water"]
    assert told.says == "Put it on, and stay with it: Boil the water"
    assert lesson.starts_at - told.at == dt.timedelta(minutes=15)
