"""Kept food until it is cold, off a printer, in another lesson, in a store that failed, gone through with a phone."""

from __future__ import annotations

import datetime as dt
import json
import uuid
from typing import Any

import pytest
from django.utils import timezone

from bulwark.devices import services as devices
from bulwark.devices.models import Instrument, StoreReading
from bulwark.lessons import services
from bulwark.lessons.models import Event, Lesson
from bulwark.lessons.selectors import bench_state
from bulwark.recipes.models import Recipe
from bulwark.shelf import index
from bulwark.shelf.models import BroughtDish, NoteWords, PrintedLabel, RecallDrill, Shelved
from foodsafety.lesson import kept_food
from tests.web.conftest import Hostel
from tests.web.test_stock import act, item, keep_koftas, kept, page

__all__ = ["kept"]


@pytest.fixture
def cooling(db: None) -> Hostel:
    """The same under rules that measure cooling, in the fridge for half an hour."""
    return keep_koftas(Hostel(profile="us-foodservice"), 1.1)


def test_it_cools_and_says_what_must_be_read_by_when(cooling: Hostel) -> None:
    found = item(cooling)
    assert found is not None
    assert found.standing == "cooling"
    text = page(cooling, item=found.key)
    assert "Read the koftas: 21.1 °C by" in text
    assert "the planner says when to look" in text
    act(cooling, do="box", container="pot_10l", count="1", litres="8", wrap="lid")
    assert "it will not be cold in time" in page(cooling, item=found.key)
    act(cooling, do="box", container="sheet", count="4", litres="2")
    assert "Look at it at" in page(cooling, item=found.key)


def test_readings_close_it_and_a_label_says_what_its_date_hangs_on(cooling: Hostel) -> None:
    found = item(cooling)
    assert found is not None
    from bulwark.shelf.labels import label_words

    assert "Only if read at" in label_words(found)["chill"]
    act(cooling, do="read", value="41", unit="F")
    found = item(cooling)
    assert found is not None
    assert found.standing != "cooling"
    assert found.chilling is not None
    assert found.chilling.standing == "cold"
    assert "Cold in time." in page(cooling, item=found.key)


def test_what_nobody_measured_has_no_date_until_somebody_signs(db: None) -> None:
    hostel = keep_koftas(Hostel(profile="us-foodservice"), 22)
    found = item(hostel)
    assert found is not None
    assert (found.standing, found.until) == ("hole", None)
    assert "Nobody eats it as it is." in page(hostel, item=found.key)
    assert "Nobody measured, or knows," in hostel.client().get(f"/shelf/{hostel.puffin.pk}/koftas/").content.decode()
    act(hostel, do="sign", signer="Deputy cook", reason="")
    assert item(hostel) == found, "without a reason nobody signs"
    act(hostel, do="sign", signer="Deputy cook", reason="a thin tray in the blast chiller, felt cold at four")
    signed = item(hostel)
    assert signed is not None
    assert signed.standing == "hole"
    assert signed.until is not None


def test_the_bench_says_where_and_in_what_it_stands(hostel: Hostel) -> None:
    hostel.open()
    hostel.says("stored", food="salad", place="fridge")
    tablet = hostel.tablet(hostel.puffin)
    assert "Which fridge?" in tablet.get("/b/put/salad/").content.decode()
    sent = {
        "store": "Larder fridge",
        "portions": "6",
        "container": "tub_2l",
        "count": "2",
        "litres": "9",
        "wrap": "lid",
    }
    refused = tablet.post("/b/put/salad/", sent)
    assert refused.status_code == 422
    assert 'value="9"' in refused.content.decode(), "what was typed is kept"
    assert not Event.objects.filter(kind="part_boxed").exists()
    assert tablet.post("/b/put/salad/", {"store": "Bench fridge"}).status_code == 302
    assert bench_state(hostel.puffin)[0].food("salad").parts["1"].store == "Bench fridge"
    assert tablet.post("/b/put/salad/", {**sent, "litres": "2.5"}).status_code == 302
    part = bench_state(hostel.puffin)[0].food("salad").parts["1"]
    assert (part.store, part.portions) == ("Larder fridge", 6)
    assert part.box is not None
    assert (part.box.container, part.box.litres, part.box.wrap) == ("tub_2l", 2.5, "lid")


def printer_of(hostel: Hostel) -> Instrument:
    row, _key = devices.add_instrument(
        organisation_id=hostel.organisation.pk, kind="printer", name="Pantry printer", simulated=True
    )
    return row


def test_labels_come_out_of_a_printer_until_its_roll_is_empty(kept: Hostel) -> None:
    printer, client = printer_of(kept), kept.client()
    sent = {"key": f"{kept.puffin.pk}-1-koftas", "printer": str(printer.pk), "copies": "3"}
    client.post("/shelf/labels/", sent)
    row = PrintedLabel.objects.get()
    assert (row.copies, row.again) == (3, False)
    shown = client.get(f"/shelf/printers/{printer.pk}/").content.decode()
    assert "47 labels left" in shown
    assert client.get(f"/shelf/printers/{printer.pk}/{row.pk}.png").content.startswith(b"\x89PNG")
    assert client.get(f"/shelf/printers/{printer.pk}/{row.pk}.pdf").content.startswith(b"%PDF")
    refused = client.post("/shelf/labels/", {**sent, "copies": "48"}, follow=True).content.decode()
    assert "The printer has 47 labels left" in refused
    assert PrintedLabel.objects.count() == 1
    assert Event.objects.filter(kind="part_labelled").count() == 1
    client.post(f"/shelf/printers/{printer.pk}/")
    client.post("/shelf/labels/", {**sent, "copies": "1"})
    assert PrintedLabel.objects.first().again, "printed again says so"  # type: ignore[union-attr]
    stranger = Hostel("Elsewhere").client()
    assert stranger.get(f"/shelf/printers/{printer.pk}/").status_code == 404
    assert stranger.get(f"/shelf/printers/{printer.pk}/{row.pk}.pdf").status_code == 404


def next_lesson(hostel: Hostel, hours: float = 0.0) -> Lesson:
    return services.create_lesson(
        recipe=Recipe.objects.get(organisation=hostel.organisation),
        place="",
        starts_at=timezone.now() + dt.timedelta(hours=hours),
        length_min=75,
        benches={"Tern": ["MB"]},
        profile_id="us-home",
    )


def keep_for(hostel: Hostel, lesson: Lesson, **said: str) -> Any:
    sent = {"key": f"{hostel.puffin.pk}-1-koftas", "lesson": str(lesson.pk), **said}
    return hostel.client().post("/shelf/keep/", sent, follow=True)


def test_what_is_kept_for_a_lesson_stays_until_it_is_taken_and_brings_its_history_along(kept: Hostel) -> None:
    lesson, client = next_lesson(kept), kept.client()
    act(kept, do="count", portions="6")
    assert "Kept for" in keep_for(kept, lesson, portions="4").content.decode()
    dish, found = BroughtDish.objects.get(), item(kept)
    assert found is not None
    assert found.portions == 6
    client.post(f"/lessons/{lesson.pk}/brought/{dish.pk}/taken/", {"as_food": "turkey"})
    assert BroughtDish.objects.get().taken_at is None, "the lesson does not run yet"
    services.open_lesson(lesson=lesson)
    client.post(f"/lessons/{lesson.pk}/brought/{dish.pk}/taken/", {"as_food": "turkey"})
    dish.refresh_from_db()
    assert (dish.taken_at is not None, dish.until) == (True, found.until)
    left = item(kept)
    assert left is not None
    assert left.portions == 2
    bench = lesson.benches.get()
    earlier = bench_state(bench)[0].food("turkey").earlier
    assert earlier is not None
    assert earlier.until_s == found.until.timestamp()  # type: ignore[union-attr]
    services.record_event(
        bench=bench,
        by=kept.actor,
        kind="stored",
        data={"food": "koftas", "place": "fridge"},
        event_id=uuid.uuid4(),
        at=timezone.now(),
    )
    dated = kept_food(bench_state(bench)[0], "koftas")
    assert dated is not None
    assert dated.use_by.use_by is not None
    assert dated.use_by.use_by.timestamp() <= earlier.until_s
    assert "went into" in client.get("/shelf/recall/", {"q": "turkey"}).content.decode()


def test_no_more_is_kept_for_a_lesson_than_there_is_and_nothing_that_is_over(kept: Hostel) -> None:
    lesson = next_lesson(kept)
    act(kept, do="count", portions="3")
    assert "3" in keep_for(kept, lesson, portions="4").content.decode()
    assert "over by then" in keep_for(kept, next_lesson(kept, hours=24 * 9)).content.decode()
    act(kept, do="warm", hours="3")
    assert "may not be used" in keep_for(kept, lesson).content.decode()
    assert not BroughtDish.objects.exists()
    other = Hostel("Elsewhere")
    sent = {"key": f"{kept.puffin.pk}-1-koftas", "lesson": str(lesson.pk)}
    assert other.client().post("/shelf/keep/", sent).status_code in (302, 404)
    assert not BroughtDish.objects.exists()


def test_a_frozen_part_says_by_when_it_goes_into_the_fridge(kept: Hostel) -> None:
    act(kept, do="move", place="freezer")
    found = item(kept)
    assert found is not None
    needed = timezone.localtime() + dt.timedelta(days=2)
    asked = {"item": found.key, "needed": f"{needed:%Y-%m-%dT%H:%M}", "thick": "2"}
    assert "Into the fridge by" in page(kept, **asked)
    soon = timezone.localtime() + dt.timedelta(hours=3)
    assert "That is too soon" in page(kept, **{**asked, "needed": f"{soon:%Y-%m-%dT%H:%M}"})
    assert "That is too soon" in page(kept, **{**asked, "thick": "20"})
    assert "is-error" in page(kept, **{**asked, "thick": "x"})


def test_a_store_s_own_log_says_what_may_stay(kept: Hostel) -> None:
    act(kept, do="move", place="fridge", store="Larder fridge")
    act(kept, food="salad", do="move", place="fridge", store="Larder fridge")
    logger, _key = devices.add_instrument(
        organisation_id=kept.organisation.pk, kind="fridge", name="Larder fridge", simulated=False
    )
    asked, now = {"place": "fridge", "store": "Larder fridge"}, timezone.now()
    client = kept.client()
    for part in Shelved.objects.all():
        assert part.store == "Larder fridge"
    StoreReading.objects.create(instrument=logger, at=now + dt.timedelta(seconds=1), celsius=4.0)
    assert "2 may stay" in " ".join(client.get("/shelf/failure/", asked).content.decode().split())
    for minutes in range(0, 181, 10):
        at = now + dt.timedelta(minutes=minutes, seconds=2)
        StoreReading.objects.create(instrument=logger, at=at, celsius=12.0)
    text = " ".join(client.get("/shelf/failure/", asked).content.decode().split())
    assert "air up to 12 °C; its size was not said" in text
    assert client.get("/shelf/failure/", {"place": "fridge", "store": "Nowhere"}).status_code == 302


def test_what_was_entered_is_not_held_against_it_again_by_the_log(
    kept: Hostel, monkeypatch: pytest.MonkeyPatch
) -> None:
    for food in ("koftas", "salad"):
        act(kept, food=food, do="move", place="fridge", store="Larder fridge")
    logger, _key = devices.add_instrument(
        organisation_id=kept.organisation.pk, kind="fridge", name="Larder fridge", simulated=False
    )
    moved = timezone.now()
    for minutes in range(0, 61, 10):
        at = moved + dt.timedelta(minutes=minutes, seconds=5)
        StoreReading.objects.create(instrument=logger, at=at, celsius=12.0)
    asked = {"place": "fridge", "store": "Larder fridge"}
    later = moved + dt.timedelta(minutes=61)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    text = " ".join(kept.client().get("/shelf/failure/", asked).content.decode().split())
    assert "61 min" in text
    kept.client().post("/shelf/failure/", asked)
    assert Event.objects.filter(kind="part_warm").count() == 2
    kept.client().post("/shelf/failure/", asked)
    assert Event.objects.filter(kind="part_warm").count() == 2


def test_what_is_over_is_worked_through_with_ticks(kept: Hostel) -> None:
    client, asked = kept.client(), {"place": "fridge", "store": "", "hours": "3", "known": "on"}
    answer = client.post("/shelf/failure/", asked, follow=True)
    assert "2 things to throw away" in answer.content.decode()
    client.post("/shelf/work/?place=fridge&store=", {"key": [f"{kept.puffin.pk}-1-koftas", "99-1-other"]})
    assert item(kept) is None
    assert item(kept, "salad") is not None


def test_what_nobody_measured_is_never_said_to_stay(db: None) -> None:
    hostel = keep_koftas(Hostel(profile="us-foodservice"), 22)
    asked = {"place": "fridge", "store": "", "hours": "0", "known": "on"}
    text = " ".join(hostel.client().get("/shelf/failure/", asked).content.decode().split())
    assert "close the hole first" in text
    assert "1 with a hole" in text


def test_a_power_cut_is_forecast_and_enters_nothing(kept: Hostel) -> None:
    since = timezone.localtime()
    asked = {"place": "fridge", "store": "", "since": f"{since:%Y-%m-%dT%H:%M}", "filled": "unknown", "shut": "on"}
    client, before = kept.client(), Event.objects.count()
    short = client.get("/shelf/power/", {**asked, "opens": f"{since + dt.timedelta(hours=3):%Y-%m-%dT%H:%M}"})
    assert "2 may stay" in " ".join(short.content.decode().split())
    long = client.get("/shelf/power/", {**asked, "opens": f"{since + dt.timedelta(hours=9):%Y-%m-%dT%H:%M}"})
    assert "2 to throw away" in " ".join(long.content.decode().split())
    assert Event.objects.count() == before
    wrong = client.get("/shelf/power/", {**asked, "opens": asked["since"]}, follow=True)
    assert "opened before the power went" in wrong.content.decode()


def tapped(hostel: Hostel, kind: str, **data: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "kind": kind, "data": {"key": f"{hostel.puffin.pk}-1-koftas", **data}}


def test_shelves_are_gone_through_with_a_phone_twice_is_once(kept: Hostel) -> None:
    client = kept.client()
    assert "Koftas" in client.get("/shelf/count/").content.decode()
    seen = tapped(kept, "seen", portions=5)
    for _ in range(2):
        assert client.post("/shelf/count/entries/", json.dumps(seen), "application/json").status_code == 200
    assert Event.objects.filter(kind="part_seen").count() == 1
    found = item(kept)
    assert found is not None
    assert found.portions == 5
    odd = client.post("/shelf/count/entries/", json.dumps(tapped(kept, "eaten")), "application/json")
    assert odd.status_code == 422
    assert client.post("/shelf/count/entries/", "{", "application/json").status_code == 422
    gone = json.dumps(tapped(kept, "missing"))
    assert client.post("/shelf/count/entries/", gone, "application/json").status_code == 200
    assert item(kept) is None
    assert "not there when somebody looked" in page(kept, item=f"{kept.puffin.pk}-1-koftas")
    again = client.post("/shelf/count/entries/", json.dumps(tapped(kept, "seen")), "application/json")
    assert again.status_code == 410
    other = Hostel("Elsewhere").client()
    assert other.post("/shelf/count/entries/", gone, "application/json").status_code == 410


def test_a_recall_is_practised_against_the_clock(kept: Hostel) -> None:
    client = kept.client()
    client.post("/shelf/recall/", {"q": "turkey"})
    assert "This is a drill" in client.get("/shelf/recall/", {"q": "turkey"}).content.decode()
    client.post("/shelf/recall/", {"q": "turkey"})
    drill = RecallDrill.objects.get()
    assert drill.ended_at is not None
    assert (drill.benches, drill.parts) == (2, 1)
    assert "This is a drill" not in client.get("/shelf/recall/").content.decode()


def test_the_way_home_says_how_long_without_ice(kept: Hostel) -> None:
    found = item(kept)
    assert found is not None
    asked = {"item": found.key, "minutes": "150", "warm": "34"}
    text = kept.client().get("/shelf/note/", asked).content.decode()
    assert "Without an ice pack it may be on its way for at most" in text
    assert "minutes: in a cool bag with" in text
    assert "Without an ice pack" not in kept.client().get("/shelf/note/", {**asked, "warm": "x"}).content.decode()


def test_the_index_follows_the_log_and_forgets_nothing_however_old(kept: Hostel) -> None:
    assert index.shelved(kept.actor).count() == 2
    old = timezone.now() - dt.timedelta(days=3000)
    Lesson.objects.filter(pk=kept.lesson.pk).update(opened_at=old, starts_at=old)
    assert index.shelved(kept.actor).count() == 2, "it stays until somebody says what became of it"
    act(kept, do="take", how="discarded")
    assert [row.food for row in index.shelved(kept.actor)] == ["salad"]
    assert list(index.shelved(Hostel("Elsewhere").actor)) == []


def test_where_there_is_too_much_for_a_page_one_store_is_drawn(
    kept: Hostel, monkeypatch: pytest.MonkeyPatch, django_assert_max_num_queries: Any
) -> None:
    act(kept, food="salad", do="move", place="fridge", store="Larder fridge")
    monkeypatch.setattr("bulwark.shelf.pages.MOST_AT_ONCE", 1)
    text = page(kept, store="fridge:Larder fridge")
    assert "1 over" not in text
    assert text.count('class="sf-store is-') == 1
    assert text.count('class="sf-item') == 1
    client = kept.client()
    with django_assert_max_num_queries(20):
        client.get("/shelf/")


def test_the_shopping_list_leaves_out_what_is_kept_for_the_lesson_and_names_what_must_be_used(kept: Hostel) -> None:
    lesson, client = next_lesson(kept, 60), kept.client()
    text = " ".join(client.get(f"/lessons/{lesson.pk}/pack/").content.decode().split())
    assert "To be used up by then:" in text
    assert "Koftas" in text
    assert "there already" not in text
    soon = next_lesson(kept, 2)
    BroughtDish.objects.create(
        lesson=soon,
        title="cucumber",
        made_at=timezone.now(),
        place="fridge",
        bench=kept.puffin,
        food="cucumber",
        part="1",
    )
    text = " ".join(client.get(f"/lessons/{soon.pk}/pack/").content.decode().split())
    assert text.count("there already") == 1


def test_what_was_thrown_away_is_added_up_by_month_and_reason(kept: Hostel) -> None:
    client = kept.client()
    assert "as far as the logs say" in client.get("/shelf/waste/").content.decode()
    act(kept, do="take", how="discarded")
    text = " ".join(client.get("/shelf/waste/").content.decode().split())
    assert f"{timezone.localtime():%B %Y}" in text
    assert "1 not counted in" in text
    assert "as far as the logs say" in Hostel("Elsewhere").client().get("/shelf/waste/").content.decode()


def test_a_recall_finds_a_food_by_the_batch_on_its_packet(kept: Hostel) -> None:
    client = kept.client()
    assert "No bench used" in client.get("/shelf/recall/", {"q": "2271"}).content.decode()
    services.record_event(
        bench=kept.puffin,
        by=kept.actor,
        kind="batch_said",
        data={"food": "turkey", "batch": "L 2271-B"},
        event_id=uuid.uuid4(),
        at=timezone.now(),
    )
    assert "Koftas" in client.get("/shelf/recall/", {"q": "l 2271"}).content.decode()


def test_a_note_speaks_a_family_s_language_where_somebody_has_written_it(kept: Hostel) -> None:
    client, key = kept.client(), f"{kept.puffin.pk}-1-koftas"
    assert "Eat by" in client.get("/shelf/note/", {"item": key}).content.decode()
    words = {"language": "Norsk", "eat_by": "Spis før {until}.", "allergen:gluten": "gluten (hvete)"}
    refused = client.post("/shelf/words/", {**words, "heat": "Varm opp en gang."})
    assert refused.status_code == 422
    assert "needs {limit} in it" in refused.content.decode()
    assert "Varm opp en gang." in refused.content.decode(), "what was typed is kept"
    assert client.post("/shelf/words/", words).status_code == 302
    row = NoteWords.objects.get()
    text = client.get("/shelf/note/", {"item": key, "words": str(row.pk)}).content.decode()
    assert "Spis før" in text
    assert "If it smells wrong" in text, "what nobody wrote stays in English"
    assert client.post("/shelf/words/", {"language": " "}).status_code == 422
    stranger = Hostel("Elsewhere")
    assert "Norsk" not in stranger.client().get("/shelf/words/").content.decode()


def test_while_a_store_s_logger_was_silent_nobody_knows_and_nothing_stays_unsaid(
    kept: Hostel, monkeypatch: pytest.MonkeyPatch
) -> None:
    act(kept, do="move", place="fridge", store="Larder fridge")
    logger, _key = devices.add_instrument(
        organisation_id=kept.organisation.pk, kind="fridge", name="Larder fridge", simulated=False
    )
    asked, moved = {"place": "fridge", "store": "Larder fridge"}, timezone.now()
    StoreReading.objects.create(instrument=logger, at=moved, celsius=4.0)
    later = moved + dt.timedelta(minutes=65)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    text = " ".join(kept.client().get("/shelf/failure/", asked).content.decode().split())
    assert "The logger was silent for a time" in text
    assert "in part not measured" in text
    kept.client().post("/shelf/failure/", asked)
    entered = Event.objects.get(kind="part_warm")
    assert entered.data["known"] is False
    assert 3800 < entered.data["warm_s"] < 4000
    found = item(kept)
    assert found is not None
    assert found.standing == "hole"


def test_a_logger_that_never_read_anything_shows_that_nothing_was_measured(
    kept: Hostel, monkeypatch: pytest.MonkeyPatch
) -> None:
    act(kept, do="move", place="fridge", store="Larder fridge")
    devices.add_instrument(organisation_id=kept.organisation.pk, kind="fridge", name="Larder fridge", simulated=False)
    later = timezone.now() + dt.timedelta(hours=9)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    text = " ".join(
        kept.client().get("/shelf/failure/", {"place": "fridge", "store": "Larder fridge"}).content.decode().split()
    )
    assert "1 to throw away" in text
    assert "may stay" not in text
