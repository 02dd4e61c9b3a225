"""A recipe from the clipboard to a confirmed process and a lesson, by mouse and by keyboard."""

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from bulwark.lessons.models import Lesson
from bulwark.recipes.models import Recipe
from foodsafety.contamination import analyse
from foodsafety.recipes import process_from
from foodsafety.rules import House
from tests.builders import TURNED_WRAPS
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
    expect(page.locator(".rd-line.is-doubtful")).to_have_count(1)
    expect(page.locator(".rd-lock")).to_contain_text("Opens after: 1 answer")
    assert axe(page) == []
    page.fill("#question-1 [name=kind]", "gelatine")
    page.click("#question-1 >> text=That is it")
    expect(page.locator(".rd-line.is-doubtful")).to_have_count(0)

    # the steps: part, join, move and undo by keyboard
    steps = page.locator(".rc-step")
    expect(steps).to_have_count(5)
    on_step(page, "s2")
    page.keyboard.press("Alt+ArrowUp")
    expect(steps.first).to_have_attribute("data-step", "s2")
    page.keyboard.press("a")
    expect(steps).to_have_count(6)
    page.keyboard.press("Control+z")
    expect(steps).to_have_count(5)
    page.keyboard.press("g")
    expect(steps).to_have_count(4)
    page.keyboard.press("Control+z")
    expect(steps).to_have_count(5)

    # two letters offer a food; what cannot be is refused, and what was typed is kept
    on_step(page, "s1")
    page.keyboard.press("Enter")
    foods = page.locator("#step-s1 .rd-field").first
    foods.locator("input").fill("ca")
    foods.get_by_role("option", name="carrots").click()
    expect(foods.locator(".rd-chip")).to_have_count(2)
    foods.locator("input").fill("unicorn")
    page.keyboard.press("Enter")
    page.click("#step-s1 button[value=change]")
    expect(page.locator("[role=alert]")).to_contain_text("unicorn")
    expect(foods).to_contain_text("unicorn")
    foods.locator("input").focus()
    page.keyboard.press("Backspace")
    page.keyboard.press("Backspace")
    expect(foods.locator(".rd-chip")).to_have_count(1)
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
    page.fill("#question-1 [name=kind]", "gelatine")
    page.click("#question-1 >> text=That is it")

    page.click("text=These steps are right: confirm")

    expect(page.locator(".rc-state.is-confirmed")).to_be_visible()


MESSY = """KOFTAS as typed

500g turkey mince
1 small onion
1 cucumber
2 eggs

Squidge the turkey and grated onion in a bowl w your hands.
Tip it out on the board and roll it into 8 by hand.
Slice the cuc on there too, saves washing up.
Do the tongs thing with the raw bits.
Griddle em on medium, 9 mins ish, til browned.
Plate up w the cuc.
"""


def test_a_messy_text_is_answered_by_keyboard_alone_and_confirmed(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(1280, 800), address, Hostel())
    page.goto(f"{address}/recipes/bring/")
    page.fill("#text", MESSY)
    page.click("button:has-text('Read it')")
    expect(page.locator(".rd-head")).to_contain_text("hold")
    assert axe(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280

    # the eggs are left out, the tongs order nothing, what the board carries is put right
    expect(page.locator("#question-1")).to_contain_text("No step uses eggs")
    for _ in range(page.locator(".rd-q-card").count()):  # once round
        page.keyboard.press("j")
    expect(page.locator("#question-1")).to_have_attribute("open", "")
    page.keyboard.press("n")
    expect(page.locator("#question-1")).to_contain_text("Do the tongs thing")
    page.keyboard.press("s")
    expect(page.locator(".rd-q-card:not(.is-mild)")).to_have_count(0)
    expect(page.locator(".rd-lock")).to_contain_text("put right or answered for")
    page.keyboard.press("r")
    expect(page.locator(".rd-breach-card")).to_have_count(0)
    page.click("text=These steps are right: confirm")

    expect(page.locator(".rc-state.is-confirmed")).to_be_visible()
    recipe = Recipe.objects.latest("pk")
    assert "eggs" not in recipe.process["foods"]
    assert analyse(process_from(recipe.process), House()).findings == ()


UNKNOWN_ROCKS = """Rock soup

400 g moonrock
300 g sunrock
200 g starrock
1 litre water

Boil the moonrock, the sunrock and the starrock in the water for 20 minutes. Serve."""


def test_a_key_that_is_held_down_answers_one_question(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(1280, 800), address, Hostel())
    page.goto(f"{address}/recipes/bring/")
    page.fill("#text", UNKNOWN_ROCKS)
    page.click("button:has-text('Read it')")
    # three questions that have the same key for the same answer
    page.wait_for_load_state("load")
    held = page.locator(".rd-q-card:has-text('What is')")
    expect(held).to_have_count(3)
    expect(held.locator("button[data-key=N]")).to_have_count(3)

    # a key that is held down: the first answer is taken, what it repeats is for no question
    page.keyboard.down("n")
    expect(held).to_have_count(2)
    page.keyboard.down("n")
    page.keyboard.down("n")
    page.keyboard.up("n")
    settled(page)
    expect(held).to_have_count(2)
    page.keyboard.press("n")
    expect(held).to_have_count(1)


def test_who_touches_it_and_which_heat_cooks_it_are_answered_with_a_tap(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(1280, 800), address, Hostel())
    page.goto(f"{address}/recipes/bring/")
    page.fill("#text", TURNED_WRAPS)
    page.click("button:has-text('Read it')")
    expect(page.locator("#question-1")).to_contain_text("cooked through here?")
    page.wait_for_load_state("load")  # the keys are heard once the scripts run
    page.keyboard.press("y")
    expect(page.locator(".rd-q-card:not(.is-mild)")).to_have_count(0)

    # the lock leads to the findings; each asks what nobody said
    page.click(".rd-lock a[href='#breaches']")
    card = page.locator(".rd-breach-card[open]")
    expect(card).to_contain_text("Who touches the lamb mince here?")
    assert axe(page) == []
    card.get_by_text("Clean tongs or a spoon").click()
    expect(page.locator("[data-what=undo]")).to_contain_text("saying what touches it")
    expect(page.locator(".rd-chip.is-tool", has_text="clean spoon")).to_have_count(1)


def test_what_another_has_changed_is_told_and_not_undone_unseen(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    first = sign_in(open_context(1280, 800), address, hostel)
    first.goto(f"{address}/recipes/bring/")
    first.fill("#text", TURNED_WRAPS)
    first.click("button:has-text('Read it')")
    second = sign_in(open_context(1280, 800), address, hostel)
    second.goto(first.url)

    on_step(first, "s3")
    first.keyboard.press("a")
    expect(first.locator(".rc-step")).to_have_count(6)
    second.keyboard.press("Control+z")
    expect(second.locator(".rd > [role=alert]")).to_contain_text("Somebody changed the steps meanwhile")
    on_step(second, "s3")
    second.keyboard.press("a")
    expect(second.locator(".rd > [role=status]")).to_contain_text("Changed since you saw the steps: adding a step.")
    expect(second.locator(".rc-step")).to_have_count(7)


def test_a_food_of_the_tray_is_carried_to_its_step(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(1280, 800), address, Hostel())
    page.goto(f"{address}/recipes/bring/")
    page.fill("#text", MESSY)
    page.click("button:has-text('Read it')")
    page.click(".rd-pebble:has-text('eggs')")
    expect(page.locator(".rd-pebble")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Escape")
    expect(page.locator(".rd-pebble")).to_have_attribute("aria-pressed", "false")
    page.click(".rd-pebble:has-text('eggs')")
    page.click("#step-s2 summary")

    expect(page.locator(".rd-pebble")).to_have_count(0)
    steps = {step["id"]: step["foods"] for step in Recipe.objects.latest("pk").process["steps"]}
    assert "eggs" in steps["s2"]


def test_a_folder_is_read_file_by_file_with_a_row_for_each(address: str, open_context: Opener, tmp_path: Path) -> None:
    for name, text in {"stew": STEW, "koftas": MESSY}.items():
        (tmp_path / f"{name}.txt").write_text(text)
    (tmp_path / "picture.txt").write_bytes(b"\x89PNG\x00")
    page = sign_in(open_context(1280, 800), address, Hostel())
    page.goto(f"{address}/recipes/bring/")
    page.set_input_files("#files", sorted(tmp_path.glob("*.txt")))
    page.click("text=Read them all")

    expect(page.locator("#waiting tbody tr")).to_have_count(3)
    expect(page.locator("[data-said]")).to_have_text("3 / 3")
    expect(page.locator("#waiting")).to_contain_text("This is no text")
    assert axe(page) == []
    page.click("#waiting >> text=Tideway stew")
    expect(page.locator("h1")).to_have_text("Tideway stew")


PAGES = [
    "/recipes/{}/amounts/?by=servings&servings=9",
    "/recipes/{}/eaters/?line=0&swap=lamb-mince",
    "/recipes/{}/variants/",
    "/recipes/{}/cost/",
    "/recipes/{}/write/",
    "/recipes/{}/steps/",
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


def test_learners_are_dragged_to_another_bench_or_moved_by_keyboard(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 900), address, hostel)
    page.goto(f"{address}/recipes/{hostel.lesson.recipe_id}/")
    page.locator("summary", has_text="lesson").first.click()
    page.fill("#bench-lines", "Gannet: SD, RO\nPuffin: AK, JT")
    seat = page.locator(".sp-seat", has_text="SD")
    seat.scroll_into_view_if_needed()
    seat.drag_to(page.locator(".sp-bench").nth(1))
    expect(page.locator("#bench-lines")).to_have_value("Gannet: RO\nPuffin: AK, JT, SD")
    expect(page.locator("#bench-checked")).to_have_text("4 learners at the benches.")
    page.keyboard.press("Alt+ArrowLeft")
    expect(page.locator("#bench-lines")).to_have_value("Gannet: RO, SD\nPuffin: AK, JT")
    expect(page.locator("#bench-moved")).to_have_text("SD is at Gannet now.")
    assert axe(page) == []
