"""Any entry for any bench, made at the front."""

import datetime as dt

import pytest
from django.utils import timezone

from bulwark.lessons import entering
from bulwark.lessons.models import Event, Lesson
from bulwark.lessons.readings import READINGS
from foodsafety.lesson import ENTRIES
from tests.builders import demo_recipe
from tests.core.lesson.test_events import RIGHT
from tests.web.conftest import Hostel


def enters(hostel: Hostel, kind: str, **fields: object):
    return hostel.client().post(f"/benches/{hostel.puffin.pk}/enter/", {"kind": kind, **fields})


@pytest.mark.parametrize("kind", [kind for kind, _ in entering.kinds()])
@pytest.mark.django_db
def test_every_kind_can_be_entered_with_what_its_page_offers(kind: str) -> None:
    hostel = Hostel(data=demo_recipe("sausage-rolls")).open()
    asked = entering.asked_for(hostel.puffin, kind)
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/enter/?kind={kind}").content.decode()
    right = {
        "piece": "1",
        "name": "patties",
        "batch": "L 2",
        **{key: value for key, value in RIGHT[kind].items() if key in entering._NUMBERS},
    }
    right["value"] = 21
    fields = {field.name: field.options[0][0] if field.options else right.get(field.name, "") for field in asked}
    fields |= {"unit": "C"} if kind in READINGS else {}

    assert all(f'name="{field.name}"' in page for field in asked)
    assert enters(hostel, kind, **fields).status_code == 302, kind
    stored = Event.objects.get()
    assert (stored.kind, stored.recorded_by) == (kind, f"educator:{hostel.user.pk}")
    assert set(fields) - set(entering._READING) <= set(stored.data)


@pytest.mark.parametrize(
    ("kind", "value", "unit", "sure", "kept_c"),
    [
        ("core_read", "165", "F", False, 73.89),
        ("core_read", "165", "C", False, None),
        ("core_read", "165", "C", True, None),
        ("core_read", "74", "F", False, None),
        ("ambient_read", "33", "F", False, None),
        ("fridge_read", "38", "F", False, 3.33),
        ("fridge_read", "", "C", False, None),
        ("fridge_read", "nan", "C", True, None),
    ],
)
def test_a_temperature_is_questioned_at_the_front_as_at_a_bench(
    hostel: Hostel, kind: str, value: str, unit: str, sure: bool, kept_c: float | None
) -> None:
    fields = {"food": "koftas", "piece": "1", "value": value, "unit": unit, **({"confirmed": "yes"} if sure else {})}
    answer = enters(hostel.open(), kind, **fields)

    kept = [row.data.get("core_c", row.data.get("ambient_c")) for row in Event.objects.all()]
    assert kept == ([] if kept_c is None else [pytest.approx(kept_c, abs=0.01)])
    assert answer.status_code == (422 if kept_c is None else 302)
    if value == "74":
        assert b"Check the unit" in answer.content


def test_every_kind_has_its_words_and_a_place_to_be_entered() -> None:
    offered = dict(entering.kinds())
    assert all(text != kind for kind, text in offered.items())
    rest = {kind for kind, entry in ENTRIES.items() if not entry.made_here} - set(offered)
    assert rest == entering._ELSEWHERE


@pytest.mark.parametrize(
    ("fields", "why"),
    [
        ({"learner": "AK", "scrub_s": "long"}, "A number is needed"),
        ({"learner": "AK", "scrub_s": "9" * 400}, "600"),
        ({"learner": "ZZ", "scrub_s": "20"}, "not at this bench"),
        ({"learner": "AK", "scrub_s": "20", "at": "25:00"}, "no time of the clock"),
        ({"learner": "AK", "scrub_s": "20", "at": "\x00"}, "no time of the clock"),
    ],
)
def test_what_is_wrong_is_said_and_what_was_typed_stays(hostel: Hostel, fields: dict[str, str], why: str) -> None:
    answer = enters(hostel.open(), "hands_washed", **fields)

    assert answer.status_code == 422
    assert why in answer.content.decode()
    assert Event.objects.count() == 0


def test_it_happened_when_somebody_says(hostel: Hostel) -> None:
    began = timezone.localtime().replace(hour=10, minute=0, second=0, microsecond=0) - dt.timedelta(days=1)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=began, closed_at=began + dt.timedelta(hours=1))
    assert enters(hostel, "called_by_nobody").status_code == 422
    assert enters(hostel, "hands_washed", learner="AK", scrub_s="20", at="10:25").status_code == 302
    assert enters(hostel, "hands_washed", learner="AK", scrub_s="20", at="11:25").status_code == 422

    assert Event.objects.get().happened_at == began + dt.timedelta(minutes=25)


def test_nothing_is_entered_before_the_lesson_or_for_another_organisation(hostel: Hostel) -> None:
    assert enters(hostel, "hands_washed", learner="AK", scrub_s="20").status_code == 302
    stranger = Hostel("Farside Bothy")
    answer = stranger.client().post(f"/benches/{hostel.open().puffin.pk}/enter/", {"kind": "called"})

    assert answer.status_code == 404
    assert Event.objects.count() == 0
