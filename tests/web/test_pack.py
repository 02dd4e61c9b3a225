"""A lesson's pack: what to buy, what to print, dates for a calendar."""

from __future__ import annotations

import csv
import datetime as dt
import io
import re
from unittest.mock import patch

import pytest
from django.utils import timezone
from icalendar import Calendar
from openpyxl import load_workbook

from bulwark.board import selectors as boards
from bulwark.kitchens import services as kitchens
from bulwark.lessons.models import Learner, Lesson
from bulwark.pack.selectors import Pack, waits_as
from bulwark.pack.wording import PARTS
from bulwark.recipes.models import Recipe
from bulwark.recipes.services import add_confirmed_recipe
from foodsafety.recipes import process_from, read_recipe
from tests.builders import demo_recipe
from tests.web.conftest import Hostel, paper_of

pytestmark = pytest.mark.django_db


@pytest.fixture
def hostel() -> Hostel:
    hostel = Hostel()
    kitchens.set_equipment(by=hostel.actor, counts={"basin": 2, "sink": 2, "hob_ring": 8, "griddle": 4, "probe": 4})
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(
        ingredients=["500 g frozen turkey mince", "1 cucumber", "300 g natural yoghurt", "a pinch of salt"]
    )
    hostel.lesson.refresh_from_db()
    return hostel


def page(hostel: Hostel, query: str = "") -> str:
    return " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/pack/{query}").content.decode().split())


def printed(hostel: Hostel, part: str, **asked: str) -> str:
    """A paper as it is sent to be set."""
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        sheet = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/{part}.pdf", **asked)
    return " ".join(sheet.decode().split())


def test_the_list_is_for_all_benches_with_the_raw_last_and_what_has_no_price_said(hostel: Hostel) -> None:
    text = page(hostel)

    assert text.index("cucumber") < text.index("yoghurt") < text.index("turkey mince")
    assert re.search(r"2 × 500 g</td>.*1 kg", text)
    assert "see the recipe: a pinch of salt" in text
    assert "some of it has no price or no amount." in text
    assert "read the label:</small>" in text or "read the label: milk" in text


def test_what_is_there_is_not_bought_and_can_be_bought_after_all(hostel: Hostel) -> None:
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/have/"
    client.post(path, {"do": "have", "of": "yoghurt"})
    assert boards.decided_of(hostel.lesson).have == {"yoghurt"}
    assert "there already" in page(hostel)

    client.post(path, {"do": "not_have", "of": "yoghurt"})
    client.post(path, {"do": "have", "of": "moonstone"})
    assert boards.decided_of(hostel.lesson).have == frozenset()


def test_a_long_way_home_asks_for_ice_and_counts_towards_the_clock(hostel: Hostel) -> None:
    assert "count towards the 2 h" in page(hostel, "?way=10")
    assert "frozen packs" not in page(hostel, "?way=10")
    assert "frozen packs" in page(hostel, "?way=45")
    assert "count towards" not in page(hostel, "?way=x")


def test_the_list_as_sheets_has_no_formula_in_it(hostel: Hostel) -> None:
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=["=HYPERLINK(1) 2 eggs", "2 eggs"])
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/shopping"
    rows = list(csv.reader(io.StringIO(client.get(f"{path}.csv").content.decode())))
    book = load_workbook(io.BytesIO(client.get(f"{path}.xlsx").content)).active
    assert book is not None

    assert rows[0][:3] == ["Section", "What", "Buy"]
    cells = [str(cell or "") for row in book.iter_rows(values_only=True) for cell in row]
    assert not [cell for cell in [*cells, *(cell for row in rows for cell in row)] if cell.startswith("=")]
    assert len(rows) == book.max_row


@pytest.mark.parametrize("part", PARTS)
def test_each_paper_alone_and_all_in_one(hostel: Hostel, part: str) -> None:
    alone, whole = printed(hostel, part), printed(hostel, "all")

    assert f'class="pk-part pk-{part}"' in alone
    assert alone.count('class="pk-part') == 1
    assert whole.count('class="pk-part') == len(PARTS) - 1, "there is a tap: no boxes are packed"
    assert "size: letter" not in alone
    assert "size: letter" in printed(hostel, part, paper="letter")


def test_the_pack_is_a_real_pdf(hostel: Hostel) -> None:
    assert paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/pack/all.pdf").startswith(b"%PDF")


def test_a_card_has_its_own_benchs_steps_limits_and_roles(hostel: Hostel) -> None:
    Learner.objects.filter(initials="SD").update(role="steward")
    Lesson.objects.filter(pk=hostel.lesson.pk).update(unconfirmed=True)
    text = printed(hostel, "cards")
    gannet, puffin = text.split('<article class="card">')[1:]

    assert "<b>SD</b> steward" in gannet
    assert "steward" not in puffin
    for card, own, other in ((gannet, "SD", "AK"), (puffin, "AK", "SD")):
        assert f"<td>{own}" in card
        assert f"<td>{other}" not in card
        assert "73.9 °C (165 °F)" in card or "165 °F" in card
        assert "Koftas on the griddle" in card
        assert "steps unconfirmed" in card
    assert "Nobody has said who eats." in gannet


def test_a_card_says_who_may_not_have_what(hostel: Hostel) -> None:
    eaters = {"groups": {"pregnant": 1}, "allergens": ["milk"], "count": 8}
    Lesson.objects.filter(pk=hostel.lesson.pk).update(eaters=eaters)
    text = printed(hostel, "cards")

    assert text.count("yoghurt") >= 2
    assert "milk" in text.partition("Not for")[2].partition("</div>")[0]
    assert "Nobody has said who eats." not in text


def test_nothing_is_said_over_a_check_and_each_point_once(hostel: Hostel) -> None:
    pack = Pack(hostel.lesson)
    talks = pack.talks()
    board = pack.board

    assert talks
    assert len({words for _, words in talks}) == len(talks)
    for at, _ in talks:
        s = (at - hostel.lesson.starts_at).total_seconds()
        there = [
            p
            for p in board.whole.parts.values()
            if 0 <= s - board.plan.starts[p.id] < board.whole.problem.tasks[p.id].s
        ]
        assert not any(board.process.steps[board.process.step_index[p.step]].do == "probe" for p in there if p.step)


def test_own_words_take_the_place_of_ours_and_an_empty_page_brings_ours_back(hostel: Hostel) -> None:
    client = hostel.client()
    client.post("/talking/", {"lines": "chill: Our fridge is called Gull."})
    assert "Our fridge is called Gull." in printed(hostel, "run-sheet")
    client.post("/talking/", {"lines": ""})
    assert "Our fridge is called Gull." not in printed(hostel, "run-sheet")
    assert client.post("/talking/", {"lines": "x" * 9000}).status_code == 422


def test_the_calendar_has_the_lesson_the_shopping_and_the_freezer(hostel: Hostel) -> None:
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/board/change/", {"do": "ahead", "of": "grate"})
    book = Calendar.from_ical(hostel.client().get(f"/lessons/{hostel.lesson.pk}/pack/calendar.ics").content)
    events = {str(row["summary"]): row for row in book.walk("VEVENT")}
    says = list(events)

    assert events["Lesson: Turkey koftas with cucumber raita"]["dtstart"].dt == hostel.lesson.starts_at.replace(
        microsecond=0
    )
    assert "Shopping for Turkey koftas with cucumber raita" in says
    assert any(text.startswith("Prepare: ") for text in says)
    [thaw] = [row for text, row in events.items() if text.startswith("Out of the freezer")]
    assert hostel.lesson.starts_at - thaw["dtstart"].dt >= dt.timedelta(hours=24)
    assert "worked out for one round lump" in thaw["description"]
    assert len({str(row["uid"]) for row in events.values()}) == len(events)


def test_an_old_plan_says_that_its_recipe_has_moved_on(hostel: Hostel) -> None:
    assert "has moved on" not in page(hostel)
    recipe = Recipe.objects.get(pk=hostel.lesson.recipe_id)
    recipe.process["steps"][0]["title"] = "Grate it all"
    recipe.process["steps"][0]["minutes"] = 44
    recipe.save()

    assert "has moved on" in page(hostel)


def test_a_recipe_without_lines_says_what_to_do(hostel: Hostel) -> None:
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=[])

    assert "The recipe has no ingredient lines" in page(hostel)


def test_another_organisation_finds_no_pack(hostel: Hostel) -> None:
    other = Hostel("Gull Rock Hostel").client()
    path = f"/lessons/{hostel.lesson.pk}/pack"

    for part in ("/", "/shopping.csv", "/shopping.xlsx", "/calendar.ics"):
        assert other.get(f"{path}{part}").status_code == 404
    for part in ("/have/", "/field/", "/all.pdf"):
        assert other.post(f"{path}{part}").status_code == 404
    assert hostel.client().post(f"{path}/moon.pdf").status_code == 404
    assert timezone.now() > hostel.lesson.starts_at


def test_each_oven_is_switched_on_before_its_first_bake(hostel: Hostel) -> None:
    kitchens.set_room(
        kitchen=kitchens.main_kitchen(hostel.actor), name="Hostel", said={"benches": 2, "oven_shelves": [1, 1]}
    )
    pie = add_confirmed_recipe(organisation=hostel.organisation, data=demo_recipe("fish-pie"))
    Lesson.objects.filter(pk=hostel.lesson.pk).update(recipe=pie, process=pie.process, length_min=150)
    hostel.lesson.refresh_from_db()
    pack = Pack(hostel.lesson)
    preheats = {row.what: row.at for row in pack.within() if row.kind == "preheat"}

    assert set(preheats) == {"oven 1, 200 °C", "oven 2, 200 °C"}
    starts = sorted(pack.board.plan.starts[f"{n}.bake"] for n in (1, 2))
    expected = [hostel.lesson.starts_at + dt.timedelta(seconds=at, minutes=-15) for at in starts]
    assert sorted(preheats.values()) == expected
    assert "oven 2, 200 °C" in printed(hostel, "run-sheet")


def test_a_card_warns_as_the_run_sheet_does_and_is_not_empty_in_silence(hostel: Hostel) -> None:
    kitchens.set_equipment(by=hostel.actor, counts={"basin": 0})
    assert printed(hostel, "cards").count("<b>No plan was found.</b>") == 2
    kitchens.set_equipment(by=hostel.actor, counts={"basin": 2})
    Lesson.objects.filter(pk=hostel.lesson.pk).update(length_min=20)
    text = printed(hostel, "cards")
    assert text.count("It does not fit") == 2
    assert "Nobody has said who has been shown what" in text


def test_frozen_food_that_nobody_knows_is_taken_out_two_days_before_and_peas_are_not(hostel: Hostel) -> None:
    lines = ["400 g frozen wobblefruit", "200 g frozen peas", "300 g frozen cooked prawns"]
    Recipe.objects.filter(pk=hostel.lesson.recipe_id).update(ingredients=lines)
    hostel.lesson.refresh_from_db()
    thaws = {row.what: row.at for row in Pack(hostel.lesson).before() if row.kind == "thaw"}

    assert set(thaws) == {"400 g frozen wobblefruit", "300 g frozen cooked prawns"}
    assert hostel.lesson.starts_at - thaws["400 g frozen wobblefruit"] == dt.timedelta(hours=48)


def marinated(hostel: Hostel, *, hours: float) -> Lesson:
    """A lesson of raw chicken, frozen, that lies in a marinade for so long."""
    text = (
        "Skewers\n\nServes 4\n\n800 g frozen chicken thighs\n200 g natural yoghurt\n1 tsp paprika\n\nMethod\n"
        "Cut the chicken into chunks with a knife on the red board. Wash hands. "
        f"Marinate the chicken in the yoghurt and paprika in a bowl in the fridge for {hours:g} hours. "
        "Grill the skewers for 15 minutes until 75 C inside. Serve."
    )
    read = read_recipe(text, "en-GB")
    data = {
        "title": "Skewers",
        "summary": "",
        "serves": 4,
        "ingredients": list(read.document.ingredients),
        "process": read.data,
        "pieces": {},
    }
    recipe = add_confirmed_recipe(organisation=hostel.organisation, data=data)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(recipe=recipe, process=read.data)
    hostel.lesson.refresh_from_db()
    return hostel.lesson


def test_a_marinade_of_the_night_before_goes_in_and_out_and_its_meat_has_thawed_by_then(hostel: Hostel) -> None:
    lesson = marinated(hostel, hours=12)
    [step] = [row["id"] for row in lesson.process["steps"] if row["do"] == "marinate"]
    hostel.client().post(f"/lessons/{lesson.pk}/board/change/", {"do": "ready", "of": str(step)})
    dates = {row.kind: row.at for row in Pack(hostel.lesson).before()}

    assert lesson.starts_at - dates["marinade_in"] >= dt.timedelta(hours=12)
    assert dates["marinade_in"] < dates["marinade_out"] < lesson.starts_at
    assert dates["thaw"] < dates["marinade_in"] - dt.timedelta(hours=10)
    assert "ready" not in dates


def test_a_marinade_in_the_lesson_says_when_it_goes_in_and_comes_out(hostel: Hostel) -> None:
    marinated(hostel, hours=0.5)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(length_min=200)
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)
    dates = {row.kind: row.at for row in Pack(lesson).within()}

    assert dates["marinade_out"] - dates["marinade_in"] == dt.timedelta(minutes=30)


@pytest.mark.parametrize(
    ("row", "kind"),
    [
        ({"do": "marinate", "tools": []}, "marinade"),
        ({"do": "heat", "tools": ["pot"]}, ""),
        ({"do": "heat", "tools": ["big one"]}, "slow_cooker"),
        ({"do": "rest", "tools": [], "detail": "Soak the beans overnight"}, "soak"),
        ({"do": "rest", "tools": [], "detail": "Leave to cool"}, ""),
    ],
)
def test_what_goes_on_by_itself_has_a_name(row: dict, kind: str) -> None:
    process = process_from(
        {
            "foods": {"beans": {"kind": "dried_beans"}},
            "tools": {"big one": {"kind": "slow_cooker"}, "pot": {"kind": "pot"}},
            "people": ["cook"],
            "steps": [{"id": "s1", "do": "heat", "foods": ["beans"], "tools": ["pot"]}],
            "serve": ["beans"],
        }
    )

    assert waits_as(row, process) == kind
