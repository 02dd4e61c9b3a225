"""A recipe from the clipboard to a confirmed process and a lesson, by mouse and by keyboard."""

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from bulwark.lessons.models import Lesson
from bulwark.recipes.models import Recipe
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]

STEW = """Tideway stew
Serves 4

Ingredients
500 g stewing beef
2 carrots
2 tbsp carrageen jelly

Method
Cut the beef and slice the carrots.
Put the beef, carrots and carrageen jelly in a pot and simmer for 2 hours.
Serve hot.
"""


def settled(page: Page) -> None:
    page.wait_for_load_state("networkidle")


def on_step(page: Page, step: str) -> None:
    page.locator(f"#step-{step} summary").focus()


def test_a_recipe_from_the_clipboard_to_a_lesson(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.click("nav >> text=Recipes")
    assert axe(page) == []
    page.click("text=Bring a recipe in")
    page.fill("#text", STEW)
    assert axe(page) == []
    page.click("button:has-text('Read it')")

    # what it is not sure of is asked about, once
    expect(page.locator(".rc-line.is-doubtful")).to_have_count(1)
    expect(page.locator("text=Nobody here knows this food")).to_be_visible()
    assert axe(page) == []
    page.fill("#line-2 [name=kind]", "gelatine")
    page.click("#line-2 button:has-text('Keep')")
    expect(page.locator(".rc-line.is-doubtful")).to_have_count(0)

    # the steps: part, join, move and undo by keyboard
    page.click("text=On to the steps")
    assert axe(page) == []
    steps = page.locator(".rc-step")
    expect(steps).to_have_count(5)
    on_step(page, "s2")
    page.keyboard.press("Alt+ArrowUp")
    expect(steps.first).to_have_attribute("data-step", "s2")
    page.keyboard.press("a")
    expect(steps).to_have_count(6)
    page.keyboard.press("Control+z")
    expect(steps).to_have_count(5)
    page.keyboard.press("m")
    expect(steps).to_have_count(4)
    page.keyboard.press("Control+z")
    expect(steps).to_have_count(5)

    # what cannot be is refused, and what was typed is kept
    on_step(page, "s1")
    page.keyboard.press("Enter")
    page.fill("#step-s1 [name=foods]", "unicorn")
    page.click("#step-s1 button[value=change]")
    expect(page.locator("[role=alert]")).to_contain_text("unicorn")
    expect(page.locator("#step-s1 [name=foods]")).to_have_value("unicorn")
    page.fill("#step-s1 [name=foods]", "stewing beef")
    page.fill("#step-s1 [name=minutes]", "7")
    page.click("#step-s1 button[value=change]")
    expect(page.locator("#step-s1")).to_contain_text("7 min")
    page.click("text=These steps are right: confirm")

    # the read-through, and a lesson with it
    expect(page.locator(".rc-state.is-confirmed")).to_be_visible()
    expect(page.locator("body")).to_contain_text("raw meat")
    assert axe(page) == []
    page.click("summary:has-text('Plan a lesson')")
    page.fill("[name=starts_at]", "2026-12-01T10:30")
    page.fill("textarea[name=benches]", "Gannet: SD, RO\nPuffin: AK")
    page.click("text=Make the lesson")
    expect(page.locator("h1")).to_have_text("Safety plan")
    assert not Lesson.objects.latest("pk").unconfirmed


def test_steps_are_confirmed_on_a_freshly_loaded_page_without_touching_them(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.click("nav >> text=Recipes")
    page.click("text=Bring a recipe in")
    page.fill("#text", STEW)
    page.click("button:has-text('Read it')")
    page.fill("#line-2 [name=kind]", "gelatine")
    page.click("#line-2 button:has-text('Keep')")
    expect(page.locator("#line-2.is-doubtful")).to_have_count(0)  # kept: only then are the steps read anew
    page.click("text=On to the steps")

    page.click("text=These steps are right: confirm")

    expect(page.locator(".rc-state.is-confirmed")).to_be_visible()


PAGES = [
    "/recipes/{}/amounts/?by=servings&servings=9",
    "/recipes/{}/eaters/?line=0&swap=lamb-mince",
    "/recipes/{}/variants/",
    "/recipes/{}/cost/",
    "/recipes/{}/write/",
    "/recipes/{}/lines/",
    "/rules/",
    "/rules/?food=shrimp",
    "/kitchen/",
]


def test_every_page_at_the_desk_is_readable_and_fits(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page = sign_in(open_context(1280, 800), address, hostel)
    found = {}
    for path in PAGES:
        page.goto(address + path.format(recipe.pk))
        found[path] = (axe(page), page.evaluate("document.documentElement.scrollWidth") <= 1280)

    assert found == dict.fromkeys(PAGES, ([], True))


def test_the_list_is_searched_while_somebody_types_and_a_phone_can_read_it(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(390, 780), address, Hostel())
    page.goto(f"{address}/recipes/")

    page.fill("#q", "ground turkey")
    page.wait_for_url("**q=ground*")
    expect(page.locator(".rc-list li")).to_have_count(1)
    page.fill("#q", "submarine")

    expect(page.locator("text=Nothing with")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_amounts_follow_what_is_typed(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/recipes/{recipe.pk}/amounts/")

    page.fill("[name=servings]", "8")

    expect(page.locator("#amounts")).to_contain_text("× 2")
    expect(page.locator("#amounts")).to_contain_text("1,000 g")


def test_a_downloaded_recipe_comes_in_again_whole(address: str, open_context: Opener, tmp_path: Path) -> None:
    hostel = Hostel()
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/recipes/{recipe.pk}/")
    with page.expect_download() as download:
        page.click("text=JSON-LD")
    path = tmp_path / "recipe.json"
    download.value.save_as(path)

    page.goto(f"{address}/recipes/bring/")
    page.set_input_files("#file", path)
    page.click("button:has-text('Read it')")
    settled(page)

    copy = Recipe.objects.latest("pk")
    assert copy.process == json.loads(json.dumps(recipe.process))
    assert copy.ingredients == recipe.ingredients
