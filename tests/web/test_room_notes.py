"""What a kitchen has said and counted stands beside the plan where it comes up against it."""

from __future__ import annotations

from typing import Any

import pytest

from bulwark.board.room_notes import cold_litres
from bulwark.board.selectors import board_of
from bulwark.kitchens.models import Kitchen
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


def board_page(hostel: Hostel, **said: Any) -> str:
    Kitchen.objects.update_or_create(organisation=hostel.lesson.organisation, defaults=said)
    hostel.lesson.refresh_from_db()
    return hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/").content.decode()


@pytest.mark.parametrize(
    ("metres", "told"), [(0, ""), (2000, "93.3 °C (199 °F)"), (None, "how high this kitchen lies")]
)
def test_where_water_boils_colder_is_told_and_nothing_where_it_does_not(
    hostel: Hostel, metres: int | None, told: str
) -> None:
    process = hostel.lesson.process
    process["tools"]["stock pot"] = {"kind": "pot"}
    heat = next(row for row in process["steps"] if row["do"] == "heat")
    heat["tools"] = ["stock pot"]
    type(hostel.lesson).objects.filter(pk=hostel.lesson.pk).update(process=process)

    page = board_page(hostel, altitude_m=metres)

    assert told in page
    assert ("boiling takes longer" in page) is (metres == 2000)


def test_what_does_not_go_into_the_fridge_is_told(hostel: Hostel) -> None:
    litres, unweighed = cold_litres(board_of(hostel.lesson))["fridge"]
    assert litres > 0

    assert "that does not go in" in board_page(hostel, fridge_l=0)
    assert "that does not go in" not in board_page(hostel, fridge_l=500)
    assert "Nobody has said how much it holds" in board_page(hostel, fridge_l=None)
    assert ("nobody has weighed" in board_page(hostel)) is unweighed


@pytest.mark.parametrize(("towels", "told"), [({}, False), ({"hand_towel": 1}, True), ({"hand_towel": 40}, False)])
def test_too_few_towels_for_hands_are_told_and_none_counted_is_not_none_there(
    hostel: Hostel, towels: dict[str, int], told: bool
) -> None:
    kitchen = Kitchen.objects.filter(organisation=hostel.lesson.organisation).first()
    equipment = {name: n for name, n in (kitchen.equipment if kitchen else {}).items() if name != "hand_towel"}

    assert ("never the dish towel" in board_page(hostel, equipment={**equipment, **towels})) is told
