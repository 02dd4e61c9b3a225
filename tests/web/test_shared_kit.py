"""Kit that benches share is one thing: raw on it at one bench stands at every other, and so does its cleaning."""

import uuid

import pytest

from bulwark.lessons import selectors, services
from bulwark.lessons.models import Bench, Event
from tests.builders import demo_recipe
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


@pytest.fixture
def one_oven(db: None) -> Hostel:
    """Both benches bake in one oven: the case at 190 °C, the tart at 150."""
    data = demo_recipe("custard-tart")
    for step in data["process"]["steps"]:
        step |= {"oven_c": {"blind": 190, "bake": 150}.get(step["id"])}
    hostel = Hostel(data=data)
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/shared/", {"kit": ["oven"]})
    hostel.lesson.refresh_from_db()
    return hostel.open().arrive()


def told(hostel: Hostel, bench: Bench) -> str:
    return " ".join(hostel.tablet(bench).get("/b/").content.decode().split())


def test_what_one_bench_has_in_the_shared_oven_is_said_at_the_other_and_what_else_it_asks(one_oven: Hostel) -> None:
    one_oven.says("on_heat", step="blind")
    page = told(one_oven, one_oven.gannet)
    assert "Tart case of Puffin in the shared oven at 374 °F until about" in page  # its own asks the same
    assert "This asks 302 °F: agree with them first." in page
    assert told(one_oven, one_oven.puffin).count("shared oven") == 0

    one_oven.says("on_heat", one_oven.gannet, step="bake")
    for bench in (one_oven.gannet, one_oven.puffin):
        noted = [row.finding.rule for row in selectors.bench_state(bench)[0].noted]
        assert noted.count("oven-at-other-heat") == 1
    assert "custard tart of Gannet in it at 302 °F, tart case at 374 °F. Agree" in told(one_oven, one_oven.puffin)

    one_oven.says("step_done", step="blind", by=["AK"])
    assert selectors.bench_state(one_oven.gannet)[0].ovens == {}
    assert "Tart case of Puffin in the shared oven" not in told(one_oven, one_oven.gannet)


def test_an_oven_that_is_shared_carries_heat_and_no_raw_food(one_oven: Hostel) -> None:
    for step in ("break", "fill"):
        one_oven.says("step_done", step=step, by=["AK"])
    one_oven.says("on_heat", step="bake")
    one_oven.says("step_done", step="bake", by=["AK"])
    assert {row.kind for row in Event.objects.filter(bench=one_oven.gannet)} == {"shared_oven"}


def test_what_went_into_the_oven_by_mistake_is_taken_back_everywhere(one_oven: Hostel) -> None:
    event = one_oven.says("on_heat", step="blind")
    assert len(selectors.bench_state(one_oven.gannet)[0].ovens) == 1
    one_oven.says("voided", event=str(event), reason="not yet")
    assert selectors.bench_state(one_oven.gannet)[0].ovens == {}
