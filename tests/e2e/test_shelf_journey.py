"""What a lesson kept, until it is gone: read while it cools, labelled, gone through without a network."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from bulwark.devices import services as devices
from bulwark.lessons.models import Event
from tests.e2e.conftest import axe
from tests.e2e.test_cold_start import kept, with_network, without_network
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel
from tests.web.test_stock import keep_koftas

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def test_food_that_cools_is_read_from_its_ticket_labelled_and_thrown_away(address: str, open_context: Opener) -> None:
    hostel = keep_koftas(Hostel(profile="us-foodservice"), 1.1)
    devices.add_instrument(
        organisation_id=hostel.organisation.pk, kind="printer", name="Pantry printer", simulated=True
    )
    front = sign_in(open_context(1280, 800), address, hostel)
    front.click("nav >> text=Shelf")
    expect(front.locator("h1")).to_contain_text("Read the koftas")
    front.click(".sf-item.is-cooling .tk")
    expect(front.locator(".sf-cool")).to_contain_text("5 °C by")
    assert axe(front) == []
    front.fill("details[open] [name=value]", "4")
    front.click("text=Read so")
    expect(front.locator(".sf-cool")).to_contain_text("Cold in time.")
    front.click("summary:has-text('Labels and note')")
    front.click("text=On Pantry printer")
    expect(front.locator(".sf-tray img")).to_have_count(1)
    assert axe(front) == []
    front.click("text=To the shelf")
    front.click(".sf-item:has-text('Koftas') .tk")
    front.click("summary:has-text('Throw away')")
    front.fill("details[open] [name=grams]", "640")
    front.select_option("details[open] [name=why]", "spoiled")
    front.click("[name=how][value=discarded]")
    expect(front.locator(".sf-item:has-text('Koftas')")).to_have_count(0)
    front.click("a:has-text('Thrown away')")
    expect(front.locator("tr:has-text('it had spoiled')")).to_contain_text("640 g")
    assert axe(front) == []


def test_shelves_are_gone_through_without_a_network(address: str, open_context: Opener) -> None:
    hostel = keep_koftas(Hostel(), 22)
    phone = sign_in(open_context(390, 844), address, hostel)
    phone.goto(f"{address}/shelf/count/")
    kept(phone)
    assert axe(phone) == []
    without_network(phone.context)
    phone.reload()
    phone.click("li:has-text('Koftas') [data-tap=seen]")
    phone.click("li:has-text('Salad') [data-tap=missing]")
    expect(phone.locator("#sc-net")).to_contain_text("Kept on this phone until sent: 2")
    phone.reload()
    expect(phone.locator("li:has-text('Salad') [data-tap=missing]")).to_have_attribute("aria-pressed", "true")
    assert not Event.objects.filter(kind__in=("part_seen", "part_gone")).exists()
    with_network(phone.context)
    phone.evaluate("dispatchEvent(new Event('online'))")
    expect(phone.locator("#sc-net")).not_to_contain_text("No signal")
    expect(phone.locator("li:has-text('Salad') [data-tap=missing]")).to_be_disabled(timeout=15_000)
    assert Event.objects.get(kind="part_gone").data["how"] == "missing"
    assert Event.objects.filter(kind="part_seen").count() == 1
