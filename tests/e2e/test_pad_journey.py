"""An assistant's phone: let in, one tap a learner, on without a network, and what waits is taken back by a tap."""

from __future__ import annotations

import pytest
from playwright.sync_api import Route, expect

from bulwark.lessons.models import Event
from bulwark.pad.models import Assistant
from tests.e2e.conftest import axe
from tests.e2e.test_cold_start import kept, with_network, without_network
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def test_seen_and_taken_back_without_a_network_and_in_the_log_with_one(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    front = sign_in(open_context(1280, 800), address, hostel)
    front.goto(f"{address}/lessons/{hostel.lesson.pk}/")
    front.click("text=Assistants")
    front.check("text=Puffin")
    front.click("text=Make a code")
    expect(front.locator(".bw-code-text")).to_have_text(Assistant.objects.get().code)
    assert axe(front) == []

    phone = open_context(390, 844).new_page()
    phone.goto(f"{address}/pad/join/")
    assert axe(phone) == []
    phone.fill("[name=code]", Assistant.objects.get().code)
    phone.click("button:has-text('Look on')")
    expect(phone.locator(".pd-bench")).to_have_count(1)
    kept(phone)
    assert axe(phone) == []

    without_network(phone.context)
    phone.click("[data-who=AK] .is-wrong")
    expect(phone.locator(".pd-shout")).to_have_text("AK: Stop, wash again")
    expect(phone.locator("#pd-net")).to_have_text("No signal, 1 wait")
    phone.click("[data-who=JT] .is-right")
    phone.click("#pd-rows button >> nth=0")
    expect(phone.locator(".pd-shout")).to_be_hidden()
    phone.reload()
    expect(phone.locator("[data-who=JT] .is-right")).to_have_attribute("aria-pressed", "true")
    expect(phone.locator("#pd-net")).to_have_text("No signal, 1 wait")
    expect(phone.locator("#pd-waits")).to_have_text("kept here until sent")
    assert list(Event.objects.filter(kind="watched").values_list("data", flat=True)) == []

    with_network(phone.context)
    phone.evaluate("dispatchEvent(new Event('online'))")
    expect(phone.locator("#pd-net")).not_to_contain_text("No signal")
    expect(phone.locator("#pd-waits")).to_have_text("")  # there is a network before what waits has gone over it
    expect(phone.locator("#pd-rows button")).to_have_count(1)
    [event] = Event.objects.filter(kind="watched")
    assert event.data == {"what": "hands", "learner": "JT", "seen": "right"}

    phone.click("#pd-rows button >> nth=0")
    expect(phone.locator(".pd-back")).to_be_hidden(timeout=15_000)
    expect(phone.locator("[data-who=JT] .is-right")).to_have_attribute("aria-pressed", "false")
    expect(phone.locator("#pd-waits")).to_have_text("")
    assert Event.objects.get(kind="taken_back").data["event"] == str(event.uuid)


def test_what_is_taken_back_while_it_is_being_sent_is_taken_back(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    helper = Assistant.objects.create(lesson=hostel.lesson, number=1, code="PADCODE2")
    helper.benches.set([hostel.puffin])
    phone = open_context(390, 844).new_page()
    phone.goto(f"{address}/pad/join/")
    phone.fill("[name=code]", helper.code)
    phone.click("button:has-text('Look on')")
    expect(phone.locator(".pd-bench")).to_have_count(1)
    held: list[Route] = []
    phone.route("**/pad/entries/", lambda route: route.continue_() if held else held.append(route))

    phone.click("[data-who=JT] .is-right")
    while not held:
        phone.wait_for_timeout(50)
    phone.click("#pd-rows button >> nth=0")
    expect(phone.locator(".pd-back")).to_be_hidden()
    held[0].continue_()

    expect(phone.locator("#pd-waits")).to_have_text("")
    seen = Event.objects.get(kind="watched")
    assert Event.objects.get(kind="taken_back").data["event"] == str(seen.uuid)
    expect(phone.locator(".pd-back")).to_be_hidden()
    expect(phone.locator("[data-who=JT] .is-right")).to_have_attribute("aria-pressed", "false")
