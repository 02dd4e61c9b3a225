"""Who may not eat this, as it is served?"""

from __future__ import annotations

import random
from functools import lru_cache

from foodsafety.foods import allergens_for
from foodsafety.practice.puzzle import Choice, Material, Sketch, wrong_choice
from foodsafety.review import NotFor, eater_groups, not_for


@lru_cache(maxsize=64)
def _rows(material: Material) -> dict[str, tuple[NotFor, ...]]:
    """For each eater (a group, or "allergen:name"), what of the recipe is not for them."""
    plan = material.plan
    known = tuple(allergens_for(profile_id=plan.profile.id).members)
    found = not_for(plan.process, eater_groups(), known, plan.house)
    rows: dict[str, list[NotFor]] = {name: [] for name in (*eater_groups(), *(f"allergen:{n}" for n in known))}
    for row in found:
        rows[row.eater].append(row)
    return {eater: tuple(own) for eater, own in rows.items()}


def who_may_not(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """One eater who may not have it, among eaters who may. What nobody is sure of is not asked."""
    rows = _rows(material)
    doubtful = any(row.rule == "unknown-food" for own in rows.values() for row in own)
    bad = sorted(eater for eater, own in rows.items() if own and not any(row.rule == "unknown-food" for row in own))
    good = sorted(eater for eater, own in rows.items() if not own)
    if doubtful or not bad or not good:
        return None
    eater = draw.choice(bad)
    draw.shuffle(good)
    why = draw.choice(rows[eater])
    return Sketch(
        rule="allergen-inside" if eater.startswith("allergen:") else why.rule,
        asks={"served": list(material.plan.process.serve)},
        right=Choice(id=eater, says={"eater": eater}, right=True),
        others=[wrong_choice(name, {"why": "may"}, eater=name) for name in good],
        why={"food": why.food, "rule": why.rule, "swaps": list(why.swaps)},
        section="",
    )
