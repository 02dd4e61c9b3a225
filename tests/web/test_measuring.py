"""Taking a temperature at the bench: where no step says so, before serving, and after."""

import re
from typing import Any

import pytest

from tests.builders import demo_recipe
from tests.web.conftest import Hostel, post_entry

BEFORE_HEAT = ("grate", "stir", "chill", "mix", "shape", "wash", "wash-up", "slice")
FIRST_PROOF = tuple((piece, 75.0) for piece in ("1", "2", "3"))


def without_probing() -> dict[str, Any]:
    """The demo recipe as somebody writes it who does not think of a thermometer."""
    data = demo_recipe()
    process = data["process"]
    process["steps"] = [step for step in process["steps"] if step["id"] != "probe"]
    for step in process["steps"]:
        if "after" in step:
            step["after"] = ["griddle" if name == "probe" else name for name in step["after"]]
    return data


@pytest.fixture
def unprobed(db: None) -> Hostel:
    hostel = Hostel(data=without_probing()).open()
    hostel.arrive()
    for step in BEFORE_HEAT:
        hostel.says("step_done", step=step, by=["AK"])
        hostel.says("hands_washed", learner="AK", scrub_s=20)
    hostel.says("cold_read", food="raita", core_c=3.0)
    return hostel


def screen(hostel: Hostel, asked: str = "") -> str:
    return hostel.tablet().get("/b/screen/", {"panel": asked} if asked else {}).content.decode()


def current(html: str) -> str:
    return re.search(r'data-current="([^"]+)"', html)[1]


def panel(html: str, name: str) -> str:
    return html.split(f'data-panel="{name}"')[1].split("data-panel=")[0]


def griddled(hostel: Hostel) -> Hostel:
    hostel.says("step_done", step="griddle", by=["AK"])
    return hostel


def test_a_full_cook_that_no_step_measures_gets_its_probing_panel_after_the_heat(unprobed: Hostel) -> None:
    assert current(screen(unprobed)) == "step-griddle"

    html = screen(griddled(unprobed))

    assert current(html) == "core-griddle"
    assert 'data-kind="core_read" data-food="koftas"' in panel(html, "core-griddle")


def test_the_probing_panel_stays_to_say_what_was_reached_and_then_gives_way(unprobed: Hostel) -> None:
    tablet = griddled(unprobed).tablet()
    for piece, core_c in FIRST_PROOF:
        answer = post_entry(tablet, "core_read", data={"food": "koftas", "piece": piece, "value": core_c, "unit": "C"})
        assert answer.status_code == 200

    lingering = screen(unprobed, asked="core-griddle")

    assert current(lingering) == "core-griddle"
    assert "Reached" in panel(lingering, "core-griddle")
    assert "data-go-on" in panel(lingering, "core-griddle")
    assert current(screen(unprobed)) == "step-fresh-tongs"


def test_serving_unmeasured_food_offers_to_measure_to_cook_on_and_to_throw_away(unprobed: Hostel) -> None:
    html = screen(griddled(unprobed))

    serve = panel(html, "step-serve")

    assert "served and never measured" in serve
    assert 'data-kind="core_read" data-food="koftas"' in serve
    assert 'value="cooked_again"' in serve
    assert 'value="discarded"' in serve


@pytest.mark.parametrize("fix", ["measured", "thrown away"])
def test_what_the_interlock_offers_ends_it(unprobed: Hostel, fix: str) -> None:
    griddled(unprobed)
    if fix == "measured":
        for piece, core_c in FIRST_PROOF:
            unprobed.says("core_read", food="koftas", piece=piece, core_c=core_c)
    else:
        unprobed.says("gone", food="koftas", how="discarded")

    html = screen(unprobed)

    assert "served and never measured" not in html
    assert current(html) == "step-fresh-tongs"


def test_food_served_unmeasured_can_still_be_measured_at_once(unprobed: Hostel) -> None:
    griddled(unprobed)
    for step in ("fresh-tongs", "plate", "serve"):
        unprobed.says("step_done", step=step, by=["JT"])

    alarm = screen(unprobed).split('class="bw-alarm"')[1].split("</section>")[0]
    for piece, core_c in FIRST_PROOF:
        unprobed.says("core_read", food="koftas", piece=piece, core_c=core_c)

    assert 'data-kind="core_read" data-food="koftas"' in alarm
    assert 'class="bw-alarm"' not in screen(unprobed)


def test_after_a_low_reading_the_probe_is_cleaned_and_the_same_piece_asked_for(unprobed: Hostel) -> None:
    griddled(unprobed).says("core_read", food="koftas", piece="1", core_c=61.0)
    soiled = panel(screen(unprobed), "core-griddle")
    unprobed.says("cleaned", tools=["probe"], how="clean")

    asked = panel(screen(unprobed), "core-griddle")

    assert "Not yet: kofta 1" in asked
    assert "Probe cleaned and sanitized" in soiled
    assert 'data-piece="1"' in asked


def test_until_when_food_keeps_is_said_before_the_tap(unprobed: Hostel) -> None:
    html = panel(screen(unprobed), "leftovers")
    raita = html.split("<h2>Raita</h2>")[1].split("</article>")[0]
    assert "use by" in raita
    assert "best before" in raita


def test_what_has_to_be_washed_has_one_panel_where_no_step_of_the_recipe_washes_it(db: None) -> None:
    data = demo_recipe()
    process = data["process"]
    process["steps"] = [step for step in process["steps"] if step["id"] not in ("wash", "wash-up")]
    for step in process["steps"]:
        step["after"] = [name for name in step.get("after", []) if name not in ("wash", "wash-up")]
    hostel = Hostel(data=data).open()
    hostel.arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    html = screen(hostel)
    assert current(html) == "washing-up-shape"
    shown = panel(html, "washing-up-shape")
    assert 'data-wash="AK"' in shown
    assert 'data-wash="JT"' not in shown
    assert 'name="tools" value="board"' in shown

    hostel.says("hands_washed", learner="AK", scrub_s=20)
    hostel.says("cleaned", tools=["mixing bowl", "board"], how="clean")
    assert current(screen(hostel)) == "step-slice"


def test_hands_that_are_soiled_again_after_the_recipe_has_washed_them_are_asked_about(db: None) -> None:
    data = demo_recipe()
    for step in data["process"]["steps"]:
        if step["id"] == "shape":
            step["tools"] = ["board"]
        if step["id"] == "griddle":  # laid on by hand, after the wash that the recipe says
            step["tools"] = ["griddle"]
    hostel = Hostel(data=data).open()
    hostel.arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    assert current(screen(hostel)) == "step-wash", "the recipe's own wash comes first, and is asked once"
    hostel.says("hands_washed", learner="AK", scrub_s=20)
    for step in ("wash", "wash-up", "slice", "griddle"):
        hostel.says("step_done", step=step, by=["AK"])

    asked = screen(hostel)
    assert current(asked) == "washing-up-shape"
    assert 'data-wash="AK"' in panel(asked, "washing-up-shape")
    hostel.says("hands_washed", learner="AK", scrub_s=20)
    assert current(screen(hostel)) != "washing-up-shape"
