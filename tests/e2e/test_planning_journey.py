"""From a group's sheet and a recipe to a lesson that can start, with everything on paper."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from django.utils import timezone
from playwright.sync_api import BrowserContext, expect

from bulwark.kitchens import services as kitchens
from bulwark.lessons import services as lessons
from bulwark.lessons.models import Lesson
from bulwark.recipes import services as recipes
from bulwark.recipes.models import Recipe
from tests.builders import demo_recipe
from tests.e2e.conftest import axe
from tests.e2e.test_journey import sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]
Opener = Callable[..., BrowserContext]
SHEET = "Name;Age;Has been shown;Allergies\nSD;13;knife hob oven;\nRO;11;knife;nuts\nAK;12;knife hob;\nJT;9;;kiwi\n"


def test_a_group_a_recipe_and_five_clicks_make_a_lesson_with_all_its_papers(
    address: str, open_context: Opener, tmp_path: Path
) -> None:
    hostel = Hostel()
    kitchens.set_equipment(by=hostel.actor, counts={"basin": 1, "sink": 1, "hob_ring": 4, "griddle": 2, "probe": 2})
    page = sign_in(open_context(1280, 800), address, hostel)

    # The group, by a sheet: read first, every doubt beside its line, then kept.
    page.click("nav >> text=Groups")
    page.click("text=A new group")
    sheet = tmp_path / "group.csv"
    sheet.write_text(SHEET, encoding="utf-8")
    page.fill("[name=name]", "Tern crew")
    page.set_input_files("[name=sheet]", sheet)
    page.click("text=Read it")
    expect(page.locator(".gr-read")).to_contain_text("“kiwi” is no allergen that Bulwark knows")
    assert axe(page) == []
    page.fill("[name=roles]", "chef\nsteward: washes up")
    page.click("text=Keep the group")
    expect(page.locator(".gr-row")).to_contain_text("4 learners, 2 roles that go round")
    assert axe(page) == []

    # From the recipe to the lesson: open the form, choose the group, make it.
    page.goto(f"{address}/recipes/{hostel.lesson.recipe_id}/")
    page.click("text=Plan a lesson with it")
    page.select_option("[name=group_id]", label="Tern crew")
    expect(page.locator("#bench-rows")).to_contain_text("no split is fairer")
    page.click("text=Make the lesson")
    expect(page.locator("h1")).to_contain_text("Safety plan")
    lesson = Lesson.objects.latest("pk")
    assert {row.role for bench in lesson.benches.all() for row in bench.learners.all()} == {"chef", "steward"}

    # The board knows who may; a way out is one click, and so is its way back.
    page.goto(f"{address}/lessons/{lesson.pk}/board/")
    expect(page.locator(".pb-says")).to_contain_text("Allergies that no dish is checked for: kiwi.")
    way = page.locator("#ways .pb-way button").first
    expect(way).to_be_visible(timeout=20_000)
    before = page.inner_text("h1")
    way.click()
    expect(page.locator("h1")).not_to_have_text(before)
    assert axe(page) == []
    page.click("text=Not so >> nth=0")
    expect(page.locator("h1")).to_have_text(before)

    # What to buy, what to print.
    page.click("text=Shopping and papers")
    expect(page.locator("#buy-turkey_mince")).to_contain_text("2 × 500 g")
    assert axe(page) == []
    page.locator("#buy-yoghurt").get_by_role("button").click()
    expect(page.locator("#buy-yoghurt")).to_contain_text("there already")
    page.click("text=The whole pack as one PDF")
    assert axe(page) == []
    with page.expect_download() as taken:
        page.click("[href$='/file/']")
    assert taken.value.path().read_bytes().startswith(b"%PDF")


def test_two_kitchens_are_counted_in_one_table_and_two_dishes_make_a_menu(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe("fish-pie"))
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/kitchens/")
    page.click("text=Begin with one")
    page.get_by_label("Basin, Kitchen", exact=True).fill("2")
    page.click("text=Copy it")
    expect(page.get_by_label("Basin, Kitchen, copy")).to_have_value("2")
    page.get_by_label("Name, Kitchen, copy").fill("Shore")
    page.get_by_label("Tap, Kitchen, copy").select_option("no")
    page.click("text=Keep the counts")
    expect(page.get_by_label("Tap, Shore")).to_have_value("no")
    assert axe(page) == []

    page.goto(f"{address}/recipes/{hostel.lesson.recipe_id}/")
    page.click("text=Make a menu with it")
    page.get_by_label("Fish pie with leek").check()
    page.click("text=Put them together")
    expect(page.locator("h1")).to_contain_text("Turkey koftas with cucumber raita with Fish pie with leek")
    assert axe(page) == []


def test_today_says_what_is_to_be_done_and_what_is_done_goes_from_it(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    noon = timezone.localtime() + timezone.timedelta(hours=6)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(starts_at=noon, unconfirmed=True)
    page = sign_in(open_context(1280, 800), address, hostel)

    row = page.locator(".td-clock li", has_text="Shopping for")
    expect(row).to_have_count(1)
    assert axe(page) == []
    row.get_by_role("button").click()
    expect(row).to_have_count(0)
    page.click("text=Courses")
    page.fill("#name", "Autumn")
    page.click("text=Make it")
    page.click("text=Add it")
    expect(page.locator(".td-course")).to_contain_text("Turkey koftas")
    assert axe(page) == []
    page.goto(f"{address}/week/")
    assert axe(page) == []


def test_a_dish_at_each_bench_and_one_done_earlier(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    recipes.add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe("fish-pie"))
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/recipes/{hostel.lesson.recipe_id}/")
    page.click("text=Make a menu with it")
    page.get_by_label("Fish pie with leek").check()
    page.click("text=Put them together")
    expect(page.locator("h1")).to_contain_text("with Fish pie")
    menu = Recipe.objects.latest("pk")
    lesson = lessons.create_lesson(
        recipe=menu,
        place="Hall",
        starts_at=timezone.now() + timezone.timedelta(days=1),
        length_min=120,
        benches={"Gannet": ["SD", "RO"], "Tern": ["AK", "JT"]},
        profile_id="us-home",
    )

    # A dish each, bench by bench, and all of it taken back.
    page.goto(f"{address}/lessons/{lesson.pk}/board/")
    page.click("text=Which bench cooks what")
    tern = page.get_by_role("group", name="Tern")
    tern.get_by_label("Turkey koftas with cucumber raita").uncheck()
    expect(tern.get_by_label("Fish pie with leek")).to_be_checked()
    page.locator("#share form", has_text="Tern").get_by_role("button").click()
    expect(page.locator(".pb-decided").first).to_contain_text("Tern: Fish pie with leek")
    assert axe(page) == []
    page.get_by_role("link", name="To the lesson").click()
    expect(page.locator(".bw-code", has_text="Tern")).to_contain_text("Fish pie with leek")

    # One done earlier is judged by its own clock, wherever the lesson is looked at.
    page.get_by_role("link", name="Brought ready made").click()
    expect(page.locator("h1")).to_have_text("Brought ready made")
    page.get_by_label("What it is").fill("Barley pot")
    page.get_by_label("It keeps as").select_option("soup_stew")
    page.get_by_label("Made on").fill(f"{timezone.localtime() - timezone.timedelta(days=9):%Y-%m-%dT%H:%M}")
    page.click("text=It is brought")
    expect(page.locator("main")).to_contain_text("over before it is eaten")
    assert axe(page) == []
    page.get_by_role("link", name="To the lesson").click()
    expect(page.get_by_role("alert")).to_contain_text("Barley pot")
