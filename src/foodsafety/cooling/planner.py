"""Cooling planned backwards: which containers, how deep, how many, how much ice, started by when.

Each way of cooling is a course of what is left of the step, computed once; a start at another
temperature only scales it. Places are reckoned at their low coefficient, thick food as still, and
between the points of a course the straight line lies above it: never towards safe.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from typing import Any, Literal

import numpy as np

from foodsafety.cooling.judge import CoolingVerdict, judge_cooling, stages_of
from foodsafety.data import data_text
from foodsafety.foods import Composition
from foodsafety.heat import (
    LATENT_KJ_KG,
    Array,
    Body,
    ConstantProperties,
    FoodProperties,
    composition_from,
    environment,
    h_through,
    temperature_left,
)
from foodsafety.quantities import CoreError, Series, finite, positive
from foodsafety.rules import MODEL_CODE, Profile
from foodsafety.rules import rule_profile as shipped

Texture = Literal["thin", "thick"]
HORIZON_S = 16 * 3600.0
# Denser at the beginning, where the first limit is.
_TIMES = np.concatenate([np.linspace(0, 3 * 3600, 46)[:-1], np.linspace(3 * 3600, HORIZON_S, 27)])
MOST_PIECES, MOST_POTS = 16, 6


@cache
def _file() -> dict[str, Any]:
    return tomllib.loads(data_text("chilling.toml"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """Something to cool in, by its inner sizes [m]; a round one has its diameter as length and
    width."""

    id: str
    name: str
    plural: str
    length_m: float
    width_m: float
    height_m: float
    round: bool
    effort_s: float

    @property
    def area_m2(self) -> float:
        """Of the surface of what is in it."""
        return self.length_m * self.width_m * (math.pi / 4 if self.round else 1.0)

    @property
    def holds_l(self) -> float:
        """What it takes with room at the top [l]."""
        return 1000 * self.area_m2 * self.height_m * float(_file()["headroom"])


@cache
def containers() -> dict[str, Container]:
    """Every container by id."""
    found = {}
    for key, row in tomllib.loads(data_text("containers.toml")).items():
        across = row.get("diameter")
        found[key] = Container(
            id=key,
            name=row["name"],
            plural=row["plural"],
            length_m=positive(across or row["length"], f"{key}.length"),
            width_m=positive(across or row["width"], f"{key}.width"),
            height_m=positive(row["height"], f"{key}.height"),
            round=across is not None,
            effort_s=row["effort_s"],
        )
    return found


def container(name: str, field: str = "container") -> Container:
    """A container by id. Raises CoreError naming those there are."""
    if name not in containers():
        raise CoreError(field, "not_one_of", value=name, allowed=tuple(containers()))
    return containers()[name]


@lru_cache(maxsize=256)
def _at_30(composition: Composition) -> ConstantProperties:
    k, rho, cp = FoodProperties(composition).at(30.0)
    return ConstantProperties(k=k, rho=rho, cp=cp)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillBatch:
    """What is to be cooled: so much [l] of a food. "thin" moves by itself (broth), "thick" stays
    (stew, rice, mash)."""

    litres: float
    composition: Composition
    texture: Texture = "thick"

    def __post_init__(self) -> None:
        finite(self.litres, "litres", high=_file()["longest_batch_l"])
        positive(self.litres, "litres")

    @property
    def food(self) -> ConstantProperties:
        """Its properties in the middle of a cooling, 30 C."""
        return _at_30(self.composition)

    def heat_kj(self, from_c: float, to_c: float) -> float:
        """What must be taken out of it to cool it so far [kJ]."""
        food = self.food
        return self.litres / 1000 * food.rho * food.cp * max(0.0, from_c - to_c) / 1000


def unknown_dish(litres: float) -> ChillBatch:
    """So much [l] of a cooked dish of which no more is known."""
    return ChillBatch(litres=litres, composition=composition_from(_file()["unknown_dish"]))


def covers_of(wrap: str) -> tuple[str, ...]:
    """What lies on food that is covered so: nothing where nobody has said."""
    return tuple(_file()["covers"].get(wrap, ()))


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillWay:
    """One way to cool a batch: in how many of which containers, how deep [m], where, covered how."""

    container: Container
    count: int
    depth_m: float
    where: str
    covers: tuple[str, ...] = ()
    around_c: float

    @property
    def effort_s(self) -> float:
        """What it costs the cook [s]; an ice bath must be made, a stirred one stood at."""
        return self.count * self.container.effort_s + float(_file()["effort_s"].get(self.where, 0.0))


@dataclass(frozen=True, slots=True)
class ChillCourse:
    """What is left of the step at the centre over time [s], in steady surroundings [C]."""

    times_s: Array
    left: Array
    around_c: float

    def series(self, start_c: float, start_s: float = 0.0) -> Series:
        """The readings it would give [(s, C)] from a temperature at a time."""
        temps = self.around_c + (start_c - self.around_c) * self.left
        return tuple(zip((start_s + self.times_s).tolist(), temps.tolist(), strict=True))


def chill_course(way: ChillWay, batch: ChillBatch) -> ChillCourse:
    """How a batch cools in one way."""
    where = environment(way.where)
    h = h_through(where.low_h, way.covers)
    food = batch.food
    if batch.texture == "thin":
        left = np.exp(-_TIMES / _lumped_s(way, batch, h, stirred=where.stirred))
    else:
        # In a bath the top loses nothing worth counting; nor does it under a lid with air below.
        closed = "ice" in way.where or way.where == "tap_water" or bool(way.covers)
        half_m = way.depth_m if closed else way.depth_m / 2
        low_h = where.low_h if closed else h
        body = (
            Body(shape="finite_cylinder", size_m=(way.container.length_m / 2, half_m), h=low_h)
            if way.container.round
            else Body(shape="brick", size_m=(way.container.length_m / 2, way.container.width_m / 2, half_m), h=low_h)
        )
        left = temperature_left(body, food, _TIMES)
    return ChillCourse(_TIMES, left, way.around_c)


def _lumped_s(way: ChillWay, batch: ChillBatch, h: float, *, stirred: bool) -> float:
    """The time constant [s] of a liquid that keeps itself mixed; evaporation is not counted on."""
    box = way.container
    inside = _file()["stirred_inside_h" if stirred else "still_inside_h"]
    through = 1 / (1 / h + 1 / inside)
    around = math.pi * box.length_m if box.round else 2 * (box.length_m + box.width_m)
    top = 0.0 if "ice" in way.where or way.where == "tap_water" else box.area_m2
    surface = around * way.depth_m + box.area_m2 + top
    food = batch.food
    return float(box.area_m2 * way.depth_m * food.rho * food.cp / (through * surface))


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillPlan:
    """A way with what comes of it. ``verdict`` is what the rule will say of readings and course
    together; ``cold_s`` when it is at the last limit [s, on the readings' own time; None: not
    within the horizon]; ``ice_kg`` for the bath; ``owned`` how many of the container there are."""

    way: ChillWay
    course: ChillCourse
    verdict: CoolingVerdict
    cold_s: float | None
    ice_kg: float
    owned: int | None

    @property
    def passes(self) -> bool:
        """True if it meets every stage."""
        return self.verdict.verdict == "pass"

    @property
    def enough(self) -> bool:
        """False where the kitchen is known to have too few of the containers."""
        return self.missing == 0

    @property
    def missing(self) -> int:
        """How many of the containers the kitchen has too few."""
        return 0 if self.owned is None else max(0, self.way.count - self.owned)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillSituation:
    """Where a batch stands: readings so far [(s, C), the last one is now], the rule, and by when
    it would be split."""

    batch: ChillBatch
    readings: Series
    profile: Profile

    def __post_init__(self) -> None:
        if not self.readings:
            raise CoreError("readings", "no_temperature_now")

    @property
    def now_s(self) -> float:
        """The time of the last reading."""
        return self.readings[-1][0]

    @property
    def now_c(self) -> float:
        """The last reading."""
        return self.readings[-1][1]


def judge_course(
    situation: ChillSituation, course: ChillCourse, *, from_s: float | None = None, from_c: float | None = None
) -> CoolingVerdict:
    """What the rule says of the readings so far and a course from then on."""
    begin_s = situation.now_s if from_s is None else from_s
    begin_c = situation.now_c if from_c is None else from_c
    ahead = course.series(begin_c, begin_s)[1:]
    return judge_planned((*situation.readings, *ahead), situation.profile)


# Where a profile measures no stages a plan borrows these: it can only make a plan stricter.


def planning_profile(profile: Profile) -> Profile:
    """A profile that measures stages: its own, or with those of the model code where it has none
    (it asks for food in the fridge within a time, shallow, and no more)."""
    if profile.cooling.stages:
        return profile
    return replace(profile, cooling=replace(profile.cooling, stages=shipped(MODEL_CODE).cooling.stages))


def judge_planned(series: Series, profile: Profile) -> CoolingVerdict:
    """The verdict on a series as the planning profile has it, without a look ahead."""
    return judge_cooling(series, planning_profile(profile), look_ahead=False)


def plan_chill(situation: ChillSituation, way: ChillWay, *, owned: int | None = None) -> ChillPlan:
    """One way judged from now."""
    course = chill_course(way, situation.batch)
    verdict = judge_course(situation, course)
    last_c = min(stage.end.c for stage in stages_of(planning_profile(situation.profile)))
    cold_s = verdict.crossings_s.get(last_c)
    ice_kg = 0.0
    if "ice" in way.where:
        ice_kg = _file()["ice_spare"] * situation.batch.heat_kj(situation.now_c, last_c) / LATENT_KJ_KG
    return ChillPlan(
        way=way,
        course=course,
        verdict=verdict,
        cold_s=cold_s,
        ice_kg=ice_kg,
        owned=owned,
    )


def start_by(situation: ChillSituation, course: ChillCourse, staying: ChillCourse) -> float:
    """The last moment [s] at which changing from staying to another course still passes; six hours
    from now at most, now where it must be at once."""
    now_s, now_c = situation.now_s, situation.now_c
    stay = staying.series(now_c, now_s)
    times = np.array([row[0] for row in stay])
    temps = np.array([row[1] for row in stay])

    def passes(at_s: float) -> bool:
        between = tuple(row for row in stay[1:] if row[0] < at_s)
        at_c = float(np.interp(at_s, times, temps))
        series = (*situation.readings, *between, *((at_s, at_c),), *course.series(at_c, at_s)[1:])
        return judge_planned(series, situation.profile).verdict == "pass"

    low, high = now_s, now_s + 6 * 3600.0
    if passes(high):
        return high
    while high - low > 30:
        middle = (low + high) / 2
        low, high = (middle, high) if passes(middle) else (low, middle)
    return low


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillOffer:
    """Where things may be put, with the temperature there [C] and what covers them."""

    where: str
    around_c: float
    covers: tuple[str, ...] = ()


def fewest_containers(situation: ChillSituation, box: Container, offer: ChillOffer) -> ChillWay | None:
    """The fewest of a container in which the batch passes; None where even many do not."""
    litres = situation.batch.litres
    at_least = math.ceil(litres / box.holds_l)
    most = MOST_POTS if box.round else MOST_PIECES
    if at_least > most:
        return None

    def way(count: int) -> ChillWay:
        depth_m = litres / 1000 / count / box.area_m2
        return ChillWay(
            container=box, count=count, depth_m=depth_m, where=offer.where, covers=offer.covers, around_c=offer.around_c
        )

    def passes(count: int) -> bool:
        return judge_course(situation, chill_course(way(count), situation.batch)).verdict == "pass"

    if not passes(most):
        return None
    # From few to many: the first that passes is nearly always among the first.
    return next((way(count) for count in range(max(1, at_least), most + 1) if passes(count)), None)


def chill_ways(
    situation: ChillSituation,
    now_in: ChillWay,
    offers: Sequence[ChillOffer],
    *,
    owned: Mapping[str, int] | None = None,
) -> tuple[ChillPlan, ...]:
    """Leaving it as it is, and every way that passes, best first: what the kitchen has before what
    it has not, then by effort and time together."""
    stay = plan_chill(situation, now_in, owned=1)
    found: list[ChillPlan] = []
    for offer in offers:
        bath = "ice" in offer.where or offer.where == "tap_water"
        for box in containers().values():
            if bath != box.round:
                continue  # pots go into baths, trays onto shelves
            way = (
                replace(now_in, where=offer.where, around_c=offer.around_c, covers=())
                if (bath and box.id == now_in.container.id)
                else fewest_containers(situation, box, offer)
            )
            if way is None:
                continue
            have = None if owned is None else max(owned.get(box.id, 0), now_in.count if box == now_in.container else 0)
            plan = plan_chill(situation, way, owned=have)
            if plan.passes:
                found.append(plan)
    found.sort(key=lambda plan: (plan.missing, _cost(plan, situation.now_s)))
    return (stay, *found)


def _cost(plan: ChillPlan, now_s: float) -> float:
    """Effort and time in one [s]: a minute of the cook's against a quarter of an hour's wait."""
    wait_s = (plan.cold_s if plan.cold_s is not None else now_s + HORIZON_S) - now_s
    return plan.way.effort_s + wait_s / 15


SolidShape = Literal["slab", "cylinder", "sphere"]


def greatest_size(
    shape: SolidShape, food: ConstantProperties, *, h: float, around_c: float, start_c: float, profile: Profile
) -> float | None:
    """The greatest thickness or diameter [m] of a food that passes a profile's cooling from a
    temperature; None if not even 5 mm do, and never more than half a metre is tried."""
    last_c = min(stage.end.c for stage in stages_of(planning_profile(profile)))
    if around_c >= last_c:
        raise CoreError("around_c", "never_cold_enough", around_c=around_c, last_c=last_c)

    def passes(size_m: float) -> bool:
        left = temperature_left(Body(shape=shape, size_m=(size_m / 2,), h=h), food, _TIMES)
        return judge_planned(ChillCourse(_TIMES, left, around_c).series(start_c), profile).verdict == "pass"

    low, high = 0.005, 0.5
    if not passes(low):
        return None
    if passes(high):
        return high
    while high - low > 0.0005:
        middle = (low + high) / 2
        low, high = (middle, high) if passes(middle) else (low, middle)
    return low


def left_to_cool(
    batch: ChillBatch, box: Container, *, where: str, around_c: float, covers: tuple[str, ...] = (), count: int = 1
) -> ChillWay:
    """The batch in so many of a container as it stands. Raises CoreError where it does not fit."""
    check_fits(box, batch.litres, count)
    depth_m = batch.litres / 1000 / count / box.area_m2
    return ChillWay(container=box, count=count, depth_m=depth_m, where=where, covers=covers, around_c=around_c)


def check_fits(box: Container, litres: float, count: int = 1) -> None:
    """Raises CoreError where so much [l] does not go into so many of a container."""
    if litres > count * _file()["overfull"] * box.holds_l / _file()["headroom"]:
        raise CoreError("container", "does_not_fit_container", litres=litres, name=box.name)
