"""A timer of a bench, in real browsers: set, seen, rung, answered; without a network, and on another tablet."""

import os

import pytest
from playwright.sync_api import Page, expect

from bulwark.lessons.models import Event
from bulwark.lessons.services import open_lesson
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def joined(open_context: Opener, address: str, hostel: Hostel, width: int = 1180, height: int = 820) -> Page:
    page: Page = open_context(width, height).new_page()
    page.clock.install()
    page.goto(f"{address}/join/")
    page.fill("#code", hostel.puffin.join_code)
    page.click("text=Join >> nth=-1")
    expect(page.locator("#screen")).to_be_visible()
    return page


def picture(page: Page, name: str) -> None:
    """A look at it, where somebody wants to see."""
    folder = os.environ.get("BULWARK_LOOK")
    if folder:
        page.screenshot(path=f"{folder}/{name}.png")


def test_timers_of_a_bench(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    open_lesson(lesson=hostel.lesson)
    tablet = joined(open_context, address, hostel)

    tablet.click("[data-open=timer]")
    assert axe(tablet) == []
    picture(tablet, "timer-set")
    tablet.fill("#timer [name=name]", "rice")
    with tablet.expect_response("**/b/entries/"):
        tablet.click("#timer [name=minutes][value='3']")
    first = tablet.locator("#timers li", has_text="rice")
    expect(first).to_be_visible()
    expect(first.locator("button")).to_have_count(3)
    assert axe(tablet) == []

    # Another, while there is no network: it runs here at once, and is kept.
    tablet.context.set_offline(True)
    for name, minutes in (("eggs", "2"), ("rolls", "10")):
        tablet.click("[data-open=timer]")
        tablet.fill("#timer [name=name]", name)
        tablet.click(f"#timer [name=minutes][value='{minutes}']")
    expect(tablet.locator("#timers li")).to_have_count(3)
    tablet.context.set_offline(False)
    tablet.clock.run_for(4_000)
    expect(tablet.locator("#timers li").first).to_contain_text("eggs")
    assert Event.objects.filter(kind="timer_set").count() == 3
    picture(tablet, "timers")

    # A minute more; the other tablet of the bench shows the same.
    with tablet.expect_response("**/b/entries/"):
        tablet.locator("#timers li", has_text="rice").get_by_role("button", name="+1 minute: rice").click()
    other = joined(open_context, address, hostel, 820, 1180)
    expect(other.locator("#timers li")).to_have_count(3)
    assert axe(other) == []
    picture(other, "timers-upright")

    # It rings until somebody answers, and the wall says who is to look.
    front = sign_in(open_context(), address, hostel)
    front.goto(f"{address}/lessons/{hostel.lesson.pk}/wall/")
    expect(front.locator(".found", has_text="Puffin")).to_contain_text("eggs")
    for left in ("0:", "0:00"):  # a minute less, twice: it is over
        with tablet.expect_response("**/b/entries/"):
            tablet.locator("#timers li", has_text="eggs").get_by_role("button", name="−1 minute: eggs").click()
        expect(tablet.locator("#timers li", has_text="eggs").locator("b")).to_contain_text(left)
    tablet.clock.run_for(2_000)
    expect(tablet.locator("#timers li", has_text="eggs")).to_have_class("is-ringing")
    picture(tablet, "timer-rings")
    picture(front, "timer-wall")
    with tablet.expect_response("**/b/entries/"):
        tablet.locator("#timers li", has_text="eggs").get_by_role("button", name="Stop the timer: eggs").click()
    expect(tablet.locator("#timers li", has_text="eggs")).to_have_count(0)
    expect(other.locator("#timers li", has_text="eggs")).to_have_count(0)
