"""A lesson where there is no tap: water to carry, ice, and what goes into which box, in the order of loading."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from bulwark.lessons import selectors as lessons
from bulwark.pack import wording
from bulwark.pack.selectors import Pack, most_g
from foodsafety.cooling import MOST_FOOD_KG, MOST_PRODUCE_KG, BoxNeed, BoxTrip, box_need, cool_boxes, field_water
from foodsafety.foods import FoodKind, food_kind, is_raw
from foodsafety.planning import planning_figures
from foodsafety.recipes import Ingredient

COLD = "packs"
UNWASHED = "unwashed_produce"


@dataclass(frozen=True, slots=True, kw_only=True)
class PackedBox:
    """A box in the order of loading: what it is and what is in it; ``says`` what it asks for."""

    name: str
    lines: tuple[str, ...]
    says: str = ""


class Field:
    """What a lesson away from the tap needs. ``said`` is False where nobody has said whether there is one."""

    def __init__(self, pack: Pack) -> None:
        self.pack, self.lesson = pack, pack.lesson
        self.decided = pack.decided
        tap = lessons.kitchen_for(pack.lesson).tap
        self.said, self.no_tap = bool(tap), tap == "no"

    def parts(self) -> list[str]:
        """What of the pack there is for this lesson: nothing is packed in boxes where there is a tap."""
        return [name for name in wording.PARTS if name != "boxes" or self.no_tap]

    def boxes(self) -> list[PackedBox]:
        """The boxes in the order in which they are loaded: what is wanted first goes in last."""
        cold = [row for row in self._kinds() if row[1].temperature_control]
        raw = [row for row in cold if any(is_raw(soil) for soil in row[1].soils)]
        ready = [row for row in cold if row not in raw]
        dry = [row for row in self._kinds() if row not in cold]
        unknown = [wording.times(self.pack.benches, row.text) for row in self.pack.items if row.food and not row.kind]
        ask = [PackedBox(name=wording.box("unknown"), lines=tuple(unknown), says=wording.ask_what())] if unknown else []
        return [
            PackedBox(name=wording.box("waste"), lines=tuple(wording.waste_lines())),
            PackedBox(name=wording.box("wash_up"), lines=tuple(wording.wash_up_lines(self.pack.benches))),
            PackedBox(name=wording.box("kit"), lines=(wording.kit_bags(self.pack.benches),)),
            PackedBox(name=wording.box("dry"), lines=self._lines(dry)),
            *ask,
            PackedBox(name=wording.box("raw"), lines=self._lines(raw), says=self._ice(raw)),
            PackedBox(name=wording.box("ready"), lines=self._lines(ready), says=self._ice(ready)),
            PackedBox(name=wording.box("hands"), lines=tuple(self._hands())),
        ]

    def heat_says(self) -> str:
        """What the warmth of the day does to the clocks."""
        heat = lessons.profile_of(self.lesson).clocks.get("in_heat")
        if self.decided.ambient_c is None:
            return wording.how_warm()
        if heat and heat.above and self.decided.ambient_c > heat.above.c:
            return wording.short_clock(heat.above.value, heat.above.unit, heat.limit_s)
        return ""

    def _kinds(self) -> list[tuple[Ingredient, FoodKind]]:
        rows = zip(self.pack.items, self.pack.cooked_at, strict=True)
        return [(item, food_kind(item.kind)) for item, at in rows if item.food and item.kind and at]

    def _lines(self, rows: Iterable[tuple[Ingredient, FoodKind]]) -> tuple[str, ...]:
        lines = tuple(wording.times(self.pack.benches, item.text) for item, _kind in rows)
        return lines or (wording.nothing(),)

    def _weight_kg(self, rows: Iterable[tuple[Ingredient, FoodKind]]) -> float | None:
        """What it weighs for all benches; None where one of it cannot be weighed."""
        weights = [most_g(item, self.lesson.recipe.measures) for item, _kind in rows]
        known = [weight for weight in weights if weight is not None]
        return sum(known) * self.pack.benches / 1000 if len(known) == len(weights) else None

    def _ice(self, rows: list[tuple[Ingredient, FoodKind]]) -> str:
        """The smallest box that holds it, or the fewest alike that do, with their packs; or why that is not known."""
        if not rows:
            return ""
        kg, ambient_c, hours = self._weight_kg(rows), self.decided.ambient_c, self.decided.away_h
        if kg is None or ambient_c is None or hours is None:
            return wording.ice_unknown(weighed=kg is not None)
        keep_c = lessons.profile_of(self.lesson).hold["cold"].temperature.c
        if ambient_c <= keep_c:
            return wording.ice_none()
        for boxes in range(1, planning_figures()["field"]["most_boxes"] + 1):
            if kg / boxes > MOST_FOOD_KG:
                continue
            found = [(name, self._need(name, kg / boxes, ambient_c, hours, keep_c)) for name in cool_boxes()]
            fitting = [(name, need) for name, need in found if need.fits]
            if fitting:
                name, need = min(fitting, key=lambda row: row[1].room_l)
                return wording.ice(cool_boxes()[name]["name"], need.cold_kg, kg, boxes=boxes)
        return wording.no_box(kg)

    def _need(self, box: str, kg: float, ambient_c: float, hours: float, keep_c: float) -> BoxNeed:
        trip = BoxTrip(
            box=box,
            cold=COLD,
            ambient_c=ambient_c,
            hours=hours,
            food_kg=kg,
            food_c=keep_c,
            keep_c=keep_c,
            openings=math.ceil(planning_figures()["field"]["openings_an_hour"] * hours),
        )
        return box_need(trip)

    def _hands(self) -> list[str]:
        """The station for hands, with the water by heads."""
        people = sum(len(bench.learners.all()) for bench in lessons.benches_of(self.lesson)) + 1
        produce = self._weight_kg([row for row in self._kinds() if UNWASHED in row[1].soils])
        if produce is not None and produce > MOST_PRODUCE_KG:
            produce = None  # nobody washes that by hand: how much water is not known
        washes = planning_figures()["field"]["washes_each"]
        water = field_water(people=max(1, people), washes_each=washes, produce_kg=produce or 0.0)
        return wording.hand_station(water, people, washes, produce_known=produce is not None)
