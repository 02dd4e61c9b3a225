"""Choices of people and devices: units, profiles, leaving, what may be done after the end."""

import pytest

from tests.web.conftest import Hostel, post_entry


@pytest.mark.parametrize(("unit", "shown"), [("F", "165 °F"), ("C", "73.9 °C (165 °F)")])
def test_an_educator_reads_the_unit_they_chose(hostel: Hostel, unit: str, shown: str) -> None:
    client = hostel.client()

    client.post("/unit/", {"unit": unit, "next": "/"})

    assert f"lowest piece {shown}" in client.get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()


@pytest.mark.parametrize("back", ["//elsewhere.example/", "https://elsewhere.example/", ""])
def test_choosing_a_unit_never_leads_elsewhere(hostel: Hostel, back: str) -> None:
    assert hostel.client().post("/unit/", {"unit": "F", "next": back})["Location"] == "/"


def test_a_tablet_can_show_celsius_under_a_profile_in_fahrenheit(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    assert "40 °F" in tablet.get("/b/").content.decode()

    tablet.get("/b/?unit=C")

    assert "4.4 °C (40 °F)" in tablet.get("/b/").content.decode()


def test_a_tablet_that_leaves_is_at_no_bench(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()

    assert tablet.post("/b/leave/")["Location"] == "/join/"
    assert tablet.get("/b/").status_code == 403
    assert post_entry(tablet, "called").status_code == 403


def test_an_educator_may_still_put_the_record_right_after_the_lesson(hostel: Hostel) -> None:
    hostel.open().close()

    hostel.says("gone", food="koftas", how="discarded")

    html = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    assert "Koftas thrown away" in html


def test_a_lesson_that_is_over_cannot_be_started_again(hostel: Hostel) -> None:
    hostel.open().close()
    client = hostel.client()

    client.post(f"/lessons/{hostel.lesson.pk}/open/")

    hostel.lesson.refresh_from_db()
    assert hostel.lesson.closed_at is not None
    assert "This lesson is over" in client.get(f"/lessons/{hostel.lesson.pk}/").content.decode()


def test_the_uk_choice_of_equivalents_is_kept_with_the_lesson_and_shown_in_the_record(db: None) -> None:
    hostel = Hostel(profile="uk")
    client = hostel.client()

    client.post(f"/lessons/{hostel.lesson.pk}/plan/profile/", {"profile": "uk", "cook_equivalents": "on"})

    hostel.lesson.refresh_from_db()
    assert hostel.lesson.house == {"cook_equivalents": True}
    html = client.get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    assert "accepts the table of equivalent holds" in html


def test_an_unknown_profile_is_refused_with_its_field(hostel: Hostel) -> None:
    client = hostel.client()

    page = client.post(f"/lessons/{hostel.lesson.pk}/plan/profile/", {"profile": "mars"}, follow=True)

    assert "profile:" in page.content.decode()
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.profile == "us-home"


@pytest.mark.parametrize("path", ["/nothing/", "/lessons/999999/", "/benches/999999/"])
def test_a_page_that_is_not_there_says_what_to_do(hostel: Hostel, path: str) -> None:
    response = hostel.client().get(path)

    assert response.status_code == 404
    assert "join with the bench" in response.content.decode()
