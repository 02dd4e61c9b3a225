"""The verdict on a cook: the lowest piece, the hold, the rest, and what cannot be judged."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from copy import copy
from dataclasses import dataclass, replace
from functools import reduce
from typing import Literal

from foodsafety.measuring import most_error_c
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
    when a hold is credited, the latest proof that it goes on, the last reading of any piece, and when
    the hold was complete (None: it is not)."""

    shown_s: float
    since_s: float
    proved_s: float
    last_s: float
    held_s: float | None


def believed_c(core_c: float, error_c: float, profile: Profile) -> float:
    """A core reading [C] less its thermometer's stated error [C], where that is taken off.

    A profile may ask for it; an instrument worse than guidance allows (``most_error_c`` of
    thermometers.toml, 1 C / 2 F) has its error taken off under every profile.
    """
    return core_c - (error_c if error_c > error_borne_c(profile) else 0.0)


def error_borne_c(profile: Profile) -> float:
    """The stated error of a thermometer [C] above which it is taken off what it shows."""
    return 0.0 if profile.subtract_probe_error else most_error_c()


def _going_on(run: _Run | None, at_s: float, hold_s: float, longest_gap_s: float) -> _Run:
    """A run with one more reading of the piece that was lowest, or one that begins. After a gap longer
    than ``longest_gap_s`` nobody saw what happened, and a hold that was not complete is counted anew."""
    if run is None:
        return _Run(at_s, at_s, at_s, at_s, None if hold_s else at_s)
    unseen = run.held_s is None and at_s - run.proved_s > longest_gap_s
    since_s = at_s if unseen else run.since_s
    held_s = at_s if run.held_s is None and at_s - since_s >= hold_s else run.held_s
    return _Run(run.shown_s, since_s, at_s, at_s, held_s)


@dataclass(frozen=True, slots=True)
class ShownSoFar:
    """What readings have shown so far: the latest of each piece, as far as it is believed [C], and of
    each temperature that will do the pieces below it and the unbroken run at it."""

    latest: Mapping[str, float]
    below: tuple[frozenset[str], ...]
    runs: tuple[_Run | None, ...]


def reading_order(probing: Probing) -> tuple[float, float]:
    """In time; of readings of one moment the lowest comes last, and counts."""
    return (probing.at_s, -probing.core_c)


_RANK = {"reached": 0, "confirm": 1, "rest": 2, "hold": 3}


class CookRule:
    """A cooking limit as a kitchen applies it, and what readings show of it, one by one.

    The lowest piece counts; too few pieces is never a pass, and any later reading below the limit
    takes back what earlier ones showed, until every piece is shown again. A run begins when the last
    piece is first shown at a temperature; proof that it goes on is a new reading of the piece that
    was lowest.
    """

    def __init__(
        self, limit: CookLimit, profile: Profile, *, house: House | None = None, pieces_needed: int | None = None
    ) -> None:
        self.limit, self.profile = limit, profile
        self.needed = pieces_needed if pieces_needed is not None else profile.pieces
        self.holds = tuple(_holds(limit, house))
        self.nothing = ShownSoFar({}, (frozenset(),) * len(self.holds), (None,) * len(self.holds))

    def for_pieces(self, counted: int | None) -> CookRule:
        """The same rule where somebody counted the pieces: no more can be probed than there are."""
        if counted is None or counted >= self.needed:
            return self
        fewer = copy(self)
        fewer.needed = counted
        return fewer

    def after(self, shown: ShownSoFar, probing: Probing) -> ShownSoFar:
        """What is shown once another reading is taken; readings come in their order."""
        core_c, piece = believed_c(probing.core_c, probing.error_c, self.profile), probing.piece
        lowest = min(shown.latest, key=shown.latest.__getitem__, default=piece)
        latest = {**shown.latest, piece: core_c}
        below: list[frozenset[str]] = []
        runs: list[_Run | None] = []
        for hold, low, run in zip(self.holds, shown.below, shown.runs, strict=True):
            if core_c < hold.temperature.least_c:
                below.append(low | {piece})
                runs.append(None)
                continue
            low = low - {piece} if piece in low else low
            below.append(low)
            runs.append(self._run(run, hold, probing, whole=not low and len(latest) >= self.needed, by=lowest))
        return ShownSoFar(latest, tuple(below), tuple(runs))

    def _run(self, run: _Run | None, hold: Hold, probing: Probing, *, whole: bool, by: str) -> _Run | None:
        if not whole:
            return None
        if run is not None and probing.piece != by:
            return replace(run, last_s=probing.at_s)
        return _going_on(run, probing.at_s, hold.hold_s, self.profile.longest_gap_s)

    def verdict(self, shown: ShownSoFar, *, now_s: float, off_heat_s: float | None = None) -> CookVerdict:
        """What the readings so far prove at a moment [s]."""
        if self.limit.main is None:
            return CookVerdict(status="cannot_judge", limit=self.limit, pieces_needed=self.needed)
        if not shown.latest:
            hold = self.limit.main
            return CookVerdict(status="not_measured", limit=self.limit, hold=hold, pieces_needed=self.needed)
        known = _Known(shown.latest, self.limit, self.needed)
        answers = [
            known.verdict(_standing(run, hold, self.limit, off_heat_s, now_s), hold, run)
            for hold, run in zip(self.holds, shown.runs, strict=True)
            if run is not None
        ]
        if answers:
            return min(answers, key=lambda answer: (_RANK[answer.status], answer.remaining_s))
        enough = any(not low for low in shown.below)
        return known.verdict(_Standing("too_few" if enough else "below"), self.limit.main)


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
    """The verdict on core readings against a cooking limit (see ``CookRule``).

    A hold is counted from when the lowest piece first reaches the temperature while it stays there,
    and ends with a reading. A rest is counted from off the heat [s] (where nobody said so, from the
    last reading at the limit); a reading below the limit breaks it, and with no reading it ends by
    the clock (``rests_on``).
    """
    rule = CookRule(limit, profile, house=house, pieces_needed=pieces_needed)
    shown = reduce(rule.after, sorted(probings, key=reading_order), rule.nothing)
    return rule.verdict(shown, now_s=now_s, off_heat_s=off_heat_s)


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
    """Where a hold stands, and once it is complete the rest after it."""
    end_s = run.since_s + hold.hold_s
    if run.held_s is None:
        return _Standing("hold", end_s - now_s) if now_s < end_s else _Standing("confirm")
    rest_s = limit.rest_s + limit.stand_s
    if not rest_s:
        return _Standing("reached", reached_s=run.held_s)
    return _resting(run, max(end_s, run.shown_s), rest_s, off_heat_s, now_s)


def _resting(run: _Run, held_s: float, rest_s: float, off_heat_s: float | None, now_s: float) -> _Standing:
    """A rest begins when the limit is held, off the heat; nobody said so: at the last reading."""
    end_s = (run.last_s if off_heat_s is None else max(off_heat_s, held_s)) + rest_s
    if now_s < end_s and run.proved_s < end_s:
        return _Standing("rest", end_s - max(now_s, run.last_s))
    if run.proved_s >= end_s:
        return _Standing("reached", reached_s=end_s, rests_on="reading")
    return _Standing("reached", reached_s=end_s, rests_on="last_reading" if off_heat_s is None else "clock")
