"""Out-of-temperature clocks: time adds up over trips and is never given back."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from foodsafety.codes import ClockLimit


@dataclass(frozen=True, slots=True, kw_only=True)
class Clock:
    """Time a food has spent out of temperature control.

    ``spent_s`` over trips that have ended, ``since_s`` the start of the one that has not.
    """

    spent_s: float = 0.0
    since_s: float | None = None

    def out(self, at_s: float) -> Clock:
        """Out of control from ``at_s``; a clock already running runs on."""
        return self if self.since_s is not None else Clock(spent_s=self.spent_s, since_s=at_s)

    def back(self, at_s: float) -> Clock:
        """Under control again at ``at_s``; a time before the start counts nothing."""
        return Clock(spent_s=self.total_s(at_s))

    def total_s(self, now_s: float) -> float:
        """Seconds out so far; a clock that was set back cannot take any away."""
        running = max(0.0, now_s - self.since_s) if self.since_s is not None else 0.0
        return self.spent_s + running


Standing = Literal["within", "over"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockVerdict:
    """A clock against its limit; at the limit exactly it is still within."""

    standing: Standing
    total_s: float
    remaining_s: float
    limit: ClockLimit


def judge(clock: Clock, limit: ClockLimit, *, now_s: float) -> ClockVerdict:
    """How a clock stands against a limit at a moment."""
    total_s = clock.total_s(now_s)
    return ClockVerdict(
        standing="over" if total_s > limit.limit_s else "within",
        total_s=total_s,
        remaining_s=max(0.0, limit.limit_s - total_s),
        limit=limit,
    )
