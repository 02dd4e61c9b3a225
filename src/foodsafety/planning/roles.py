"""Roles in a group: they go round, so that nobody has the same one twice before everybody has had it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from scipy.optimize import linear_sum_assignment

_AGAIN = 1000.0


def rotated(benches: Sequence[Sequence[str]], roles: Sequence[str], had: Sequence[Mapping[str, str]]) -> dict[str, str]:
    """The role of each learner in the next lesson, a role once at each bench as far as there are learners for it.
    ``had``: the roles of earlier lessons, oldest first. At a bench whoever had a role least often gets it, and of
    those who had it as often whoever had it longest ago: over the benches as they are, nobody has one twice before
    everybody at the bench has had it, wherever the roles can be given out so at all."""
    past = _Past(had)
    found: dict[str, str] = {}
    for bench in benches:
        if bench and roles:
            costs = [[past.cost(who, role) for role in roles] for who in bench]
            found |= {bench[row]: roles[column] for row, column in zip(*linear_sum_assignment(costs), strict=True)}
    return found


class _Past:
    """Who had which role how often, and when last."""

    def __init__(self, had: Sequence[Mapping[str, str]]) -> None:
        self.lessons = len(had)
        self.counts = Counter((who, role) for row in had for who, role in row.items())
        self.of_learner = Counter(who for row in had for who in row)
        self.of_role = Counter(role for row in had for role in row.values())
        self.last = {(who, role): n for n, row in enumerate(had, start=1) for who, role in row.items()}

    def cost(self, who: str, role: str) -> float:
        """How little somebody should have a role now. Twice is dearer than once for two. Whoever has had the fewest
        roles comes first: else one is left at the end who still lacks two, and has one lesson for them."""
        often = _AGAIN * (2 * self.counts[who, role] + 1)
        return often + self.of_learner[who] + self.of_role[role] + self.last.get((who, role), 0) / (self.lessons + 1)
