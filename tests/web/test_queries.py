"""How many questions a page puts to the database: as many for twelve benches as for two."""

from collections.abc import Callable

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from bulwark.lessons import selectors, services
from tests.web.conftest import Hostel


@pytest.fixture
def crowd(db: None) -> Hostel:
    """A lesson of twelve benches, each with entries."""
    hostel = Hostel()
    hostel.lesson = services.create_lesson(
        recipe=hostel.lesson.recipe,
        place="Skerry Point",
        starts_at=timezone.now(),
        length_min=75,
        benches={f"Bench {n}": ["SD", "RO"] for n in range(1, 13)},
        profile_id="us-home",
    )
    hostel.open()
    for bench in hostel.lesson.benches.all():
        hostel.says("fridge_read", bench, core_c=4.0)
        hostel.says("hands_washed", bench, learner="SD", scrub_s=21)
    return hostel


@pytest.fixture
def asked(crowd: Hostel) -> Callable[[str], int]:
    client = crowd.client()

    def count(page: str) -> int:
        with CaptureQueriesContext(connection) as queries:
            answer = client.get(page.format(lesson=crowd.lesson.pk))
        assert answer.status_code in (200, 204)
        return len(queries)

    return count


@pytest.mark.parametrize(
    ("page", "most"),
    [
        ("/lessons/{lesson}/wall/", 6),
        ("/lessons/{lesson}/record/", 12),
        ("/lessons/{lesson}/record.csv", 8),
        ("/cold/", 6),
    ],
)
def test_a_page_asks_no_more_for_twelve_benches(asked: Callable[[str], int], page: str, most: int) -> None:
    assert asked(page) <= most
    assert asked(page) <= most, "nor the second time, with every bench folded"


def test_the_wall_asks_once_for_what_is_new_at_every_bench(crowd: Hostel, asked: Callable[[str], int]) -> None:
    asked("/lessons/{lesson}/wall/")
    for bench in crowd.lesson.benches.all():
        crowd.says("hands_washed", bench, learner="RO", scrub_s=22)

    assert asked("/lessons/{lesson}/wall/") <= 6
    assert "RO" in crowd.client().get(f"/lessons/{crowd.lesson.pk}/record.csv").content.decode()


@pytest.mark.parametrize("ahead", [True, False])
def test_an_entry_taken_back_is_taken_back_whatever_was_read_ahead(crowd: Hostel, ahead: bool) -> None:
    first = crowd.lesson.benches.first()
    selectors.bench_state(first)
    wrong = crowd.says("core_read", first, food="koftas", core_c=75.0)
    selectors.bench_state(first)
    crowd.says("voided", first, event=str(wrong), reason="the wrong bench")

    benches = selectors.benches_of(crowd.lesson)
    if ahead:
        selectors.read_logs(benches)
    after = selectors.bench_state(benches[0])
    selectors._snapshots.clear()
    assert after == selectors.bench_state(crowd.lesson.benches.first())
    assert after[1] == 4


def test_a_stranger_sees_no_wall_by_its_number(crowd: Hostel) -> None:
    other = Hostel("Lighthouse Crew")
    assert other.client().get(f"/lessons/{crowd.lesson.pk}/wall/").status_code == 404
