"""A body of food, what surrounds it, and the course its temperature takes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from foodsafety.heat.properties import Array
from foodsafety.quantities import CoreError, positive

Shape = Literal["slab", "cylinder", "sphere", "finite_cylinder", "brick"]
SIZES: dict[Shape, int] = {"slab": 1, "cylinder": 1, "sphere": 1, "finite_cylinder": 2, "brick": 3}
POWER = {"slab": 0, "cylinder": 1, "sphere": 2}
# One-dimensional bodies that a finite shape is the product of, in the order of its sizes.
PARTS: dict[Shape, tuple[str, ...]] = {
    "slab": ("slab",),
    "cylinder": ("cylinder",),
    "sphere": ("sphere",),
    "finite_cylinder": ("cylinder", "slab"),
    "brick": ("slab", "slab", "slab"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Body:
    """A shape with its sizes [m]: half-thickness or radius, first the radius, then half-lengths.
    ``h`` [W/(m2 K)] at its surface, the resistance of a lid or wrap already in it."""

    shape: Shape
    size_m: tuple[float, ...]
    h: float

    def __post_init__(self) -> None:
        if self.shape not in SIZES:
            raise CoreError("shape", "not_one_of", value=self.shape, allowed=tuple(SIZES))
        if len(self.size_m) != SIZES[self.shape]:
            raise CoreError("size_m", "wrong_sizes", shape=self.shape, wanted=SIZES[self.shape], count=len(self.size_m))
        for i, size in enumerate(self.size_m):
            positive(size, f"size_m[{i}]")
        positive(self.h, "h")


@dataclass(frozen=True, slots=True, kw_only=True)
class ConstantProperties:
    """Properties that stay: k [W/(m K)], rho [kg/m3], cp [J/(kg K)]."""

    k: float
    rho: float
    cp: float

    def __post_init__(self) -> None:
        for name in ("k", "rho", "cp"):
            positive(getattr(self, name), f"food.{name}")


@dataclass(frozen=True, slots=True)
class Surroundings:
    """Temperature around the food [C] over time [s]: straight between its points, level before
    the first and after the last; two points at one time are a jump. ``h_steps`` are the moments
    [s] at which the coefficient [W/(m2 K)] becomes another: out of the oven, into an ice bath."""

    points: tuple[tuple[float, float], ...]
    h_steps: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        if not self.points:
            raise CoreError("ambient_c", "no_points")
        for i, (_, h) in enumerate(self.h_steps):
            positive(h, f"stages[{i}].h")

    def h_at(self, time_s: float, first: float) -> float:
        """The coefficient [W/(m2 K)] at a time; ``first`` before any step."""
        return next((h for at_s, h in reversed(self.h_steps) if at_s <= time_s), first)

    @property
    def corners_s(self) -> tuple[float, ...]:
        """When anything changes its course [s]."""
        return tuple(row[0] for row in (*self.points, *self.h_steps))

    def at(self, time_s: float) -> float:
        """The temperature at a time, after a jump."""
        before = [row for row in self.points if row[0] <= time_s]
        after = [row for row in self.points if row[0] > time_s]
        if not before:
            return self.points[0][1]
        if not after:
            return before[-1][1]
        (t0, c0), (t1, c1) = before[-1], after[0]
        return c0 + (c1 - c0) * (time_s - t0) / (t1 - t0)

    @property
    def last_s(self) -> float:
        """When it stops changing."""
        return max(0.0, self.points[-1][0])


@dataclass(frozen=True, slots=True, kw_only=True)
class TemperatureCourse:
    """Temperatures [C] over time [s], and when the centre reached its target (None: it did not)."""

    times_s: Array
    centre_c: Array
    mean_c: Array
    surface_c: Array
    reached_s: float | None = None


def cut_into_shells(kind: str, size_m: float, count: int) -> tuple[Array, Array, float]:
    """Volumes of the shells around equidistant points, the areas between them, the outer area:
    all for a unit of length or angle."""
    power = POWER[kind]
    edges = np.concatenate(([0.0], (np.arange(count) + 0.5) * size_m / count, [size_m]))
    volumes = np.diff(edges ** (power + 1)) / (power + 1)
    return volumes, edges[1:-1] ** power, size_m**power
