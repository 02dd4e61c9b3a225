"""Instruments: readings by the protocol, stores that fail, alarms, a lesson's clocks."""

import datetime as dt
import json
import re
from dataclasses import replace
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from bulwark.devices import pages, selectors, services
from bulwark.devices.models import Instrument, StoreReading
from bulwark.lessons import selectors as lessons
from bulwark.people.models import Organisation
from foodsafety.lesson import FoodState
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile as shipped
from tests.web.conftest import Hostel


def a_store(hostel: Hostel, *, hours: float = 3.0, kind: str = "fridge", **settings: Any) -> Instrument:
    """A simulated store that has run for some hours."""
    began = timezone.now() - dt.timedelta(hours=hours)
    row, _ = services.add_instrument(
        organisation_id=hostel.organisation.pk, kind=kind, name="Larder", simulated=True, settings=settings, began=began
    )
    services.catch_up(row)
    return Instrument.objects.get(pk=row.pk)


def post(key: str, device: object, readings: object) -> Any:
    body = json.dumps({"device": str(device), "readings": readings})
    return Client().post(
        "/devices/readings/", body, content_type="application/json", HTTP_AUTHORIZATION=f"Device {key}"
    )


@pytest.fixture
def real(hostel: Hostel) -> tuple[Instrument, str]:
    return services.add_instrument(
        organisation_id=hostel.organisation.pk, kind="fridge", name="Real one", simulated=False
    )


def a_reading(celsius: object = 3.9, **changes: object) -> dict[str, object]:
    return {"channel": 1, "celsius": celsius, "at": timezone.now().isoformat(), **changes}


def test_a_logger_posts_with_its_key_and_twice_is_once(real: tuple[Instrument, str]) -> None:
    row, key = real
    reading = a_reading()

    assert post(key, row.serial, [reading]).json() == {"kept": 1}
    post(key, row.serial, [reading])

    assert StoreReading.objects.get().celsius == 3.9


@pytest.mark.parametrize("serial", ["own", "00000000-0000-0000-0000-000000000000", "no serial"])
def test_a_wrong_key_or_serial_is_refused_and_tells_nothing(real: tuple[Instrument, str], serial: str) -> None:
    row, _ = real
    response = post("guess", row.serial if serial == "own" else serial, [a_reading()])

    assert response.status_code == 403
    assert not StoreReading.objects.exists()


@pytest.mark.parametrize(
    ("reading", "field"),
    [
        (a_reading("warm"), "readings[0].celsius"),
        (a_reading(900), "readings[0].celsius"),
        (a_reading(at="yesterday"), "readings[0].at"),
        (a_reading(at="2026-06-13T11:00:00"), "readings[0].at"),
        (a_reading(at="2999-01-01T00:00:00+00:00"), "readings[0].at"),
        ("hot", "readings[0]"),
        (a_reading(channel=0), "readings[0].channel"),
    ],
)
def test_a_reading_that_cannot_be_names_its_field(real: tuple[Instrument, str], reading: object, field: str) -> None:
    row, key = real
    response = post(key, row.serial, [a_reading(), reading] if field.startswith("readings[1]") else [reading])

    assert response.status_code == 422
    assert response.json()["error"]["field"] == field
    assert not StoreReading.objects.exists()


@pytest.mark.parametrize("body", ["", "[]", "{}", '{"device": 1}', '{"device": "x", "readings": 3}'])
def test_a_body_that_is_no_post_is_refused(db: None, body: str) -> None:
    assert Client().post("/devices/readings/", body, content_type="application/json").status_code == 400


def test_a_simulated_store_reads_every_five_minutes_and_goes_on_where_it_stood(hostel: Hostel) -> None:
    row = a_store(hostel, hours=2.0)
    count = StoreReading.objects.filter(instrument=row).count()
    services.catch_up(row)

    assert count == 25
    assert StoreReading.objects.filter(instrument=row).count() == count


@pytest.mark.parametrize("page", ["/cold/", "/cold/alarms/", "/cold/{row}/log.csv"])
def test_a_look_writes_nothing(hostel: Hostel, page: str) -> None:
    row = a_store(hostel, hours=2.0)
    Instrument.objects.filter(pk=row.pk).update(set_at=timezone.now() - dt.timedelta(hours=3))
    before = Instrument.objects.values().get(pk=row.pk), StoreReading.objects.count()

    client = hostel.client()

    with CaptureQueriesContext(connection) as asked:
        assert client.get(page.format(row=row.pk)).status_code == 200

    writes = [
        query["sql"] for query in asked if re.match(r"(?i)\s*(?:insert|update|delete)|.*for update", query["sql"])
    ]
    assert writes == []
    assert (Instrument.objects.values().get(pk=row.pk), StoreReading.objects.count()) == before


def test_what_a_look_shows_is_what_the_keeper_then_keeps(hostel: Hostel) -> None:
    row = a_store(hostel, hours=2.0)
    Instrument.objects.filter(pk=row.pk).update(set_at=timezone.now() - dt.timedelta(hours=3))
    seen = selectors.readings_since(row, row.clock_at, selectors.ran_on(Instrument.objects.get(pk=row.pk)))

    services.keep_stores()

    kept = selectors.readings_since(row, row.clock_at)
    assert len(kept) >= 36
    assert kept[: len(seen)] == seen


def test_a_fridge_that_was_switched_off_is_an_alarm_and_says_what_to_do(hostel: Hostel) -> None:
    a_store(hostel, hours=8.0, fails_s=3600.0)

    [look] = pages.alarms(hostel.actor)
    page = hostel.client().get("/cold/alarms/").content.decode()

    assert look.verdict.action == "discard"
    assert "Throw away" in page


def test_a_cold_fridge_is_no_alarm_and_a_silent_one_is(hostel: Hostel, real: tuple[Instrument, str]) -> None:
    a_store(hostel)
    row, key = real
    post(key, row.serial, [a_reading(at=(timezone.now() - dt.timedelta(hours=2)).isoformat())])

    assert [look.row.name for look in pages.alarms(hostel.actor)] == ["Real one"]


def test_faults_begin_now_on_the_store_s_own_clock_and_it_can_run_fast(hostel: Hostel) -> None:
    row = a_store(hostel)
    client = hostel.client()
    client.post(f"/cold/{row.pk}/", {"what": "fail"})
    client.post(f"/cold/{row.pk}/", {"pace": "300"})
    row.refresh_from_db()

    assert row.settings["fails_s"] == pytest.approx(3 * 3600, abs=60)
    later = selectors.own_time(row, timezone.now() + dt.timedelta(seconds=10)) - selectors.own_time(row)
    assert later.total_seconds() == pytest.approx(3000, abs=30)


@pytest.mark.parametrize(("what", "pace"), [("explode", ""), ("", "7"), ("", "fast"), ("", "-1")])
def test_a_fault_or_pace_that_is_none_changes_nothing(hostel: Hostel, what: str, pace: str) -> None:
    row = a_store(hostel)
    hostel.client().post(f"/cold/{row.pk}/", {"what": what, "pace": pace})
    row.refresh_from_db()

    assert row.pace == 1
    assert "fails_s" not in row.settings


def test_readings_go_out_as_csv_and_come_back_in(hostel: Hostel) -> None:
    row = a_store(hostel)
    client = hostel.client()
    sent = client.get(f"/cold/{row.pk}/log.csv").content
    other, _ = services.add_instrument(
        organisation_id=hostel.organisation.pk, kind="fridge", name="Copy", simulated=False
    )
    client.post(f"/cold/{other.pk}/bring/", {"log": SimpleUploadedFile("log.csv", sent)})

    def rows(of: Instrument) -> list[Any]:
        return list(StoreReading.objects.filter(instrument=of).values_list("at", "celsius"))

    assert rows(other) == rows(row)


def test_a_file_that_is_no_log_changes_nothing_and_says_why(hostel: Hostel) -> None:
    row = a_store(hostel)
    before = StoreReading.objects.count()
    upload = SimpleUploadedFile("log.csv", b"minutes,temp\n1,2\n")
    page = hostel.client().post(f"/cold/{row.pk}/bring/", {"log": upload}, follow=True)

    assert "Dates are needed" in page.content.decode()
    assert StoreReading.objects.count() == before


def test_another_organisation_sees_and_changes_no_store_of_ours(hostel: Hostel) -> None:
    row = a_store(hostel, fails_s=0.0)
    client = Hostel("Farside Bothy").client()

    assert "No fridge has a logger yet" in client.get("/cold/").content.decode()
    assert client.get(f"/cold/{row.pk}/log.csv").status_code == 404
    assert client.post(f"/cold/{row.pk}/", {"what": "mend"}).status_code == 404
    assert client.post(f"/cold/{row.pk}/bring/").status_code == 404
    assert Client().get("/cold/").status_code == 302


def test_a_real_instrument_is_told_its_key_once_and_only_its_hash_is_kept(hostel: Hostel) -> None:
    page = hostel.client().post("/cold/add/", {"kind": "freezer", "name": "Cellar", "real": "yes"}, follow=True)
    row = Instrument.objects.get()
    key = page.content.decode().split("key ")[1].split(".")[0]

    assert post(key, row.serial, [a_reading(-19.0)]).status_code == 200
    assert key not in row.key_hash
    assert key not in hostel.client().get("/cold/").content.decode()


@pytest.mark.parametrize(("kind", "name"), [("oven", "x"), ("fridge", "  ")])
def test_an_instrument_that_cannot_be_is_not_made(hostel: Hostel, kind: str, name: str) -> None:
    hostel.client().post("/cold/add/", {"kind": kind, "name": name})

    assert not Instrument.objects.exists()


def test_only_a_simulated_store_can_be_disturbed(real: tuple[Instrument, str]) -> None:
    with pytest.raises(CoreError):
        services.disturb(instrument=real[0], what="fail")


# --- probes at a bench -------------------------------------------------------------------------------------


def cook_koftas(hostel: Hostel) -> None:
    state, _ = lessons.bench_state(hostel.puffin)
    heat = next(step.id for step in state.plan.process.steps if step.do == "heat")
    hostel.says("step_done", step=heat, by=["AK"])


def test_a_probe_shows_a_lagging_then_a_settled_reading_on_its_channel(hostel: Hostel) -> None:
    hostel.open()
    cook_koftas(hostel)
    tablet = hostel.tablet()
    early = tablet.get("/b/probe/?food=koftas&piece=6&in=0").json()
    late = tablet.get("/b/probe/?food=koftas&piece=6&in=60").json()

    assert early["settled"] is False
    assert early["celsius"] < 25
    assert late["settled"] is True
    assert late["celsius"] > 40
    assert late["channel"] == 2


def test_a_flat_battery_says_so_and_a_bad_probe_is_not_called_calibrated(hostel: Hostel) -> None:
    hostel.open()
    cook_koftas(hostel)
    probe, _ = services.add_instrument(
        organisation_id=hostel.organisation.pk, kind="probe", name="P", simulated=True, settings={"offset_c": 2.0}
    )
    assert hostel.tablet().get("/b/probe/?food=koftas").json()["calibrated"] is False
    Instrument.objects.filter(pk=probe.pk).update(settings={"battery_percent": 3})

    flat = hostel.tablet().get("/b/probe/?food=koftas")
    assert flat.status_code == 503
    assert flat.json()["error"]["field"] == "battery_percent"


# --- a lesson's clocks ---------------------------------------------------------------------------------------


def test_a_clock_that_runs_stands_on_the_strip_with_what_is_left(hostel: Hostel) -> None:
    hostel.open()
    state, _ = lessons.bench_state(hostel.puffin)
    first = next(step for step in state.plan.process.steps if "turkey mince" in step.foods or step.do == "mix")
    hostel.says("step_done", step=first.id, by=["AK"])

    rows = pages.keep_page(hostel.lesson, hostel.actor)["clocks"]

    assert rows
    assert all(row.bench == "Puffin" for row in rows)
    assert hostel.client().get(f"/lessons/{hostel.lesson.pk}/cold-hot/").status_code == 200
    assert Hostel("Farside Bothy").client().get(f"/lessons/{hostel.lesson.pk}/cold-hot/").status_code == 404


def test_readings_that_fall_too_slowly_warn_on_the_strip_while_it_can_still_be_split(hostel: Hostel) -> None:
    slow = tuple((n * 600.0, 4 + 66 * 0.96**n) for n in range(10))
    state, _ = lessons.bench_state(hostel.puffin)
    profile = replace(state.plan.profile, cooling=shipped("us-foodservice").cooling)
    cooling = replace(state, plan=replace(state.plan, profile=profile)).with_food("raita", FoodState(cold=slow))

    assert "split it now" in pages._warning(cooling, "raita", "C")
    assert pages._warning(state, "raita", "C") == ""


def test_a_lesson_without_clocks_and_stores_says_what_to_do(hostel: Hostel) -> None:
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/cold-hot/").content.decode()

    assert "No clock has started" in page
    assert "No fridge has a logger" in page


# --- thermometers held against ice and boiling water ------------------------------------------------------


@pytest.fixture
def probe(hostel: Hostel) -> Instrument:
    row, _key = services.add_instrument(
        organisation_id=hostel.organisation.pk, kind="probe", name="Bench probe", simulated=True
    )
    return row


@pytest.fixture
def at_the_sea(hostel: Hostel) -> None:
    hostel.organisation.kitchens.create(name="Hall", altitude_m=0)


@pytest.mark.usefixtures("at_the_sea")
@pytest.mark.parametrize(
    ("ice", "boil", "standing"),
    [("0.3", "99.6", "good"), ("2.4", "102.1", "adjust"), ("-1", "103", "replace"), ("0.2", "", "cannot_judge")],
)
def test_a_probe_is_checked_and_the_record_says_how(
    hostel: Hostel, probe: Instrument, ice: str, boil: str, standing: str
) -> None:
    hostel.open().arrive().close()
    record = f"/lessons/{hostel.lesson.pk}/record/"
    assert "nobody had checked it by then" in hostel.client().get(record).content.decode()

    hostel.client().post(f"/cold/{probe.pk}/check/", {"ice": ice, "boil": boil})

    check = probe.checks.get()
    assert check.standing == standing
    said = pages.check_row(check, "C")
    assert said is not None
    for page in (record, "/cold/"):
        assert said["says"] in hostel.client().get(page).content.decode()
    today = hostel.client().get("/").content.decode()
    assert ("all checked this month, and fit" in today) is (standing == "good")


def test_where_nobody_has_said_how_high_it_lies_boiling_water_proves_nothing(hostel: Hostel, probe: Instrument) -> None:
    hostel.client().post(f"/cold/{probe.pk}/check/", {"ice": "0", "boil": "100"})

    assert probe.checks.get().standing == "cannot_judge"
    assert "nobody has said how high this kitchen lies" in hostel.client().get("/cold/").content.decode()
    assert "none checked and fit this month" in hostel.client().get("/").content.decode()


def test_a_check_after_the_lesson_is_not_one_of_the_lesson(hostel: Hostel, probe: Instrument) -> None:
    hostel.open().arrive().close()
    type(hostel.lesson).objects.filter(pk=hostel.lesson.pk).update(closed_at=timezone.now() - dt.timedelta(days=3))
    hostel.client().post(f"/cold/{probe.pk}/check/", {"ice": "0", "boil": "100"})

    assert (
        "nobody had checked it by then" in hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    )


@pytest.mark.parametrize("sent", [{}, {"ice": "cold"}, {"ice": "80"}, {"boil": "20"}])
def test_what_no_thermometer_shows_there_is_refused_and_what_was_typed_stays(
    hostel: Hostel, probe: Instrument, sent: dict[str, str]
) -> None:
    answer = hostel.client().post(f"/cold/{probe.pk}/check/", sent)

    assert answer.status_code == 422
    assert not probe.checks.exists()
    assert 'role="alert"' in answer.content.decode()
    if sent.get("ice") == "80":
        assert 'value="80"' in answer.content.decode()


def test_nobody_checks_another_organisations_probe(hostel: Hostel, probe: Instrument) -> None:
    elsewhere = Organisation.objects.create(name="Another hostel")
    Instrument.objects.filter(pk=probe.pk).update(organisation=elsewhere)
    assert hostel.client().post(f"/cold/{probe.pk}/check/", {"ice": "0", "boil": "100"}).status_code == 404
