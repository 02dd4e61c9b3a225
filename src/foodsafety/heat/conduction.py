"""Heat through food: conduction inside, convection at the surface, surroundings that change.

Constant properties: the equations, cut into shells, are solved by their modes, exactly in time
for surroundings that are straight between their points; finite cylinders and bricks are products
of such modes. Properties that vary, and freezing: enthalpy in shells, TR-BDF2 in time, with heat
conserved to rounding.

Error: against the series solutions within 0.1 C or 0.2 % of the step for Biot 0.05 to 100.
Source: Carslaw and Jaeger, Conduction of Heat in Solids; Bank et al. 1985 (TR-BDF2).
"""

from __future__ import annotations

import numpy as np

from foodsafety.heat.cells import conduct_in_cells
from foodsafety.heat.geometry import (
    Body,
    ConstantProperties,
    Surroundings,
    TemperatureCourse,
)
from foodsafety.heat.modes import LinearBody
from foodsafety.heat.properties import FoodProperties
from foodsafety.heat.shells import Face, Level, Properties, conduct_in_shells
from foodsafety.quantities import CoreError, positive

POINTS = 121
LONGEST_S = 60 * 86400.0


def _course_of(linear: LinearBody, end_s: float, reached_s: float | None) -> TemperatureCourse:
    times = np.linspace(0.0, end_s, POINTS)
    rows = np.array([linear.at(float(time_s)) for time_s in times])
    return TemperatureCourse(
        times_s=times, centre_c=rows[:, 0], mean_c=rows[:, 1], surface_c=rows[:, 2], reached_s=reached_s
    )


# --- one door ------------------------------------------------------------------------------------------


def conduct(
    body: Body,
    food: ConstantProperties | FoodProperties,
    *,
    t0_c: float,
    around: Surroundings,
    until_s: float | None = None,
    until_centre_c: float | None = None,
) -> TemperatureCourse:
    """The course of temperatures in a body from ``t0_c`` [C] all through, until a time [s], or until
    the centre reaches a temperature [C], whichever comes first.

    Food given by its composition is computed with properties that vary. Freezing starts from the
    food's own ``t_f_c``. Error: freezing and thawing within 2 % of the time on a finer grid.
    Raises CoreError for a target the surroundings never bring.
    """
    if until_s is None and until_centre_c is None:
        raise CoreError("until_s", "no_end")
    if until_s is not None:
        positive(until_s, "until_s")
    if until_centre_c is not None and until_s is None:
        _reachable(t0_c, until_centre_c, around)
    end_s = min(until_s or LONGEST_S, LONGEST_S)
    if isinstance(food, FoodProperties) or around.h_steps:
        return _varying(body, food, t0_c, around, end_s, until_centre_c, endless=until_s is None)
    linear = LinearBody(body, food, t0_c, around)
    reached_s = linear.reaches(until_centre_c, end_s) if until_centre_c is not None else None
    if until_s is None and reached_s is None:
        raise CoreError("until_centre_c", "not_reached_in_time", target_c=until_centre_c, most=LONGEST_S / 86400)
    return _course_of(linear, end_s if reached_s is None else max(reached_s, 1e-9), reached_s)


def _varying(
    body: Body,
    food: ConstantProperties | FoodProperties,
    t0_c: float,
    around: Surroundings,
    end_s: float,
    target_c: float | None,
    *,
    endless: bool,
) -> TemperatureCourse:
    freezing = isinstance(food, FoodProperties) and food.t_f_c is not None
    properties: Properties = food if isinstance(food, FoodProperties) else Level(food)
    if len(body.size_m) > 1:
        course, _ = conduct_in_cells(body, properties, t0_c, around, end_s=end_s, target_c=target_c)
    elif freezing:
        course, _ = conduct_in_shells(body, properties, t0_c, around, end_s=end_s, target_c=target_c)
    else:
        # Without freezing the curves are smooth: a fine grid costs little.
        course, _ = conduct_in_shells(
            body, properties, t0_c, around, end_s=end_s, target_c=target_c, cells=100, tolerance_c=0.004
        )
    if endless and target_c is not None and course.reached_s is None:
        raise CoreError("until_centre_c", "not_reached_in_time", target_c=target_c, most=LONGEST_S / 86400)
    return course


def pan_fried(
    thickness_m: float,
    food: ConstantProperties | FoodProperties,
    *,
    t0_c: float,
    below: Surroundings,
    below_h: float,
    above: Surroundings,
    above_h: float,
    until_s: float,
    until_coldest_c: float | None = None,
) -> TemperatureCourse:
    """A piece between two surroundings that differ: on a pan and in the air, turned by exchanging
    them at a time (both as points and ``h_steps``). ``centre_c`` of the course is its slowest point.

    ``below_h`` and ``above_h`` [W/(m2 K)] are those at the start.
    """
    body = Body(shape="slab", size_m=(positive(thickness_m, "thickness_m"),), h=positive(above_h, "above_h"))
    properties: Properties = food if isinstance(food, FoodProperties) else Level(food)
    near = Face(positive(below_h, "below_h"), below)
    course, _ = conduct_in_shells(
        body,
        properties,
        t0_c,
        above,
        end_s=positive(until_s, "until_s"),
        target_c=until_coldest_c,
        cells=80,
        tolerance_c=0.01,
        near=near,
    )
    return course


def _reachable(t0_c: float, target_c: float, around: Surroundings) -> None:
    temps = [t0_c, *(row[1] for row in around.points)]
    if not min(temps) < target_c < max(temps) and target_c != t0_c:
        raise CoreError("until_centre_c", "never_reached", target_c=target_c, lowest=min(temps), highest=max(temps))
