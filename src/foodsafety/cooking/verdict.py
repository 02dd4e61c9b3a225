"""The verdict on a cook: the lowest piece, the hold, the rest, and what cannot be judged."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.measuring import most_error_c
from foodsafety.quantities import Temperature
from foodsafety.rules import CookLimit, Hold, House, Profile

# What people go by that proves nothing: recorded beside a reading, never instead of one.
OBSERVATIONS = ("browned", "juices_clear", "firm", "piping_hot", "opaque_flakes", "shells_open", "floats")


CookStatus = Literal["not_measured", "too_few", "below", "hold", "rest", "confirm", "reached", "cannot_judge"]


RestsOn = Literal["", "reading", "clock", "last_reading"]


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
    "confirm": the hold is over, one more reading of the lowest piece must show it stayed there;
    ``rests_on``: what the end of a rest rests on: a reading after it, the clock from off the heat, or
    the clock from the last reading, where nobody said when it came off.
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
    rests_on: RestsOn = ""


@dataclass(frozen=True, slots=True)
class _Run:
    """An unbroken stretch with every piece at a temperature [s]: when all were first shown there, from
    when a hold is credited, the latest proof that it goes on, and the last reading of any piece."""

    shown_s: float
    since_s: float
    proved_s: float
    last_s: float


def believed_c(core_c: float, error_c: float, profile: Profile) -> float:
    """A core reading [C] less its thermometer's stated error [C], where that is taken off.

    A profile may ask for it; an instrument worse than guidance allows (``most_error_c`` of
    thermometers.toml, 1 C / 2 F) has its error taken off under every profile.
    """
    return core_c - (error_c if profile.subtract_probe_error or error_c > most_error_c() else 0.0)


def _run_at(readings: Sequence[Probing], target: Temperature, needed: int, longest_gap_s: float) -> _Run | None:
    """The unbroken run in which every piece probed, and enough of them, was at the target.

    It begins when the last piece is first shown there and ends with any reading below. Proof that it
    goes on is a new reading of the piece that was lowest; after a gap longer than ``longest_gap_s``
    nobody saw what happened, and the hold is counted anew.
    """
    latest: dict[str, float] = {}
    below: set[str] = set()
    run: _Run | None = None
    for read in readings:
        lowest = min(latest, key=latest.__getitem__) if run is not None and len(latest) > 1 else read.piece
        latest[read.piece] = read.core_c
        if not target.met_by(read.core_c):
            below.add(read.piece)
            run = None
            continue
        below.discard(read.piece)
        if below or len(latest) < needed:
            continue
        if run is None:
            run = _Run(read.at_s, read.at_s, read.at_s, read.at_s)
        elif read.piece != lowest:
            run = replace(run, last_s=read.at_s)
        else:
            unseen = read.at_s - run.proved_s > longest_gap_s
            since_s = read.at_s if unseen else run.since_s
            run = _Run(run.shown_s, since_s, read.at_s, read.at_s)
    return run


def _as_believed(probing: Probing, profile: Profile) -> Probing:
    return replace(probing, core_c=believed_c(probing.core_c, probing.error_c, profile))


def _all_at(latest: Mapping[str, float], target: Temperature) -> bool:
    return all(target.met_by(c) for c in latest.values())


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

    The lowest piece counts; too few pieces is never a pass, and any later reading below the limit
    takes back what earlier ones showed, until every piece is shown again. A hold is counted from when
    the lowest piece first reaches the temperature while it stays there, and ends with a reading. A
    rest is counted from off the heat [s] (where nobody said so, from the last reading at the limit);
    a reading below the limit breaks it, and with no reading it ends by the clock (``rests_on``).
    """
    needed = pieces_needed if pieces_needed is not None else profile.pieces
    if limit.main is None:
        return CookVerdict(status="cannot_judge", limit=limit, pieces_needed=needed)
    rows = sorted(probings, key=lambda p: (p.at_s, -p.core_c))
    if not rows:
        return CookVerdict(status="not_measured", limit=limit, hold=limit.main, pieces_needed=needed)
    read = [_as_believed(row, profile) if row.error_c else row for row in rows]
    known = _Known({row.piece: row.core_c for row in read}, limit, needed)
    options = _holds(limit, house)
    answers: list[CookVerdict] = []
    for hold in options:
        run = _run_at(read, hold.temperature, needed, profile.longest_gap_s)
        if run is not None:
            answers.append(known.verdict(_standing(run, hold, limit, off_heat_s, now_s), hold, run))
    if answers:
        rank = {"reached": 0, "confirm": 1, "rest": 2, "hold": 3}
        return min(answers, key=lambda answer: (rank[answer.status], answer.remaining_s))
    least = min((hold.temperature for hold in options), key=lambda target: target.c)
    return known.verdict(_Standing("too_few" if _all_at(known.latest, least) else "below"), limit.main)


@dataclass(frozen=True, slots=True)
class _Standing:
    """Where a hold and the rest after it stand: what is still to wait [s], when it was reached [s],
    and what that rests on."""

    status: CookStatus
    remaining_s: float = 0.0
    reached_s: float | None = None
    rests_on: RestsOn = ""


@dataclass(frozen=True, slots=True)
class _Known:
    """What is known of each piece: its latest reading, as far as it is believed [C]."""

    latest: Mapping[str, float]
    limit: CookLimit
    needed: int

    def verdict(self, standing: _Standing, hold: Hold, run: _Run | None = None) -> CookVerdict:
        lowest = min(self.latest, key=lambda name: (self.latest[name], name))
        return CookVerdict(
            status=standing.status,
            limit=self.limit,
            hold=hold,
            lowest_piece=lowest,
            lowest_c=self.latest[lowest],
            pieces=len(self.latest),
            pieces_needed=self.needed,
            remaining_s=standing.remaining_s,
            since_s=run.since_s if run else None,
            reached_s=standing.reached_s,
            rests_on=standing.rests_on,
        )


def _holds(limit: CookLimit, house: House | None) -> list[Hold]:
    """The temperatures that will do, each with its time; equivalents only where the house allows them."""
    options = [row for row in (limit.main, *limit.alternatives) if row is not None]
    if house and house.cook_equivalents:
        options += [row for row in limit.equivalents if row not in options]
    return options


def _standing(run: _Run, hold: Hold, limit: CookLimit, off_heat_s: float | None, now_s: float) -> _Standing:
    """Where a hold stands, and once it is reached the rest after it."""
    end_s = run.since_s + hold.hold_s
    if run.proved_s < end_s:
        return _Standing("hold", end_s - now_s) if now_s < end_s else _Standing("confirm")
    rest_s = limit.rest_s + limit.stand_s
    if not rest_s:
        return _Standing("reached", reached_s=run.proved_s)
    return _resting(run, max(end_s, run.shown_s), rest_s, off_heat_s, now_s)


def _resting(run: _Run, held_s: float, rest_s: float, off_heat_s: float | None, now_s: float) -> _Standing:
    """A rest begins when the limit is held, off the heat; nobody said so: at the last reading."""
    end_s = (run.last_s if off_heat_s is None else max(off_heat_s, held_s)) + rest_s
    if now_s < end_s and run.proved_s < end_s:
        return _Standing("rest", end_s - max(now_s, run.last_s))
    if run.proved_s >= end_s:
        return _Standing("reached", reached_s=end_s, rests_on="reading")
    return _Standing("reached", reached_s=end_s, rests_on="last_reading" if off_heat_s is None else "clock")
