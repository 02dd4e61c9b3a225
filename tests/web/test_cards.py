"""A bench on paper: its card typed in afterwards, in one pass."""

import datetime as dt

import pytest
from django.utils import timezone

from bulwark.lessons import cards, selectors
from bulwark.lessons.models import Event, Lesson
from foodsafety.lesson import bricks
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


@pytest.fixture
def hostel() -> Hostel:
    hostel = Hostel().open()
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=timezone.now() - dt.timedelta(hours=3))
    hostel.lesson.refresh_from_db()
    return hostel


def filled(hostel: Hostel, **more: object) -> dict[str, object]:
    """Everything ticked and timed, as on a card that went well."""
    began = timezone.localtime(hostel.lesson.began_at)
    typed: dict[str, object] = {}
    for n, row in enumerate(cards.rows_of(hostel.puffin)):
        at = (began + dt.timedelta(minutes=3 * n + 1)).strftime("%H:%M")
        typed[f"at-{row.name}"] = at if row.timed else ""
        if row.people:
            typed[row.name] = list(row.people)
        elif row.kind == "step":
            typed[row.name] = ["yes"]
            typed[f"by-{row.name}"] = "AK" if row.doer else ""
        elif row.choices:
            typed[row.name] = ["fridge" if "kofta" in row.of else "eaten"]
        for piece in row.readings:
            typed[f"{row.name}-{piece}"] = "80" if row.kind == "core_read" else "3.5"
    return {**typed, **more}


def enter(hostel: Hostel, typed: dict[str, object]):
    return hostel.client().post(f"/benches/{hostel.puffin.pk}/card/", typed)


def test_a_whole_card_is_a_whole_wall(hostel: Hostel) -> None:
    assert enter(hostel, filled(hostel)).status_code == 302
    state = selectors.bench_state(hostel.puffin)[0]
    rows = {row.control.id: row.status for row in bricks(state, timezone.now().timestamp(), ended=True)}

    assert set(state.done) == {step.id for step in state.plan.process.steps}
    assert rows["hands-arrive"] == rows["core-griddle"] == rows["fridge"] == "laid"
    times = list(Event.objects.filter(bench=hostel.puffin).order_by("seq").values_list("happened_at", flat=True))
    assert times == sorted(times), "in the order of the card"
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/").content.decode()
    assert "reached the log" in page, "marked as entered later"


def test_a_time_on_which_a_clock_hangs_has_to_be_written_and_nothing_is_entered_without(hostel: Hostel) -> None:
    heat = next(row for row in cards.rows_of(hostel.puffin) if row.timed and row.kind == "step")
    answer = enter(hostel, filled(hostel, **{f"at-{heat.name}": ""}))

    assert answer.status_code == 422
    assert "The time is needed here" in answer.content.decode()
    assert not Event.objects.filter(bench=hostel.puffin).exists()
    assert 'value="80"' in answer.content.decode(), "what was typed is kept"


def test_what_is_not_ticked_is_not_said(hostel: Hostel) -> None:
    core = next(row for row in cards.rows_of(hostel.puffin) if row.kind == "core_read")
    enter(hostel, filled(hostel, **{f"{core.name}-{piece}": "" for piece in core.readings}))
    state = selectors.bench_state(hostel.puffin)[0]

    assert [row.finding.rule for row in state.open_incidents] == ["served-not-measured"]


@pytest.mark.parametrize(
    ("more", "why"),
    [
        ({"at-fridge": "25:99"}, "fridge"),
        ({"fridge-1": "cold"}, "fridge"),
        ({"fridge-1": "400"}, ""),
    ],
)
def test_what_cannot_be_is_named_by_its_row(hostel: Hostel, more: dict[str, str], why: str) -> None:
    answer = enter(hostel, filled(hostel, **more))

    assert answer.status_code == 422
    assert why in answer.content.decode()
    assert not Event.objects.filter(bench=hostel.puffin).exists()


def test_times_that_go_backwards_are_refused(hostel: Hostel) -> None:
    last = [row for row in cards.rows_of(hostel.puffin) if row.timed][-1]
    early = timezone.localtime(hostel.lesson.began_at).strftime("%H:%M")
    answer = enter(hostel, filled(hostel, **{f"at-{last.name}": early}))

    assert "The card goes in its order" in answer.content.decode()


def test_an_empty_card_says_so_and_a_strangers_is_not_there(hostel: Hostel) -> None:
    assert "Nothing on the card is ticked" in enter(hostel, {}).content.decode()
    other = Hostel("Gull Rock Hostel").client()
    assert other.get(f"/benches/{hostel.puffin.pk}/card/").status_code == 404
