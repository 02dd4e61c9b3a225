"""Thermal properties of foods from their composition, frozen or not.

Source: Choi and Okos 1986, "Effects of temperature and composition on the thermal properties of
foods"; T in C, -40 to 150. Mixtures: cp by mass, 1/rho by mass over rho, k by volume fraction
(parallel). Error: some 5 % for k and cp of unfrozen food, more for porous ones.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from foodsafety.foods import Composition
from foodsafety.quantities import CoreError, finite

Array = NDArray[np.float64]

# a + b T + c T2 of each component: k [W/(m K)], rho [kg/m3], cp [kJ/(kg K)].
_K = {
    "water": (0.57109, 1.7625e-3, -6.7036e-6),
    "ice": (2.2196, -6.2489e-3, 1.0154e-4),
    "protein": (0.17881, 1.1958e-3, -2.7178e-6),
    "fat": (0.18071, -2.7604e-3, -1.7749e-7),
    "carbohydrate": (0.20141, 1.3874e-3, -4.3312e-6),
    "fibre": (0.18331, 1.2497e-3, -3.1683e-6),
    "ash": (0.32962, 1.4011e-3, -2.9069e-6),
}
_RHO = {
    "water": (997.18, 3.1439e-3, -3.7574e-3),
    "ice": (916.89, -0.13071, 0.0),
    "protein": (1329.9, -0.5184, 0.0),
    "fat": (925.59, -0.41757, 0.0),
    "carbohydrate": (1599.1, -0.31046, 0.0),
    "fibre": (1311.5, -0.36589, 0.0),
    "ash": (2423.8, -0.28063, 0.0),
}
_CP = {
    "water": (4.1762, -9.0864e-5, 5.4731e-6),
    "ice": (2.0623, 6.0769e-3, 0.0),
    "protein": (2.0082, 1.2089e-3, -1.3129e-6),
    "fat": (1.9842, 1.4733e-3, -4.8008e-6),
    "carbohydrate": (1.5488, 1.9625e-3, -5.9399e-6),
    "fibre": (1.8459, 1.8306e-3, -4.6509e-6),
    "ash": (1.0926, 1.8896e-3, -3.6817e-6),
}
LATENT_KJ_KG = 333.6
LOWEST_C, HIGHEST_C = -60.0, 160.0
_STEP_C = 0.02


def _poly(row: tuple[float, float, float], at_c: Array) -> Array:
    return row[0] + row[1] * at_c + row[2] * at_c * at_c


@dataclass(frozen=True)
class FoodProperties:
    """k [W/(m K)], rho [kg/m3], cp [J/(kg K)] and enthalpy [J/kg] of a food, tabled over -60 to
    160 C. ``t_f_c`` [C] is where it begins to freeze; None where it is never frozen."""

    composition: Composition
    t_f_c: float | None = None

    def __post_init__(self) -> None:
        if self.t_f_c is not None and not -20 <= self.t_f_c < 0:
            raise CoreError("freezing.t_f_c", "freezing_point_outside", value=self.t_f_c)

    @cached_property
    def grid_c(self) -> Array:
        """The temperatures of the table [C]."""
        return np.arange(LOWEST_C, HIGHEST_C + _STEP_C, _STEP_C)

    @cached_property
    def ice(self) -> Array:
        """Mass fraction of ice over the table: (xw - 0.4 xp)(1 - Tf/T) below Tf."""
        at_c = self.grid_c
        if self.t_f_c is None:
            return np.zeros_like(at_c)
        freezable = max(0.0, self.composition.water - 0.4 * self.composition.protein)
        frozen = at_c < self.t_f_c
        return np.where(frozen, freezable * (1 - self.t_f_c / np.where(frozen, at_c, -1.0)), 0.0)

    @cached_property
    def _parts(self) -> dict[str, Array | float]:
        c = self.composition
        return {
            "water": c.water - self.ice,
            "ice": self.ice,
            "protein": c.protein,
            "fat": c.fat,
            "carbohydrate": c.carbohydrate,
            "fibre": c.fibre,
            "ash": c.ash,
        }

    @cached_property
    def rho(self) -> Array:
        """Density [kg/m3] over the table."""
        rows = (part / _poly(_RHO[name], self.grid_c) for name, part in self._parts.items())
        return np.asarray(1.0 / sum(rows))

    @cached_property
    def k(self) -> Array:
        """Conductivity [W/(m K)] over the table."""
        at_c, rho = self.grid_c, self.rho
        rows = (part * rho / _poly(_RHO[name], at_c) * _poly(_K[name], at_c) for name, part in self._parts.items())
        return np.asarray(sum(rows))

    @cached_property
    def cp(self) -> Array:
        """Sensible specific heat [J/(kg K)] over the table, without the heat of freezing."""
        rows = (part * _poly(_CP[name], self.grid_c) for name, part in self._parts.items())
        return 1000.0 * np.asarray(sum(rows))

    @cached_property
    def enthalpy(self) -> Array:
        """Enthalpy [J/kg] over the table, latent heat of the ice included."""
        cp = self.cp
        sensible = np.concatenate(([0.0], np.cumsum((cp[1:] + cp[:-1]) / 2 * _STEP_C)))
        return sensible - 1000.0 * LATENT_KJ_KG * self.ice

    def at(self, at_c: float) -> tuple[float, float, float]:
        """(k, rho, cp) at one temperature [C]."""
        return (
            float(np.interp(at_c, self.grid_c, self.k)),
            float(np.interp(at_c, self.grid_c, self.rho)),
            float(np.interp(at_c, self.grid_c, self.cp)),
        )


def composition_from(data: object, field: str = "food.composition") -> Composition:
    """A composition in mass fractions or per cent. Raises CoreError unless it makes one whole."""
    if not isinstance(data, dict):
        raise CoreError(field, "not_a_composition")
    names = ("water", "protein", "fat", "carbohydrate", "fibre", "ash")
    unknown = sorted(set(data) - set(names))
    if unknown:
        raise CoreError(f"{field}.{unknown[0]}", "not_one_of", value=unknown[0], allowed=tuple(names))
    parts = [finite(data.get(name) or 0.0, f"{field}.{name}", low=0, high=100) for name in names]
    total = sum(parts)
    whole = 100.0 if total > 1.5 else 1.0
    if abs(total - whole) > 0.05 * whole:
        raise CoreError(field, "fractions_do_not_add_up", total=total)
    return Composition(**dict(zip(names, (part / total for part in parts), strict=True)))
