"""Cautions at the step they belong to, from a data file of rules."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.recipes import Process, Step


@dataclass(frozen=True, slots=True, kw_only=True)
class Caution:
    """A caution's id and the step it is said at; ``severity`` 3 is said first."""

    id: str
    step: str
    severity: int


@cache
def caution_rules() -> Mapping[str, Mapping[str, Any]]:
    """The rules by id."""
    return tomllib.loads(data_text("cautions.toml"))


def _holds(rule: Mapping[str, Any], step: Step, process: Process, text: str) -> bool:
    if "verbs" in rule and step.do not in rule["verbs"]:
        return False
    if "tools" in rule and not {process.tools[name].kind for name in step.tools} & set(rule["tools"]):
        return False
    if "words" in rule and not re.search(rule["words"], text, re.IGNORECASE):
        return False
    if "not_words" in rule and re.search(rule["not_words"], text, re.IGNORECASE):
        return False
    foods = [process.foods[name] for food in step.foods for name in process.ingredients_of(food)]
    if "soils" in rule and not any(food.soils & set(rule["soils"]) for food in foods):
        return False
    kinds = [food.kind for food in foods if food.kind]
    if "kinds" in rule and not any(kind.id in rule["kinds"] for kind in kinds):
        return False
    return not ("groups" in rule and not any(kind.group in rule["groups"] for kind in kinds))


def find_cautions(process: Process, texts: Mapping[str, str]) -> tuple[Caution, ...]:
    """Every caution of a process in step order, the most severe first at each step. ``texts`` are
    the steps' words by id."""
    found = []
    for step in process.steps:
        here = [
            Caution(id=name, step=step.id, severity=int(rule["severity"]))
            for name, rule in caution_rules().items()
            if _holds(rule, step, process, texts.get(step.id, ""))
        ]
        found.extend(sorted(here, key=lambda caution: -caution.severity))
    return tuple(found)
