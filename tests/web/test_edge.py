"""What no page takes is refused in words; what breaks is still a fault."""

from unittest.mock import patch

import pytest
from django.db import DataError

from bulwark.kitchens import services as kitchens
from foodsafety.quantities import CoreError
from tests.web.conftest import Hostel, post_entry

LOOK = "bulwark.lessons.views.selectors.lessons_for"


@pytest.mark.parametrize("ending", ["flow.svg", "flow.pdf"])
def test_a_drawing_of_a_bench_that_has_done_nothing_is_refused_in_words(hostel: Hostel, ending: str) -> None:
    client = hostel.open().client()
    page = (client.get if ending.endswith("svg") else client.post)(f"/benches/{hostel.puffin.pk}/{ending}")

    assert page.status_code == 422
    assert b"That could not be read" in page.content


@pytest.mark.parametrize(
    "wrong",
    [CoreError("name", "words_needed"), DataError("out of range"), UnicodeEncodeError("utf-8", "\ud800", 0, 1, "?")],
)
def test_what_a_page_overlooked_is_refused_and_says_what_next(hostel: Hostel, wrong: Exception) -> None:
    with patch(LOOK, side_effect=wrong):
        page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/changes/")

    assert page.status_code == 422
    assert b"Nothing was changed" in page.content


def test_a_fault_of_ours_stays_one(hostel: Hostel) -> None:
    client = hostel.client()
    client.raise_request_exception = False
    with patch(LOOK, side_effect=ZeroDivisionError):
        assert client.get(f"/lessons/{hostel.lesson.pk}/changes/").status_code == 500


@pytest.mark.parametrize("name", ["\ud800", "a\x00b", "\u202e" * 70])
def test_letters_that_are_none_are_refused_in_an_entry(hostel: Hostel, name: str) -> None:
    data = {"food": "koftas", "name": name}
    assert post_entry(hostel.open().tablet(), "named", data=data).status_code == 422


@pytest.mark.parametrize("count", ["1000", "9" * 4301, "-1", "1e3", "\u0663\u0663\u0663\u0663"])
def test_a_count_that_is_none_is_refused(hostel: Hostel, count: str) -> None:
    room = kitchens.main_kitchen(hostel.actor)
    page = hostel.client().post("/kitchens/", {f"k{room.pk}-name": "Here", f"k{room.pk}-n-board": count})

    assert page.status_code == 422
    assert b'role="alert"' in page.content
    room.refresh_from_db()
    assert room.equipment == {}
