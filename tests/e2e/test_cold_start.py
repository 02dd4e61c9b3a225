"""A tablet and a wall that are opened without a network: as they were, going on, and nothing lost."""

from __future__ import annotations

import datetime as dt
import re

import pytest
from django.utils import timezone
from playwright.sync_api import BrowserContext, Page, expect

from bulwark.lessons.models import Event
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, joined, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


CUT = "window.had ??= window.fetch; window.fetch = () => Promise.reject(new TypeError('no network'))"


def without_network(context: BrowserContext) -> None:
    """No network for the page, also after it is loaded anew, nor for what keeps it."""
    context.set_offline(True)
    context.add_init_script(f"if (localStorage.getItem('cut')) {{ {CUT}; }}")
    for page in context.pages:
        page.evaluate(f"() => {{ localStorage.setItem('cut', '1'); {CUT}; }}")
    for worker in context.service_workers:
        worker.evaluate("() => { self.fetch = () => Promise.reject(new TypeError('no network')); }")


def with_network(context: BrowserContext) -> None:
    for worker in context.service_workers:
        worker.evaluate("() => { delete self.fetch; }")
    context.set_offline(False)
    for page in context.pages:
        page.evaluate("() => { localStorage.removeItem('cut'); window.fetch = window.had; }")


def kept(page: Page) -> None:
    """Until this browser has it in its keeping."""
    page.wait_for_selector("html[data-kept]")


def test_a_tablet_reloaded_without_a_network_goes_on_where_it_was_and_its_entries_keep_their_time(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel().open()
    hostel.arrive()
    page = joined(address, open_context, hostel)
    kept(page)
    shown = page.locator("[data-panel]:not([hidden])")
    expect(shown).to_have_attribute("data-panel", "step-grate")

    without_network(page.context)
    page.reload()
    expect(page.locator("#outbox")).to_contain_text("No network. This is the bench as it was at")
    expect(shown).to_have_attribute("data-panel", "step-grate")
    shown.locator("[data-go]").click()
    expect(page.locator("#outbox")).to_contain_text("1 entry waits")
    expect(shown).to_have_attribute("data-panel", "step-stir")

    # Once more from the cold: what was done here is done, though nobody else knows of it yet.
    page.reload()
    expect(shown).to_have_attribute("data-panel", "step-stir")
    expect(page.locator("#outbox")).to_contain_text("1 entry waits")
    assert not Event.objects.filter(kind="step_done").exists()

    # Somebody sets the tablet's clock meanwhile: what is done on this page goes by the one that nobody sets.
    shown.locator("[data-go]").click()
    page.evaluate("(() => { const now = Date.now; Date.now = () => now() + 3_600_000; })()")
    with_network(page.context)
    page.evaluate("dispatchEvent(new Event('online'))")
    expect(page.locator("#outbox")).to_be_hidden()
    expect(shown).to_have_attribute("data-panel", "step-chill")
    done = Event.objects.filter(kind="step_done", data__step="stir").get()
    assert dt.timedelta(0) <= timezone.now() - done.happened_at < dt.timedelta(seconds=60)
    assert Event.objects.filter(kind="step_done").count() == 2


def test_a_wall_without_a_network_says_since_when_and_is_there_from_a_cold_start(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel().open()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/wall/")
    expect(page.locator("#cut")).to_be_hidden()
    kept(page)

    without_network(page.context)
    page.reload()
    expect(page.locator("#cut")).to_contain_text("No network since")
    expect(page.locator("#wall h1")).to_have_text(hostel.lesson.title)

    with_network(page.context)
    expect(page.locator("#cut")).to_be_hidden(timeout=15_000)


def test_a_newer_program_on_the_server_is_taken_and_not_the_one_that_was_kept(
    address: str, open_context: Opener
) -> None:
    page = joined(address, open_context, Hostel().open())
    kept(page)
    page.evaluate(
        "caches.open('bulwark-kept-1').then((c) => c.put('/static/bulwark/app.js', new Response('old', "
        "{headers: {'Content-Type': 'text/javascript'}})))"
    )
    page.reload()
    expect(page.locator("#screen")).to_be_visible()
    assert page.evaluate("fetch('/static/bulwark/app.js').then((r) => r.text())") != "old"
    assert (
        page.evaluate(
            "caches.open('bulwark-kept-1').then((c) => c.match('/static/bulwark/app.js')).then((r) => r.text())"
        )
        != "old"
    )


def test_who_leaves_the_bench_leaves_nothing_of_it_on_the_tablet(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    page = joined(address, open_context, hostel)
    kept(page)
    assert page.evaluate("caches.has('bulwark-kept-1')")
    hostel.close()
    page.goto(f"{address}/b/")
    # A slow server is not waited for; what it says at last is heard.
    page.wait_for_function("caches.open('bulwark-kept-1').then((c) => c.match('/b/')).then((found) => !found)")


def test_without_a_network_the_tablet_itself_knows_of_raw_hands_and_kit(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    hostel.arrive()
    for step in ("grate", "stir", "chill"):
        hostel.says("step_done", step=step, by=["AK"])
    page = joined(address, open_context, hostel)
    kept(page)
    shown = page.locator("[data-panel]:not([hidden])")
    lock = shown.locator("[data-own-lock]")
    expect(shown).to_have_attribute("data-panel", "step-mix")

    without_network(page.context)
    shown.locator("[data-go]").click()
    expect(shown).to_have_attribute("data-panel", "step-shape")
    expect(lock).to_have_count(0)  # raw work again: nothing is in the way
    page.wait_for_timeout(900)
    shown.locator("[data-go]").click()
    page.evaluate("document.getElementById('steps').showModal()")
    page.click("[data-show=step-slice]")
    expect(lock).to_contain_text("AK has had hands on raw food since")
    expect(shown.locator("[data-go]")).to_have_text("Go on anyway")
    expect(page.locator("#outbox")).to_contain_text("other limits are not known")
    shown.locator("label", has_text="JT").click()
    expect(lock).to_contain_text("board was on raw food since")  # what the server says too, of other hands
    lock.locator("[data-own-clean=cleaned]").click()
    expect(lock).to_have_count(0)

    # From a cold start it is known still, from what waits.
    page.reload()
    page.evaluate("document.getElementById('steps').showModal()")
    page.click("[data-show=step-slice]")
    shown.locator("label", has_text="AK").click()
    expect(lock).to_contain_text("AK has had hands on raw food since")
    assert axe(page) == []

    with_network(page.context)
    page.evaluate("dispatchEvent(new Event('online'))")
    expect(page.locator("#outbox")).to_be_hidden()
    expect(lock).to_have_count(0)  # the server's own takes its place
    expect(shown.locator("[data-interlock=AK]")).to_be_visible()


def _at_the_probe(hostel: Hostel) -> None:
    """Everything is cooked and nothing measured."""
    hostel.arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=21)
    hostel.says("step_done", step="wash", by=["AK"])
    hostel.says("cleaned", tools=["mixing bowl", "board", "tray", "spoon"], how="clean")
    for step in ("wash-up", "slice"):
        hostel.says("step_done", step=step, by=["AK"])
    hostel.says("on_heat", step="griddle")
    hostel.says("step_done", step="griddle", by=["AK"], goes_on=True)
    hostel.says("swapped", tools=["tongs"])
    hostel.says("step_done", step="fresh-tongs", by=["AK"])


def _types(page: Page, number: str) -> None:
    page.locator("[data-panel]:not([hidden]) [data-keypad]").locator("visible=true").first.click()
    for key in number:
        page.click(f'#keypad [data-key="{key}"]')
    page.click("#keypad [data-enter]")
    page.wait_for_timeout(300)


@pytest.mark.parametrize(("last", "lifted"), [("178", True), ("140", False), ("81", False)])
def test_without_a_network_readings_lift_the_stop_that_lacked_them_and_low_ones_do_not(
    address: str, open_context: Opener, last: str, lifted: bool
) -> None:
    hostel = Hostel().open()
    _at_the_probe(hostel)
    page = joined(address, open_context, hostel)
    kept(page)
    shown = page.locator("[data-panel]:not([hidden])")
    expect(shown).to_have_attribute("data-panel", "step-probe")
    without_network(page.context)
    for typed in ("175", "177", last):
        _types(page, typed)
    expect(shown.locator("[data-own-go] button")).to_be_visible(visible=lifted)  # on from the panel itself
    page.evaluate("document.getElementById('steps').showModal()")
    page.click("[data-show=step-serve]")
    lock, proof = shown.locator("[data-interlock=AK]"), shown.locator("[data-own-proof]")
    if lifted:
        expect(lock).to_be_hidden()
        expect(proof).to_contain_text("Measured on this tablet: koftas, lowest 175 °F of 3")
        assert axe(page) == []
    else:
        expect(lock).to_be_visible()
        expect(proof).to_contain_text(f"koftas: {last} °F is not hot enough. Cook on and measure again.")
        expect(shown.locator("[data-go]")).to_have_text("Go on anyway")


def test_without_a_network_a_hold_is_waited_for_and_the_lowest_piece_measured_once_more(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel(profile="uk").open()
    _at_the_probe(hostel)
    page = joined(address, open_context, hostel)
    kept(page)
    shown = page.locator("[data-panel]:not([hidden])")
    proof, button = shown.locator("[data-own-proof]"), shown.locator("[data-keypad]").locator("visible=true").first
    expect(shown).to_have_attribute("data-panel", "step-probe")
    without_network(page.context)
    _types(page, "75")
    expect(proof).to_contain_text("koftas: 1 of 3 pieces are measured.")
    for typed in ("74", "76"):
        _types(page, typed)
    expect(proof).to_contain_text(re.compile(r"Keep it so [12]:\d\d more, then measure the lowest again"))
    expect(button).to_have_text(re.compile(r"Probe kofta\s+2"))

    # Two minutes later, by the clock that nobody sets.
    page.evaluate(
        "(() => { const now = performance.now.bind(performance); performance.now = () => now() + 125_000; })()"
    )
    expect(proof).to_contain_text("koftas: long enough. Measure the lowest once more: it was 74 °C.")
    page.evaluate("document.getElementById('steps').showModal()")
    page.click("[data-show=step-serve]")
    lock = shown.locator("[data-interlock=AK]")
    expect(lock).to_be_visible()
    lock.locator("[data-keypad]").click()
    for key in "73":
        page.click(f'#keypad [data-key="{key}"]')
    page.click("#keypad [data-enter]")
    expect(lock).to_be_hidden()
    expect(proof).to_contain_text("Measured on this tablet: koftas, lowest 73 °C of 3")

    with_network(page.context)
    page.evaluate("dispatchEvent(new Event('online'))")
    expect(page.locator("#outbox")).to_be_hidden()
    for _ in range(60):
        if Event.objects.filter(kind="core_read").count() == 4:
            break
        page.wait_for_timeout(500)
    assert Event.objects.filter(kind="core_read").count() == 4


def test_without_a_network_food_that_has_been_out_too_long_is_stopped(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    _at_the_probe(hostel)
    page = joined(address, open_context, hostel)
    kept(page)
    without_network(page.context)
    page.evaluate(
        """() => { const panel = document.querySelector('[data-panel=step-serve]');
            const row = JSON.parse(panel.dataset.foreseen);
            for (const food in row.until) row.until[food] = Date.now() - 1000;
            panel.dataset.foreseen = JSON.stringify(row); }"""
    )
    page.evaluate("document.getElementById('steps').showModal()")
    page.click("[data-show=step-serve]")
    lock = page.locator("[data-panel]:not([hidden]) [data-own-lock]")
    expect(lock).to_contain_text("has been out too long: do not serve it")
