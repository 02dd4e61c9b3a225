"""A recipe over two lessons: where it may stop, and what each lesson cooks."""

from __future__ import annotations

from typing import Any

import pytest

from foodsafety.contamination import analyse
from foodsafety.planning import HALF, TAKE_OUT, HalfTitles, half_of, halved, safe_stops
from foodsafety.quantities import CoreError
from foodsafety.recipes import process_from
from tests.builders import DEMOS, demo_recipe

TITLES = HalfTitles(take_out="Take it out of the fridge", wash="Wash hands before leaving")


def step(name: str, do: str, foods: list[str], makes: str | None = None, **more: Any) -> dict[str, Any]:
    return {"id": name, "do": do, "foods": foods, "makes": makes, "hands": ["cook"], **more}


def recipe(*steps: dict[str, Any], kinds: dict[str, str], serve: str) -> dict[str, Any]:
    return {
        "foods": {name: {"kind": kind} for name, kind in kinds.items()},
        "tools": {"bowl": {"kind": "bowl"}, "oven": {"kind": "oven"}, "pan": {"kind": "frying_pan"}},
        "people": ["cook"],
        "steps": [*steps, step("serve", "serve", [serve], hands=[])],
        "serve": [serve],
    }


BISCUITS = {"butter": "butter", "sugar": "sugar", "egg": "egg", "flour": "plain_flour"}


def biscuits(**chill: Any) -> dict[str, Any]:
    return recipe(
        step("melt", "heat", ["butter"], tools=["pan"], hands=[], minutes=3),
        step("mix", "mix", ["butter", "sugar", "egg", "flour"], "dough", tools=["bowl"], minutes=8),
        step("chill", "chill", ["dough"], tools=["bowl"], hands=[], minutes=31, waiting_min=30, **chill),
        step("roll", "touch", ["dough"], minutes=10),
        step("bake", "heat", ["dough"], tools=["oven"], hands=[], minutes=12, oven_c=180),
        kinds=BISCUITS,
        serve="dough",
    )


def test_it_may_stop_where_the_recipe_chills_its_dough() -> None:
    [stop] = safe_stops(process_from(biscuits()))
    assert (stop.step, stop.kept, stop.place) == ("chill", "dough", "fridge")
    assert {"raw_egg", "raw_flour"} <= stop.soils
    # It was warmed and is raw: the strictest of both counts.
    assert {"raw_whites_or_yolks", "cooked_dish"} <= set(stop.categories)


def test_the_first_lesson_ends_cold_with_clean_hands_and_the_second_knows_what_is_in_it() -> None:
    data = biscuits()
    [stop] = safe_stops(process_from(data))
    first, second = halved(data, stop, TITLES)
    assert [row["id"] for row in first["steps"]] == ["melt", "mix", "chill", "wash-before-leaving"]
    assert next(row for row in first["steps"] if row["id"] == "chill")["waiting_min"] == 0
    assert first["serve"] == []
    assert second["serve"] == ["dough"]
    assert [row["id"] for row in second["steps"]] == [TAKE_OUT, "roll", "bake", "serve"]
    assert process_from(second).ingredients_of("dough") == frozenset(BISCUITS)
    assert process_from(second).foods["egg"].soils == {"raw_egg"}
    assert first[HALF] == {"n": 1, "stop": "chill", "kept": "dough", "place": "fridge"}


def test_a_dough_that_is_never_baked_is_still_found_in_the_second_lesson() -> None:
    data = biscuits()
    data["steps"] = [row for row in data["steps"] if row["id"] != "bake"]
    [stop] = safe_stops(process_from(data))
    _first, second = halved(data, stop, TITLES)
    found = {row.soil for row in analyse(process_from(second)).findings}
    assert {"raw_egg", "raw_flour"} <= found


def mince(do: str, *, until: str = "") -> dict[str, Any]:
    return recipe(
        step("fry", do, ["mince"], "fried mince", tools=["pan"], hands=[], minutes=6, until=until),
        step("stir", "mix", ["fried mince", "rice"], "filling", tools=["bowl"], minutes=2),
        step("chill", "chill", ["filling"], hands=[], minutes=30),
        step("fill", "mix", ["filling", "pepper"], "stuffed pepper", minutes=5),
        step("bake", "heat", ["stuffed pepper"], tools=["oven"], hands=[], minutes=30),
        kinds={"mince": "beef_mince", "rice": "cooked_rice", "pepper": "bell_pepper"},
        serve="stuffed pepper",
    )


@pytest.mark.parametrize("data", [mince("part_cook"), mince("heat", until="still pink"), mince("heat")])
def test_it_never_stops_with_meat_half_cooked_nor_where_it_must_be_heated_again(data: dict[str, Any]) -> None:
    assert safe_stops(process_from(data)) == ()


def test_cooked_food_that_is_eaten_cold_may_wait_and_is_clean_in_the_second_lesson() -> None:
    data = mince("heat")
    data["steps"] = [row for row in data["steps"] if row["id"] != "bake"]
    [stop] = safe_stops(process_from(data))
    assert stop.soils == frozenset()
    assert "cooked_dish" in stop.categories
    _first, second = halved(data, stop, TITLES)
    assert process_from(second).foods["mince"].soils == frozenset()


def test_meat_half_cooked_is_never_kept_though_nothing_heats_it_again() -> None:
    data = mince("part_cook")
    data["steps"] = [row for row in data["steps"] if row["id"] != "bake"]
    assert safe_stops(process_from(data)) == ()


def test_it_does_not_stop_where_something_else_would_lie_about() -> None:
    data = biscuits()
    # The icing is made first, in the bowl that the dough needs, and goes on at the end.
    data["foods"]["honey"] = {"kind": "honey"}
    data["steps"].insert(0, step("ice", "mix", ["honey"], "icing", tools=["bowl"], minutes=3))
    data["steps"].insert(-1, step("ice-it", "garnish", ["dough", "icing"], "iced biscuits", minutes=3))
    assert safe_stops(process_from(data)) == (), "the icing would stand about until the second day"


def test_a_half_follows_its_recipe_as_long_as_that_can_be_stopped_there() -> None:
    data = biscuits()
    [stop] = safe_stops(process_from(data))
    first, second = halved(data, stop, TITLES)
    assert half_of(data, first[HALF], TITLES) == first
    assert half_of(data, second[HALF], TITLES) == second
    data["steps"] = [row for row in data["steps"] if row["id"] != "chill"]
    with pytest.raises(CoreError, match="no safe stop"):
        half_of(data, first[HALF], TITLES)


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_the_halves_of_any_recipe_have_all_its_work_and_no_finding_of_their_own(path: Any) -> None:
    data = demo_recipe(path.stem)["process"]
    whole = process_from(data)
    for stop in safe_stops(whole):
        first, second = halved(data, stop, TITLES)
        own = {TAKE_OUT, "wash-before-leaving"}
        done = [{row["id"] for row in half["steps"]} - own for half in (first, second)]
        assert not done[0] & done[1]
        assert done[0] | done[1] == {row.id for row in whole.steps}
        known = {(row.rule, row.soil) for row in analyse(whole).findings}
        assert {(row.rule, row.soil) for row in analyse(process_from(second)).findings} <= known
