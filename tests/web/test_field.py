"""A lesson where there is no tap: water, ice, the order of loading, and the clock of a hot day."""

from __future__ import annotations

import re
from unittest.mock import patch

import pytest

from bulwark.board import selectors as boards
from bulwark.kitchens import services as kitchens
from bulwark.kitchens.models import Kitchen
from bulwark.lessons.models import Lesson
from bulwark.recipes.models import Recipe
from tests.web.conftest import Hostel, paper_of

pytestmark = pytest.mark.django_db
LINES = ["500 g turkey mince", "1 kg cucumber", "300 g natural yoghurt", "150 g dry breadcrumbs"]


@pytest.fixture
def hostel() -> Hostel:
    hostel = Hostel()
    shore = kitchens.main_kitchen(hostel.actor)
    kitchens.set_room(kitchen=shore, name="Shore", said={"benches": 2, "tap": "no"})
    kitchens.set_equipment(by=hostel.actor, kitchen=shore, counts={"basin": 1, "sink": 2, "griddle": 2, "probe": 2})
    Lesson.objects.filter(pk=hostel.lesson.pk).update(kitchen=shore)
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=LINES)
    hostel.lesson.refresh_from_db()
    return hostel


def page(hostel: Hostel) -> str:
    return " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/pack/").content.decode().split())


def say(hostel: Hostel, ambient: str, away: str) -> None:
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/pack/field/", {"ambient": ambient, "away": away})


def test_water_is_counted_by_heads_and_loaded_last(hostel: Hostel) -> None:
    text = page(hostel)

    hands = re.search(r"(\d+) l of water for hands: 5 people, 4 washes each", text)
    assert hands
    assert int(hands[1]) >= 5 * 4 * 0.7 * 1.25
    assert "5 l for produce" in text, "two kilograms of cucumber for two benches, with a quarter to spare"
    order = ["Waste and end of day", "Dry goods", "Cold box: raw only", "Cold box: eaten as it is", "Hands first"]
    places = [text.index(f"<b>{name}") for name in order]
    assert places == sorted(places)
    raw = text[places[2] : places[3]]
    assert "2 × 500 g turkey mince" in raw
    assert "yoghurt" not in raw


def test_ice_is_worked_out_only_from_what_somebody_has_said(hostel: Hostel) -> None:
    assert page(hostel).count("say below how warm it will be") == 2
    assert "Nobody has said how warm it will be" in page(hostel)
    say(hostel, "24", "5")
    text = page(hostel)

    assert re.search(r"with \d+(\.5)? kg of frozen packs for 1\.0 kg of food", text)
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=["some turkey mince", *LINES[1:]])
    assert "some of it has no weight in the recipe" in page(hostel)
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=[*LINES, "some double cream"])
    text = page(hostel)
    assert text.count("some of it has no weight in the recipe") == 1, "what is not weighed is not left out of the sum"
    assert "frozen packs for 1.0 kg of food" in text, "the raw box is known"


def test_more_than_one_box_takes_goes_into_several_alike_and_more_than_all_is_said(hostel: Hostel) -> None:
    say(hostel, "24", "5")
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=["30 kg turkey mince", *LINES[1:]])
    found = re.search(r"(\d) alike, each: (.+?) with (\d+(?:\.5)?) kg of frozen packs; 60\.0 kg of food", page(hostel))
    assert found
    assert int(found[1]) >= 2
    assert "a thermometer in every one" in page(hostel)

    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=["900 kg turkey mince", *LINES[1:]])
    assert "1800.0 kg and its packs are more than all our boxes take" in page(hostel)


def test_on_a_hot_day_the_plan_keeps_to_the_short_clock(hostel: Hostel) -> None:
    cool = {row.rule: row.s for row in boards.board_of(hostel.lesson).room.bounds}
    say(hostel, "34", "5")
    hot = {row.rule: row.s for row in boards.board_of(hostel.lesson).room.bounds}

    assert (cool["raw-out-of-fridge"], hot["raw-out-of-fridge"]) == (7200, 3600)
    assert re.search(r"food may be out for (1 h|60 min) only", page(hostel))


@pytest.mark.parametrize(("ambient", "away"), [("x", "5"), ("24", "-3"), ("nan", "5"), ("99", "5")])
def test_what_cannot_be_is_not_taken(hostel: Hostel, ambient: str, away: str) -> None:
    say(hostel, ambient, away)
    decided = boards.decided_of(hostel.lesson)

    assert decided.ambient_c is None or decided.away_h is None


def test_the_packing_list_is_in_the_pack_of_a_place_without_a_tap_and_of_no_other(hostel: Hostel) -> None:
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        assert b"pk-boxes" in paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/all.pdf")
        Lesson.objects.filter(pk=hostel.lesson.pk).update(kitchen=None)
        assert b"pk-boxes" in paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/all.pdf"), "the main one"
        Kitchen.objects.update(tap="")
        assert b"pk-boxes" not in paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/all.pdf")
    assert "Nobody has said whether there is a tap" in page(hostel)


def test_food_that_nobody_knows_is_packed_cold_and_by_itself_and_never_left_out(hostel: Hostel) -> None:
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=[*LINES, "2 wobblefruits"])
    text = page(hostel)

    assert "2 × 2 wobblefruits" in text
    assert "Pack it cold and by itself" in text
    assert "Not known what it is" not in page_of(hostel, LINES)


def page_of(hostel: Hostel, lines: list[str]) -> str:
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=lines)
    return page(hostel)


def test_ice_is_for_the_most_that_a_line_may_mean(hostel: Hostel) -> None:
    say(hostel, "24", "5")
    assert "frozen packs for 2.0 kg of food" in page_of(hostel, ["500-1000 g turkey mince"])
