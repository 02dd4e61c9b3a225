"""The plan board: does the lesson fit, and what would make it?"""

from __future__ import annotations

import asyncio
import json
import re
from itertools import pairwise
from typing import Any
from unittest.mock import patch

import pytest
from django.test import AsyncClient
from django.utils import timezone

from bulwark.board import pages, selectors
from bulwark.board.drawings import LETTER
from bulwark.kitchens import services as kitchens
from bulwark.lessons import services
from bulwark.lessons.models import Learner, Lesson
from bulwark.recipes import services as recipes
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, paper_of

pytestmark = pytest.mark.django_db
COUNTS = {"basin": 2, "sink": 2, "hob_ring": 8, "oven": 4, "griddle": 4, "probe": 4, "slow_cooker": 1}


@pytest.fixture
def hostel() -> Hostel:
    hostel = Hostel()
    kitchens.set_equipment(by=hostel.actor, counts=COUNTS)
    return hostel


def page(hostel: Hostel, query: str = "", lesson: Lesson | None = None) -> str:
    html = hostel.client().get(f"/lessons/{(lesson or hostel.lesson).pk}/board/{query}").content.decode()
    return " ".join(html.split())


def lesson_of(hostel: Hostel, name: str, length_min: int) -> Lesson:
    recipe = recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe(name))
    return services.create_lesson(
        recipe=recipe,
        place="Skerry Point",
        starts_at=timezone.now(),
        length_min=length_min,
        benches={"Gannet": ["SD", "RO"], "Puffin": ["AK", "JT"]},
        profile_id="us-home",
    )


def test_a_lesson_that_fits_says_by_how_much_and_that_it_is_proven(hostel: Hostel) -> None:
    text = page(hostel, "?show=0")

    assert re.search(r"It fits: \d+ min to spare", text)
    assert "no plan ends before" in text
    board = pages.board_page(selectors.Board(hostel.lesson, 0))
    assert [row.name for row in board["drawing"].rows] == ["Gannet", "Puffin"]
    assert len(board["table"]) == len(board["board"].whole.parts), "every brick stands in the table too"


def test_one_that_does_not_says_so_with_the_steps_that_together_cannot_be(hostel: Hostel) -> None:
    text = page(hostel, "?show=60")

    assert re.search(r"It does not fit: \d+ min over", text)
    assert "“Demonstration”" in text
    assert "cannot be done in the period together" in text
    assert 'class="pb-late"' in text


def test_a_step_longer_than_the_period_is_named_and_one_brought_ready_made_is_the_way_out(
    hostel: Hostel,
) -> None:
    lesson = lesson_of(hostel, "beef-beetroot", 120)
    text = page(hostel, lesson=lesson)
    ways = " ".join(hostel.client().get(f"/lessons/{lesson.pk}/board/ways/").content.decode().split())

    assert "alone takes longer than the period" in text
    assert "One ready made: nobody waits for" in ways
    assert "to spare" in ways


def test_another_sink_is_offered_where_it_ends_the_lesson_sooner_and_nothing_where_it_does_not(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"sink": 1})
    board = selectors.Board(hostel.lesson, 0)
    [way] = [way for way in board.ways() if way.thing == "sink"]

    kitchens.set_equipment(by=hostel.actor, counts={"sink": 2})
    more = selectors.Board(hostel.lesson, 0)
    assert (way.ends_min, way.proven) == (more.end_min, True)
    assert all(way.ends_min < more.end_min for way in more.ways())


def test_what_nobody_counted_is_said_and_leads_to_counting(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"basin": None})
    text = page(hostel)

    assert "Nobody has counted: hand-wash basin. Planned with 1." in text
    assert 'href="/kitchen/"' in text


def test_a_step_without_a_time_is_marked_wherever_it_stands(hostel: Hostel) -> None:
    process = hostel.lesson.process
    for step in process["steps"]:
        step.pop("minutes", None)
        step.pop("waiting_min", None)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(process=process)
    text = page(hostel)

    assert "have no time in the recipe: typical ones were taken" in text
    assert "~ " in text
    assert "nobody said how long" in text


def test_an_unconfirmed_recipe_is_said_to_be_on_the_board_and_its_paper(hostel: Hostel) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(unconfirmed=True)

    assert "steps unconfirmed" in page(hostel)
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        sheet = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/board/run-sheet.pdf").decode()
    assert "steps unconfirmed" in sheet


def test_an_order_that_makes_a_path_for_soil_is_never_shown_in_silence(hostel: Hostel) -> None:
    assert "soil reaches food" not in page(hostel, "?show=0")
    selectors._planned.cache_clear()
    with patch("bulwark.board.selectors._is_clean", return_value=False):
        assert "soil reaches food that it does not reach as written" in page(hostel, "?show=0")
    selectors._planned.cache_clear()


def test_no_word_on_a_brick_is_cut(hostel: Hostel) -> None:
    board = pages.board_page(selectors.Board(lesson_of(hostel, "fish-pie", 120), 5))
    bricks = [brick for row in board["drawing"].rows for brick in row.bricks]

    assert any(brick.words for brick in bricks)
    for brick in bricks:
        room = brick.height if brick.upright else brick.width
        assert all(len(text) * LETTER <= room + 1 for text in brick.words), brick
        assert brick.x >= 112


def test_learners_stand_at_one_thing_at_a_time(hostel: Hostel) -> None:
    board = selectors.Board(lesson_of(hostel, "sausage-rolls", 100), 5)
    busy: dict[str, list[tuple[int, int]]] = {}
    for name, people in board.plan.people.items():
        begin = board.plan.starts[name]
        for who in people:
            busy.setdefault(who, []).append((begin, begin + board.whole.problem.tasks[name].s))

    assert set(busy) == {"SD", "RO", "AK", "JT"}
    for spans in busy.values():
        ordered = sorted(spans)
        assert all(first[1] <= then[0] for first, then in pairwise(ordered))


def test_a_brick_stays_where_it_is_put_and_the_others_go_round_it(hostel: Hostel) -> None:
    free = selectors.Board(hostel.lesson, 0)
    put = selectors.Board(hostel.lesson, 0, {"1.griddle": 50})

    assert put.plan.starts["1.griddle"] == 50 * 60
    assert put.plan.starts["1.probe"] >= 59 * 60
    assert "1.griddle" not in put.moved
    assert put.moved["1.probe"] == round((put.plan.starts["1.probe"] - free.plan.starts["1.probe"]) / 60)
    text = page(hostel, "?show=0&pin=1.griddle@50&pick=1.griddle")
    assert re.search(r"\d+ other bricks moved, most of all by \d+ min, later\.", text)
    assert "later than it could" in text
    assert 'class="pb-pin"' in text
    assert "put here by hand" in text


def test_a_brick_that_cannot_be_there_says_which_steps_stand_against_it(hostel: Hostel) -> None:
    text = page(hostel, "?show=0&pin=1.griddle@1")

    assert "It cannot be put there:" in text
    assert "“Koftas on the griddle”" in text
    assert "It fits" in text, "the board shows the plan without it"


def test_putting_and_letting_go_stand_in_the_address(hostel: Hostel) -> None:
    client, board = hostel.client(), f"/lessons/{hostel.lesson.pk}/board/"
    put = client.get(board, {"show": "0", "pick": "1.griddle", "at": "50", "put": "here", "pin": "2.slice@60"})
    assert put["Location"] == f"{board}?show=0&pin=2.slice%4060&pin=1.griddle%4050&pick=1.griddle"

    gone = client.get(f"{put['Location']}&put=free")
    assert gone["Location"] == f"{board}?show=0&pin=2.slice%4060&pick=1.griddle"


def test_what_was_put_can_be_let_go_as_a_way_out(hostel: Hostel) -> None:
    ways = hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/ways/?show=0&pin=1.griddle@60").content.decode()

    assert "Let go what was put by hand" in ways


@pytest.mark.parametrize("pin", ["1.griddle", "1.griddle@", "9.griddle@5", "1.griddle@99999", "@5", "x" * 400, "\0@1"])
def test_a_pin_that_is_none_is_refused_with_the_reason(hostel: Hostel, pin: str) -> None:
    answer = hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/", {"pin": pin})

    assert answer.status_code == 422
    assert "is no brick of this board" in answer.content.decode()


def test_a_bench_with_nobody_is_planned_for_two(hostel: Hostel) -> None:
    Learner.objects.filter(bench=hostel.gannet).delete()

    assert "It fits" in page(hostel, "?show=0")


@pytest.mark.parametrize("show", ["x", "-1", "61", "1" * 400])
def test_what_cannot_be_shown_is_refused_with_the_reason(hostel: Hostel, show: str) -> None:
    answer = hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/", {"show": show})

    assert answer.status_code == 422
    assert 'role="alert"' in answer.content.decode()


def test_the_run_sheet_has_every_brick_and_says_what_the_board_says(hostel: Hostel) -> None:
    board = selectors.Board(hostel.lesson, 0)
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        sheet = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/board/run-sheet.pdf?show=0").decode()
    text = " ".join(sheet.split())

    assert text.count("<tr>") == len(board.whole.parts) + 1
    assert "It fits" in text
    assert re.search(r"Hot food waits \d+ min at most before it is eaten\.", text)
    assert "your local code and your licensed practice decide" in text
    assert paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/board/run-sheet.pdf").startswith(b"%PDF")


def test_another_organisation_finds_no_board(hostel: Hostel) -> None:
    other = Hostel("Gull Rock Hostel").client()

    for path in ("board/", "board/ways/"):
        assert other.get(f"/lessons/{hostel.lesson.pk}/{path}").status_code == 404
    assert other.post(f"/lessons/{hostel.lesson.pk}/board/run-sheet.pdf").status_code == 404


def test_the_board_asks_the_database_little(hostel: Hostel, django_assert_max_num_queries: Any) -> None:
    client = hostel.client()
    with django_assert_max_num_queries(8):
        client.get(f"/lessons/{hostel.lesson.pk}/board/")


@pytest.mark.django_db(transaction=True)
def test_a_long_look_tells_what_is_proven_and_then_the_board() -> None:
    hostel = Hostel()
    client = AsyncClient()
    client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")
    stranger = AsyncClient()

    async def looked() -> tuple[bytes, int]:
        answer = await client.get(f"/lessons/{hostel.lesson.pk}/board/live/?show=0")
        parts = b"".join([part async for part in answer.streaming_content])
        return parts, (await stranger.get(f"/lessons/{hostel.lesson.pk}/board/live/")).status_code

    parts, refused = asyncio.run(looked())

    assert b"event: bound" in parts
    page = json.loads(parts.decode().partition("event: found\ndata: ")[2].partition("\n")[0])
    assert "It fits" in page
    assert 'class="pb-board"' in page
    assert refused == 404


def test_only_what_is_not_proven_is_looked_at_longer(hostel: Hostel) -> None:
    board = selectors.Board(hostel.lesson, 0)

    assert board.proven
    assert "Look longer" not in page(hostel, "?show=0")
    with patch.object(selectors.Board, "proven", property(lambda self: False)):
        assert "Look longer for a shorter plan" in page(hostel, "?show=0")
