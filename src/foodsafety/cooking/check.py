"""A cook check: typed readings of every piece judged with and without those nobody can trust."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from foodsafety.cooking.lethality import KillTarget, f_value_s, kill_targets, lethality_of
from foodsafety.cooking.verdict import CookVerdict, Probing, cook_verdict
from foodsafety.measuring import PieceReading, review_log
from foodsafety.quantities import HIGHEST_CORE_C, LOWEST_C, CoreError, Series, Unit, c_from_f
from foodsafety.rules import CookLimit, Profile


@dataclass(frozen=True, slots=True, kw_only=True)
class DoubtedReading:
    """A reading that is kept and not trusted: its line [from 1] where no food gets so hot or cold,
    its piece and time [s] where it is a jump."""

    why: Literal["impossible", "jump"]
    line: int = 0
    value: float = 0.0
    piece: str = ""
    at_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CookCheck:
    """A cook judged by its trusted readings. ``hangs_on_doubt``: it is cooked only if a reading
    nobody can trust is left out, so it cannot be judged."""

    verdict: CookVerdict
    trusted: tuple[Probing, ...]
    doubted: tuple[DoubtedReading, ...]
    hangs_on_doubt: bool
    now_s: float


def check_cook(
    readings: Sequence[PieceReading],
    limit: CookLimit,
    profile: Profile,
    *,
    pieces_needed: int,
    unit: Unit = "C",
    error_c: float = 0.0,
    off_heat_s: float | None = None,
) -> CookCheck:
    """Typed readings against a limit; the last of them is now. Raises CoreError where none can be
    the core of a food."""
    read, impossible = _believable(readings, unit, error_c)
    if not read:
        raise CoreError("readings", "no_core_reading")
    trusted, jumps = _without_jumps(read)
    now_s = max(p.at_s for p in read)

    def judged(rows: Iterable[Probing]) -> CookVerdict:
        return cook_verdict(rows, limit, profile, now_s=now_s, off_heat_s=off_heat_s, pieces_needed=pieces_needed)

    found = judged(trusted)
    return CookCheck(
        verdict=found,
        trusted=trusted,
        doubted=(*impossible, *jumps),
        hangs_on_doubt=found.status == "reached" and judged(read).status != "reached",
        now_s=now_s,
    )


def _believable(
    readings: Sequence[PieceReading], unit: Unit, error_c: float
) -> tuple[tuple[Probing, ...], tuple[DoubtedReading, ...]]:
    kept: list[Probing] = []
    doubted: list[DoubtedReading] = []
    for line, reading in enumerate(readings, start=1):
        value_c = c_from_f(reading.value) if unit == "F" else reading.value
        if LOWEST_C <= value_c <= HIGHEST_CORE_C:
            kept.append(Probing(at_s=reading.at_s, piece=reading.piece, core_c=value_c, error_c=error_c))
        else:
            doubted.append(DoubtedReading(why="impossible", line=line, value=reading.value))
    return tuple(kept), tuple(doubted)


def _without_jumps(probings: Sequence[Probing]) -> tuple[tuple[Probing, ...], tuple[DoubtedReading, ...]]:
    """Readings without the jumps no piece can make, and those jumps."""
    pieces = list(dict.fromkeys(p.piece for p in probings))
    good = {row for piece in pieces for row in _smooth(probings, piece)}
    kept = [p for p in probings if (p.piece, p.at_s, p.core_c) in good]
    jumps = [p for p in probings if (p.piece, p.at_s, p.core_c) not in good]
    return (
        tuple(sorted(kept, key=lambda p: p.at_s)),
        tuple(
            DoubtedReading(why="jump", piece=p.piece, at_s=p.at_s)
            for p in sorted(jumps, key=lambda p: pieces.index(p.piece))
        ),
    )


def _smooth(probings: Sequence[Probing], piece: str) -> list[tuple[str, float, float]]:
    """The readings of one piece that it can have had: (piece, second, core)."""
    rows = [(p.at_s, p.core_c) for p in probings if p.piece == piece]
    return [(piece, *row) for row in review_log(rows, counts="lower").series]


@dataclass(frozen=True, slots=True, kw_only=True)
class OrganismKill:
    """What the readings of the slowest piece have killed of an organism: decimal reductions, and the
    time [s] at its own temperature that kills as much. It explains a limit and decides nothing."""

    target: KillTarget
    log_reduction: float
    f_value_s: float


def organism_kills(probings: Sequence[Probing], profile: Profile) -> tuple[OrganismKill, ...]:
    """Every organism, by the piece that shows the least; nothing is credited across long gaps."""
    pieces = {p.piece: tuple((q.at_s, q.core_c) for q in probings if q.piece == p.piece) for p in probings}
    return tuple(_kill(target, [*pieces.values()], profile.longest_gap_s) for target in kill_targets(profile.id))


def _kill(target: KillTarget, pieces: Sequence[Series], gap_s: float) -> OrganismKill:
    death = target.death
    return OrganismKill(
        target=target,
        log_reduction=min(lethality_of(rows, death, longest_gap_s=gap_s).log_reduction for rows in pieces),
        f_value_s=min(f_value_s(rows, t_ref_c=death.t_ref_c, z_c=death.z_c, longest_gap_s=gap_s) for rows in pieces),
    )
