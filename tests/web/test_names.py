"""A food is renamed at the bench: its screen, its label and its record say the new name, the log keeps the old."""

import uuid

from django.test import Client

from bulwark.lessons import selectors
from bulwark.lessons.models import Event
from tests.web.conftest import Hostel, post_entry

NAME = "turkey torpedoes"


def named(hostel: Hostel, name: str = NAME, **more: str) -> Client:
    tablet = hostel.open().tablet()
    assert post_entry(tablet, "named", data={"food": "koftas", "name": name, **more}).status_code == 200
    return tablet


def test_the_benchs_screen_says_the_new_name_and_no_other_bench_does(hostel: Hostel) -> None:
    tablet = named(hostel)
    page = tablet.get("/b/").content.decode()

    assert f'value="{NAME}"' in page
    assert 'value="koftas"' not in page
    assert NAME not in hostel.tablet(hostel.gannet).get("/b/").content.decode()


def test_entries_under_any_name_are_kept_under_the_recipes_own(hostel: Hostel) -> None:
    tablet = named(hostel)
    for food in (NAME, "koftas"):
        data = {"value": 74, "unit": "C", "food": food, "piece": "1", "confirmed": True}
        assert post_entry(tablet, "core_read", data=data).status_code == 200

    assert [row.data["food"] for row in Event.objects.filter(kind="core_read")] == ["koftas", "koftas"]
    state, _ = selectors.bench_state(hostel.puffin)
    assert len(state.food(NAME).readings) == 2


def test_a_name_given_in_the_middle_is_seen_by_a_process_that_folded_before(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    hostel.says("stored", food="koftas", place="fridge")
    assert "koftas" in selectors.bench_state(hostel.puffin)[0].kept

    post_entry(tablet, "named", data={"food": "koftas", "name": NAME})

    assert list(selectors.bench_state(hostel.puffin)[0].kept) == [NAME]


def test_the_label_is_found_by_either_name_and_says_the_new_one(hostel: Hostel) -> None:
    tablet = named(hostel)
    hostel.says("stored", food=NAME, place="fridge")

    for food in ("koftas", NAME):
        response = tablet.get(f"/b/label/{food}/")
        assert (response.status_code, NAME in response.content.decode().lower()) == (200, True)


def test_the_record_says_the_name_now_and_that_it_was_given(hostel: Hostel) -> None:
    named(hostel)
    hostel.says("gone", food="koftas", how="eaten")
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()

    assert f"Koftas is called “{NAME}” here" in page
    assert "Turkey torpedoes all eaten" in page


def test_a_void_gives_the_old_name_back(hostel: Hostel) -> None:
    named(hostel)
    hostel.says("voided", event=str(Event.objects.get().uuid), reason="another bench's")

    assert "koftas" in selectors.bench_state(hostel.puffin)[0].plan.process.food_ids


def test_a_name_that_another_food_once_had_is_refused_in_words(hostel: Hostel) -> None:
    tablet = named(hostel)
    named_again = {"food": "koftas", "name": "torpedoes"}
    assert post_entry(tablet, "named", data=named_again).status_code == 200
    other = next(food for food in selectors.plan_for(hostel.lesson).process.food_ids if food != "koftas")

    answer = post_entry(tablet, "named", data={"food": other, "name": NAME})

    assert answer.status_code == 422
    assert "also names something else" in answer.json()["message"]


def test_the_educator_renames_from_the_front(hostel: Hostel) -> None:
    hostel.open()
    client = hostel.client()
    fields = {"kind": "named", "food": "koftas", "name": NAME, "id": str(uuid.uuid4())}

    page = client.post(f"/benches/{hostel.puffin.pk}/entry/", fields, follow=True).content.decode()

    assert f"Koftas is called “{NAME}” here" in page


def test_the_flow_map_of_the_bench_says_the_new_name(hostel: Hostel) -> None:
    named(hostel)
    hostel.says("core_read", food="koftas", piece="1", core_c=70.0, error_c=0.0)
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/flow/")

    assert page.status_code == 200
    assert NAME in page.content.decode().lower()
