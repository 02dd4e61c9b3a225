"""The record as a sheet: everything that happened, nothing a spreadsheet would run, nothing made to look safe."""

import csv
import datetime as dt
import io
import re
import zlib
from decimal import Decimal

import pytest
from django.utils import timezone

from bulwark.kitchens import services as kitchens
from bulwark.lessons.models import Lesson
from bulwark.presentation.paper import pdf_of
from bulwark.records.selectors import COLUMNS
from tests.web.conftest import Hostel


def sheet(hostel: Hostel) -> tuple[list[list[str]], list[dict[str, str]]]:
    """The rows above the columns, and each row beneath by column."""
    text = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record.csv").content.decode()
    rows = [*csv.reader(io.StringIO(text))]
    at = rows.index([*COLUMNS])
    return rows[:at], [dict(zip(COLUMNS, row, strict=True)) for row in rows[at + 1 :]]


@pytest.fixture
def hostel(db: None) -> Hostel:
    return Hostel().open()


def test_it_names_the_lesson_the_profile_and_the_caution_first(hostel: Hostel) -> None:
    head, _rows = sheet(hostel)
    assert head[0][:2] == ["lesson", hostel.lesson.title]
    assert head[1][:2] == ["rule profile", "us-home"]
    assert head[2][0] == "caution"
    assert head[2][1]


def test_every_entry_stands_in_the_order_of_its_log_with_its_hash(hostel: Hostel) -> None:
    hostel.says("fridge_read", core_c=4.0)
    hostel.says("hands_washed", learner="AK", scrub_s=21)
    _head, rows = sheet(hostel)
    assert [(row["bench"], row["place_in_log"], row["kind"]) for row in rows] == [
        ("Puffin", "1", "fridge_read"),
        ("Puffin", "2", "hands_washed"),
    ]
    events = hostel.puffin.events.order_by("seq")
    assert [row["hash"] for row in rows] == [event.hash for event in events]
    assert all(row["happened_at"] and row["recorded_at"] and row["by"] for row in rows)


def test_a_reading_is_a_number_below_nought_too_and_empty_where_nothing_was_measured(hostel: Hostel) -> None:
    hostel.says("fridge_read", core_c=-1.5)
    hostel.says("hands_washed", learner="AK", scrub_s=21)
    _head, rows = sheet(hostel)
    assert [row["core_c"] for row in rows] == ["-1.5", ""]


@pytest.mark.parametrize("sign", ["=", "+", "-", "@", "\t"])
def test_no_text_is_a_formula(hostel: Hostel, sign: str) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(title=f"{sign}HYPERLINK(1)")
    hostel.lesson.refresh_from_db()
    head, _rows = sheet(hostel)
    assert head[0][1] == f"'{sign}HYPERLINK(1)"


def test_a_voided_entry_stays_with_the_reason(hostel: Hostel) -> None:
    wrong = hostel.says("fridge_read", core_c=40)
    hostel.says("voided", event=str(wrong), reason="typed in the wrong field")
    _head, rows = sheet(hostel)
    assert [(row["kind"], row["voided"]) for row in rows] == [
        ("fridge_read", "typed in the wrong field"),
        ("voided", ""),
    ]


def test_a_breach_nobody_has_answered_is_open(hostel: Hostel) -> None:
    """Raw turkey on the hands, then the cucumber."""
    for step in ("mix", "grate"):
        hostel.says("step_done", step=step, by=["AK"])
    _head, rows = sheet(hostel)
    breaches = [row for row in rows if row["kind"] == "breach"]
    assert breaches
    assert {row["voided"] for row in breaches} == {"OPEN"}
    assert all(row["bench"] == "Puffin" and row["what"] and not row["hash"] for row in breaches)


def test_what_is_kept_without_proof_of_cooking_is_to_be_thrown_away(hostel: Hostel) -> None:
    hostel.says("stored", food="koftas", place="fridge")
    _head, rows = sheet(hostel)
    [kept] = [row for row in rows if row["kind"] == "kept"]
    assert (kept["what"], kept["voided"]) == ("koftas", "use by throw away")


def test_each_bench_has_its_own_rows(hostel: Hostel) -> None:
    hostel.says("fridge_read", bench=hostel.gannet, core_c=3.0)
    hostel.says("fridge_read", bench=hostel.puffin, core_c=4.0)
    _head, rows = sheet(hostel)
    assert {(row["bench"], row["core_c"]) for row in rows} == {("Gannet", "3.0"), ("Puffin", "4.0")}


def page(hostel: Hostel, what: str = "record") -> str:
    return hostel.client().get(f"/lessons/{hostel.lesson.pk}/{what}/").content.decode()


def test_the_record_begins_with_one_page_an_inspector_can_read(hostel: Hostel) -> None:
    hostel.says("fridge_read", core_c=4.0)
    hostel.says("gone", food="raita", how="discarded")
    html = page(hostel)
    summary = html.split('class="summary')[1].split("</table>")[0]
    assert html.index('class="summary') < html.index("Everything that happened")
    assert "4 °C" in summary
    assert "raita" in summary


def test_after_the_end_nothing_is_due_and_an_absent_bench_took_no_part(hostel: Hostel) -> None:
    hostel.says("fridge_read", core_c=4.0)
    assert "is-due" in page(hostel)
    hostel.close()
    html = page(hostel)
    assert "is-due" not in html
    assert "not done" in html
    assert "missed" in html
    absent = hostel.lesson.benches.exclude(pk=hostel.puffin.pk).first()
    assert f"{absent.name}</th>" in html
    assert "took no part" in html
    assert "Took no part" in page(hostel, "wall")


def test_it_is_dated_by_when_the_lesson_began(hostel: Hostel) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(starts_at=hostel.lesson.opened_at + dt.timedelta(days=30))
    hostel.lesson.refresh_from_db()
    assert f"{timezone.localtime(hostel.lesson.opened_at):%-d %B %Y}" in page(hostel)


def test_paper_is_set_in_our_own_letters() -> None:
    pdf = pdf_of("<h1>Record</h1><p>Text</p>", sheet="bulwark/print.css")
    inside = b"".join(inflated(part) for part in re.findall(rb"stream\r?\n(.*?)endstream", pdf, re.DOTALL))
    fonts = set(re.findall(rb"/BaseFont ?/\w+\+([\w-]+)", inside))
    assert fonts
    assert all(font.startswith((b"Reading", b"Heading")) for font in fonts)


def inflated(part: bytes) -> bytes:
    try:
        return zlib.decompress(part)
    except zlib.error:
        return b""


def test_what_was_thrown_away_is_in_the_record_with_how_much_why_and_what_it_cost(hostel: Hostel) -> None:
    kitchens.set_price(by=hostel.actor, kind="turkey_mince", amount=Decimal("8.00"), per="kg")
    client, bench = hostel.client(), hostel.gannet
    client.post(f"/benches/{bench.pk}/entry/", {"kind": "gone", "food": "turkey", "how": "discarded"})
    page = client.get(f"/benches/{bench.pk}/").content.decode()
    assert "thrown away (left over, or not said why): how much" in " ".join(page.split())
    asked = {"kind": "waste_said", "food": "turkey", "value": "250", "unit": "g"}
    client.post(f"/benches/{bench.pk}/entry/", asked)

    record = " ".join(client.get(f"/lessons/{hostel.lesson.pk}/record/").content.decode().split())
    assert "<b>Turkey</b>: 250 g, left over, or not said why" in record
    assert "2.00 GBP" in record
    rows = client.get(f"/lessons/{hostel.lesson.pk}/record.csv").content.decode()
    assert "thrown away" in rows
    assert "250 g" in rows
