"""Every key is what the core computes, every other answer is wrong, and no puzzle has two right ones."""

from __future__ import annotations

import datetime as dt
import itertools
import json
import os
from collections import Counter
from collections.abc import Mapping
from dataclasses import replace
from fractions import Fraction
from typing import Any

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.cooking import Probing, cook_verdict
from foodsafety.cooling import ChillSituation, ChillWay, container, plan_chill, unknown_dish
from foodsafety.foods import unit_ml
from foodsafety.lesson import State, allowed, clock_of, opening_state, storage_categories
from foodsafety.lesson.changed import changed
from foodsafety.ordering import washes_as_written
from foodsafety.practice import KINDS, Material, Puzzle, a_round, make, make_new
from foodsafety.practice.heat_checks import practice_table, tip_judged
from foodsafety.practice.kitchen_sense import hob_dangers
from foodsafety.practice.limits_asked import latest_step
from foodsafety.practice.planted import PlantedSlip, planted_too, slips_in
from foodsafety.practice.time_checks import most_minutes, shelf_harm
from foodsafety.recipes import Process, Step, Tool, process_from
from foodsafety.review import not_for
from foodsafety.rules import rule_profile
from foodsafety.shelf import Clock, StoredFood, use_by
from tests.core.practice.builders import NAMES, material

CODES = ("us-home", "uk", "anz")
# A small dose; PUZZLE_SEEDS=40 makes a thousand of each kind.
SEEDS = range(int(os.environ.get("PUZZLE_SEEDS", "6")))


def puzzles(kind: str) -> list[tuple[Material, Puzzle]]:
    rows = []
    for name, code, seed in itertools.product(NAMES, CODES, SEEDS):
        held = material(name, code)
        found = make(kind, held, seed=seed, level=1 + seed % 3)
        if found is not None:
            rows.append((held, found))
    assert len(rows) > 30, "a kind that the recipes have no place for proves nothing"
    return rows


@pytest.mark.parametrize("kind", KINDS)
def test_there_is_one_right_answer_and_none_is_said_twice(kind: str) -> None:
    for held, row in puzzles(kind):
        assert [choice.right for choice in row.choices].count(True) == 1
        said = [json.dumps(choice.says, sort_keys=True) for choice in row.choices]
        assert len(set(said)) == len(said) >= 2
        assert len({choice.id for choice in row.choices}) == len(row.choices)
        again = make(kind, held, seed=row.seed, level=row.level)
        assert again == row
        json.dumps([row.asks, row.why, [choice.why for choice in row.choices]])


def planted(held: Material, row: Puzzle) -> PlantedSlip:
    def alone(why: Mapping[str, Any], finding: Mapping[str, Any]) -> PlantedSlip:
        told = (why["change"], why["step"], finding["food"], finding["step"])
        return next(s for s in slips_in(held) if (s.change, s.step, s.first.food, s.first.step) == told)

    slip = alone(row.why, row.asks["finding"])
    for other in row.why.get("also", ()):
        both = planted_too(slip, alone(other, other["finding"]))
        assert both is not None
        slip = both
    return slip


def test_the_step_is_the_first_at_which_harm_is_done() -> None:
    counted: Counter[int] = Counter()
    for held, row in puzzles("find-slip"):
        slip = planted(held, row)
        where = slip.process.step_index
        harm = {finding.step for finding in find_contamination(slip.process, held.plan.house)}
        assert row.right.id == min(harm, key=where.__getitem__)
        later = {other["finding"]["step"] for other in row.why["also"]}
        assert later < harm, "each slip does harm of its own"
        wrong = {choice.id for choice in row.choices if not choice.right}
        assert wrong & harm <= later, "what else does harm is told as later, or not offered"
        drawn = [step["id"] for step in row.asks["steps"]]
        assert {choice.id for choice in row.choices} | later <= set(drawn)
        assert {name for name in row.asks["finding"]["at"] if name} <= set(drawn), "the way is not cut off"
        assert row.asks["slips"] == 1 + len(later) <= row.level
        counted[row.asks["slips"]] += 1
    assert set(counted) == {1, 2, 3}


def washed_before(process: Process, carrier: str, step_id: str) -> Process:
    """As if this one thing were clean when the step begins."""
    hands = carrier in process.people
    wash = Step(
        id="washed",
        do="wash_hands" if hands else "clean",
        hands=(carrier,) if hands else (),
        tools=() if hands else (carrier,),
    )
    at = process.step_index[step_id]
    return replace(process, steps=(*process.steps[:at], wash, *process.steps[at:]))


def test_washing_the_carrier_that_did_it_ends_it_and_washing_another_does_not() -> None:
    tried = 0
    for held, row in puzzles("contact"):
        slip, found = planted(held, row), row.asks["finding"]
        for choice in row.choices:
            name = choice.says["carrier"]
            if name in slip.process.foods or name in slip.process.made:
                continue
            tool: Tool | None = slip.process.tools.get(name)
            if tool is not None and tool.kind == "mouth":
                continue  # nobody washes a mouth
            after = find_contamination(washed_before(slip.process, name, found["step"]), held.plan.house)
            still = any((f.step, f.soil, f.food) == (found["step"], found["soil"], found["food"]) for f in after)
            assert still is not choice.right, (name, found)
            tried += 1
    assert tried > 100


def board_work(held: Material, order: list[str], asked: list[dict[str, Any]]) -> int | None:
    """The washes of an order, from a process written out anew."""
    hot = {row["food"]: row["cooked"] for row in asked}
    kinds = {name: held.plan.process.foods[name] for name in order}
    steps: list[dict[str, Any]] = [
        {"id": f"cut {n}", "do": "cut", "foods": [n], "tools": ["b", "k"], "hands": ["c"]} for n in order
    ]
    steps += [{"id": f"heat {n}", "do": "heat", "foods": [n]} for n in order if hot[n]]
    steps.append({"id": "serve", "do": "serve", "foods": order})
    raw = {name: [s for s in food.soils if s.startswith("raw_")] for name, food in kinds.items()}
    data = {
        "foods": {n: {"kind": kinds[n].kind.id, "soils": raw[n]} for n in order},
        "tools": {"b": {"kind": "board"}, "k": {"kind": "knife"}},
        "people": ["c"],
        "steps": steps,
        "serve": order,
    }
    return washes_as_written(process_from(data), held.plan.house).washes


def orders(row: Puzzle) -> list[tuple[str, ...]]:
    """Every order of the foods that what must come first allows."""
    must = row.asks["must"]
    rows = itertools.permutations([food["food"] for food in row.asks["foods"]])
    return [order for order in rows if not must or order.index(must[0]) < order.index(must[1])]


def test_of_the_orders_offered_one_needs_the_fewest_washes_of_all() -> None:
    for held, row in puzzles("order"):
        counted = {choice.id: board_work(held, choice.says["order"], row.asks["foods"]) for choice in row.choices}
        assert {c.id: c.says["washes"] for c in row.choices} == counted
        every = [board_work(held, list(o), row.asks["foods"]) for o in orders(row)]
        assert counted[row.right.id] == min(n for n in every if n is not None)
        assert list(counted.values()).count(counted[row.right.id]) == 1


def test_the_fewest_washes_are_those_of_the_best_of_all_orders() -> None:
    needed = set()
    for held, row in puzzles("fewest-washes"):
        every = [board_work(held, list(o), row.asks["foods"]) for o in orders(row)]
        assert row.right.says["washes"] == min(n for n in every if n is not None)
        needed.add(row.right.says["washes"])
    assert len(needed) > 1, "a key that is always the same is no puzzle"


def test_one_tip_is_in_the_middle_and_clear_of_bone_and_pan() -> None:
    for _held, row in puzzles("tip"):
        judged = {choice.id: tip_judged(row.asks["piece"], tuple(choice.says["tip"])) for choice in row.choices}
        assert [name for name, why in judged.items() if not why] == [row.right.id]
        assert all(choice.why["why"] == judged[choice.id] for choice in row.choices if not choice.right)


def test_tips_lie_beside_each_other_so_that_each_can_be_tapped() -> None:
    several = 0
    for _held, row in puzzles("tip"):
        places = sorted(choice.says["tip"][0] for choice in row.choices)
        near = min(after - before for before, after in itertools.pairwise(places))
        assert near >= 0.15 * row.asks["piece"]["length_mm"]
        several += len(places) >= 4
    assert several > 10


def test_a_tip_is_judged_by_its_distances() -> None:
    chop = practice_table()["pieces"]["chop"]
    assert tip_judged(chop, (85, 17)) == ""
    assert tip_judged(chop, (34, 17)) == "bone"
    assert tip_judged(chop, (85, 2)) == "pan"
    assert tip_judged(chop, (85, 31)) == "surface"
    assert tip_judged(chop, (140, 17)) == "thin-end"
    assert tip_judged(chop, (85, 40)) == "outside"


def test_what_a_thermometer_shows_in_ice_is_taken_off() -> None:
    for _held, row in puzzles("display"):
        assert row.right.says["core_c"] == round(row.asks["shows_c"] - row.asks["ice_c"], 1)


NEXT = {"too_few": "more_pieces", "below": "cook_on", "hold": "hold", "rest": "rest", "reached": "done"}


def test_what_is_done_next_is_what_the_readings_show() -> None:
    seen = set()
    for held, row in puzzles("done"):
        rows = [Probing(at_s=r["at_s"], piece=r["piece"], core_c=r["core_c"]) for r in row.asks["readings"]]
        limit = held.plan.provable[row.asks["food"]]
        found = cook_verdict(rows, limit, held.plan.profile, now_s=row.asks["now_s"], house=held.plan.house)
        assert row.right.id == NEXT[found.status]
        seen.add(row.right.id)
        if row.right.id != "done":
            assert "done" in [choice.id for choice in row.choices], "the harmful answer is always offered"
    assert seen == set(NEXT.values()) - {"rest"}  # no dish of the hostel rests


def test_it_may_stand_to_the_minute_and_not_a_minute_more() -> None:
    for held, row in puzzles("stand"):
        state = changed(opening_state(held.plan, ("AK",)), ambient_c=row.asks["ambient_c"])
        out_s = 60.0 * (sum(row.asks["trips_min"]) + row.right.says["left_min"])

        def standing(out: float, state: State = state, food: str = row.asks["food"]) -> str:
            held_out = changed(state.food(food), clock=Clock(spent_s=out))
            return clock_of(state.with_food(food, held_out), food, 0).standing

        assert standing(out_s) == "within"
        assert standing(out_s + 60) != "within"


def test_so_long_or_more_is_too_long_already() -> None:
    limit = rule_profile("anz").clock_for("cold", 20.0)
    assert limit.or_more
    assert most_minutes(limit) == 119
    assert most_minutes(rule_profile("us-home").clock_for("cold", 20.0)) == 120


def test_one_way_cools_in_time_and_the_others_do_not() -> None:
    around = {"fridge": 4.0, "room": 21.0, "ice_bath": 0.5}
    for held, row in puzzles("cold-in-time"):
        asks = row.asks
        situation = ChillSituation(
            batch=unknown_dish(asks["litres"]), readings=((0.0, asks["start_c"]),), profile=held.plan.profile
        )
        for choice in row.choices:
            box, count = container(choice.says["container"]), choice.says["count"]
            depth_m = asks["litres"] / 1000 / (count * box.area_m2)
            assert choice.says["depth_mm"] == round(1000 * depth_m)
            where = choice.says["where"]
            way = ChillWay(container=box, count=count, depth_m=depth_m, where=where, around_c=around[where])
            assert plan_chill(situation, way).passes is choice.right


def test_nothing_raw_stands_above_what_is_eaten_as_it_is() -> None:
    for _held, row in puzzles("shelf"):
        fridge = [(r["food"], r["raw"]) for r in row.asks["fridge"]]
        for choice in row.choices:
            n = choice.says["place"]
            shelves = (*fridge[:n], (row.asks["item"], row.asks["raw"]), *fridge[n:])
            assert shelf_harm(shelves) is not choice.right


def test_the_date_is_the_one_of_the_label() -> None:
    def moment(text: str) -> dt.datetime | None:
        return dt.datetime.fromisoformat(text) if text else None

    for held, row in puzzles("until"):
        asks = row.asks
        stored = StoredFood(
            made_at=dt.datetime.fromisoformat(asks["made_at"]),
            place="fridge",
            out_s=asks["out_s"],
            frozen_at=moment(asks["frozen_at"]),
            thawed_at=moment(asks["thawed_at"]),
        )
        bench = opening_state(held.plan, ("AK",))
        assert tuple(asks["categories"]) == storage_categories(bench, asks["food"])
        dates = [use_by(name, held.plan.profile, stored).use_by for name in asks["categories"]]
        assert None not in dates
        assert row.right.says["until"] == min(date.isoformat() for date in dates if date is not None)


def test_what_is_done_next_is_allowed_and_what_is_wrong_is_not() -> None:
    for held, row in puzzles("next"):
        can = allowed(row.rule, held.plan.profile.id)
        assert row.right.says["do"] in can
        assert not {choice.says["do"] for choice in row.choices if not choice.right} & set(can)


def test_one_eater_may_not_have_it_and_the_others_may() -> None:
    for held, row in puzzles("not-for"):
        for choice in row.choices:
            eater = choice.says["eater"]
            allergen = [eater.removeprefix("allergen:")] if eater.startswith("allergen:") else []
            rows = not_for(held.plan.process, [] if allergen else [eater], allergen, held.plan.house)
            assert bool(rows) is choice.right


def test_the_spoons_hold_the_part() -> None:
    for _held, row in puzzles("part-of"):
        asks = row.asks
        whole = asks["value"] * (unit_ml(asks["unit"], "en-GB") or 0)
        part = whole * float(Fraction(asks["part"]))
        for choice in row.choices:
            held_ml = sum(float(Fraction(n)) * (unit_ml(unit, "en-GB") or 0) for n, unit in choice.says["spoons"])
            assert (abs(held_ml - part) <= 0.005 * part + 1e-9) is choice.right


def test_one_thing_around_the_hob_is_wrong() -> None:
    for _held, row in puzzles("hob"):
        assert hob_dangers(row.asks["scene"]) == (row.right.says["thing"],)


def test_a_limit_is_the_plans_own_and_is_shown_in_time() -> None:
    for held, row in puzzles("limit"):
        mine = [c for c in held.plan.controls if c.rule == row.asks["control"]]
        limits = [[c.limit.value, c.limit.unit] for c in mine if c.limit is not None]
        assert row.right.says.get("limit") in limits or row.right.says.get("limit_s") in [c.limit_s for c in mine]
    for held, row in puzzles("by-when"):
        where = held.plan.process.step_index
        mine = [c for c in held.plan.controls if c.rule == row.asks["control"] and list(c.steps) == row.asks["watched"]]
        assert row.right.id in [latest_step(held.plan, control) for control in mine]
        begun = max((where[name] for control in mine for name in control.due_after), default=-1)
        for choice in row.choices:
            assert choice.right or where[choice.id] > where[row.right.id] or where[choice.id] <= begun


def test_no_two_of_a_group_are_alike_and_what_was_missed_comes_first() -> None:
    held, known = material("turkey-koftas"), set[str]()
    for seed in range(12):
        rows = a_round(held, seed=seed, count=5, known=known, rules=["time-out", "unwashed-hands"])
        assert len(rows) == 5
        if seed < 3:  # after that the recipe has no new one of them
            assert [row.rule for row in rows[:2]] == ["time-out", "unwashed-hands"]
        assert len({row.kind for row in rows}) >= 4
        assert not known & {row.likeness for row in rows}
        known |= {row.likeness for row in rows}


def test_a_recipe_without_a_place_for_a_kind_has_none() -> None:
    assert make("order", material("berry-bark"), seed=1) is None
    assert make_new("tip", material("rice-salad"), seed=1) is None


@pytest.mark.parametrize("kind", ["find-slip", "contact"])
def test_the_harder_it_is_the_farther_is_the_harm_from_its_slip(kind: str) -> None:
    far: dict[int, list[int]] = {1: [], 3: []}
    for name, (level, rows), seed in itertools.product(NAMES, far.items(), range(9)):
        held = material(name, "us-home")
        found = make(kind, held, seed=seed, level=level)
        where = {step.id: n for n, step in enumerate(held.plan.process.steps)}
        told = found.asks["finding"] if found is not None else {"step": ""}
        if told["step"] in where:
            at = [where[step] for step in told["at"] if step in where]
            rows.append(where[told["step"]] - min(at, default=where[told["step"]]))

    assert sum(far[3]) / len(far[3]) > sum(far[1]) / len(far[1])
