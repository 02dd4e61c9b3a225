"""A rehearsal with chosen slips and crews."""

import datetime as dt
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.lessons import rehearsal, selectors, services
from bulwark.lessons.crews import Crewed, Rehearsal
from bulwark.lessons.models import Event, Lesson
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


def asked(hostel: Hostel, **more: object) -> dict[str, object]:
    rows: dict[str, object] = {"pace": "60", "seed": "12"}
    for bench in hostel.lesson.benches.all():
        rows |= {f"slip-{bench.pk}": "", f"crew-{bench.pk}": "steady", f"min-{bench.pk}": "0"}
    return {**rows, **more}


@pytest.fixture
def hostel() -> Hostel:
    return Hostel()


def test_the_page_offers_every_slip_and_crew_and_shows_the_seed(hostel: Hostel) -> None:
    html = hostel.client().get(f"/lessons/{hostel.lesson.pk}/rehearse/").content.decode()

    assert "no hand-wash after raw food" in html
    assert "ten minutes without a network" in html
    assert 'name="seed" value="' in html


def test_what_was_chosen_is_kept_with_the_rehearsal_and_the_lesson_stays_as_it_is(hostel: Hostel) -> None:
    with patch.object(rehearsal.threading, "Thread"):
        rows = asked(hostel, **{f"slip-{hostel.puffin.pk}": "short_wash", f"crew-{hostel.gannet.pk}": "slow"})
        answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/rehearse/", rows)
    copy = Lesson.objects.exclude(pk=hostel.lesson.pk).get()

    assert answer["Location"] == f"/lessons/{copy.pk}/wall/"
    assert copy.rehearsed["seed"] == 12
    assert copy.rehearsed["benches"]["Puffin"] == {"crew": "steady", "slip": "short_wash", "from_min": 0.0}
    assert copy.pace == 60
    assert Lesson.objects.get(pk=hostel.lesson.pk).opened_at is None


@pytest.mark.parametrize("more", [{"pace": "61"}, {"seed": "0"}, {"seed": "x"}, {"seed": ""}])
def test_a_speed_or_a_seed_that_is_none_is_said_and_nothing_begins(hostel: Hostel, more: dict[str, str]) -> None:
    answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/rehearse/", asked(hostel, **more))

    assert answer.status_code == 422
    assert Lesson.objects.count() == 1


def played(hostel: Hostel, **benches: Crewed) -> Lesson:
    copy = rehearsal.copy_for_rehearsal(hostel.lesson)
    copy.rehearsed = Rehearsal(seed=12, benches=benches).stored()
    copy.save(update_fields=["rehearsed"])
    services.open_lesson(lesson=copy, rehearsal_pace=60)
    rehearsal.play(copy, wait=False)
    return Lesson.objects.get(pk=copy.pk)


def test_the_slip_shows_at_its_bench_and_at_no_other(hostel: Hostel) -> None:
    copy = played(hostel, Puffin=Crewed(slip="salad_by_raw_hands"))
    found = {bench.name: selectors.bench_state(bench)[0].incidents for bench in copy.benches.all()}

    assert found["Puffin"]
    assert not found["Gannet"]


def test_a_silent_crew_logs_its_beginning_and_no_more(hostel: Hostel) -> None:
    copy = played(hostel, Gannet=Crewed(crew="silent"))
    kinds = set(Event.objects.filter(bench__lesson=copy, bench__name="Gannet").values_list("kind", flat=True))

    assert kinds == {"ready", "fridge_read"}


def test_a_slip_that_the_lesson_has_no_place_for_is_said_and_nothing_begins(hostel: Hostel) -> None:
    rows = asked(hostel, **{f"slip-{hostel.puffin.pk}": "part_cooked_left"})
    answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/rehearse/", rows)

    assert answer.status_code == 422
    assert "The slip chosen for Puffin has no place in this lesson" in answer.content.decode()
    assert Lesson.objects.count() == 1


def test_a_held_rehearsal_stands_still_and_goes_on_from_there(hostel: Hostel) -> None:
    copy = rehearsal.copy_for_rehearsal(hostel.lesson)
    services.open_lesson(lesson=copy, rehearsal_pace=60)
    client, path = hostel.client(), f"/lessons/{copy.pk}/hold/"
    client.post(path, {"on": "1"})
    copy.refresh_from_db()
    assert copy.held_at
    assert "Go on with the rehearsal" in client.get(f"/lessons/{copy.pk}/wall/").content.decode()
    then = selectors.lesson_now(copy, copy.held_at)
    assert selectors.lesson_now(copy, copy.held_at + dt.timedelta(minutes=5)) == then

    Lesson.objects.filter(pk=copy.pk).update(held_at=copy.held_at - dt.timedelta(seconds=20))
    client.post(path, {"on": "0"})
    copy.refresh_from_db()
    assert copy.held_at is None
    assert 20 <= copy.held_s < 30
    later = selectors.lesson_now(copy, timezone.now() + dt.timedelta(seconds=1))
    assert (later - selectors.lesson_now(copy)).total_seconds() == pytest.approx(60, abs=5)


def test_its_crews_enter_nothing_while_it_is_held(hostel: Hostel) -> None:
    copy = rehearsal.copy_for_rehearsal(hostel.lesson)
    services.open_lesson(lesson=copy, rehearsal_pace=60)
    rehearsal.hold(copy, on=True)
    slept: list[float] = []

    def sleep(seconds: float) -> None:
        slept.append(seconds)
        if len(slept) == 3:
            assert not Event.objects.filter(bench__lesson=copy).exists()
            services.close_lesson(lesson=Lesson.objects.get(pk=copy.pk))

    with patch("bulwark.lessons.rehearsal.time.sleep", sleep):
        assert rehearsal.play(Lesson.objects.get(pk=copy.pk)) == 0


def test_a_real_lesson_is_never_held(hostel: Hostel) -> None:
    hostel.open()
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/hold/", {"on": "1"})
    assert Lesson.objects.get(pk=hostel.lesson.pk).held_at is None
