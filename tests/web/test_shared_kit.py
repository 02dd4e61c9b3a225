"""Kit that benches share is one thing: raw on it at one bench stands at every other, and so does its cleaning."""

import uuid

import pytest

from bulwark.lessons import selectors, services
from bulwark.lessons.models import Bench, Event
from tests.web.conftest import Hostel, post_entry


@pytest.fixture
def sharing(hostel: Hostel) -> Hostel:
    """Both benches use one board and one fridge."""
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/shared/", {"kit": ["board", "fridge", "no such kit"]})
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.shared == ["board", "fridge"]
    return hostel.open().arrive()


def on_board(bench: Bench) -> set[str]:
    return set(selectors.bench_state(bench)[0].surfaces.get("board", {}))


def shapes(hostel: Hostel) -> None:
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])


def test_raw_on_the_shared_board_at_one_bench_warns_the_other(sharing: Hostel) -> None:
    shapes(sharing)
    assert on_board(sharing.gannet) == on_board(sharing.puffin) != set()
    page = " ".join(sharing.tablet(sharing.gannet).get("/b/").content.decode().split())
    assert "Raw poultry on the shared board, from Puffin: wash it before you use it" in page
    for step in ("grate", "stir", "chill"):
        sharing.says("step_done", sharing.gannet, step=step, by=["SD"])
    for name in ("SD", "RO"):
        sharing.says("hands_washed", sharing.gannet, learner=name, scrub_s=20)
    sharing.says("step_done", sharing.gannet, step="slice", by=["SD"])
    found = [row.finding for row in selectors.bench_state(sharing.gannet)[0].open_incidents]
    assert any(row.food == "salad" and row.path[:3] == ("turkey", "Puffin", "board") for row in found)


def test_what_is_cleaned_at_one_is_clean_at_all_and_a_tray_that_is_not_shared_stays_as_it_is(sharing: Hostel) -> None:
    shapes(sharing)
    assert "tray" not in {row.data["tool"] for row in Event.objects.filter(kind="shared_kit")}
    sharing.says("cleaned", sharing.gannet, tools=["board"], how="clean")
    assert on_board(sharing.gannet) == on_board(sharing.puffin) == set()
    page = " ".join(sharing.tablet(sharing.gannet).get("/b/").content.decode().split())
    assert "on the shared board" not in page


def test_an_entry_that_comes_late_is_told_for_when_it_happened_and_once(sharing: Hostel) -> None:
    for step in ("grate", "stir", "chill", "mix"):
        sharing.says("step_done", step=step, by=["AK"])
    at = selectors.lesson_now(sharing.puffin.lesson)
    sharing.says("cleaned", sharing.gannet, tools=["board"], how="clean")
    before = on_board(sharing.gannet)
    event, late = uuid.uuid4(), at
    for _ in range(2):
        services.record_event(
            bench=sharing.puffin,
            by=sharing.actor,
            kind="step_done",
            data={"step": "shape", "by": ["AK"]},
            event_id=event,
            at=late,
        )
    told = Event.objects.filter(bench=sharing.gannet, kind="shared_kit", data__source=str(event))
    assert [row.happened_at for row in told] == [late]
    assert before == set()
    assert on_board(sharing.gannet) == set(), "it was cleaned after that"


def test_what_is_taken_back_there_is_taken_back_here(sharing: Hostel) -> None:
    for step in ("grate", "stir", "chill", "mix"):
        sharing.says("step_done", step=step, by=["AK"])
    event = sharing.says("step_done", step="shape", by=["AK"])
    assert on_board(sharing.gannet)
    sharing.says("voided", event=str(event), reason="it was another tray")
    assert not on_board(sharing.gannet)
    assert not on_board(sharing.puffin)
    log = sharing.client().get(f"/benches/{sharing.gannet.pk}/").content.decode()
    assert "An entry of Puffin was taken back" in log


def test_what_is_taken_back_after_the_lesson_is_taken_back_everywhere_as_well(sharing: Hostel) -> None:
    for step in ("grate", "stir", "chill", "mix"):
        sharing.says("step_done", step=step, by=["AK"])
    event = sharing.says("step_done", step="shape", by=["AK"])
    sharing.close()
    assert on_board(sharing.gannet)
    sharing.says("voided", event=str(event), reason="it was another tray")
    assert not on_board(sharing.gannet)


def test_a_shared_fridge_is_read_once_for_all(sharing: Hostel) -> None:
    assert selectors.bench_state(sharing.gannet)[0].fridge[-1][1] == 3.0
    assert "told by another bench" in sharing.client().get(f"/benches/{sharing.gannet.pk}/").content.decode()
    assert Event.objects.filter(bench=sharing.puffin, kind="shared_fridge").count() == 0


def test_nobody_sends_what_the_program_tells(sharing: Hostel) -> None:
    sent = {"tool": "board", "soils": [], "bench": "Puffin", "source": "e1"}
    assert post_entry(sharing.tablet(), "shared_kit", data=sent).status_code == 422


def test_benches_that_share_nothing_are_told_nothing(hostel: Hostel) -> None:
    hostel.open().arrive()
    shapes(hostel)
    assert not Event.objects.filter(bench=hostel.gannet).exists()
