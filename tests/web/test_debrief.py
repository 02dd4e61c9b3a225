"""The debrief: replayed where it began, marked for the next lesson, printed."""

import re
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.lessons import services
from bulwark.lessons.models import Lesson
from tests.web.conftest import Hostel, paper_of

pytestmark = pytest.mark.django_db


@pytest.fixture
def hostel() -> Hostel:
    hostel = Hostel().open()
    hostel.says("fridge_read", core_c=4.0)
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=21)
    for step in ("grate", "stir", "chill", "mix", "shape", "slice"):
        hostel.says("step_done", step=step, by=["AK"])
    return hostel


def page(hostel: Hostel, query: str = "") -> str:
    return hostel.client().get(f"/lessons/{hostel.lesson.pk}/debrief/{query}").content.decode()


def test_it_opens_at_the_bench_and_the_moment_where_it_began(hostel: Hostel) -> None:
    html = page(hostel)

    assert "Here it began:" in html
    assert f"{hostel.puffin.name}, as it stood at" in html
    assert "It stayed open: nobody put it right." in html
    assert 'class="db-brick is-breach' in html
    assert "AK&#x27;s hands" in html


def test_another_bench_is_told_plainly_that_nothing_was_found(hostel: Hostel) -> None:
    html = page(hostel, f"?bench={hostel.gannet.pk}")

    assert "Nothing was found to begin here" in html
    assert "What was not logged is not known" in html


@pytest.mark.parametrize("query", ["?at=0", "?at=99999999", "?at=x&bench=x", "?bench=0", "?at=-5", "?at=9999999999999"])
def test_any_moment_that_is_asked_for_is_one_of_the_lesson(hostel: Hostel, query: str) -> None:
    html = page(hostel, query)

    at, most = (int(re.search(rf'id="db-at"[^>]*{name}="(\d+)"', html)[1]) for name in ("value", "max"))  # type: ignore[index]
    assert 0 <= at <= most


def test_the_moving_part_alone_is_what_the_page_has(hostel: Hostel) -> None:
    part = hostel.client().get(f"/lessons/{hostel.lesson.pk}/debrief/moment/?at=0").content.decode()

    assert part.lstrip().startswith("<header")
    assert "<html" not in part
    assert "db-brick is-breach" not in part, "at the beginning nothing had happened"


def test_what_is_marked_stands_at_the_groups_next_lesson_until_it_is_over(hostel: Hostel) -> None:
    client = hostel.client()
    services.close_lesson(lesson=hostel.lesson)
    rules = re.findall(r'name="rule" value="([^"]+)"', page(hostel))
    client.post(f"/lessons/{hostel.lesson.pk}/debrief/teach/", {"rule": rules[:1]})
    after = services.create_lesson(
        recipe=hostel.lesson.recipe,
        place=hostel.lesson.place,
        starts_at=timezone.now() + timezone.timedelta(days=7),
        length_min=75,
        benches={"Gannet": ["SD"]},
        profile_id="us-home",
    )

    assert Lesson.objects.get(pk=hostel.lesson.pk).teach_next == rules[:1]
    assert "To teach today, from the last lesson:" in client.get(f"/lessons/{after.pk}/").content.decode()
    client.post(f"/lessons/{hostel.lesson.pk}/debrief/teach/", {})
    assert "To teach today" not in client.get(f"/lessons/{after.pk}/").content.decode()


def test_a_page_for_the_class_and_one_for_each_bench_that_took_part_are_printed(hostel: Hostel) -> None:
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        text = paper_of(hostel.client(), f"/lessons/{hostel.lesson.pk}/debrief.pdf").decode()

    assert "Teach next" in text
    assert "Still open" in text
    assert "took no part" in text


def test_a_lesson_of_others_has_no_debrief_here(hostel: Hostel) -> None:
    other = Hostel("Gull Rock Hostel")

    for path in ("debrief/", "debrief/moment/"):
        assert other.client().get(f"/lessons/{hostel.lesson.pk}/{path}").status_code == 404
    for path in ("debrief/teach/", "debrief.pdf"):
        assert other.client().post(f"/lessons/{hostel.lesson.pk}/{path}").status_code == 404
