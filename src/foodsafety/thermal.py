"""Heat: log-linear lethality, and the verdict on a cook."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, Series, Temperature, positive
from foodsafety.rules import CookLimit, Hold, House, Profile

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
        raise CoreError("readings", "the lethality is beyond what can be represented; check t_ref_c and z_c")
    return reduction


def _above(start: tuple[float, float], end: tuple[float, float], floor_c: float) -> tuple[float, float, float] | None:
    """The part of a segment at or above the floor: (duration_s, from_c, to_c)."""
    (t0, c0), (t1, c1) = start, end
    if c0 < floor_c and c1 < floor_c:
        return None
    duration_s = t1 - t0
    if c0 >= floor_c and c1 >= floor_c:
        return duration_s, c0, c1
    share = abs((max(c0, c1) - floor_c) / (c1 - c0))
    return duration_s * share, max(c0, floor_c), max(c1, floor_c)


def lethality(
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
        part = _above(start, end, floor_c) if end[0] - start[0] <= longest_gap_s else None
        if part:
            seconds.append(part[0])
            reductions.append(_segment(*part, death))
    return Lethality(log_reduction=math.fsum(reductions), seconds_above_floor=math.fsum(seconds))


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
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


def targets(profile_id: str) -> tuple[Target, ...]:
    """Every organism with what a profile asks of it."""
    return tuple(
        Target(
            id=key,
            name=row["name"],
            death=Kinetics(t_ref_c=row["t_ref_c"], d_ref_s=row["d_ref_s"], z_c=row["z_c"]),
            asked=row["targets"].get(profile_id),
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
    return lethality(readings, death, floor_c=floor_c, longest_gap_s=longest_gap_s).log_reduction


# What people go by that proves nothing: recorded beside a reading, never instead of one.
OBSERVATIONS = ("browned", "juices_clear", "firm", "piping_hot", "opaque_flakes", "shells_open", "floats")


# --- the verdict on a cook -----------------------------------------------------------------------

Status = Literal["not_measured", "too_few", "below", "hold", "rest", "confirm", "reached", "cannot_judge"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Probing:
    """One core reading of one piece. ``error_c`` is the thermometer's stated error [C]."""

    at_s: float
    piece: str
    core_c: float
    error_c: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """What the readings prove.

    "hold": keep it there ``remaining_s`` more; "rest": off the heat, ``remaining_s`` more;
    "confirm": the time is over, one more reading of the lowest piece must show it stayed there;
    "cannot_judge": the source gives no temperature to measure against.
    """

    status: Status
    limit: CookLimit
    hold: Hold | None = None
    lowest_piece: str | None = None
    lowest_c: float | None = None
    pieces: int = 0
    pieces_needed: int = 0
    remaining_s: float = 0.0
    since_s: float | None = None
    reached_s: float | None = None


@dataclass(frozen=True, slots=True)
class _Run:
    """When all pieces were last shown at a temperature, and the latest proof they stay there."""

    since_s: float
    proved_s: float


def _believed_c(probing: Probing, profile: Profile) -> float:
    return probing.core_c - (probing.error_c if profile.subtract_probe_error else 0.0)


def _run_at(probings: Sequence[Probing], target: Temperature, needed: int, profile: Profile) -> _Run | None:
    """The unbroken run in which every piece probed, and enough of them, was at the target.

    It begins when the last piece is first shown there and ends with any reading below. Proof
    that it goes on is a new reading of the piece that was lowest.
    """
    latest: dict[str, float] = {}
    since: float | None = None
    proved = 0.0
    for probing in probings:
        value = _believed_c(probing, profile)
        lowest = min(latest, key=lambda name: latest[name], default=probing.piece)
        latest[probing.piece] = value
        good = len(latest) >= needed and all(target.met_by(c) for c in latest.values())
        if not good:
            since = None
        elif since is None:
            since = proved = probing.at_s
        elif probing.piece == lowest:
            proved = probing.at_s
    return _Run(since, proved) if since is not None else None


def _stage(run: _Run, wait_s: float, start_s: float, now_s: float) -> tuple[Status, float]:
    """Where a wait stands: still to go, to be confirmed, or reached."""
    end_s = start_s + wait_s
    if run.proved_s >= end_s:
        return "reached", 0.0
    if now_s < end_s:
        return "hold", end_s - now_s
    return "confirm", 0.0


def cook_verdict(
    probings: Iterable[Probing],
    limit: CookLimit,
    profile: Profile,
    *,
    now_s: float,
    house: House | None = None,
    off_heat_s: float | None = None,
    pieces_needed: int | None = None,
) -> Verdict:
    """The verdict on core readings against a cooking limit.

    The lowest piece counts; too few pieces is never a pass. A hold is counted from when the
    lowest piece first reaches the temperature while it stays there; a rest is counted off the
    heat while the core stays at or above the limit. Both end with a reading, not with a clock.
    """
    needed = pieces_needed if pieces_needed is not None else profile.pieces
    if limit.main is None:
        return Verdict(status="cannot_judge", limit=limit, pieces_needed=needed)
    rows = sorted(probings, key=lambda p: (p.at_s, -p.core_c))
    if not rows:
        return Verdict(status="not_measured", limit=limit, hold=limit.main, pieces_needed=needed)
    latest = {row.piece: _believed_c(row, profile) for row in rows}
    lowest = min(latest, key=lambda name: (latest[name], name))

    def verdict(status: Status, hold: Hold, remaining_s: float = 0.0, run: _Run | None = None) -> Verdict:
        return Verdict(
            status=status,
            limit=limit,
            hold=hold,
            lowest_piece=lowest,
            lowest_c=latest[lowest],
            pieces=len(latest),
            pieces_needed=needed,
            remaining_s=remaining_s,
            since_s=run.since_s if run else None,
            reached_s=run.proved_s if run and status == "reached" else None,
        )

    options = [limit.main, *limit.alternatives]
    if house and house.cook_equivalents:
        options += [row for row in limit.equivalents if row not in options]
    answers: list[Verdict] = []
    for hold in options:
        run = _run_at(rows, hold.temperature, needed, profile)
        if run is None:
            continue
        status, remaining_s = _stage(run, hold.hold_s, run.since_s, now_s)
        rest_s = limit.rest_s or limit.stand_s
        if status == "reached" and rest_s:
            status, remaining_s = _resting(run, rest_s, off_heat_s, now_s)
        answers.append(verdict(status, hold, remaining_s, run))
    if answers:
        rank = {"reached": 0, "confirm": 1, "rest": 2, "hold": 3}
        return min(answers, key=lambda answer: (rank[answer.status], answer.remaining_s))
    lowest_target = min(options, key=lambda hold: hold.temperature.c)
    if all(lowest_target.temperature.met_by(c) for c in latest.values()):
        return verdict("too_few", limit.main)
    return verdict("below", limit.main)


def _resting(run: _Run, rest_s: float, off_heat_s: float | None, now_s: float) -> tuple[Status, float]:
    if off_heat_s is None:
        return "rest", rest_s
    status, remaining_s = _stage(run, rest_s, max(off_heat_s, run.since_s), now_s)
    return ("rest" if status == "hold" else status), remaining_s
