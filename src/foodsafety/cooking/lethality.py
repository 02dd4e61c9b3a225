"""Log-linear lethality: the kill along a temperature history."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any

from foodsafety.data import data_text, profile_text
from foodsafety.quantities import CoreError, Series, positive

# 130 F: below this nothing is credited. Source: FSIS cooking guideline, Appendix A (lowest row).
CREDIT_FLOOR_C = 54.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Kinetics:
    """Log-linear thermal death: ``d_ref_s`` [s] for one decimal reduction at ``t_ref_c`` [C],
    tenfold quicker for each ``z_c`` [C] more."""

    t_ref_c: float
    d_ref_s: float
    z_c: float

    def __post_init__(self) -> None:
        positive(self.d_ref_s, "d_ref_s")
        positive(self.z_c, "z_c")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lethality:
    """Decimal reductions [log10] and the time [s] spent at or above the floor."""

    log_reduction: float
    seconds_above_floor: float


def _segment(duration_s: float, from_c: float, to_c: float, death: Kinetics) -> float:
    """Decimal reductions over one straight segment, in closed form."""
    rise = (to_c - from_c) * math.log(10) / death.z_c
    try:
        rate = 10 ** ((from_c - death.t_ref_c) / death.z_c) / death.d_ref_s
        # (e^x - 1)/x, well behaved as the segment becomes level
        mean = math.expm1(rise) / rise if abs(rise) > 1e-12 else 1.0
        reduction = duration_s * rate * mean
    except OverflowError:
        reduction = math.inf
    if not math.isfinite(reduction):
        raise CoreError("readings", "lethality_overflow")
    return reduction


def _stretch_above(
    start: tuple[float, float], end: tuple[float, float], floor_c: float
) -> tuple[float, float, float] | None:
    """The part of a segment at or above the floor: (duration_s, from_c, to_c)."""
    (t0, c0), (t1, c1) = start, end
    if c0 < floor_c and c1 < floor_c:
        return None
    duration_s = t1 - t0
    if c0 >= floor_c and c1 >= floor_c:
        return duration_s, c0, c1
    share = abs((max(c0, c1) - floor_c) / (c1 - c0))
    return duration_s * share, max(c0, floor_c), max(c1, floor_c)


def lethality_of(
    readings: Series, death: Kinetics, *, floor_c: float = CREDIT_FLOOR_C, longest_gap_s: float = math.inf
) -> Lethality:
    """Decimal reductions from tidied readings (s, C), linear between them.

    Exact integral of 10**((T - t_ref_c) / z_c) / d_ref_s; nothing counts below ``floor_c``, nor
    between two readings further apart than ``longest_gap_s`` [s]: nobody saw what was between.
    Error: a probe reading e C high inflates this by at least 10**(e / z_c).
    Source: Bigelow 1921, J. Infect. Dis. 29:528.
    """
    reductions: list[float] = []
    seconds: list[float] = []
    for start, end in pairwise(readings):
        part = _stretch_above(start, end, floor_c) if end[0] - start[0] <= longest_gap_s else None
        if part:
            seconds.append(part[0])
            reductions.append(_segment(*part, death))
    return Lethality(log_reduction=math.fsum(reductions), seconds_above_floor=math.fsum(seconds))


@dataclass(frozen=True, slots=True, kw_only=True)
class KillTarget:
    """An organism's death, and the decimal reductions that a profile asks of it (None: it says
    nothing of this one)."""

    id: str
    name: str
    death: Kinetics
    asked: float | None
    source: str


@cache
def _deaths() -> Mapping[str, Mapping[str, Any]]:
    return tomllib.loads(data_text("lethality.toml"))


@cache
def kill_targets(profile_id: str) -> tuple[KillTarget, ...]:
    """Every organism with what a profile asks of it."""
    asked = tomllib.loads(profile_text(profile_id, "lethality.toml"))
    return tuple(
        KillTarget(
            id=key,
            name=row["name"],
            death=Kinetics(t_ref_c=row["t_ref_c"], d_ref_s=row["d_ref_s"], z_c=row["z_c"]),
            asked=asked.get(key),
            source=row["source"],
        )
        for key, row in _deaths().items()
    )


def f_value_s(
    readings: Series,
    *,
    t_ref_c: float,
    z_c: float,
    floor_c: float = CREDIT_FLOOR_C,
    longest_gap_s: float = math.inf,
) -> float:
    """The F-value: the time [s] at ``t_ref_c`` that kills as much as these readings do; gaps longer
    than ``longest_gap_s`` [s] and what is below the floor not counted."""
    death = Kinetics(t_ref_c=t_ref_c, d_ref_s=1.0, z_c=z_c)
    return lethality_of(readings, death, floor_c=floor_c, longest_gap_s=longest_gap_s).log_reduction
