"""The shelf: what is kept, until when, what is done with it, and where a food went."""

import csv
import dataclasses
import datetime as dt
import io
import json
import uuid
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from bulwark.lessons import selectors, services
from bulwark.lessons.log import prove
from bulwark.lessons.models import Event, Lesson
from bulwark.presentation.qr import qr_svg
from bulwark.shelf import index, labels, stock
from foodsafety.quantities import CoreError
from tests.builders import READY
from tests.web.conftest import Hostel


def keep_koftas(hostel: Hostel, hours: float) -> Hostel:
    """Puffin's koftas, proven, and its salad went into the fridge; the lesson began so long ago and is over."""
    hostel.open()
    began = timezone.now() - dt.timedelta(hours=hours)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=began, starts_at=began)
    hostel.lesson.refresh_from_db()
    rows: list[tuple[str, dict[str, Any]]] = [("ready", {"learner": name, "checks": READY}) for name in ("AK", "JT")]
    rows += [("hands_washed", {"learner": name, "scrub_s": 21}) for name in ("AK", "JT")]
    rows += [("step_done", {"step": step, "by": ["AK"]}) for step in ("grate", "stir", "chill", "mix", "shape")]
    rows += [("hands_washed", {"learner": name, "scrub_s": 21}) for name in ("AK", "JT")]
    rows += [("cleaned", {"tools": ["mixing bowl", "board", "tray", "spoon"], "how": "clean"})]
    rows += [("step_done", {"step": step, "by": ["AK"]}) for step in ("wash", "wash-up", "slice")]
    rows += [("on_heat", {"step": "griddle"}), ("step_done", {"step": "griddle", "by": ["AK"], "goes_on": True})]
    rows += [("swapped", {"tools": ["tongs"]}), ("step_done", {"step": "fresh-tongs", "by": ["AK"]})]
    rows += [("core_read", {"food": "koftas", "piece": str(n), "core_c": 80}) for n in (1, 2, 3)]
    rows += [("step_done", {"step": step, "by": ["AK"]}) for step in ("probe", "plate", "serve")]
    rows += [("stored", {"food": food, "place": "fridge"}) for food in ("koftas", "salad")]
    for n, (kind, data) in enumerate(rows):
        services.record_event(
            bench=hostel.puffin,
            by=hostel.actor,
            kind=kind,
            data=data,
            event_id=uuid.uuid4(),
            at=began + dt.timedelta(minutes=n),
        )
    hostel.close()
    return hostel


@pytest.fixture
def kept(hostel: Hostel) -> Hostel:
    """The same since yesterday."""
    return keep_koftas(hostel, 22)


def item(hostel: Hostel, food: str = "koftas", part: str = "1") -> stock.Item | None:
    return next((row for row in index.items_of(hostel.actor) if (row.food, row.part) == (food, part)), None)


def act(hostel: Hostel, food: str = "koftas", part: str = "1", **sent: str) -> Client:
    client = hostel.client()
    client.post("/shelf/act/", {"key": f"{hostel.puffin.pk}-{part}-{food}", **sent})
    return client


def page(hostel: Hostel, **asked: str) -> str:
    return " ".join(hostel.client().get("/shelf/", asked).content.decode().split())


def test_what_was_put_away_stands_on_its_shelf_with_its_date(kept: Hostel) -> None:
    text = page(kept)
    assert "Koftas" in text
    assert "Use by" in text
    found = item(kept)
    assert found is not None
    assert (found.standing, found.row.place, found.raw) == ("good", "fridge", False)
    opened = page(kept, item=found.key)
    assert "Koftas into the fridge" in opened
    assert "so use by" in opened


def test_nothing_kept_says_what_comes_here(hostel: Hostel) -> None:
    assert "Nothing is kept" in page(hostel)


def test_portions_are_counted_split_moved_and_taken_until_none_is_left(kept: Hostel) -> None:
    act(kept, do="count", portions="8", store="Larder fridge")
    act(kept, do="split", portions="3", store="")
    act(kept, part="2", do="move", place="freezer", store="Chest freezer")
    one, two = item(kept), item(kept, part="2")
    assert one is not None
    assert two is not None
    assert (one.row.portions, one.store, two.row.portions, two.row.place) == (5, "Larder fridge", 3, "freezer")
    assert "Chest freezer" in page(kept)
    act(kept, do="take", how="eaten", portions="5")
    assert item(kept) is None
    act(kept, part="2", do="take", how="sent_home")
    assert item(kept, part="2") is None
    state, _ = selectors.bench_state(kept.puffin)
    assert state.food("koftas").gone is not None


def test_what_is_done_after_the_lesson_stands_in_the_same_log_and_its_chain_holds(kept: Hostel) -> None:
    act(kept, do="move", place="freezer", store="")
    last = Event.objects.filter(bench=kept.puffin).latest("seq")
    assert last.kind == "part_moved"
    assert timezone.now() - last.happened_at < dt.timedelta(minutes=1), "by the clock on the wall"
    assert prove().broken == []
    log = kept.client().get(f"/benches/{kept.puffin.pk}/").content.decode()
    assert "Koftas, part 1: now in the freezer" in log


def test_hours_that_nobody_knows_of_are_held_against_it(kept: Hostel) -> None:
    act(kept, do="warm", hours="0.5")
    found = item(kept)
    assert found is not None
    assert found.standing == "hole"
    assert "history has a hole" in page(kept)
    act(kept, do="warm", hours="4")
    found = item(kept)
    assert found is not None
    assert found.standing == "over"
    assert "Throw away: koftas." in page(kept)


def test_a_store_that_failed_says_what_may_stay_before_it_is_entered_for_all(kept: Hostel) -> None:
    client = kept.client()
    asked = {"place": "fridge", "store": "", "hours": "3", "known": "on"}
    before = Event.objects.count()
    seen = client.get("/shelf/failure/", asked).content.decode()
    assert "over: throw away" in seen
    assert Event.objects.count() == before, "it was only looked at"
    client.post("/shelf/failure/", asked)
    assert Event.objects.filter(kind="part_warm").count() == 2
    assert {row.standing for row in index.items_of(kept.actor)} == {"over"}


def test_a_recall_finds_who_used_it_and_what_became_of_it(kept: Hostel) -> None:
    act(kept, do="take", how="sent_home")
    text = " ".join(kept.client().get("/shelf/recall/", {"q": "turkey"}).content.decode().split())
    assert "Where “turkey” went" in text
    assert "AK, JT" in text
    assert "Koftas: Taken home" in text or "Taken home" in text
    assert (
        "No bench used anything of that name" in kept.client().get("/shelf/recall/", {"q": "sturgeon"}).content.decode()
    )


def test_a_note_for_home_names_no_child(kept: Hostel) -> None:
    text = kept.client().get("/shelf/note/", {"item": f"{kept.puffin.pk}-1-koftas"}).content.decode()
    assert "Eat by" in text
    assert "73.9" in text or "165" in text
    assert "AK" not in text.partition("<article>")[2].partition("</article>")[0]
    act(kept, do="warm", hours="9")
    assert (
        "may not go home" in kept.client().get("/shelf/note/", {"item": f"{kept.puffin.pk}-1-koftas"}).content.decode()
    )


@pytest.mark.parametrize(
    "sent",
    [
        {"do": "split", "portions": "0"},
        {"do": "split", "portions": "-3"},
        {"do": "move", "place": "cellar"},
        {"do": "take", "how": "sold"},
        {"do": "heat", "value": "hot"},
        {"do": "heat", "value": ""},
        {"do": "warm", "hours": "-2"},
        {"do": "shorten", "until": "soon"},
        {"do": "dance"},
        {"do": "move", "place": "fridge", "key": "999999-1-koftas"},
        {"do": "move", "place": "fridge", "key": "x"},
    ],
)
def test_what_is_no_change_is_refused_in_words_and_changes_nothing(kept: Hostel, sent: dict[str, str]) -> None:
    before = Event.objects.count()
    key = f"{kept.puffin.pk}-1-koftas"
    answer = kept.client().post("/shelf/act/", {"key": key, **sent}, follow=True)
    assert "bw-note is-error" in answer.content.decode()
    assert Event.objects.count() == before


def test_another_organisation_sees_and_moves_nothing_here(kept: Hostel) -> None:
    other = Hostel("Tern Rock Hostel")
    assert index.items_of(other.actor) == []
    before = Event.objects.count()
    other.client().post("/shelf/act/", {"key": f"{kept.puffin.pk}-1-koftas", "do": "take", "how": "eaten"})
    assert Event.objects.count() == before
    assert other.client().get("/shelf/note/", {"item": f"{kept.puffin.pk}-1-koftas"}).status_code == 404


def test_labels_for_every_portion_come_on_one_sheet_and_printed_again_say_so(kept: Hostel) -> None:
    found = item(kept)
    assert found is not None
    client, sent = kept.client(), {"key": found.key, "sheet": "a4-24", "copies": "24"}
    assert "printed again" not in labels.label_sheet(found, "a4-24", qr_svg("x"), copies=1)
    assert client.post("/shelf/labels/", sent).content.startswith(b"%PDF")
    assert Event.objects.filter(kind="part_labelled").latest("seq").data["count"] == 24
    again = item(kept)
    assert again is not None
    text = labels.label_sheet(again, "a4-24", qr_svg("x"), copies=24)
    assert text.count("<h1>Koftas</h1>") == 24
    assert all(word in text for word in ("Use by", "If reheated: once, to", "at or below", "24/24", "Puffin"))
    assert text.count("printed again") == 24


@pytest.mark.parametrize("sheet", labels.SHEETS)
def test_every_sheet_lies_on_its_paper(kept: Hostel, sheet: str) -> None:
    found, row = item(kept), labels.SHEETS[sheet]
    assert found is not None
    assert all(side >= 0 for side in row.margins_mm)
    made = labels.label_sheet(found, sheet, qr_svg("x"), copies=row.count + 1, start=1)
    assert made.count('class="page"') == 2


def test_what_does_not_fit_on_a_label_is_refused_and_never_cut_off(kept: Hostel) -> None:
    found = item(kept)
    assert found is not None
    long = dataclasses.replace(found, contains=("tree nuts", "sesame", "milk", "egg", "wheat") * 6, raw_egg=True)
    with pytest.raises(CoreError, match="label too small"):
        labels.label_sheet(long, "letter-20", qr_svg("x"), copies=1)
    assert "is-large" in labels.label_sheet(found, "letter-6", qr_svg("x"), copies=1)


def test_what_is_over_gets_no_date_on_its_label(kept: Hostel) -> None:
    act(kept, do="warm", hours="9", known="on")
    found = item(kept)
    assert found is not None
    text = labels.label_sheet(found, "a4-8", qr_svg("x"), copies=1)
    assert "Throw it away" in text
    assert "Use by" not in text


def test_heated_again_it_is_heated_on_until_it_is_hot_enough_and_then_eaten(kept: Hostel) -> None:
    act(kept, do="heat", value="60", unit="C")
    assert "not hot enough: heat on" in page(kept)
    act(kept, do="heat", value="80", unit="C")
    found = item(kept)
    assert found is not None
    assert (found.standing, found.until) == ("eat", None)
    act(kept, do="move", place="fridge")
    assert "Throw away: koftas." in page(kept)


def test_what_is_kept_goes_out_in_three_forms_with_the_same_rows(kept: Hostel) -> None:
    client = kept.client()
    lines = [json.loads(line) for line in client.get("/shelf/shelf.jsonl").content.decode().splitlines()]
    assert {row["food"] for row in lines} == {"koftas", "salad"}
    assert all(row["use_by"] and row["why"] for row in lines)
    rows = list(csv.DictReader(io.StringIO(client.get("/shelf/shelf.csv").content.decode())))
    assert [row["code"] for row in rows] == [row["code"] for row in lines]
    assert client.get("/shelf/shelf.xlsx").content.startswith(b"PK")
    act(kept, do="warm", hours="9", known="on")
    lines = [json.loads(line) for line in client.get("/shelf/shelf.jsonl").content.decode().splitlines()]
    assert {row["food"]: row["use_by"] for row in lines}["koftas"] is None


def test_a_label_that_is_scanned_says_what_became_of_its_food_and_another_s_label_nothing(kept: Hostel) -> None:
    found = item(kept)
    assert found is not None
    act(kept, do="take", how="eaten")
    assert "Koftas: eaten on" in page(kept, item=found.key)
    for key in ("999999-1-koftas", "nonsense", f"{kept.puffin.pk}-7-koftas", f"{kept.puffin.pk}-1-caviar"):
        assert "not on this shelf" in page(kept, item=key)
    stranger = Hostel("Gull Rock")
    text = " ".join(stranger.client().get("/shelf/", {"item": found.key}).content.decode().split())
    assert "not on this shelf" in text
    assert "eaten on" not in text


def test_a_frozen_part_says_what_is_left_of_it_once_it_thaws(kept: Hostel) -> None:
    before = item(kept)
    act(kept, do="move", place="freezer", store="")
    found = item(kept)
    assert found is not None
    assert before is not None
    text = page(kept, item=found.key)
    thawed = stock.if_thawed(found, timezone.now())
    assert thawed is not None
    assert thawed.until is not None
    assert before.until is not None
    assert thawed.until <= before.until + dt.timedelta(minutes=1)
    assert "In the fridge from now, it is thawed and used by" in text
    assert "Never on the bench." in text
    state, _ = selectors.bench_state(kept.puffin)
    assert state.food("koftas").parts["1"].place == "freezer", "it was only asked"


def test_a_label_is_that_of_its_own_part_and_without_one_the_strictest(kept: Hostel) -> None:
    act(kept, do="count", portions="8", store="")
    act(kept, do="split", portions="3", store="")
    act(kept, part="2", do="warm", hours="9", known="on")
    address, client = f"/shelf/{kept.puffin.pk}/koftas/", kept.client()
    assert "It cannot be kept." not in client.get(address, {"part": "1"}).content.decode()
    assert "It cannot be kept." in client.get(address, {"part": "2"}).content.decode()
    assert "It cannot be kept." in client.get(address).content.decode()
    opened = page(kept, item=f"{kept.puffin.pk}-2-koftas")
    assert f"{address}?part=2" in opened


def test_hours_that_nobody_has_said_are_not_no_hours(kept: Hostel) -> None:
    client = kept.client()
    client.post("/shelf/act/", {"key": f"{kept.puffin.pk}-1-koftas", "do": "warm", "hours": ""})
    assert not Event.objects.filter(kind="part_warm").exists()
    assert "number" in client.get("/shelf/").content.decode()
