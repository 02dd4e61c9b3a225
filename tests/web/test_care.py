"""Cautions and who may not eat it: said in the plan, at the step on the bench, and on the label."""

from typing import Any

import pytest

from bulwark.recipes import services as recipes
from tests.builders import demo_recipe
from tests.web.conftest import Hostel
from tests.web.test_measuring import panel, screen


def with_honey() -> dict[str, Any]:
    """The demo recipe with honey in the yoghurt dip."""
    data = demo_recipe()
    process = data["process"]
    process["foods"]["honey"] = {"kind": "honey"}
    [stir] = [step for step in process["steps"] if step["id"] == "stir"]
    stir["foods"] = [*stir["foods"], "honey"]
    return data


def sweetened(**eaters: Any) -> Hostel:
    return Hostel(data=with_honey(), eaters=eaters)


def plan_of(hostel: Hostel) -> str:
    return hostel.client().get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()


@pytest.mark.django_db
def test_what_an_eater_may_not_have_stands_in_the_plan_and_at_the_serving_step() -> None:
    hostel = sweetened(groups={"under_1": 2}, count=8)

    plan = plan_of(hostel)
    serving = panel(screen(hostel.open()), "step-serve")

    assert "Honey: not for under 1 year" in " ".join(plan.split())
    assert "Honey: not for under 1 year" in " ".join(serving.split())
    assert "Nobody said who eats" not in plan


@pytest.mark.django_db
def test_an_eater_it_is_no_danger_to_is_not_warned() -> None:
    hostel = sweetened(groups={"over_65": 2}, count=8)

    assert "Honey: not for" not in plan_of(hostel)


@pytest.mark.django_db
def test_where_nobody_said_who_eats_it_may_be_anybody() -> None:
    plan = plan_of(sweetened())

    assert "Honey: not for under 1 year" in " ".join(plan.split())
    assert "Nobody said who eats: ask before it is served." in plan


@pytest.mark.django_db
def test_the_label_of_what_is_kept_says_who_may_not_have_it() -> None:
    hostel = sweetened(groups={"under_1": 1}).open()
    hostel.says("stored", food="raita", place="fridge")
    hostel.says("stored", food="salad", place="fridge")

    def label(food: str) -> str:
        return hostel.client().get(f"/shelf/{hostel.puffin.pk}/{food}/").content.decode()

    assert "under 1 year (honey)" in label("raita")
    assert "under 1 year" not in label("salad")


@pytest.mark.django_db
def test_a_lesson_keeps_its_eaters_when_the_recipe_changes_its_own() -> None:
    hostel = sweetened(groups={"under_1": 2})

    recipes.set_eaters(recipe=hostel.lesson.recipe, eaters={"groups": {"over_65": 1}})

    assert "Honey: not for under 1 year" in " ".join(plan_of(hostel).split())


@pytest.mark.django_db
def test_a_caution_stands_at_its_step_on_the_bench(hostel: Hostel) -> None:
    html = screen(hostel.open())

    assert "Claw grip" in panel(html, "step-slice")
    assert "Claw grip" not in panel(html, "step-mix")


def test_a_variant_reaches_the_plan_and_the_bench_of_whoever_makes_it(db: None) -> None:
    data = demo_recipe()
    data["variants"] = [
        {"name": "With chicken", "who": "AK", "lines": ["80 g raw chicken breast"]},
        {"name": "With nothing known", "who": "ZZ", "lines": ["wibbleroot"]},
    ]
    hostel = Hostel(data=data)
    plan = hostel.client().get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()
    assert "cook it first" in plan
    assert "nobody knows this food" in plan

    bench = hostel.open().tablet().get("/b/").content.decode()
    assert "With chicken" in bench
    assert "165 °F" in bench
    assert "With nothing known" not in bench
