"""Freezing and thawing planned: in by when, out by when, where it may thaw, and what then.

The course is the enthalpy model's, at the low coefficient of the place; "frozen" is the centre at
the freezer's limit, "thawed" the centre free of ice.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from foodsafety.foods import Composition
from foodsafety.heat import (
    Body,
    FoodProperties,
    Shape,
    Surroundings,
    TemperatureCourse,
    conduct,
    environment,
    h_through,
)
from foodsafety.quantities import CoreError, finite
from foodsafety.rules import Profile

# Where food begins to freeze [C]: most fresh food lies between -0.8 and -2.
FREEZES_C = -1.0
_THAWED_C = -0.2
_LONGEST_S = 7 * 86400.0
ThawMethod = Literal["fridge", "cold_water", "running_water", "room", "microwave", "from_frozen"]

# Which ways of thawing a profile's school allows, and what comes after.
# Source: the profiles' thawing rows, reference section 1.
NEXT_AFTER_THAWING: dict[str, str] = {
    "fridge": "within_days",
    "cold_water": "cook_at_once",
    "running_water": "cook_or_chill",
    "microwave": "cook_at_once",
    "from_frozen": "half_longer",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class FrozenPiece:
    """What is frozen or thawed: a shape with its sizes [m] (half-thickness or radius first) and
    what it is made of; ``covers`` lie on it."""

    shape: Shape
    size_m: tuple[float, ...]
    composition: Composition
    freezes_c: float = FREEZES_C
    covers: tuple[str, ...] = ()

    @property
    def food(self) -> FoodProperties:
        """Its properties, freezing included."""
        return FoodProperties(self.composition, self.freezes_c)

    def body(self, h: float) -> Body:
        """Its body in surroundings of a coefficient [W/(m2 K)]."""
        return Body(shape=self.shape, size_m=self.size_m, h=h_through(h, self.covers))


def freezing_course(
    piece: FrozenPiece, *, where: str, around_c: float, start_c: float, target_c: float = -18.0
) -> TemperatureCourse:
    """The course from a temperature until the centre is at ``target_c``. Raises CoreError for a
    freezer that is not colder than that."""
    finite(start_c, "start_c", low=-5, high=90)
    if around_c >= target_c:
        raise CoreError("around_c", "freezer_not_cold_enough", around_c=around_c, target_c=target_c)
    return conduct(
        piece.body(environment(where).low_h),
        piece.food,
        t0_c=start_c,
        around=Surroundings(((0.0, around_c),)),
        until_s=_LONGEST_S,
        until_centre_c=target_c,
    )


def thawing_course(piece: FrozenPiece, *, where: str, around_c: float, start_c: float = -18.0) -> TemperatureCourse:
    """The course until the centre has no ice left. Raises CoreError where it is too cold for that,
    or where the food is not frozen."""
    if start_c >= piece.freezes_c:
        raise CoreError("start_c", "not_frozen", start_c=start_c)
    if around_c <= 0.5:
        raise CoreError("around_c", "too_cold_to_thaw", around_c=around_c)
    return conduct(
        piece.body(environment(where).low_h),
        piece.food,
        t0_c=start_c,
        around=Surroundings(((0.0, around_c),)),
        until_s=_LONGEST_S,
        until_centre_c=_THAWED_C,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ThawVerdict:
    """Whether a way of thawing may be used under a profile, and for how long [s] the surface is
    above the cold limit while the middle still thaws."""

    allowed: bool
    why: Literal["", "room", "too_warm_water", "surface_too_long"]
    surface_out_s: float
    then: str


def judge_thaw(course: TemperatureCourse, profile: Profile, *, method: ThawMethod, around_c: float) -> ThawVerdict:
    """A thawing course against a profile: never at room temperature; running water at most 70 F;
    the surface not above the cold limit for longer than the clock allows."""
    cold = profile.hold["cold"].temperature
    limit_s = profile.clock_for("cold", None).limit_s
    warm = [
        (float(b) - float(a))
        for a, b, at_c in zip(course.times_s, course.times_s[1:], course.surface_c[1:], strict=False)
        if cold.passed_by(float(at_c))
    ]
    out_s = sum(warm)
    why: Literal["", "room", "too_warm_water", "surface_too_long"] = ""
    if method == "room":
        why = "room"
    elif method in ("running_water", "cold_water") and around_c > (70 - 32) / 1.8 + 1e-9:
        why = "too_warm_water"
    elif method != "fridge" and out_s > limit_s:
        why = "surface_too_long"
    return ThawVerdict(allowed=not why, why=why, surface_out_s=out_s, then=NEXT_AFTER_THAWING.get(method, ""))


_OVER_A_DAY_S = 24 * 3600.0
# How a place of the workbench thaws, by the schools' names.
_METHOD_OF: dict[str, ThawMethod] = {
    "fridge": "fridge",
    "fan_fridge": "fridge",
    "tap_water": "running_water",
    "room": "room",
}
FREEZERS = ("freezer", "fan_freezer")


@dataclass(frozen=True, slots=True, kw_only=True)
class FreezePlan:
    """Freezing or thawing planned. ``took_s`` is None where it does not get there within a week;
    ``thaw`` is the verdict on a thawing, None for freezing. "slow": over a day to freeze."""

    standing: Literal["never", "not_this_way", "slow", "planned"]
    course: TemperatureCourse
    took_s: float | None
    thaw: ThawVerdict | None


def plan_freezing(piece: FrozenPiece, profile: Profile, *, where: str, around_c: float, start_c: float) -> FreezePlan:
    """Until the centre is at the freezer's limit."""
    if where not in FREEZERS:
        raise CoreError("where", "freezing_needs_a_freezer")
    target_c = profile.hold["freezer"].temperature.c
    course = freezing_course(piece, where=where, around_c=around_c, start_c=start_c, target_c=target_c)
    took_s = course.reached_s
    standing: Literal["never", "slow", "planned"] = (
        "never" if took_s is None else "slow" if took_s > _OVER_A_DAY_S else "planned"
    )
    return FreezePlan(standing=standing, course=course, took_s=took_s, thaw=None)


def plan_thawing(piece: FrozenPiece, profile: Profile, *, where: str, around_c: float, start_c: float) -> FreezePlan:
    """Until the centre has no ice left, and whether that way is allowed."""
    if where not in _METHOD_OF:
        raise CoreError("where", "freezing_needs_a_freezer")
    course = thawing_course(piece, where=where, around_c=around_c, start_c=start_c)
    if course.reached_s is None:
        return FreezePlan(standing="never", course=course, took_s=None, thaw=None)
    thaw = judge_thaw(course, profile, method=_METHOD_OF[where], around_c=around_c)
    standing: Literal["planned", "not_this_way"] = "planned" if thaw.allowed else "not_this_way"
    return FreezePlan(standing=standing, course=course, took_s=course.reached_s, thaw=thaw)
