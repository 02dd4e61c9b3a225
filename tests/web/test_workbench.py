"""The workbench: every tool answers, says what is wrong, keeps what was typed, and can be shared."""

import re
import time
from typing import Any
from unittest.mock import patch
from urllib.parse import urlencode

import pytest
from django.core import signing
from django.test import Client

from bulwark.kitchens import services as kitchens
from bulwark.workbench import selectors
from bulwark.workbench.models import Sheet
from bulwark.workbench.tools import TOOLS
from tests.web.conftest import Hostel

LIVE = {"HTTP_HX_REQUEST": "true", "HTTP_HX_TARGET": "wb-result"}
CHILL = {"food": "vegetable soup", "litres": "8", "texture": "thick", "box": "pot_10l", "where": "fridge",
         "around": "4", "readings": "0 60\n20 57\n40 54.5\n50 53", "code": "us-foodservice"}  # fmt: skip
COOK = {"food": "turkey mince", "method": "hot", "pieces": "3", "error": "0.5",
        "readings": "1 5:00 75\n2 5:10 76\n3 5:20 74.5", "off": "", "seen": "", "code": "us-home"}  # fmt: skip


def ask(hostel: Hostel, slug: str, query: dict[str, str] | None = None, **more: str) -> str:
    response = hostel.client().get(f"/workbench/{slug}/", {**(query or {}), **more}, **LIVE)
    assert response.status_code == 200
    return response.content.decode()


def title_of(page: str) -> str:
    found = re.search(r"<h2>(.*?)</h2>", page)
    assert found
    return found[1]


def state_of(page: str) -> str:
    found = re.search(r"wb-verdict is-(\w+)", page)
    assert found
    return found[1]


@pytest.mark.parametrize("slug", list(TOOLS))
def test_every_tool_opens_with_an_answer_to_look_at(hostel: Hostel, slug: str) -> None:
    response = hostel.client().get(f"/workbench/{slug}/")

    assert response.status_code == 200
    assert response.context["answer"] is not None
    assert response.context["form"].is_valid()


@pytest.mark.parametrize("slug", list(TOOLS))
def test_the_same_question_in_other_units_has_the_same_answer(hostel: Hostel, slug: str) -> None:
    client = hostel.client()
    first = client.get(f"/workbench/{slug}/")
    other = client.get(f"/workbench/{slug}/?{first.context['other_units']}")

    assert other.context["answer"].state == first.context["answer"].state
    assert other.context["units"].system == "us"


@pytest.mark.parametrize(
    ("change", "state"),
    [
        ({}, "breach"),
        ({"readings": "0 60\n60 30\n110 21\n300 5"}, "good"),
        ({"readings": "0 60\n130 30"}, "breach"),
        ({"litres": "1", "box": "sheet", "readings": "0 60\n5 50\n10 42\n15 36"}, "ahead"),
    ],
    ids=["deep pot", "measured and passed", "measured and failed", "thin on a sheet"],
)
def test_the_chill_planner_judges_what_was_measured_and_what_is_to_come(
    hostel: Hostel, change: dict[str, str], state: str
) -> None:
    assert state_of(ask(hostel, "chill", CHILL, **change)) == state


@pytest.mark.parametrize("slug", ["freeze", "slow", "box"])
def test_what_is_only_reckoned_is_never_shown_as_evidence(hostel: Hostel, slug: str) -> None:
    assert hostel.client().get(f"/workbench/{slug}/").context["answer"].state == "ahead"


def test_a_failed_cooling_says_throw_it_away_whatever_comes_next(hostel: Hostel) -> None:
    page = ask(hostel, "chill", CHILL, readings="0 60\n130 30\n200 4")

    assert "throw it away" in title_of(page)


@pytest.mark.parametrize(
    ("change", "state"),
    [
        ({}, "good"),
        ({"readings": "1 5:00 75\n2 5:10 76\n3 5:20 73.8"}, "breach"),
        ({"readings": "1 5:00 75\n2 5:10 76"}, "due"),
        ({"seen": "browned, juices clear", "readings": "1 5:00 60\n2 5:10 60\n3 5:20 60"}, "breach"),
        ({"readings": "1 5:00 75\n2 5:10 76\n3 5:20 74.5\n3 5:22 99"}, "good"),
    ],
    ids=["cooked", "one too low", "too few", "brown proves nothing", "a jump is not trusted"],
)
def test_the_cook_check_judges_the_lowest_piece(hostel: Hostel, change: dict[str, str], state: str) -> None:
    assert state_of(ask(hostel, "cook", COOK, **change)) == state


@pytest.mark.parametrize(
    ("slug", "query", "readings"),
    [
        ("cook", COOK, "1 5:00 75\n2 5:10 76\n3 5:20 74.5\n3 5:25 50"),
        ("chill", CHILL, "0 60\n60 30\n110 21\n125 60\n130 20\n300 5"),
    ],
)
def test_a_reading_nobody_trusts_never_makes_food_safe_by_being_left_out(
    hostel: Hostel, slug: str, query: dict[str, str], readings: str
) -> None:
    page = ask(hostel, slug, query, readings=readings)

    assert state_of(page) == "open"
    assert "Cannot be judged" in title_of(page)


def test_a_warm_reading_nobody_trusts_still_counts_against_a_fridge_and_a_clock(hostel: Hostel) -> None:
    fridge = "minutes,C\n0,4\n60,30\n120,4"
    clock = "0 4\n150 45\n300 4"

    assert state_of(ask(hostel, "log", {"log": fridge, "kind": "fridge", "code": "us-home"})) != "good"
    assert state_of(ask(hostel, "clocks", {"readings": clock, "school": "rules", "code": "us-home"})) == "breach"


def test_a_jump_is_kept_and_told(hostel: Hostel) -> None:
    page = ask(hostel, "chill", CHILL, readings="0 60\n20 57\n21 97\n40 54.5\n50 53")

    assert "97 is a jump" in page
    assert "wb-doubt" in page


@pytest.mark.parametrize(
    ("slug", "query", "change", "field"),
    [
        ("chill", CHILL, {"litres": "0"}, "litres"),
        ("chill", CHILL, {"litres": "-3"}, "litres"),
        ("chill", CHILL, {"litres": "many"}, "litres"),
        ("chill", CHILL, {"around": "40"}, "around"),
        ("chill", CHILL, {"food": "xyzzy"}, "food"),
        ("chill", CHILL, {"readings": "0 60\nwarm"}, "readings"),
        ("chill", CHILL, {"readings": ""}, "readings"),
        ("chill", CHILL, {"box": "tub_1l"}, "container"),
        ("cook", COOK, {"food": "cucumber"}, "food"),
        ("cook", COOK, {"pieces": "1.5"}, "pieces"),
        ("slow", {"size": "5", "volume": "3", "start": "-4", "setting": "low", "simmer": "120", "liquid": "500",
                  "lifts": "0", "room": "19", "serve": ""}, {}, "start"),
        ("freeze", {"way": "thaw", "food": "turkey mince", "shape": "slab", "thick": "4", "where": "fridge",
                    "around": "0", "start": "-18", "wrap": "", "by": "", "code": "us-home"}, {}, "around"),
        ("freeze", {"way": "freeze", "food": "turkey mince", "shape": "slab", "thick": "0", "where": "freezer",
                    "around": "-22", "start": "5", "wrap": "", "by": "", "code": "us-home"}, {}, "thick"),
        ("box", {"ambient": "3", "hours": "5", "food_kg": "5", "food_c": "4", "openings": "1", "out": "0",
                 "people": "3", "washes": "3", "produce": "0"}, {}, "ambient"),
        ("log", {"log": "a,b\n1,2", "kind": "cooling"}, {}, "log"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_said_with_its_field_and_nothing_is_called_safe(
    hostel: Hostel, slug: str, query: dict[str, str], change: dict[str, str], field: str
) -> None:
    page = ask(hostel, slug, query, **change)

    assert state_of(page) == "open"
    assert f"#id_{field}" in page or field == "container" or "wb-verdict" in page
    assert "is-good" not in page


def test_a_unit_slip_is_asked_about_and_what_was_typed_is_kept(hostel: Hostel) -> None:
    response = hostel.client().get("/workbench/chill/", {**CHILL, "around": "39", "temps": "C"})

    assert response.context["answer"] is None
    assert "°F" in str(response.context["form"].errors["around"])
    assert response.context["form"]["around"].value() == "39"


def test_fahrenheit_is_read_as_fahrenheit(hostel: Hostel) -> None:
    readings = "0 140\n60 86\n110 69.8\n300 41"

    assert state_of(ask(hostel, "chill", CHILL, temps="F", around="39", readings=readings)) == "good"


def test_an_attacker_s_words_stay_words(hostel: Hostel) -> None:
    page = ask(hostel, "cook", COOK, seen="<script>alert(1)</script>")

    assert "<script>alert" not in page


def test_a_shared_link_is_answered_for_anybody_and_a_changed_one_for_nobody(hostel: Hostel) -> None:
    page = hostel.client().get("/workbench/chill/", CHILL)
    token = dict(page.context["shares"])[90]

    shared = Client().get(f"/workbench/shared/{token}/")
    assert shared.status_code == 200
    assert title_of(shared.content.decode()) == title_of(page.content.decode())
    assert Client().get(f"/workbench/shared/{token[:-2]}xx/").status_code == 404
    assert Client().get("/workbench/chill/").status_code == 302


@pytest.mark.parametrize(
    ("good_for", "days", "status"),
    [(7, 6, 200), (7, 8, 404), (90, 89, 200), (90, 91, 404), (365, 300, 200), (365, 366, 404)],
)
def test_a_shared_link_works_as_long_as_was_chosen(hostel: Hostel, good_for: int, days: int, status: int) -> None:
    with patch("django.core.signing.time.time", return_value=time.time() - days * 86400):
        token = dict(hostel.client().get("/workbench/chill/", CHILL).context["shares"])[good_for]

    assert Client().get(f"/workbench/shared/{token}/").status_code == status


def test_a_link_from_before_there_was_a_choice_works_for_ninety_days(hostel: Hostel) -> None:
    with patch("django.core.signing.time.time", return_value=time.time() - 91 * 86400):
        old = signing.dumps({"tool": "chill", "query": CHILL}, salt="workbench.share", compress=True)
    new = signing.dumps({"tool": "chill", "query": CHILL}, salt="workbench.share", compress=True)

    assert [Client().get(f"/workbench/shared/{token}/").status_code for token in (old, new)] == [404, 200]


def test_a_shared_link_tells_nothing_of_the_kitchen_that_made_it(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"tray_half": 3})
    page = hostel.client().get("/workbench/chill/", CHILL)
    shared = Client().get(f"/workbench/shared/{dict(page.context['shares'])[90]}/")

    assert "kitchen has" in page.content.decode()
    assert "kitchen has" not in shared.content.decode()


def attach(hostel: Hostel, lesson_id: Any) -> Any:
    return hostel.client().post("/workbench/chill/attach/", {"lesson": lesson_id, "query": urlencode(CHILL)})


def test_a_sheet_is_kept_with_a_lesson_once_and_taken_off(hostel: Hostel) -> None:
    attach(hostel, hostel.lesson.pk)
    attach(hostel, hostel.lesson.pk)
    sheet = Sheet.objects.get()
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/sheets/").content.decode()

    assert "Left as it is, it will not chill in time" in page
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/sheets/{sheet.pk}/off/")
    assert not Sheet.objects.exists()


def test_nobody_attaches_to_or_reads_another_organisation_s_lesson(hostel: Hostel) -> None:
    attach(hostel, hostel.lesson.pk)
    sheet = Sheet.objects.get()
    other = Hostel("Farside Bothy")

    assert attach(other, hostel.lesson.pk).status_code == 404
    assert attach(other, "x").status_code == 404
    assert other.client().get(f"/lessons/{hostel.lesson.pk}/sheets/").status_code == 404
    assert other.client().post(f"/lessons/{hostel.lesson.pk}/sheets/{sheet.pk}/off/").status_code == 404
    assert not selectors.sheets_of(other.actor, hostel.lesson.pk).exists()


def test_an_answer_that_cannot_be_given_is_not_attached(hostel: Hostel) -> None:
    query = urlencode({**CHILL, "litres": "0"})
    hostel.client().post("/workbench/chill/attach/", {"lesson": hostel.lesson.pk, "query": query})

    assert not Sheet.objects.exists()


def test_an_unknown_tool_is_not_found(hostel: Hostel) -> None:
    assert hostel.client().get("/workbench/oracle/").status_code == 404


@pytest.mark.parametrize(
    ("log", "kind", "state"),
    [
        ("minutes,C\n0,60\n60,30\n110,21\n300,5", "cooling", "good"),
        ("minutes,C\n0,60\n150,40\n300,5", "cooling", "breach"),
        ("minutes,C\n0,60\n60,30", "cooling", "due"),
        ("minutes,C\n0,60\n60,30\n110,21\n125,60\n130,20\n300,5", "cooling", "open"),
        ("minutes,temp\n0,140\n60,120\n300,105", "cooling", "open"),
        ("minutes,C\n0,4\n60,4.5\n120,4", "fridge", "good"),
        ("minutes,C\n0,4\n60,9\n500,9", "fridge", "breach"),
        ("minutes,C\n0,-18\n60,-19", "freezer", "good"),
    ],
    ids=["passed", "failed", "unfinished", "hangs on a jump", "unit unknown", "cold", "warm for hours", "frozen"],
)
def test_a_log_is_looked_over_and_judged(hostel: Hostel, log: str, kind: str, state: str) -> None:
    assert state_of(ask(hostel, "log", {"log": log, "kind": kind, "code": "us-foodservice"})) == state
