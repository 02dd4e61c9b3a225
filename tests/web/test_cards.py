"""A bench on paper: its card typed in afterwards, in one pass."""

import datetime as dt

import pytest
from django.utils import timezone

from bulwark.lessons import selectors
from bulwark.lessons.models import Event, Lesson
from bulwark.pack import cards
from bulwark.pack.pages import _cards as cards_page
from bulwark.pack.selectors import Pack
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
    for n, row in enumerate(cards.rows_of(Pack(hostel.lesson), hostel.puffin)):
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
            typed[f"{row.name}-{piece}"] = "176" if row.kind == "core_read" else "38"
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
    heat = next(row for row in cards.rows_of(Pack(hostel.lesson), hostel.puffin) if row.timed and row.kind == "step")
    answer = enter(hostel, filled(hostel, **{f"at-{heat.name}": ""}))

    assert answer.status_code == 422
    assert "The time is needed here" in answer.content.decode()
    assert not Event.objects.filter(bench=hostel.puffin).exists()
    assert 'value="176"' in answer.content.decode(), "what was typed is kept"


def test_what_is_not_ticked_is_not_said(hostel: Hostel) -> None:
    core = next(row for row in cards.rows_of(Pack(hostel.lesson), hostel.puffin) if row.kind == "core_read")
    enter(hostel, filled(hostel, **{f"{core.name}-{piece}": "" for piece in core.readings}))
    state = selectors.bench_state(hostel.puffin)[0]

    assert [row.finding.rule for row in state.open_incidents] == ["served-not-measured"]


@pytest.mark.parametrize(
    ("more", "why"),
    [
        ({"at-fridge": "25:99"}, "fridge"),
        ({"fridge-1": "cold"}, "fridge"),
        ({"fridge-1": "4000"}, ""),
    ],
)
def test_what_cannot_be_is_named_by_its_row(hostel: Hostel, more: dict[str, str], why: str) -> None:
    answer = enter(hostel, filled(hostel, **more))

    assert answer.status_code == 422
    assert why in answer.content.decode()
    assert not Event.objects.filter(bench=hostel.puffin).exists()


def test_times_that_go_to_and_fro_are_put_in_order(hostel: Hostel) -> None:
    """Several people work at once: a row further down may have been done before."""
    rows = [row for row in cards.rows_of(Pack(hostel.lesson), hostel.puffin) if row.kind == "step"]
    early = (timezone.localtime(hostel.lesson.began_at) + dt.timedelta(minutes=2)).strftime("%H:%M")
    assert enter(hostel, filled(hostel, **{f"at-{rows[3].name}": early})).status_code == 302

    done = [row.data["step"] for row in Event.objects.filter(bench=hostel.puffin, kind="step_done").order_by("seq")]
    assert done[0] == rows[3].of


def test_the_printed_card_asks_for_every_row_that_is_typed_in(hostel: Hostel) -> None:
    pack = Pack(hostel.lesson)
    card = cards_page(pack)["cards"][0]
    printed = [row["what"] for row in card["rows"]]
    typed = [row for row in cards.rows_of(pack, card["bench"]) if row.kind not in ("ready", "wash", "step")]

    assert {row.kind for row in typed} >= {"fridge_read", "core_read", "kept"}
    assert [what for what in printed if what in {row.says for row in typed}] == [row.says for row in typed]


def test_an_empty_card_says_so_and_a_strangers_is_not_there(hostel: Hostel) -> None:
    assert "Nothing on the card is ticked" in enter(hostel, {}).content.decode()
    other = Hostel("Gull Rock Hostel").client()
    assert other.get(f"/benches/{hostel.puffin.pk}/card/").status_code == 404


def test_a_card_is_typed_in_in_the_unit_it_was_printed_in(hostel: Hostel) -> None:
    """38 °C read as 100 °F must not become 100 °C, which would be cooked."""
    client = hostel.client()
    client.post("/unit/", {"unit": "C"})
    core = next(row for row in cards.rows_of(Pack(hostel.lesson), hostel.puffin) if row.kind == "core_read")
    assert "°F" in client.get(f"/benches/{hostel.puffin.pk}/card/").content.decode()
    typed = filled(hostel, **{f"{core.name}-{piece}": "100" for piece in core.readings})
    asked = client.post(f"/benches/{hostel.puffin.pk}/card/", typed)
    assert asked.status_code == 422, "100 looks like Celsius"
    assert f'name="really-{core.name}"' in asked.content.decode()
    assert not Event.objects.filter(bench=hostel.puffin).exists()
    client.post(f"/benches/{hostel.puffin.pk}/card/", {**typed, f"really-{core.name}": "on"})

    read = [row.data["core_c"] for row in Event.objects.filter(bench=hostel.puffin, kind="core_read")]
    assert read
    assert max(read) < 38


def test_a_card_is_typed_in_after_the_lesson_with_what_was_put_away_after_its_end(hostel: Hostel) -> None:
    ended = timezone.now() - dt.timedelta(hours=1)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(closed_at=ended)
    hostel.lesson.refresh_from_db()
    kept = next(row for row in cards.rows_of(Pack(hostel.lesson), hostel.puffin) if "kofta" in row.of and row.choices)
    late = timezone.localtime(ended + dt.timedelta(minutes=20)).strftime("%H:%M")
    assert enter(hostel, filled(hostel, **{f"at-{kept.name}": late})).status_code == 302

    food = selectors.bench_state(hostel.puffin)[0].food("koftas")
    assert food.kept, "it is known to be in the fridge"
    assert food.kept.out_s > 20 * 60, "and that it stood out until after the end"
    assert hostel.client().get(f"/shelf/{hostel.puffin.pk}/koftas/").status_code == 200


def test_a_card_sent_twice_is_one_card(hostel: Hostel) -> None:
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/card/").content.decode()
    card = page.split('name="card" value="')[1].split('"')[0]
    typed = filled(hostel, card=card)
    enter(hostel, typed)
    once = Event.objects.filter(bench=hostel.puffin).count()
    assert enter(hostel, typed).status_code == 302

    assert Event.objects.filter(bench=hostel.puffin).count() == once > 10
    assert enter(hostel, {**typed, "card": "no card"}).status_code == 302, "another one comes on top"
    assert Event.objects.filter(bench=hostel.puffin).count() > once


def test_washes_that_the_recipe_leaves_out_are_on_the_card_and_told_with_the_plan(hostel: Hostel) -> None:
    assert "leaves out washes" not in hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/").content.decode()
    process = hostel.lesson.process
    gone = {row["id"] for row in process["steps"] if row["do"] in ("wash_hands", "clean")}
    kept = [
        {**row, "after": [name for name in row.get("after", []) if name not in gone]}
        for row in process["steps"] if row["id"] not in gone
    ]  # fmt: skip
    Lesson.objects.filter(pk=hostel.lesson.pk).update(process={**process, "steps": kept})
    hostel.lesson.refresh_from_db()
    hostel.puffin.refresh_from_db()

    rows = cards.rows_of(Pack(hostel.lesson), hostel.puffin)
    assert [row.kit for row in rows if row.kind == "clean"], "the kit that held raw turkey"
    assert any(row.kind == "wash" and not row.of and row.name != "arrive" for row in rows)
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/").content.decode()
    assert "leaves out washes" in page
    assert "is-hands" in page, "and the plan has bricks for them"
    assert "is-kit" in page


def test_a_tick_at_a_wash_says_that_it_was_counted(hostel: Hostel) -> None:
    pack = Pack(hostel.lesson)
    typed = [row.says for row in cards.rows_of(pack, hostel.puffin) if row.kind == "wash"]
    printed = [row["detail"] for row in cards_page(pack)["cards"][0]["rows"] if row["kind"] == "wash"]

    assert typed
    assert all("counted" in says for says in typed)
    assert len(printed) == len(typed)
    assert all("counted" in says for says in printed)
    assert all(says.count("☐") > 1 for says in printed), "each ticks their own"
