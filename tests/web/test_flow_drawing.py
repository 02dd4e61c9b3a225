"""The geometry and the words of the flow map: nothing overlaps, every state survives greyscale."""

import itertools
import math
import re
import tomllib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bulwark.flow import drawings, wording
from bulwark.flow.drawings import FITS, HEAD_H, LABEL_W, MAP_W, View, flow_map, palette, soil_look, wrapped
from bulwark.presentation import phrases
from foodsafety.contamination import Finding, Flow, flow_of
from foodsafety.data import data_text
from foodsafety.foods import soils
from foodsafety.recipes import process_from, reorder_steps
from tests.builders import a_process, demo_recipe
from tests.core.random_processes import crowded

LATE = "grate,stir,chill,mix,shape,slice,wash,wash-up,griddle,fresh-tongs,probe,plate,serve"


def late() -> Flow:
    return flow_of(process_from(reorder_steps(demo_recipe()["process"], LATE.split(","))))


def steps(count: int) -> Flow:
    process = a_process()
    for n in range(count):
        process.step("cut", "leek carrot", tools="board knife", hands="AK", id=f"s{n}")
    return flow_of(process.serve("leek", "carrot").build())


def drawn(flow: Flow, view: View | None = None) -> drawings.FlowMap:
    return flow_map(flow, {step.id: "" for step in flow.process.steps}, {}, view or View())


def test_twelve_steps_stand_beside_their_labels_without_scrolling() -> None:
    twelve, thirteen = drawn(steps(FITS)), drawn(steps(FITS + 1))

    assert LABEL_W + twelve.width <= MAP_W + 12
    assert not twelve.scrolls
    assert thirteen.scrolls


@pytest.mark.parametrize("flow", [late(), flow_of(crowded(2)), steps(40)], ids=["koftas", "crowded", "forty"])
def test_lanes_and_columns_keep_clear_of_each_other(flow: Flow) -> None:
    found = drawn(flow)
    ys = [row.y for row in found.rows]
    xs = [head.x for head in found.heads]

    assert all(b - a >= drawings.NARROWEST_PITCH for a, b in itertools.pairwise(ys))
    assert all(b - a >= 45 for a, b in itertools.pairwise(xs))
    assert min(ys) > HEAD_H
    assert max(ys) < found.height


@pytest.mark.parametrize("flow", [late(), flow_of(crowded(2))], ids=["koftas", "crowded"])
def test_bands_stay_in_their_lane_and_on_the_map(flow: Flow) -> None:
    found = drawn(flow)
    at = {row.id: row.y for row in found.rows}

    for ribbon in found.ribbons:
        assert abs(ribbon.y + ribbon.height / 2 - at[ribbon.lane]) <= drawings.NARROWEST_PITCH / 2
        assert ribbon.width >= 0
        assert ribbon.x + ribbon.width <= found.width


def test_the_path_is_numbered_like_the_panel_and_leaves_for_the_plate() -> None:
    flow = late()
    [finding] = flow.analysis.findings
    found = drawn(flow, View(finding=finding))

    assert [stop.number for stop in found.stops] == [1, 2, 4]
    assert len(wording.hops(finding, flow)) == 4
    assert found.arrow is not None
    assert found.bad_column is not None
    assert any(brick.broken for brick in found.bricks)
    assert not any(brick.broken for brick in drawn(flow).bricks)


def test_the_legs_of_a_path_join_end_to_end() -> None:
    flow = late()
    found = drawn(flow, View(finding=flow.analysis.findings[0]))

    assert all((a.x2, a.y2) == (b.x1, b.y1) for a, b in itertools.pairwise(found.legs))


def test_every_soil_has_a_pattern_of_its_own_besides_its_colour() -> None:
    looks = [soil_look(name) for name in (*(set(soils()) - {"unknown"}), "milk")]

    assert len({look.path for look in looks}) == len(looks)
    assert len({look.fill for look in looks}) == len(looks)


@pytest.mark.parametrize("name", [*soils(), "milk", "tree_nuts"])
def test_the_pattern_is_told_from_its_ground_in_greyscale(name: str) -> None:
    look = soil_look(name)

    assert contrast(look.fill, look.ink) >= 3.0


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours (WCAG 2.2)."""

    def light(colour: str) -> float:
        parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        red, green, blue = (part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
        return 0.2126 * red + 0.7152 * green + 0.0722 * blue

    dark, bright = sorted((light(one), light(other)))
    return (bright + 0.05) / (dark + 0.05)


def test_every_colour_a_drawing_names_is_a_token() -> None:
    folder = drawings.TOKENS.parents[2] / "flow/templates/flow"
    used = {
        name for file in folder.rglob("*") if file.is_file() for name in re.findall(r"\bc\.([a-z_]+)", file.read_text())
    }

    assert used <= palette().keys()
    assert all(re.fullmatch(r"#[0-9a-f]{6}", value) for value in palette().values())


@given(st.text(alphabet=st.characters(categories=("Ll", "Zs")), max_size=80), st.floats(45, 96))
def test_a_title_over_a_column_has_three_lines_at_most_and_fits(text: str, width: float) -> None:
    lines = wrapped(text, width)

    assert len(lines) <= 3
    assert all(len(line) <= max(6, int(width / 7.8)) for line in lines)
    assert all(lines)


def test_a_title_goes_without_its_small_words_before_it_loses_its_last() -> None:
    assert wrapped("Slice the rest of the cucumber", 66) == ("Slice", "cucumber")


def test_every_rule_has_a_heading_of_its_own() -> None:
    rules = tomllib.loads(data_text("contact_rules.toml"))
    found = {rule: wording.finding_title(Finding(rule=rule, step="1", soil="raw_egg", food="salad")) for rule in rules}

    assert len(set(found.values())) == len(rules)
    assert all(rule.replace("-", " ") != text for rule, text in found.items())


@pytest.mark.parametrize(
    ("celsius", "unit", "shown"),
    [
        (74.0, "C", "74 °C"),
        (71.1, "C", "71.1 °C"),
        (73.8889, "F", "165 °F"),
        (71.11, "C", "71.2 °C"),
        (62.78, "F", "145.1 °F"),
    ],
)
def test_a_temperature_to_reach_is_never_shown_below_what_it_is(celsius: float, unit: str, shown: str) -> None:
    text = phrases.aim_degrees(celsius, unit)
    number = float(text.split()[0])

    assert text == shown
    assert number >= (celsius if unit == "C" else celsius * 1.8 + 32) - 1e-3
    assert not math.isnan(number)
