"""Who eats: what vulnerable eaters and people with an allergy may not have, why, and the swap."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.quantities import CoreError
from foodsafety.recipes import Food, Process, Swap, served_without, swap, swaps_for
from foodsafety.rules import House

_CUTS = frozenset({"cut", "grate"})
_COOKS = frozenset({"heat"})


@dataclass(frozen=True, slots=True, kw_only=True)
class NotFor:
    """An ingredient that somebody may not have in what is served. ``eater`` is a group, or the
    allergen as "allergen:milk"; ``swaps`` are ids of swaps that would help."""

    rule: str
    eater: str
    food: str
    served: str
    swaps: tuple[str, ...] = ()
    verify: bool = False


@cache
def _table() -> dict[str, Any]:
    return tomllib.loads(data_text("eaters.toml"))


def eater_groups() -> tuple[str, ...]:
    """The groups of vulnerable eaters."""
    return tuple(_table()["groups"])


def _in_state(process: Process, food: Food, served: str, house: House) -> bool:
    if served == "any":
        return True
    if served == "whole":
        # Breaking up what it is in does not chop it.
        return served_without(process, food.id, _CUTS, itself=True)
    raw = served_without(process, food.id, _COOKS)
    if served == "soft":
        # Cooked, but the kitchen lets assured-scheme eggs stay runny: nobody shows a firm core.
        return not raw and house.eggs == "assured_runny"
    return raw


def _applies(rule: Mapping[str, Any], food: Food) -> bool:
    if "soil" in rule:
        return rule["soil"] in food.soils
    return food.kind is not None and rule["hazard"] in food.kind.hazards


def _served_with(process: Process) -> dict[str, str]:
    """For each ingredient, the served food it ends in; one that ends nowhere is left out."""
    found: dict[str, str] = {}
    for served in process.serve:
        for name in process.ingredients_of(served):
            found.setdefault(name, served)
    return found


def not_for(
    process: Process, groups: Iterable[str], allergens: Iterable[str], house: House | None = None
) -> tuple[NotFor, ...]:
    """What of the served food the given eaters may not have. Raises CoreError for an unknown group."""
    kitchen = house or House()
    wanted = list(dict.fromkeys(groups))
    for group in wanted:
        if group not in _table()["groups"]:
            raise CoreError("eaters", "not_one_of", value=group, allowed=tuple(eater_groups()))
    found: list[NotFor] = []
    for food_id, served in _served_with(process).items():
        food = process.foods[food_id]
        for rule in _table()["rules"]:
            hit = [group for group in wanted if group in rule["groups"]]
            if hit and _applies(rule, food) and _in_state(process, food, rule["served"], kitchen):
                helps = tuple(name for name in rule["swaps"] if _fits(swap(name), food))
                found.extend(
                    NotFor(
                        rule=rule["id"],
                        eater=group,
                        food=food_id,
                        served=served,
                        swaps=helps,
                        verify=bool(rule.get("verify")),
                    )
                    for group in hit
                )
        found.extend(_allergic(food, served, allergens))
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class EatersJudged:
    """Who may not have what is served. Where nobody ``said`` who eats, every group is judged: it may
    be anyone."""

    said: bool
    rows: tuple[NotFor, ...]


def judge_eaters(process: Process, eaters: Mapping[str, Any], house: House | None = None) -> EatersJudged:
    """The judgement on the eaters of a meal, as ``{"groups": {name: how many}, "allergens": [name]}``.
    Raises CoreError for an unknown group."""
    groups, allergens = eaters.get("groups") or {}, eaters.get("allergens") or []
    said = bool(groups or allergens or eaters.get("count"))
    rows = not_for(process, groups if said else eater_groups(), allergens, house)
    return EatersJudged(said=said, rows=rows)


def _fits(row: Swap, food: Food) -> bool:
    return food.kind is not None and row.replaces(food.kind)


def _allergic(food: Food, served: str, allergens: Iterable[str]) -> list[NotFor]:
    found = []
    for allergen in dict.fromkeys(allergens):
        if "unknown" in food.soils and food.kind is None:
            found.append(NotFor(rule="unknown-food", eater=f"allergen:{allergen}", food=food.id, served=served))
        elif allergen in food.allergens:
            free = tuple(row.id for row in swaps_for(food.kind) if allergen not in row.allergens) if food.kind else ()
            found.append(NotFor(rule="allergen", eater=f"allergen:{allergen}", food=food.id, served=served, swaps=free))
    return found
