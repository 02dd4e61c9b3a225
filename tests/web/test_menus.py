"""A menu: several recipes as one, from two ticks to a lesson."""

from __future__ import annotations

from typing import Any

import pytest

from bulwark.board import selectors as boards
from bulwark.board import services as board_services
from bulwark.kitchens import services as kitchens
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons import rehearsal, selectors
from bulwark.lessons import services as lessons
from bulwark.lessons.log import prove
from bulwark.lessons.models import Bench, Lesson
from bulwark.pack import pages
from bulwark.pack.selectors import Pack
from bulwark.recipes import services
from bulwark.recipes.models import Recipe
from foodsafety.lesson import next_step
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, ways

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
    assert recipes["koftas"].title in {way.value for way in alone}
    assert "“Turkey koftas with cucumber raita” alone" in ways(hostel, lesson)
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


def shared(hostel: Hostel, recipes: dict[str, Recipe]) -> Lesson:
    """A lesson on a menu at two benches."""
    counts = {"basin": 2, "sink": 3, "hob_ring": 8, "oven": 2, "griddle": 2, "probe": 2}
    kitchens.set_equipment(by=hostel.actor, counts=counts)
    menu = menu_of(hostel, recipes["koftas"], recipes["fish-pie"])
    asked = {"starts_at": "2026-12-01T10:30", "length_min": "120", "benches": "Gannet: SD, RO, EL\nTern: AK, JT"}
    hostel.client().post(f"/recipes/{menu.pk}/lesson/", asked)
    return Lesson.objects.filter(recipe=menu).get()


def change(hostel: Hostel, lesson: Lesson, do: str, of: str = "", value: str = "") -> int:
    path = f"/lessons/{lesson.pk}/board/change/"
    asked = {"do": do, "of": of, "dish": value.splitlines()} if do == "share" else {"do": do, "of": of, "value": value}
    return int(hostel.client().post(path, asked, follow=True).status_code)


def bought(lesson: Lesson) -> dict[str, float]:
    return {row.kind or row.name: row.amount or 0.0 for row in Pack(lesson).shopping.rows}


def test_a_dish_at_each_bench_is_planned_bought_and_printed_for_just_those(
    hostel: Hostel, recipes: dict[str, Recipe]
) -> None:
    lesson, client = shared(hostel, recipes), hostel.client()
    everything, long = bought(lesson), boards.board_of(lesson).end_min
    assert "A dish of the menu at each bench" in ways(hostel, lesson)

    assert change(hostel, lesson, "share_out") == 200

    lesson = Lesson.objects.get(pk=lesson.pk)
    gannet, tern = lesson.benches.all()
    assert (gannet.dishes, tern.dishes) == (["Fish pie with leek"], [recipes["koftas"].title])
    board = boards.board_of(lesson)
    assert board.clean
    assert board.end_min < long
    assert ("1.bake" in board.plan.starts, "1.griddle" in board.plan.starts) == (True, False)
    assert ("2.bake" in board.plan.starts, "2.griddle" in board.plan.starts) == (False, True)
    now = bought(lesson)
    assert {name: now[name] * 2 for name in ("turkey_mince", "smoked_haddock")} == {
        name: everything[name] for name in ("turkey_mince", "smoked_haddock")
    }
    cards = [pages.paper(Pack(lesson), ["cards"], letter=False, way_min=0)["cards"][n] for n in (0, 1)]
    assert "haddock" in str(cards[0]["limits"]).lower() + str(cards[0]["rows"]).lower()
    assert [r for r in cards[0]["rows"] if "kofta" in str(r).lower()] == []
    assert "kofta" not in str(cards[0]["kit_order"]).lower()
    assert gannet.dishes[0] in client.get(f"/lessons/{lesson.pk}/").content.decode()

    assert change(hostel, lesson, "take_back") == 200
    lesson = Lesson.objects.get(pk=lesson.pk)
    assert [row.dishes for row in lesson.benches.all()] == [[], []]
    assert bought(lesson) == everything


def test_a_bench_with_a_dish_of_its_own_cooks_and_proves_just_that(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    lesson = shared(hostel, recipes)
    change(hostel, lesson, "share", "Tern", recipes["koftas"].title)
    lesson = Lesson.objects.get(pk=lesson.pk)
    lessons.open_lesson(lesson=lesson, rehearsal_pace=60)
    for at_s, bench, event in rehearsal.script(lesson, seed=3):
        assert at_s >= 0
        rehearsal.write(lesson, bench, event)
    gannet, tern = lesson.benches.all()
    states = [selectors.bench_state(bench)[0] for bench in (gannet, tern)]

    assert {step.id for step in states[1].plan.process.steps} < {step.id for step in states[0].plan.process.steps}
    assert "bake" not in states[1].done
    assert "griddle" in states[1].done
    client = hostel.client()
    for page in ("wall/", "record/", "plan/", "board/"):
        assert client.get(f"/lessons/{lesson.pk}/{page}").status_code == 200, page
    wall = drawn_wall(lesson)
    for bench, state in zip(wall, states, strict=True):
        assert sum(len(course) for course in bench.courses) == len(state.plan.controls), "no brick is left out"
    assert prove(tern.pk).broken == []
    Bench.objects.filter(pk=tern.pk).update(dishes=[])
    assert "judged by something else" in str(prove(tern.pk).broken)
    Bench.objects.filter(pk=tern.pk).update(dishes=tern.dishes)
    assert change(hostel, lesson, "share", "Tern", "") == 422, "what was begun stays"
    assert change(hostel, lesson, "share", "Tern", "No such dish") == 422


def drawn_wall(lesson: Lesson) -> Any:
    return lesson_pages.wall_context(lesson, "C", tag="")["wall"].benches


def test_dishes_that_the_menu_has_no_more_leave_nothing_uncooked(hostel: Hostel, recipes: dict[str, Recipe]) -> None:
    lesson = shared(hostel, recipes)
    change(hostel, lesson, "share_out")
    lessons.renew_lesson(lesson=Lesson.objects.get(pk=lesson.pk), recipe=recipes["koftas"])
    lesson = Lesson.objects.get(pk=lesson.pk)

    for bench in lesson.benches.all():
        assert selectors.plan_at(bench).process.steps == selectors.plan_for(lesson).process.steps
    assert hostel.client().get(f"/lessons/{lesson.pk}/board/").status_code == 200


def test_a_rehearsals_board_plans_what_its_benches_cook_and_takes_changes(
    hostel: Hostel, recipes: dict[str, Recipe]
) -> None:
    lesson = shared(hostel, recipes)
    change(hostel, lesson, "share_out")
    copy = rehearsal.copy_for_rehearsal(Lesson.objects.get(pk=lesson.pk))
    lessons.open_lesson(lesson=copy, rehearsal_pace=10)

    starts = boards.board_of(Lesson.objects.get(pk=copy.pk)).plan.starts
    assert ("1.bake" in starts, "1.griddle" in starts) == (True, False)
    assert change(hostel, copy, "put", "1.bake", "70") == 200
    assert all(row.dishes for row in copy.benches.all())


def test_a_bench_may_cook_two_of_three_dishes_and_all_ticked_is_every_dish(
    hostel: Hostel, recipes: dict[str, Recipe]
) -> None:
    recipes_of_menu = [recipes["koftas"], recipes["fish-pie"], recipes["rice-salad"]]
    menu = menu_of(hostel, *recipes_of_menu)
    asked = {"starts_at": "2026-12-01T10:30", "length_min": "160", "benches": "Gannet: SD, RO, EL\nTern: AK, JT"}
    hostel.client().post(f"/recipes/{menu.pk}/lesson/", asked)
    lesson = Lesson.objects.get(recipe=menu)
    titles = [row.title for row in recipes_of_menu]
    change(hostel, lesson, "share", "Tern", "\n".join(titles[:2]))
    tern = Bench.objects.get(lesson=lesson, name="Tern")
    steps = {step.id for step in selectors.plan_at(tern).process.steps}
    every = {step.id for step in selectors.plan_for(Lesson.objects.get(pk=lesson.pk)).process.steps}

    assert tern.dishes == titles[:2]
    assert steps < every
    board = hostel.client().get(f"/lessons/{lesson.pk}/board/").content.decode()
    assert f"Tern cooks {titles[0]}, {titles[1]}" in board
    change(hostel, lesson, "share", "Tern", "\n".join(titles))
    assert Bench.objects.get(pk=tern.pk).dishes == []


def test_a_bench_with_a_menu_goes_by_the_order_of_the_plan_and_its_plate_stays_as_clean(
    hostel: Hostel, recipes: dict[str, Recipe]
) -> None:
    menu = menu_of(hostel, recipes["koftas"], recipes["rice-salad"])

    lesson = lessons.create_lesson(
        recipe=menu,
        place="",
        starts_at=hostel.lesson.starts_at,
        length_min=120,
        benches={"Gannet": ["SD", "RO"]},
        profile_id="us-home",
    )
    lessons.open_lesson(lesson=lesson)
    board_services.keep_plan(lesson)
    bench = Bench.objects.select_related("lesson").get(lesson=lesson)
    plan, written = selectors.plan_at(bench), selectors.plan_for(lesson)
    assert set(plan.order) == {step.id for step in plan.process.steps}
    assert [step.id for step in plan.in_order] != [step.id for step in written.in_order], "the dishes go side by side"
    for step in plan.in_order:
        before = {other.id for other in plan.in_order[: plan.in_order.index(step)]}
        assert set(step.after) <= before
    state, _ = selectors.bench_state(bench)
    first = next_step(state)
    assert first is not None
    assert first.id == plan.order[0]
