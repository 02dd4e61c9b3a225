"""Several kitchens in one table: what is counted, what nobody has counted, and copies."""

from __future__ import annotations

from importlib import import_module
from typing import Any
from unittest.mock import Mock

import pytest
from django.apps import apps

from bulwark.board import selectors as boards
from bulwark.groups import services as groups
from bulwark.groups.rosters import read_roster
from bulwark.kitchens import selectors, services
from bulwark.kitchens.models import HouseRules, Kitchen
from bulwark.lessons.models import Lesson
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db
ROOM = {
    "name": "Quay room",
    "benches": "3",
    "tap": "no",
    "oven_shelves": "2, 3",
    "rings": "4 small, 2 large",
    "boards": "2 raw meat, 3 salad and fruit",
    "ages": "10 hob, 14 hot oil",
    "fridge_l": "300",
    "altitude_m": "-4",
    "n-basin": "1",
    "n-sink": "0",
    "n-knife": "",
}


def send(hostel: Hostel, room: Kitchen, **cells: str) -> Any:
    said = {f"k{room.pk}-{name}": value for name, value in {**ROOM, **cells}.items()}
    return hostel.client().post("/kitchens/", {**said, "keep": "1"})


@pytest.fixture
def room(hostel: Hostel) -> Kitchen:
    return services.main_kitchen(hostel.actor)


def test_all_that_is_said_is_kept_and_what_is_not_said_stays_unknown(hostel: Hostel, room: Kitchen) -> None:
    send(hostel, room)
    kept = Kitchen.objects.get(pk=room.pk)

    assert (kept.name, kept.benches, kept.tap, kept.oven_shelves) == ("Quay room", 3, "no", [2, 3])
    assert (kept.rings, kept.boards) == ({"small": 4, "large": 2}, {"raw meat": 2, "salad and fruit": 3})
    assert kept.ages == {"hob": 10, "hot_oil": 14}
    assert (kept.fridge_l, kept.freezer_l, kept.altitude_m) == (300, None, -4)
    assert kept.equipment == {"basin": 1, "sink": 0}, "an empty box is not a nought"


@pytest.mark.parametrize(
    ("cells", "told"),
    [
        ({"n-basin": "x"}, "basin"),
        ({"ages": "10 juggling"}, "juggling"),
        ({"ages": "99 hob"}, "ages"),
        ({"n-basin": "9999"}, "basin"),
        ({"rings": "small 4"}, "write “4 small, 4 large”"),
        ({"oven_shelves": "0"}, "oven_shelves"),
        ({"oven_shelves": "1 " * 13}, "At most 12 ovens"),
        ({"altitude_m": "90000"}, "altitude"),
        ({"benches": ""}, "benches"),
        ({"name": " "}, "needs a name"),
    ],
)
def test_a_cell_that_cannot_be_is_refused_and_nothing_typed_is_lost(
    hostel: Hostel, room: Kitchen, cells: dict[str, str], told: str
) -> None:
    answer = send(hostel, room, **cells)
    text = answer.content.decode()

    assert answer.status_code == 422
    assert told.split("_")[0].lower() in text.lower()
    assert 'value="4 small, 2 large"' in text or "rings" in cells
    assert Kitchen.objects.get(pk=room.pk).equipment == {}, "all or nothing"


def test_a_copy_is_a_kitchen_of_its_own_and_one_always_stays(hostel: Hostel, room: Kitchen) -> None:
    client = hostel.client()
    send(hostel, room)
    client.post("/kitchens/", {"copy": room.pk})
    [first, second] = selectors.kitchens_of(hostel.organisation.pk)
    send(hostel, second, name="Field kitchen", **{"n-basin": "4"})

    assert [(one.name, one.equipment["basin"]) for one in selectors.kitchens_of(hostel.organisation.pk)] == [
        ("Quay room", 1),
        ("Field kitchen", 4),
    ]
    client.post("/kitchens/", {"away": first.pk})
    client.post("/kitchens/", {"away": second.pk})
    assert [one.name for one in selectors.kitchens_of(hostel.organisation.pk)] == ["Field kitchen"]


def test_a_lesson_is_planned_with_its_own_kitchen(hostel: Hostel, room: Kitchen) -> None:
    services.set_equipment(by=hostel.actor, kitchen=room, counts={"basin": 2})
    other = services.copy_kitchen(by=hostel.actor, kitchen=Kitchen.objects.get(pk=room.pk), name="Field kitchen")
    services.set_equipment(by=hostel.actor, kitchen=other, counts={"basin": 7})

    assert boards.board_of(hostel.lesson).whole.problem.resources["basin"] == 2
    hostel.lesson.kitchen = other
    assert boards.board_of(hostel.lesson).whole.problem.resources["basin"] == 7


def test_another_organisation_neither_sees_nor_changes_them(hostel: Hostel, room: Kitchen) -> None:
    send(Hostel("Gull Rock Hostel"), room)

    assert Kitchen.objects.get(pk=room.pk).equipment == {}


def test_what_was_counted_before_there_were_several_is_kept(hostel: Hostel) -> None:
    move = import_module("bulwark.kitchens.migrations.0002_kitchens")
    old = Mock(organisation_id=hostel.organisation.pk, equipment={"oven": 4}, benches=5)
    both = {"HouseRules": Mock(objects=Mock(all=lambda: [old])), "Kitchen": Kitchen}
    move.copy_rooms(Mock(get_model=lambda _app, name: both[name]), None)

    [kept] = selectors.kitchens_of(hostel.organisation.pk)
    assert (kept.equipment, kept.benches) == ({"oven": 4}, 5)
    assert apps.get_model("kitchens", "HouseRules") is HouseRules


def test_who_is_too_young_in_this_kitchen_is_given_no_hob(hostel: Hostel, room: Kitchen) -> None:
    group = groups.keep_group(
        by=hostel.actor, group=None, name="Skuas", roster=read_roster("SD, 11, , hob knife\nRO, 16, , hob knife")
    )
    Lesson.objects.filter(pk=hostel.lesson.pk).update(group=group, kitchen=room)

    def may(name: str) -> bool:
        board = boards.board_of(Lesson.objects.get(pk=hostel.lesson.pk))
        return any("hob" in skills for (_bench, who), skills in board.said.may.items() if who == name)

    assert (may("SD"), may("RO")) == (True, True)
    services.set_room(kitchen=room, name="Quay room", said={"ages": {"hob": 12}})
    assert (may("SD"), may("RO")) == (False, True)
