"""The wall from the front of the room: keys, large text, calls spoken aloud, a pause."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def test_the_wall_is_run_by_keyboard_and_says_a_new_call_aloud_where_that_is_switched_on(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel().open()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.add_init_script("window.aloud = []; SpeechSynthesis.prototype.speak = (words) => aloud.push(words.text)")
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/wall/")
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    assert axe(page) == []
    page.keyboard.press("s")
    expect(page.locator("[data-way=spoken]")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_hidden()

    hostel.says("called")
    expect(page.locator(".call[data-call]", has_text="Puffin")).to_contain_text("Go to them")
    assert page.evaluate("aloud") == ["Puffin. Go to them. they called you"]
    page.keyboard.press("l")
    expect(page.locator(".courses")).to_be_hidden()
    page.reload()
    expect(page.locator(".courses")).to_be_hidden()  # as it was left
    page.keyboard.press("l")
    expect(page.locator(".courses")).to_be_visible()
    page.keyboard.press("p")
    page.keyboard.press("Enter")
    expect(page.locator(".bw-paused")).to_contain_text("Fire alarm or drill")
    page.keyboard.press("2")
    expect(page.locator("h1")).to_have_text("Puffin")
