"""Pieces in a pan pressed to half their height: how much sooner, and where nothing is promised."""

from __future__ import annotations

from copy import deepcopy
from dataclasses import replace
from unittest.mock import patch

import pytest

from bulwark.board import pages, selectors
from bulwark.board.choices import Choices
from bulwark.lessons.models import Lesson
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
