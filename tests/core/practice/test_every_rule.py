"""Every rule of the core has a generator that practises it."""

from __future__ import annotations

import tomllib
from typing import get_args

from foodsafety.data import data_text
from foodsafety.lesson.plan import Rule
from foodsafety.practice import KINDS, Material, make
from tests.builders import a_process
from tests.core.practice.builders import NAMES, material, material_of


def the_rules() -> set[str]:
    """Each rule that the wall, a finding, a corrective action or a group of eaters has a name for. A process that
    serves nothing is no slip of a cook's, but of whoever wrote it down."""
    actions = tomllib.loads(data_text("corrective_actions.toml"))["actions"]
    named = {rule for row in actions for rule in row["rules"]}
    eaters = {row["id"] for row in tomllib.loads(data_text("eaters.toml"))["rules"]}
    return (
        set(get_args(Rule)) | named | set(tomllib.loads(data_text("contact_rules.toml"))) | eaters - {"nothing-served"}
    )


def practised(held: Material, seeds: int = 25) -> set[str]:
    found = (make(kind, held, seed=seed, level=2) for kind in KINDS for seed in range(seeds))
    return {row.rule for row in found if row is not None}


# What each group of eaters has trouble with: a food that brings it.
TROUBLE = {
    "raw-egg": "egg",
    "raw-meat": "beef steak",
    "raw-poultry": "chicken breast",
    "raw-fish": "salmon",
    "raw-shellfish": "oysters",
    "raw-flour": "plain flour",
    "raw-sprouts": "bean sprouts",
    "runny-egg": "egg",
    "frozen-berries": "frozen berries",
    "high-mercury-fish": "tuna steak",
    "listeria-ready-to-eat": "smoked salmon",
    "liver": "lamb liver",
    "mould-ripened-cheese": "brie",
    "unpasteurised": "unpasteurised milk",
    "whole-grapes": "grapes",
    "honey": "honey",
    "whole-nuts": "walnuts",
}


def test_every_rule_of_the_core_is_practised() -> None:
    got: set[str] = set()
    for name in NAMES:
        got |= practised(material(name))
        for house in ({"boards": "separate"}, {"gloves": "gloves"}, {"unwashed_contact": "rule"}):
            got |= practised(material(name, **house), 12)
    missing = the_rules() - got - {"nothing-served"}
    # What the hostel's recipes do not hold.
    nuts_and_bread = (
        a_process()
        .food("nuts", kind="walnuts")
        .food("chicken", kind="chicken breast")
        .step("cut", "nuts", tools="board knife", hands="AK", id="chop")
        .step("clean", tools="board knife", id="wash")
        .step("wash_hands", hands="AK", id="hands")
        .step("cut", "bread", tools="board knife", hands="AK", id="slice")
        .step("part_cook", "chicken", tools="pan", id="seal", minutes=5)
        .step("heat", "chicken", tools="pan", id="fry", minutes=20)
        .step("serve", "bread nuts chicken", id="serve")
        .serve("bread", "nuts", "chicken")
        .free_of("bread", "tree_nuts")
    )
    got |= practised(material_of(nuts_and_bread), 60) | practised(material_of(nuts_and_bread, "us-foodservice"), 60)
    for rule in sorted(missing & set(TROUBLE)):
        runny = rule == "runny-egg"
        dish = a_process().food("it", kind=TROUBLE[rule])
        dish = dish.step("heat", "it", tools="pan") if runny else dish.step("cut", "it", tools="board", hands="AK")
        dish.step("serve", "it").serve("it")
        got |= practised(material_of(dish, eggs="assured_runny" if runny else "firm"), 60)
    assert the_rules() - got - {"nothing-served"} == set()
