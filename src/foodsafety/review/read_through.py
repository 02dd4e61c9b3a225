"""The read-through: what an educator looks for before a lesson, gathered from a process.

Numbers and ids only; a page turns them into sentences.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.contamination import Finding, find_contamination
from foodsafety.foods import AllergenSet, soil
from foodsafety.recipes import Process, Step, served_without
from foodsafety.review.cautions import Caution, find_cautions
from foodsafety.rules import House, Profile

# Kinds that stand on a ring of the hob, and kinds that are heat sources themselves.
ON_A_RING = frozenset({"frying_pan", "saucepan", "pot", "griddle", "wok"})
HEAT_SOURCES = frozenset({"oven", "grill", "microwave", "slow_cooker", "barbecue", "toaster", "kettle"})
_AHEAD = frozenset({"chill", "freeze", "marinate", "rest"})
LEAST_AHEAD_MIN = 30.0


@dataclass(frozen=True, slots=True, kw_only=True)
class KitNeed:
    """A kind of tool or heat source: how many each bench needs, all benches, and what the kitchen
    has (None where nobody has counted it)."""

    kind: str
    each: int
    all: int
    have: int | None

    @property
    def lacking(self) -> int:
        """How many are missing; 0 also where nobody has counted (see ``have``)."""
        return max(0, self.all - self.have) if self.have is not None else 0


@dataclass(frozen=True, slots=True, kw_only=True)
class HazardPath:
    """What an ingredient brings: a soil, or another hazard of its kind. ``ends`` is the first step
    that ends it, None if none does for all that is eaten."""

    food: str
    hazard: str
    soil: bool
    ends: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DoneAhead:
    """Work that can be done before the lesson: a step that waits [min], and where it is kept."""

    step: str
    foods: tuple[str, ...]
    waiting_min: float
    place: str


@dataclass(frozen=True, kw_only=True)
class RecipeReview:
    """Everything the page says. Times in minutes; ``path_min`` is the least time with enough hands."""

    needs: tuple[KitNeed, ...]
    sources: tuple[KitNeed, ...]
    hazards: tuple[HazardPath, ...]
    allergens: Mapping[str, tuple[str, ...]]
    active_min: float
    waiting_min: float
    path_min: float
    unknown_times: tuple[str, ...]
    ahead: tuple[DoneAhead, ...]
    cautions: Mapping[str, tuple[Caution, ...]]
    findings: tuple[Finding, ...]
    unknown_foods: tuple[str, ...]


def _needs(counts: Counter[str], benches: int, equipment: Mapping[str, int]) -> tuple[KitNeed, ...]:
    return tuple(
        KitNeed(kind=kind, each=count, all=count * benches, have=equipment.get(kind))
        for kind, count in sorted(counts.items())
    )


def _sources(process: Process) -> Counter[str]:
    """Heat sources of one bench; a pan used on the heat needs a ring."""
    kinds = {name: tool.kind for name, tool in process.tools.items()}
    rings = {
        name
        for step in process.steps
        if step.do in ("heat", "part_cook")
        for name in step.tools
        if kinds[name] in ON_A_RING
    }
    counts = Counter(kind for kind in kinds.values() if kind in HEAT_SOURCES)
    if rings:
        counts["hob_ring"] = len(rings)
    return counts


def _ends(process: Process, food_id: str, soil_id: str) -> str | None:
    """The step that ends a soil on all of a food that is eaten; None if some of it goes another way."""
    what = soil(soil_id)
    verbs = frozenset({"heat"} if what.heat_clears else ()) | frozenset({"rinse"} if what.rinse_clears else ())
    if served_without(process, food_id, verbs):
        return None
    worked = (
        s.id for s in process.steps if s.do in verbs and any(food_id in process.ingredients_of(n) for n in s.foods)
    )
    return next(worked, None)


def _hazards(process: Process) -> list[HazardPath]:
    found: list[HazardPath] = []
    for food in process.foods.values():
        for name in sorted(food.soils):
            found.append(HazardPath(food=food.id, hazard=name, soil=True, ends=_ends(process, food.id, name)))
        if food.kind:
            found.extend(
                HazardPath(food=food.id, hazard=name, soil=False, ends=None) for name in sorted(food.kind.hazards)
            )
    return found


def _allergens(process: Process, named: AllergenSet) -> dict[str, tuple[str, ...]]:
    found: dict[str, list[str]] = {}
    for food in process.foods.values():
        for tag in named.named(food.allergens):
            found.setdefault(tag, []).append(food.id)
    return {tag: tuple(found[tag]) for tag in named.members if tag in found}


def _least_min(process: Process, minutes: Mapping[str, float]) -> float:
    """The longest chain of steps that wait for each other."""
    ends: dict[str, float] = {}
    for step in process.steps:
        ends[step.id] = max((ends[name] for name in step.after), default=0.0) + minutes[step.id]
    return max(ends.values(), default=0.0)


def _times(rows: Sequence[Mapping[str, Any]]) -> tuple[dict[str, float], dict[str, float]]:
    total = {str(row["id"]): float(row.get("minutes") or 0) for row in rows}
    waiting = {str(row["id"]): min(float(row.get("waiting_min") or 0), total[str(row["id"])]) for row in rows}
    return total, waiting


def _place(step: Step) -> str:
    return {"chill": "fridge", "freeze": "freezer", "marinate": "fridge"}.get(step.do, "out")


def review_recipe(
    process: Process,
    rows: Sequence[Mapping[str, Any]],
    *,
    named: AllergenSet,
    profile: Profile,
    house: House,
    benches: int = 1,
    equipment: Mapping[str, int] | None = None,
) -> RecipeReview:
    """Reads a process through. ``rows`` are its steps as plain data, with the words and the
    waiting times; ``equipment`` what the kitchen has, by kind."""
    have = equipment or {}
    total, waiting = _times(rows)
    texts = {str(row["id"]): f"{row.get('title', '')} {row.get('detail', '')}" for row in rows}
    tools = Counter(tool.kind for tool in process.tools.values() if tool.kind not in HEAT_SOURCES)
    said: dict[str, list[Caution]] = {}
    for caution in find_cautions(process, texts):
        said.setdefault(caution.step, []).append(caution)
    return RecipeReview(
        needs=_needs(tools, benches, have),
        sources=_needs(_sources(process), benches, have),
        hazards=tuple(_hazards(process)),
        allergens=_allergens(process, named),
        active_min=sum(total.values()) - sum(waiting.values()),
        waiting_min=sum(waiting.values()),
        path_min=_least_min(process, total),
        unknown_times=tuple(name for name, minutes in total.items() if not minutes),
        ahead=tuple(
            DoneAhead(step=step.id, foods=step.foods, waiting_min=waiting[step.id], place=_place(step))
            for step in process.steps
            if step.do in _AHEAD and waiting[step.id] >= LEAST_AHEAD_MIN
        ),
        cautions={step: tuple(rows) for step, rows in said.items()},
        findings=tuple(find_contamination(process, house)),
        unknown_foods=tuple(food.id for food in process.foods.values() if "unknown" in food.soils),
    )
