"""The flow map by mouse, keyboard and without script: look, drag, mend, undo."""

import pytest
from playwright.sync_api import Page, expect

from bulwark.recipes.models import Recipe
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def dragged(page: Page, step: int, to: int) -> None:
    """Drags the head of a step before another one, counted from 1."""
    heads = page.locator(".fl-head")
    start, end = heads.nth(step - 1).bounding_box(), heads.nth(to - 1).bounding_box()
    assert start
    assert end
    page.mouse.move(start["x"] + start["width"] / 2, start["y"] + 24)
    page.mouse.down()
    page.mouse.move(end["x"] + 30, end["y"] + 26, steps=3)
    page.mouse.move(end["x"] + 4, end["y"] + 28, steps=3)
    page.mouse.up()


def said(page: Page) -> str:
    return page.locator("#fl-say").inner_text()


def test_a_dragged_step_brings_a_finding_and_a_wash_repairs_it(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page.goto(f"{address}/recipes/{recipe.pk}/flow/")
    expect(page.locator("text=No order needs fewer than")).to_be_visible()
    assert axe(page) == []

    # the salad is cut before the hands are washed: the finding comes with its path
    dragged(page, 8, 6)
    expect(page.locator("h2:has-text('Raw poultry in the salad')")).to_be_visible()
    expect(page.locator(".fl-stop")).to_have_count(3)
    expect(page.locator("text=Washing at step 7 is too late.")).to_be_visible()
    expect(page.locator(".fl-way").first).to_be_visible()
    assert axe(page) == []

    # dragged back, it goes; by keyboard, it comes again
    dragged(page, 6, 9)
    expect(page.locator("h2:has-text('Nothing raw reaches a plate')")).to_be_visible()
    page.locator(".fl-head").nth(7).focus()
    page.keyboard.press("Alt+ArrowLeft")
    expect(page.locator(".fl-head").nth(6)).to_be_focused()
    expect(page.locator("h2:has-text('Raw poultry in the salad')")).to_be_visible()

    # kept, mended with one click, and undone on the steps page
    page.click("button:has-text('Use this order')")
    expect(page.locator("h2:has-text('Raw poultry in the salad')")).to_be_visible()
    page.locator(".fl-way", has_text="Wash the board before").get_by_role("button").click()
    expect(page.locator("h2:has-text('Nothing raw reaches a plate')")).to_be_visible()
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None
    page.goto(f"{address}/recipes/{recipe.pk}/steps/")
    page.click("button:has-text('Undo')")
    expect(page.locator(".rd-breaches")).to_be_visible()


def test_every_contact_is_told_by_mouse_and_by_arrow_keys(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page.goto(f"{address}/recipes/{recipe.pk}/flow/")

    page.locator(".fl-ring[data-step='3']").first.hover()
    assert said(page).startswith("Step 4, Mix the turkey.")
    page.locator(".fl-ring[data-step='3']").first.click()
    page.keyboard.press("ArrowRight")
    assert said(page).startswith("Step 5, Shape")

    # stepping through shows what has happened so far, and no more
    for _ in range(4):
        page.click("[data-go=on]")
    assert "raw poultry comes onto it here" in said(page)
    assert page.locator(".fl-head.is-later").count() == 9
    page.click("[data-go=play]")
    expect(page.locator(".fl-head.is-later")).to_have_count(8)
    page.click("[data-go=all]")
    expect(page.locator(".fl-head.is-later")).to_have_count(0)

    # filtered by a tool, the rest is dim
    page.select_option("select[name=carrier]", "tongs")
    expect(page.locator(".fl-ring.is-dim").first).to_be_attached()
    assert axe(page) == []


def test_without_script_the_map_its_table_and_its_repairs_are_there(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    signed_in = sign_in(open_context(1280, 800), address, hostel)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    plain = signed_in.context.browser.new_context(  # type: ignore[union-attr]
        java_script_enabled=False, storage_state=signed_in.context.storage_state()
    ).new_page()
    order = "grate,stir,chill,mix,shape,slice,wash,wash-up,griddle,fresh-tongs,probe,plate,serve"
    plain.goto(f"{address}/recipes/{recipe.pk}/flow/?order={order}")

    plain.click("text=The same as a table")
    expect(plain.locator(".fl-table tbody tr")).to_have_count(13)
    plain.click("text=Work out the fewest washes")
    plain.locator(".fl-way", has_text="Wash hands before").get_by_role("button").click()
    expect(plain.locator("h2:has-text('Nothing raw reaches a plate')")).to_be_visible()
    plain.context.close()


def test_forty_steps_scroll_sideways_with_the_lanes_in_place(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    first = recipe.process["steps"][0]
    more = [{**first, "id": f"again-{n}", "title": f"Again {n}", "after": []} for n in range(27)]
    Recipe.objects.filter(pk=recipe.pk).update(process={**recipe.process, "steps": [*more, *recipe.process["steps"]]})
    page.goto(f"{address}/recipes/{recipe.pk}/flow/")

    expect(page.locator(".fl-head")).to_have_count(40)
    label = page.locator(".fl-labels").bounding_box()
    page.locator(".fl-scroll").evaluate("box => { box.scrollLeft = box.scrollWidth }")
    assert page.locator(".fl-labels").bounding_box() == label
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280
    expect(page.locator(".fl-head").last).to_be_in_viewport()


def test_a_long_look_tells_its_bound_can_be_stopped_and_ends(
    address: str, open_context: Opener, monkeypatch: pytest.MonkeyPatch
) -> None:
    # The first look has no time at all, so that it is unproven; the long look has all it needs.
    monkeypatch.setattr("bulwark.flow.selectors.FIRST_LOOK_S", 0.0)
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    page.goto(f"{address}/recipes/{recipe.pk}/flow/")

    page.click("text=Look longer for fewer")
    expect(page.locator(".fl-look")).to_contain_text("Proven: no order needs fewer.")
    page.locator(".fl-look").get_by_role("button", name="Use this order").click()
    expect(page.locator("text=Done. The steps are unconfirmed")).to_be_visible()

    # stopped, it can be begun again
    page.goto(f"{address}/recipes/{recipe.pk}/flow/")
    page.route("**/flow/live/**", lambda route: None)
    page.click("text=Look longer for fewer")
    expect(page.locator("[data-look=said]")).to_contain_text("washes are proven")
    page.click("[data-look=stop]")
    expect(page.locator("text=Look longer for fewer")).to_be_visible()


def test_a_long_look_is_its_organisations_alone(address: str, open_context: Opener) -> None:
    hostel, other = Hostel(), Hostel("Gull Rock Hostel")
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    path = f"{address}/recipes/{recipe.pk}/flow/live/"
    stranger = open_context(1280, 800)
    neighbour = sign_in(open_context(1280, 800), address, other)

    assert stranger.request.get(path).status == 404
    assert neighbour.context.request.get(path).status == 404
