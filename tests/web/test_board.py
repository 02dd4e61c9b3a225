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

from bulwark.board import pages, selectors, solving
from bulwark.board.choices import Choices
from bulwark.board.drawings import LETTER
from bulwark.kitchens import services as kitchens
from bulwark.lessons import services
from bulwark.lessons.models import Learner, Lesson
from bulwark.recipes import services as recipes
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, paper_of, ways

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


def decide(hostel: Hostel, do: str, of: str = "", value: str = "", lesson: Lesson | None = None, **more: str) -> Any:
    """A change, as the page sends it."""
    return hostel.client().post(
        f"/lessons/{(lesson or hostel.lesson).pk}/board/change/", {"do": do, "of": of, "value": value, **more}
    )


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


@pytest.fixture
def patient(monkeypatch: pytest.MonkeyPatch) -> None:
    """The solver may take as long as it needs: on a busy machine what a page waits is too short for a proof."""
    for name in ("solving.LOOK_S", "solving.WAY_LOOK_S", "selectors.LOOK_S"):
        monkeypatch.setattr(f"bulwark.board.{name}", 30.0)


@pytest.mark.usefixtures("patient")
def test_a_lesson_that_fits_says_by_how_much_and_that_it_is_proven(hostel: Hostel) -> None:
    decide(hostel, "show", value="0")
    text = page(hostel)

    assert re.search(r"It fits: \d+ min to spare", text)
    assert "no plan ends before" in text
    board = pages.board_page(selectors.Board(hostel.lesson, Choices(show_min=0)))
    assert [row.name for row in board["drawing"].rows] == ["Gannet", "Puffin"]
    assert len(board["table"]) == len(board["board"].whole.parts), "every brick stands in the table too"


def test_one_that_does_not_says_so_with_the_steps_that_together_cannot_be(hostel: Hostel) -> None:
    decide(hostel, "show", value="60")
    text = page(hostel)

    assert re.search(r"It does not fit: \d+ min over", text)
    assert "“Demonstration”" in text
    assert "cannot be done in the period together" in text
    assert 'class="pb-late"' in text


def test_a_step_longer_than_the_period_is_named_and_one_brought_ready_made_is_the_way_out(
    hostel: Hostel,
) -> None:
    lesson = lesson_of(hostel, "beef-beetroot", 120)
    text = page(hostel, lesson=lesson)
    offered = ways(hostel, lesson)

    assert "alone takes longer than the period" in text
    assert "One ready made: nobody waits for" in offered
    assert "to spare" in offered


@pytest.mark.usefixtures("patient")
def test_another_sink_is_offered_where_it_ends_the_lesson_sooner_and_nothing_where_it_does_not(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"sink": 1})
    board = selectors.Board(hostel.lesson, Choices(show_min=0))
    [way] = [way for way in board.ways() if way.of == "sink"]

    kitchens.set_equipment(by=hostel.actor, counts={"sink": 2})
    more = selectors.Board(hostel.lesson, Choices(show_min=0))
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
        sheet = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/run-sheet.pdf").decode()
    assert "steps unconfirmed" in sheet


def test_an_order_that_makes_a_path_for_soil_is_never_shown_in_silence(hostel: Hostel) -> None:
    assert "soil reaches food" not in page(hostel)
    solving.planned.cache_clear()
    with patch("bulwark.board.solving._is_clean", return_value=False):
        assert "soil reaches food that it does not reach as written" in page(hostel)
    solving.planned.cache_clear()


def test_no_word_on_a_brick_is_cut(hostel: Hostel) -> None:
    board = pages.board_page(selectors.Board(lesson_of(hostel, "fish-pie", 120), Choices(show_min=5)))
    bricks = [brick for row in board["drawing"].rows for brick in row.bricks]

    assert any(brick.words for brick in bricks)
    for brick in bricks:
        room = brick.height if brick.upright else brick.width
        assert all(len(text) * LETTER <= room + 1 for text in brick.words), brick
        assert brick.x >= 112


def test_learners_stand_at_one_thing_at_a_time(hostel: Hostel) -> None:
    board = selectors.Board(lesson_of(hostel, "sausage-rolls", 100), Choices(show_min=5))
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
    free = selectors.Board(hostel.lesson, Choices(show_min=0))
    put = selectors.Board(hostel.lesson, Choices(show_min=0, pins=(("1.griddle", 50),)))

    assert put.plan.starts["1.griddle"] == 50 * 60
    assert put.plan.starts["1.probe"] >= 59 * 60
    assert "1.griddle" not in put.moved
    assert put.moved["1.probe"] == round((put.plan.starts["1.probe"] - free.plan.starts["1.probe"]) / 60)
    decide(hostel, "show", value="0")
    moved = decide(hostel, "put", "1.griddle", "50", pick="1.griddle")
    text = " ".join(hostel.client().get(moved["Location"]).content.decode().split())
    assert re.search(r"\d+ other bricks moved, most of all by \d+ min, later\.", text)
    assert "later than it could" in text
    assert 'class="pb-pin"' in text
    assert "put here by hand" in text


def test_a_brick_that_cannot_be_there_says_which_steps_stand_against_it(hostel: Hostel) -> None:
    decide(hostel, "put", "1.griddle", "1")
    text = page(hostel)

    assert "It cannot be put there:" in text
    assert "“Koftas on the griddle”" in text
    assert "It fits" in text, "the board shows the plan without it"


def test_a_plan_is_kept_with_its_lesson_and_taken_back_change_by_change(hostel: Hostel) -> None:
    decide(hostel, "show", value="0")
    decide(hostel, "put", "1.griddle", "50")
    decide(hostel, "put", "2.slice", "60")
    decide(hostel, "let_go", "1.griddle")
    stood = []
    for _ in range(6):
        stood.append(selectors.board_of(hostel.lesson).room.choices)
        decide(hostel, "take_back")

    assert [choices.pins for choices in stood] == [
        (("2.slice", 60),),
        (("1.griddle", 50), ("2.slice", 60)),
        (("1.griddle", 50),),
        (),
        (),
        (),
    ]
    assert [choices.show_min for choices in stood] == [0, 0, 0, 0, 5, 5]
    decide(hostel, "put", "2.slice", "60")
    decide(hostel, "take_back")
    assert selectors.board_of(hostel.lesson).room.choices == Choices()
    assert page(hostel).count("<li>") == 10, "every change is told, taken back ones too"


def test_two_who_plan_at_once_keep_both_changes_and_the_later_is_told(hostel: Hostel) -> None:
    client = hostel.colleague()
    seen = selectors.board_of(hostel.lesson).seen
    decide(hostel, "put", "1.griddle", "50", seen=str(seen))

    answer = client.post(
        f"/lessons/{hostel.lesson.pk}/board/change/", {"do": "show", "value": "0", "seen": str(seen)}, follow=True
    )

    text = " ".join(answer.content.decode().split())
    assert "Changed meanwhile by somebody else:" in text
    assert "“Koftas on the griddle (Gannet)” put to minute 50" in text
    assert selectors.board_of(hostel.lesson).room.choices == Choices(show_min=0, pins=(("1.griddle", 50),))
    assert "Changed meanwhile" not in page(hostel)


@pytest.mark.usefixtures("patient")
def test_a_way_out_is_taken_with_one_click_and_stands_in_words_until_it_is_not_so(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"sink": 1})
    before = selectors.board_of(hostel.lesson)
    for way in before.ways():
        decide(hostel, way.do, way.of, way.value)
        after = selectors.board_of(hostel.lesson)
        assert (after.end_min, after.proven) == (way.ends_min, way.proven), way
        decide(hostel, "take_back")
    decide(hostel, "more", "sink")

    assert "1 more washing-up sink than counted" in page(hostel)
    decide(hostel, "less", "sink")
    assert "sink than counted" not in page(hostel)


def test_cold_work_can_be_done_before_the_lesson_and_says_how_it_is_kept(hostel: Hostel) -> None:
    board = selectors.board_of(hostel.lesson)
    assert "mix" not in board.may_be_ahead, "it is mixed with raw turkey"
    assert "grate" in board.may_be_ahead
    decide(hostel, "ahead", "grate")
    after = selectors.board_of(hostel.lesson)

    assert "1.grate" not in after.whole.parts
    assert after.clean
    assert "is done before the lesson, kept covered at 40 °F or below" in page(hostel)
    assert decide(hostel, "ahead", "mix").status_code == 422


def test_who_does_a_brick_can_be_said_and_is_kept(hostel: Hostel) -> None:
    for who in ("SD", "RO"):
        decide(hostel, "doer", "1.griddle", who)
        assert selectors.board_of(hostel.lesson).plan.people["1.griddle"] == (who,)
    assert "(kept)" in page(hostel, "?pick=1.griddle")

    assert decide(hostel, "doer", "1.griddle", "AK").status_code == 422, "AK is at another bench"


def test_what_was_put_can_be_let_go_as_a_way_out(hostel: Hostel) -> None:
    decide(hostel, "put", "1.griddle", "60")

    assert "Let go what was put by hand" in ways(hostel)


@pytest.mark.parametrize(
    ("do", "of", "value"),
    [
        ("put", "1.griddle", ""),
        ("put", "1.griddle", "99999"),
        ("put", "9.griddle", "5"),
        ("put", "\0", "1"),
        ("put", "x" * 400, "1"),
        ("show", "", "x"),
        ("show", "", "61"),
        ("show", "", "1" * 400),
        ("more", "moon", ""),
        ("adult", "Tern", ""),
        ("what", "", ""),
    ],
)
def test_what_is_no_change_is_refused_with_the_reason(hostel: Hostel, do: str, of: str, value: str) -> None:
    answer = decide(hostel, do, of, value)

    assert answer.status_code == 422
    assert 'role="alert"' in answer.content.decode()
    assert selectors.board_of(hostel.lesson).room.choices == Choices()


def at_once(hostel: Hostel, **minutes: str) -> Any:
    change = {"do": "at_once", **minutes}
    return hostel.client().post(f"/lessons/{hostel.lesson.pk}/board/change/", change, follow=True)


def test_ways_out_are_looked_for_a_round_at_a_time_told_of_and_stopped(hostel: Hostel) -> None:
    path = f"/lessons/{hostel.lesson.pk}/board/ways/"
    with patch("bulwark.board.selectors.WAYS_ROUND_S", 0.0):
        rounds = [hostel.client().get(path, {"already": str(n)}).content.decode() for n in range(3)]
        stopped = [hostel.client().get(path, said).content.decode() for said in ({"stop": "1"}, {"asked": "300"})]
        solving.planned.cache_clear()  # another process of the server answers, which has planned nothing yet
        other = hostel.client().get(path, {"already": "4"}).content.decode()

    tried = [int(found[1]) for html in (*rounds, other) if (found := re.search(r'data-tried="(\d+)"', html))]
    assert tried[:3] == sorted(set(tried[:3])), "each round gets further, however short it is"
    assert all("pb-more" not in html and "Not every way out was tried" in html for html in stopped)
    assert tried[3] == 4, "what was told is not taken back, and it goes on"
    assert "Take it" in ways(hostel)


def test_what_all_do_at_once_is_asked_together_and_taken_back_one_by_one(hostel: Hostel) -> None:
    text = at_once(hostel, review="3", show="5", eat="0").content.decode()

    board = selectors.board_of(hostel.lesson)
    assert board.room.choices == Choices(review_min=3, eat_min=0)
    assert [row.do for row in board.changes] == ["review", "eat"]
    assert "Nobody eats in the lesson" in text
    decide(hostel, "take_back")
    assert selectors.board_of(hostel.lesson).room.choices == Choices(review_min=3)


def test_of_what_all_do_at_once_nothing_is_changed_where_one_is_no_number(hostel: Hostel) -> None:
    answer = at_once(hostel, review="3", show="x", eat="0")

    assert answer.status_code == 422
    assert selectors.board_of(hostel.lesson).room.choices == Choices()


def test_a_step_done_ahead_says_what_is_done_before_it_and_is_let_go_with_it(hostel: Hostel) -> None:
    decide(hostel, "ahead", "stir")
    text = page(hostel)
    assert "is done before the lesson, after “" in text
    assert text.count("Not so") == 1

    decide(hostel, "not_ahead", "stir")
    assert selectors.board_of(hostel.lesson).room.choices == Choices()


def test_a_bench_with_nobody_is_planned_for_two(hostel: Hostel) -> None:
    Learner.objects.filter(bench=hostel.gannet).delete()

    assert "It fits" in page(hostel)


def test_the_run_sheet_has_every_brick_and_says_what_the_board_says(hostel: Hostel) -> None:
    decide(hostel, "ahead", "grate")
    board = selectors.board_of(hostel.lesson)
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        sheet = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/run-sheet.pdf").decode()
    text = " ".join(sheet.split())

    assert text.count("<tr>") == len(board.whole.parts) + 1
    assert "It fits" in text
    assert "is done before the lesson" in text
    assert re.search(r"Hot food waits \d+ min at most before it is eaten\.", text)
    assert "your local code and your licensed practice decide" in text
    assert paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/run-sheet.pdf").startswith(b"%PDF")


def test_another_organisation_finds_no_board(hostel: Hostel) -> None:
    other = Hostel("Gull Rock Hostel").client()

    for path in ("board/", "board/ways/"):
        assert other.get(f"/lessons/{hostel.lesson.pk}/{path}").status_code == 404
    change = {"do": "show", "value": "0"}
    assert other.post(f"/lessons/{hostel.lesson.pk}/board/change/", change).status_code == 404
    assert other.post(f"/lessons/{hostel.lesson.pk}/pack/run-sheet.pdf").status_code == 404


def test_the_board_asks_the_database_little(hostel: Hostel, django_assert_max_num_queries: Any) -> None:
    client = hostel.client()
    with django_assert_max_num_queries(9):
        client.get(f"/lessons/{hostel.lesson.pk}/board/")


@pytest.mark.django_db(transaction=True)
def test_a_long_look_tells_what_is_proven_and_then_the_board() -> None:
    hostel = Hostel()
    client = AsyncClient()
    client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")
    stranger = AsyncClient()

    async def looked() -> tuple[bytes, int]:
        answer = await client.get(f"/lessons/{hostel.lesson.pk}/board/live/")
        parts = b"".join([part async for part in answer.streaming_content])
        return parts, (await stranger.get(f"/lessons/{hostel.lesson.pk}/board/live/")).status_code

    parts, refused = asyncio.run(looked())

    assert b"event: bound" in parts
    page = json.loads(parts.decode().partition("event: found\ndata: ")[2].partition("\n")[0])
    assert "fit" in page.partition("</h1>")[0]
    assert 'class="pb-board"' in page
    assert refused == 404


@pytest.mark.usefixtures("patient")
def test_only_what_is_not_proven_is_looked_at_longer(hostel: Hostel) -> None:
    board = selectors.Board(hostel.lesson, Choices(show_min=0))

    assert board.proven
    assert "Look longer" not in page(hostel)
    with patch.object(selectors.Board, "proven", property(lambda self: False)):
        assert "Look longer for a shorter plan" in page(hostel)


def test_a_kitchen_with_no_basin_at_all_says_so_and_offers_one(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"basin": 0})
    text = page(hostel)
    assert "No plan was found" in text
    assert "alone takes longer than the period" not in text
    assert "hand-wash basin" in text
    assert "One more hand-wash basin" in ways(hostel)
    client = hostel.client()
    for path in ("pack/", "pack/calendar.ics"):
        assert client.get(f"/lessons/{hostel.lesson.pk}/{path}").status_code == 200
    assert paper_of(client, f"/lessons/{hostel.lesson.pk}/pack/all.pdf").startswith(b"%PDF")
    decide(hostel, "more", "basin")
    assert "min to spare" in page(hostel)


def test_no_way_out_is_offered_that_leaves_a_path_for_soil(hostel: Hostel) -> None:
    board = selectors.board_of(hostel.lesson)
    assert board.ways()
    solving.planned.cache_clear()
    with patch("bulwark.board.solving._is_clean", return_value=False):
        assert selectors.board_of(hostel.lesson).ways() == []
    solving.planned.cache_clear()


def test_only_what_takes_long_by_itself_can_be_brought_ready_made(hostel: Hostel) -> None:
    assert decide(hostel, "ready", "griddle").status_code == 422
    lesson = lesson_of(hostel, "beef-beetroot", 120)
    [step] = selectors.board_of(lesson).may_be_ready
    assert decide(hostel, "ready", step, lesson=lesson).status_code == 302


def test_smaller_pieces_are_a_way_out_with_the_time_of_the_heat_model(hostel: Hostel) -> None:
    lesson = lesson_of(hostel, "sausage-rolls", 80)
    board = selectors.board_of(lesson)
    row = board.smaller["bake"]
    # 25 min for 8 rolls of sausage meat, pastry, apple and egg: half the weight takes 0.63 to 0.79 of it.
    assert 0.63 * 1500 < row.after_s < 0.80 * 1500
    assert "by the heat model 25 min become" in ways(hostel, lesson)

    services_change(hostel, lesson, "smaller", "bake")
    less = selectors.board_of(lesson)
    before, after = (one.whole.problem.tasks["1.bake"].s for one in (board, less))
    assert (before, after) == (1500, -(-row.after_s // 30) * 30), "rounded up to half a minute, never down"
    assert less.end_min < board.end_min
    assert "pieces of half the size, done sooner; the probe decides" in str(pages.board_page(less)["decided"])


def services_change(hostel: Hostel, lesson: Lesson, do: str, of: str) -> None:
    answer = hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": do, "of": of})
    assert answer.status_code == 302


@pytest.mark.parametrize("of", ["no_such_step", "fill", ""])
def test_what_has_no_pieces_in_an_oven_is_made_no_smaller(hostel: Hostel, of: str) -> None:
    lesson = lesson_of(hostel, "sausage-rolls", 80)
    answer = hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "smaller", "of": of})

    assert answer.status_code == 422


@pytest.mark.parametrize("spoil", ["pieces", "oven", "weight"])
def test_where_a_number_a_heat_or_a_weight_is_not_known_nothing_is_promised(hostel: Hostel, spoil: str) -> None:
    lesson = lesson_of(hostel, "sausage-rolls", 80)
    if spoil == "pieces":
        lesson.pieces = {}
    elif spoil == "oven":
        for row in lesson.process["steps"]:
            row.pop("heat", None)
    else:
        lesson.recipe.ingredients = ["some sausage meat", *lesson.recipe.ingredients[1:]]
        for row in lesson.process["foods"].values():
            row["line"] = 0

    assert selectors.Board(lesson, Choices()).smaller == {}


def test_slices_are_cut_after_the_oven_and_bake_no_sooner(hostel: Hostel) -> None:
    lesson = lesson_of(hostel, "sausage-rolls", 80)
    for row in lesson.pieces.values():
        row["one"] = "tart slice"

    assert selectors.Board(lesson, Choices()).smaller == {}
    assert selectors.board_of(lesson_of(hostel, "custard-tart", 120)).smaller == {}
