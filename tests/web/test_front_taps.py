"""What the front logs for a bench with one tap on its page: two from the wall."""

from bulwark.lessons import selectors
from bulwark.lessons.models import Event
from tests.web.conftest import Hostel


def page(hostel: Hostel) -> str:
    return " ".join(hostel.client().get(f"/benches/{hostel.puffin.pk}/").content.decode().split())


def tap(hostel: Hostel, **sent: str) -> None:
    hostel.client().post(f"/benches/{hostel.puffin.pk}/entry/", sent)


def test_the_step_a_bench_is_at_is_logged_by_who_did_it(hostel: Hostel) -> None:
    hostel.open().arrive()
    assert "AK did it" in page(hostel)
    tap(hostel, step="grate", done_by="AK")
    state, _ = selectors.bench_state(hostel.puffin)
    assert state.done_by["grate"] == ("AK",)
    assert Event.objects.get(kind="step_done").recorded_by.startswith("educator")
    assert "Stir the raita" in page(hostel)


def test_hands_seen_washed_count_as_long_as_the_rules_ask(hostel: Hostel) -> None:
    hostel.open()
    assert "Hands washed" in page(hostel)
    tap(hostel, scrub_s="20", washed="AK")
    state, _ = selectors.bench_state(hostel.puffin)
    assert state.person("AK").washed is not None
    assert state.person("JT").washed is None


def test_what_it_would_break_stands_at_the_button(hostel: Hostel) -> None:
    hostel.open().arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=21)
    hostel.says("step_done", step="wash", by=["AK"])
    hostel.says("cleaned", tools=["mixing bowl", "board", "tray"], how="clean")
    hostel.says("step_done", step="wash-up", by=["AK"])
    hostel.says("touched", learner="AK", what="bin")
    found = page(hostel)
    assert "Unwashed hands in the" in found or "waste" in found.lower()
    tap(hostel, step="slice", done_by="JT")
    hostel.says("hands_washed", learner="AK", scrub_s=21)
    assert "It is on the heat" in page(hostel)
    tap(hostel, step="griddle", kind="on_heat")
    assert "griddle" in selectors.bench_state(hostel.puffin)[0].on_heat


def test_a_tap_that_says_nothing_is_refused_in_words(hostel: Hostel) -> None:
    hostel.open()
    answer = hostel.client().post(f"/benches/{hostel.puffin.pk}/entry/", {"step": "grate"}, follow=True)
    assert "Say what happened." in answer.content.decode()
    assert not Event.objects.exists()


def test_nothing_is_tapped_once_the_lesson_is_over(hostel: Hostel) -> None:
    hostel.open().arrive().close()
    assert "did it" not in page(hostel)
