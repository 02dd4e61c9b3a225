"""Topic ``analyse``: what touched what in a process, and the order with the fewest washes."""

from __future__ import annotations

import time
from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import an_object, asked_profile
from foodsafety.contamination import Cleared, Finding, analyse, rule_source, severity
from foodsafety.foods import allergen_tag, soil_tag
from foodsafety.ordering import best_order, washes_as_written
from foodsafety.recipes import Process, process_from
from foodsafety.rules import MODEL_CODE, House, house_from

SEARCH_S = 2.0


def spelled_soils(data: Mapping[str, Any]) -> dict[str, str]:
    """Soils as the input spells them, so that the answer speaks the asker's language."""
    words: dict[str, str] = {}
    for row in an_object(data.get("foods") or {}).values():
        for word in row.get("soils") or () if isinstance(row, Mapping) else ():
            words[soil_tag(str(word))] = str(word)
    for names in (data.get("free_of") or {}).values():
        for word in names:
            words.setdefault(allergen_tag(str(word)), str(word))
    return words


def finding_row(finding: Finding, words: Mapping[str, str], code: str) -> dict[str, Any]:
    """A finding as the command line gives it."""
    return {
        "rule": finding.rule,
        "step": finding.step,
        "soil": words.get(finding.soil, finding.soil),
        "food": finding.food,
        "path": list(finding.path),
        "severity": severity(finding),
        "source": rule_source(finding.rule, code),
    }


def _cleared(row: Cleared, words: Mapping[str, str]) -> dict[str, Any]:
    soil_name = words.get(row.soil, row.soil)
    return {"soil": soil_name, "food": row.food, "step": row.step, "by": row.by, "path": list(row.path)}


def _best(process: Process, house: House) -> dict[str, Any]:
    end = time.monotonic() + SEARCH_S
    best = best_order(process, house, should_stop=lambda: time.monotonic() > end)
    return {
        "order": list(best.order),
        "washes": best.washes,
        "proven": best.proven,
        "bound": best.bound,
        "wash_before": [{"step": step, "carriers": list(names)} for step, names in best.wash_before],
    }


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``analyse``."""
    process, code = process_from(data), _code(data)
    house = house_from(an_object(data.get("house") or {}))
    words = spelled_soils(data)
    found = analyse(process, house)
    return {
        "findings": [finding_row(finding, words, code) for finding in found.findings],
        "practice": [finding_row(finding, words, code) for finding in found.practice],
        "cleared": [_cleared(row, words) for row in found.cleared],
        "washes": washes_as_written(process, house).washes,
        "best": _best(process, house)
        | {"no_wash_helps": [finding_row(row, words, code) for row in found.findings if "wash" not in row.evidence]},
    }


def _code(data: Mapping[str, Any]) -> str:
    """The profile whose sources are named: the model code where none is asked for."""
    return asked_profile(data).id if data.get("code") is not None else MODEL_CODE
