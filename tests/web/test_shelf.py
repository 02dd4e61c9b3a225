"""What is kept: the strictest date of everything in it, and none for what was never proven."""

import datetime as dt

import pytest
from django.utils import timezone

from bulwark.lessons import services
from bulwark.recipes import services as recipes
from bulwark.shelf.selectors import shelf_item
from tests.builders import demo_recipe
from tests.web.conftest import Hostel


def cook_and_keep(hostel: Hostel, *cores_c: float, place: str = "fridge", food: str = "koftas") -> None:
    hostel.open().says("hands_washed", learner="AK", scrub_s=20)
    for step in ("stir", "mix", "griddle"):
        hostel.says("step_done", step=step, by=["AK"])
    for i, core_c in enumerate(cores_c, start=1):
        hostel.says("core_read", food="koftas", piece=str(i), core_c=core_c)
    hostel.says("stored", food=food, place=place)


def test_koftas_proven_and_kept_have_three_days(hostel: Hostel) -> None:
    cook_and_keep(hostel, 80, 80, 80)

    item = shelf_item(hostel.puffin, "koftas")
    assert item
    assert item.use_by
    assert dt.timedelta(days=3) - (item.use_by - item.made_at) < dt.timedelta(seconds=60)


@pytest.mark.parametrize("cores_c", [(), (80, 80), (80, 80, 70)], ids=["unmeasured", "two pieces", "one too low"])
def test_koftas_never_proven_are_thrown_away_though_nobody_served_them(
    hostel: Hostel, cores_c: tuple[float, ...]
) -> None:
    cook_and_keep(hostel, *cores_c)

    item = shelf_item(hostel.puffin, "koftas")
    assert item
    assert (item.use_by, item.discard, item.breach) == (None, True, "Koftas: never shown to be cooked")


def test_raita_keeps_as_long_as_its_shortest_lived_part(hostel: Hostel) -> None:
    cook_and_keep(hostel, food="raita")

    item = shelf_item(hostel.puffin, "raita")
    assert item
    assert item.use_by
    # Yoghurt would keep five days; cut cucumber keeps three.
    assert (item.use_by - item.made_at).days in (2, 3)
    assert item.contains == ("milk",)


def test_nothing_is_kept_that_nobody_put_away(hostel: Hostel) -> None:
    assert shelf_item(hostel.open().puffin, "koftas") is None


def test_what_is_made_from_koftas_never_measured_is_thrown_away_like_them(hostel: Hostel) -> None:
    """The core limit is the koftas': the wraps they went into have none of their own."""
    data = demo_recipe()
    steps = data["process"]["steps"]
    at = next(i for i, step in enumerate(steps) if step["id"] == "griddle") + 1
    steps.insert(at, {"id": "wrap", "do": "mix", "foods": ["koftas", "flatbreads"], "tools": [], "makes": "wraps"})
    hostel.lesson = services.create_lesson(
        recipe=recipes.add_confirmed_recipe(organisation=hostel.organisation, data=data),
        place="Skerry Point Hostel",
        starts_at=timezone.now(),
        length_min=75,
        benches={"Puffin": ["AK", "JT"]},
        profile_id="us-home",
    )
    cook_and_keep(hostel, food="wraps")

    item = shelf_item(hostel.puffin, "wraps")
    assert item
    assert (item.use_by, item.discard, item.breach) == (None, True, "Koftas: never shown to be cooked")
