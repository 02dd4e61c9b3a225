"""The verdict on a cook: the lowest piece, the hold, the rest, and what cannot be judged."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from foodsafety.quantities import Temperature
from foodsafety.rules import CookLimit, Hold, House, Profile

# What people go by that proves nothing: recorded beside a reading, never instead of one.
OBSERVATIONS = ("browned", "juices_clear", "firm", "piping_hot", "opaque_flakes", "shells_open", "floats")


CookStatus = Literal["not_measured", "too_few", "below", "hold", "rest", "confirm", "reached", "cannot_judge"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Probing:
    """One core reading of one piece. ``error_c`` is the thermometer's stated error [C]."""

    at_s: float
    piece: str
    core_c: float
    error_c: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CookVerdict:
    """What the readings prove.

    "hold": keep it there ``remaining_s`` more; "rest": off the heat, ``remaining_s`` more;
    "confirm": the time is over, one more reading of the lowest piece must show it stayed there;
    "cannot_judge": the source gives no temperature to measure against.
    """

    status: CookStatus
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
        lowest = min(latest, key=lambda name: latest[name], default=probing.piece)
        latest[probing.piece] = _believed_c(probing, profile)
        if len(latest) < needed or not _all_at(latest, target):
            since = None
        elif since is None:
            since = proved = probing.at_s
        elif probing.piece == lowest:
            proved = probing.at_s
    return _Run(since, proved) if since is not None else None


def _all_at(latest: Mapping[str, float], target: Temperature) -> bool:
    return all(target.met_by(c) for c in latest.values())


def _stage(run: _Run, wait_s: float, start_s: float, now_s: float) -> tuple[CookStatus, float]:
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
) -> CookVerdict:
    """The verdict on core readings against a cooking limit.

    The lowest piece counts; too few pieces is never a pass. A hold is counted from when the
    lowest piece first reaches the temperature while it stays there; a rest is counted off the
    heat while the core stays at or above the limit. Both end with a reading, not with a clock.
    """
    needed = pieces_needed if pieces_needed is not None else profile.pieces
    if limit.main is None:
        return CookVerdict(status="cannot_judge", limit=limit, pieces_needed=needed)
    rows = sorted(probings, key=lambda p: (p.at_s, -p.core_c))
    if not rows:
        return CookVerdict(status="not_measured", limit=limit, hold=limit.main, pieces_needed=needed)
    known = _Known({row.piece: _believed_c(row, profile) for row in rows}, limit, needed)
    options = _holds(limit, house)
    answers: list[CookVerdict] = []
    for hold in options:
        run = _run_at(rows, hold.temperature, needed, profile)
        if run is not None:
            status, remaining_s = _standing(run, hold, limit, off_heat_s, now_s)
            answers.append(known.verdict(status, hold, remaining_s, run))
    if answers:
        rank = {"reached": 0, "confirm": 1, "rest": 2, "hold": 3}
        return min(answers, key=lambda answer: (rank[answer.status], answer.remaining_s))
    least = min((hold.temperature for hold in options), key=lambda target: target.c)
    return known.verdict("too_few" if _all_at(known.latest, least) else "below", limit.main)


@dataclass(frozen=True, slots=True)
class _Known:
    """What is known of each piece: its latest reading, as far as it is believed [C]."""

    latest: Mapping[str, float]
    limit: CookLimit
    needed: int

    def verdict(self, status: CookStatus, hold: Hold, remaining_s: float = 0.0, run: _Run | None = None) -> CookVerdict:
        lowest = min(self.latest, key=lambda name: (self.latest[name], name))
        return CookVerdict(
            status=status,
            limit=self.limit,
            hold=hold,
            lowest_piece=lowest,
            lowest_c=self.latest[lowest],
            pieces=len(self.latest),
            pieces_needed=self.needed,
            remaining_s=remaining_s,
            since_s=run.since_s if run else None,
            reached_s=run.proved_s if run and status == "reached" else None,
        )


def _holds(limit: CookLimit, house: House | None) -> list[Hold]:
    """The temperatures that will do, each with its time; equivalents only where the house allows them."""
    options = [row for row in (limit.main, *limit.alternatives) if row is not None]
    if house and house.cook_equivalents:
        options += [row for row in limit.equivalents if row not in options]
    return options


def _standing(
    run: _Run, hold: Hold, limit: CookLimit, off_heat_s: float | None, now_s: float
) -> tuple[CookStatus, float]:
    """Where a hold stands, and once it is reached the rest after it."""
    status, remaining_s = _stage(run, hold.hold_s, run.since_s, now_s)
    rest_s = limit.rest_s or limit.stand_s
    if status == "reached" and rest_s:
        return _resting(run, rest_s, off_heat_s, now_s)
    return status, remaining_s


def _resting(run: _Run, rest_s: float, off_heat_s: float | None, now_s: float) -> tuple[CookStatus, float]:
    if off_heat_s is None:
        return "rest", rest_s
    status, remaining_s = _stage(run, rest_s, max(off_heat_s, run.since_s), now_s)
    return ("rest" if status == "hold" else status), remaining_s
