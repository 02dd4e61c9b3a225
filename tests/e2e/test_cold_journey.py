"""The workbench and the cold stores in a browser: typed, recomputed, shared, kept, alarmed."""

import datetime as dt
import re
from pathlib import Path

import pytest
from django.utils import timezone
from playwright.sync_api import expect

from bulwark.devices import services
from bulwark.workbench.tools import TOOLS
from tests.e2e.conftest import axe
from tests.e2e.test_journey import Opener, sign_in
from tests.web.conftest import Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]


def test_a_pot_is_planned_shared_and_kept_with_a_lesson(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.click("text=Workbench")
    assert axe(page) == []
    page.click("text=Chill planner")
    verdict = page.locator(".wb-verdict h2")
    expect(verdict).to_have_text("Left as it is, it will not chill in time")
    assert axe(page) == []

    # the answer follows while one types, and so does the link
    page.fill("#id_readings", "0 60\n60 30\n110 21\n300 4")
    expect(verdict).to_have_text("Chilled in time")
    page.fill("#id_litres", "0")
    expect(verdict).to_have_text("No answer yet")
    expect(page.locator("#id_litres")).to_have_attribute("aria-invalid", "true")
    assert page.locator("#id_litres").input_value() == "0"
    page.fill("#id_litres", "6")
    expect(verdict).to_have_text("Chilled in time")
    expect(page).to_have_url(re.compile("litres=6"))

    # in the other unit the same question has the same answer
    page.click("text=°F instead")
    expect(page.locator("#id_around")).to_have_value("39.2")

    # anybody with the link reads it, nobody needs an account
    page.goto(f"{address}/workbench/chill/")
    link = page.locator(".wb-link a").first.get_attribute("href")
    stranger = open_context(1280, 800).new_page()
    stranger.goto(f"{address}{link}")
    expect(stranger.locator(".wb-verdict h2")).to_have_text("Left as it is, it will not chill in time")
    assert axe(stranger) == []

    page.click("button:has-text('Attach')")
    expect(page.locator("#lesson-sheets")).to_contain_text("Chill planner: Left as it is")


def test_every_tool_is_readable_by_all_and_fits_a_tablet(address: str, open_context: Opener) -> None:
    page = sign_in(open_context(820, 1180), address, Hostel())
    for slug in TOOLS:
        page.goto(f"{address}/workbench/{slug}/")
        expect(page.locator(".wb-verdict h2")).to_be_visible()
        assert axe(page) == [], slug
        assert page.evaluate("document.documentElement.scrollWidth") <= 820, slug


def test_a_tool_works_without_script(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = open_context(1280, 800, java_script_enabled=False).new_page()
    page.goto(f"{address}/sign-in/")
    page.fill("#id_username", hostel.username)
    page.fill("#id_password", "four tides a day")
    page.click("button:has-text('Sign in')")
    page.goto(f"{address}/workbench/sanitiser/")
    page.fill("#id_ppm", "20")
    page.click("text=Work it out")

    expect(page.locator(".wb-verdict h2")).to_have_text("Too weak to sanitise")


def test_a_long_log_is_read_with_its_progress(address: str, open_context: Opener, tmp_path: Path) -> None:
    page = sign_in(open_context(1280, 800), address, Hostel())
    log = tmp_path / "log.csv"
    rows = (f"{n},{4 + (n % 7) / 10:.1f}" for n in range(120_000))
    log.write_text("seconds,celsius\n" + "\n".join(rows) + "\n", encoding="utf-8")
    page.goto(f"{address}/workbench/log/")
    page.select_option("#id_kind", "fridge")
    page.select_option("#id_code", "uk")
    page.set_input_files("#wb-file-log", log)

    expect(page.locator(".wb-progress")).to_contain_text("Read to its end")
    expect(page.locator(".wb-verdict h2")).to_have_text("Cold all the time")
    page.set_input_files("#wb-file-log", {"name": "x.csv", "mimeType": "text/csv", "buffer": b"a,b\n1,2\n"})
    expect(page.locator(".wb-verdict h2")).to_have_text("No answer yet")


def test_a_fridge_that_fails_calls_out_on_today_and_says_what_to_do(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    services.add_instrument(
        organisation_id=hostel.organisation.pk,
        kind="fridge",
        name="Larder fridge",
        simulated=True,
        began=timezone.now() - dt.timedelta(hours=3),
    )
    page = sign_in(open_context(1280, 800), address, hostel)
    page.click("nav >> text=Cold")
    expect(page.locator(".dv-title")).to_contain_text("Cold:")
    assert axe(page) == []

    page.click("text=Try a fault")
    page.click("text=Switch it off")
    page.click("text=Try a fault")
    page.click("button:has-text('300×')")
    page.wait_for_timeout(14_000)  # over an hour of the store's own time
    page.goto(f"{address}/")
    expect(page.locator("#alarms")).to_contain_text("Larder fridge: ")
    assert axe(page) == []
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/cold-hot/")
    expect(page.locator(".dv-chip")).to_contain_text("Larder fridge")
    assert axe(page) == []
