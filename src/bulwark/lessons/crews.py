"""How a lesson is asked to be rehearsed: its seed, and for each bench its crew, its slip and from when on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

from bulwark.lessons.models import Lesson

PACE = 30
# So many times as fast as the clock on the wall.
PACES = (1, 5, 10, 30, 60)


@dataclass(frozen=True, slots=True)
class Crewed:
    """How one bench is rehearsed: how its crew works, and which slip it makes from which minute on ("" for none)."""

    crew: str = "steady"
    slip: str = ""
    from_min: float = 0.0


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """How a lesson is rehearsed: the ``seed`` of its crews, and how each bench works. None said is the demo's."""

    seed: int = 7
    benches: Mapping[str, Crewed] | None = None

    def stored(self) -> dict[str, Any]:
        """As the lesson keeps it."""
        return {"seed": self.seed, "benches": {name: asdict(row) for name, row in (self.benches or {}).items()}}


def rehearsal_of(lesson: Lesson) -> Rehearsal:
    """How a lesson was asked to be rehearsed."""
    kept = lesson.rehearsed
    if not kept:
        return Rehearsal()
    return Rehearsal(seed=kept["seed"], benches={name: Crewed(**row) for name, row in kept["benches"].items()})
