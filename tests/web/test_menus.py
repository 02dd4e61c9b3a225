"""A menu: several recipes as one, from two ticks to a lesson."""

from __future__ import annotations

import pytest

from bulwark.board import selectors as boards
from bulwark.kitchens import services as kitchens
from bulwark.lessons.models import Lesson
from bulwark.recipes import services
from bulwark.recipes.models import Recipe
from tests.builders import demo_recipe
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


@pytest.fixture
def recipes(hostel: Hostel) -> dict[str, Recipe]:
    found = {
        name: services.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe(name))
        for name in ("fish-pie", "rice-salad")
    }
    return {**found, "koftas": Recipe.objects.get(pk=hostel.lesson.recipe_id)}


def menu_of(hostel: Hostel, first: Recipe, *others: Recipe) -> Recipe:
    answer = hostel.client().post(f"/recipes/{first.pk}/menu/", {"with": [row.pk for row in others]})
    assert answer.status_code == 302
    return Recipe.objects.filter(organisation=hostel.organisation).latest("pk")


def test_a_menu_has_the_lines_amounts_and_eaters_of_all_its_dishes(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    services.set_eaters(recipe=recipes["koftas"], eaters={"groups": {"pregnant": 1}, "allergens": [], "count": 6})
    services.set_eaters(recipe=recipes["fish-pie"], eaters={"groups": {}, "allergens": ["milk"], "count": 9})
    menu = menu_of(hostel, recipes["koftas"], recipes["fish-pie"])

    assert menu.title == "Turkey koftas with cucumber raita with Fish pie with leek"
    assert menu.ingredients == [*recipes["koftas"].ingredients, *recipes["fish-pie"].ingredients]
    assert menu.confirmed_at is None
    assert (menu.eaters["groups"], menu.eaters["allergens"], menu.eaters["count"]) == ({"pregnant": 1}, ["milk"], 9)
    assert set(recipes["koftas"].pieces) <= set(menu.pieces)
    for food, row in menu.process["foods"].items():
        if "line" in row:
            assert food.split(" (")[0].split()[0][:4].lower() in menu.ingredients[row["line"]].lower(), food


def test_a_menu_is_confirmed_planned_and_bought_for_as_one(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    kitchens.set_equipment(
        by=hostel.actor, counts={"basin": 2, "sink": 3, "hob_ring": 8, "oven": 2, "griddle": 2, "probe": 2}
    )
    client, menu = hostel.client(), menu_of(hostel, recipes["koftas"], recipes["fish-pie"])
    for page in ("", "steps/", "amounts/", "cost/", "eaters/", "flow/"):
        assert client.get(f"/recipes/{menu.pk}/{page}").status_code == 200, page
    asked = {"starts_at": "2026-12-01T10:30", "length_min": "200", "benches": "Gannet: SD, RO, EL"}
    client.post(f"/recipes/{menu.pk}/lesson/", asked)
    lesson = Lesson.objects.filter(recipe=menu).get()
    board = boards.board_of(lesson)
    pack = client.get(f"/lessons/{lesson.pk}/pack/").content.decode()

    assert board.plan.status == "optimal"
    assert board.clean
    assert {"1.griddle", "1.bake"} <= set(board.plan.starts), "both dishes"
    bake, serve = board.plan.starts["1.bake"], board.plan.starts["1.serve"]
    assert bake < board.plan.starts["1.griddle"] < serve, "the pie bakes while the koftas are made"
    assert "turkey mince" in pack
    assert "smoked haddock" in pack


def test_a_menu_that_does_not_fit_offers_one_dish_alone_and_the_lesson_takes_it(
    hostel: Hostel, recipes: dict[str, Recipe]
) -> None:
    kitchens.set_equipment(
        by=hostel.actor, counts={"basin": 2, "sink": 3, "hob_ring": 8, "oven": 2, "griddle": 2, "probe": 2}
    )
    client, menu = hostel.client(), menu_of(hostel, recipes["koftas"], recipes["fish-pie"])
    asked = {"starts_at": "2026-12-01T10:30", "length_min": "80", "benches": "Gannet: SD, RO, EL"}
    client.post(f"/recipes/{menu.pk}/lesson/", asked)
    lesson = Lesson.objects.filter(recipe=menu).get()
    board = boards.board_of(lesson)
    alone = [way for way in board.ways() if way.do == "leave"]

    assert board.end_min > 80
    assert {way.value for way in alone} == {recipes["koftas"].title, recipes["fish-pie"].title}
    assert (
        "“Turkey koftas with cucumber raita” alone" in client.get(f"/lessons/{lesson.pk}/board/ways/").content.decode()
    )
    way = next(way for way in alone if way.value == recipes["koftas"].title)
    client.post(f"/lessons/{lesson.pk}/board/change/", {"do": way.do, "of": way.of, "value": way.value})
    lesson = Lesson.objects.get(pk=lesson.pk)
    assert (lesson.recipe, lesson.title) == (recipes["koftas"], recipes["koftas"].title)
    assert boards.board_of(lesson).end_min == way.ends_min
    refused = client.post(f"/lessons/{lesson.pk}/board/change/", {"do": "leave", "of": str(recipes["fish-pie"].pk)})
    assert refused.status_code == 422, "the lesson has no menu any more"
    client.post(f"/lessons/{lesson.pk}/board/change/", {"do": "take_back"})
    lesson = Lesson.objects.get(pk=lesson.pk)
    assert (lesson.recipe, boards.board_of(lesson).end_min) == (menu, board.end_min), (
        "taken back, the menu is there again"
    )


def test_a_lesson_that_has_begun_keeps_its_menu(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    menu = menu_of(hostel, recipes["koftas"], recipes["fish-pie"])
    Lesson.objects.filter(pk=hostel.lesson.pk).update(recipe=menu, process=menu.process)
    hostel.lesson.refresh_from_db()
    hostel.open()
    path = f"/lessons/{hostel.lesson.pk}/board/"
    answer = hostel.client().post(f"{path}change/", {"do": "leave", "of": str(recipes["koftas"].pk)})

    assert answer.status_code == 422
    assert "The lesson has begun" in answer.content.decode()
    assert "alone" not in hostel.client().get(f"{path}ways/").content.decode()


@pytest.mark.parametrize("others", [[], ["fish-pie"] * 1 + ["rice-salad", "koftas"]])
def test_what_is_no_menu_is_refused_in_words(hostel: Hostel, recipes: dict[str, Recipe], others: list[str]) -> None:
    Recipe.objects.filter(pk=recipes["rice-salad"].pk).update(confirmed_at=None)
    before = Recipe.objects.count()
    asked = {"with": [recipes[name].pk for name in others]}
    answer = hostel.client().post(f"/recipes/{recipes['koftas'].pk}/menu/", asked, follow=True)

    assert Recipe.objects.count() == before
    said = answer.content.decode()
    assert "A menu has two to 4 dishes." in said or "has steps that nobody has confirmed" in said


def test_another_organisations_recipe_goes_into_no_menu(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    other = Hostel("Gull Rock Hostel")
    before = Recipe.objects.count()
    other.client().post(f"/recipes/{other.lesson.recipe_id}/menu/", {"with": [recipes["fish-pie"].pk]})

    assert other.client().post(f"/recipes/{recipes['koftas'].pk}/menu/").status_code == 404
    assert Recipe.objects.count() == before
