"""The flow as facts: lanes, bands and what ends them, contacts, the path of a finding."""

import pytest

from foodsafety.contamination import MOST_LANES, Flow, Lane, flow_of
from foodsafety.recipes import process_from, reorder_steps
from tests.builders import a_process, demo_recipe
from tests.core.random_processes import crowded

LATE = "grate,stir,chill,mix,shape,slice,wash,wash-up,griddle,fresh-tongs,probe,plate,serve"


def koftas(order: str = "") -> Flow:
    data = demo_recipe()["process"]
    return flow_of(process_from(reorder_steps(data, order.split(",")) if order else data))


def lane(flow: Flow, name: str) -> Lane:
    return next(row for row in flow.lanes if name in row.names)


def bands(flow: Flow, name: str) -> list[tuple[str, int, int, str]]:
    return [(b.soil, b.start, b.end, b.ending) for b in flow.bands if b.lane == lane(flow, name).id]


def test_lanes_run_from_raw_down_to_ready_to_eat() -> None:
    groups = [row.group for row in koftas().lanes]

    assert groups == sorted(groups, key=["raw", "kit", "ready"].index)
    assert lane(koftas(), "turkey").group == "raw"
    assert lane(koftas(), "raita").group == "ready"


def test_a_food_and_what_it_becomes_share_a_lane() -> None:
    assert lane(koftas(), "turkey") == lane(koftas(), "koftas")
    assert lane(koftas(), "yoghurt") == lane(koftas(), "raita")


def test_a_band_ends_where_heat_or_a_wash_ends_it() -> None:
    flow = koftas()

    assert bands(flow, "turkey") == [("raw_poultry", -1, 8, "heat")]
    assert bands(flow, "cook") == [("raw_poultry", 3, 5, "wash")]
    assert bands(flow, "tray") == [("raw_poultry", 4, 8, "heat")]


def test_what_nothing_ends_runs_to_the_plate() -> None:
    flow = koftas(LATE)

    assert bands(flow, "salad") == [("raw_poultry", 5, 13, "")]


def test_the_path_of_a_finding_goes_from_lane_to_lane() -> None:
    flow = koftas(LATE)
    [finding] = flow.analysis.findings

    assert [(hop.carrier, hop.step) for hop in flow.hops(finding)] == [
        ("turkey", -1),
        ("cook", 3),
        ("cucumber for the salad", 5),
        ("salad", 5),
    ]
    assert flow.served["salad"] == 12


def test_clean_things_used_once_are_folded_into_their_step() -> None:
    flow = koftas()
    folded = {name for contact in flow.contacts for name in contact.folded}

    assert {"grater", "breadcrumbs", "spoon"} <= folded
    assert all(row.id not in folded for row in flow.lanes)


def test_each_soil_has_a_band_of_its_own() -> None:
    process = (
        a_process()
        .food("egg", "raw_egg")
        .food("flour", "raw_flour")
        .step("mix", "egg flour", tools="bowl", makes="dough")
    )
    flow = flow_of(process.step("heat", "dough", tools="tin").serve("dough").build())

    assert {(soil, ending) for soil, _, _, ending in bands(flow, "bowl")} == {("raw_egg", ""), ("raw_flour", "")}


@pytest.mark.parametrize("seed", range(6))
def test_every_band_and_contact_of_a_crowded_process_is_on_a_lane(seed: int) -> None:
    flow = flow_of(crowded(seed))
    known = {row.id for row in flow.lanes}

    assert len(flow.lanes) > MOST_LANES
    assert all(band.lane in known and -1 <= band.start <= band.end <= 40 for band in flow.bands)
    assert all(name in known for contact in flow.contacts for name, _ in contact.members)
    assert all(hop.lane in known for finding in flow.analysis.findings for hop in flow.hops(finding))
