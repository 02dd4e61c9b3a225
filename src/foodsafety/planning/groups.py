"""A group split fairly into benches (OR-tools CP-SAT): ages and what each has been shown are spread, allergies
kept together or apart, and who must or must not be together is."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ortools.sat.python import cp_model

from foodsafety.quantities import CoreError

Allergies = Literal["any", "together", "apart"]
ALLERGIES: tuple[Allergies, ...] = ("any", "together", "apart")
SECONDS = 1.0
SEED = 7
WORKERS = 2
MOST_LEARNERS = 300
# Where nothing is found in time, anything at all is looked for so many times as long.
LONGER = 10
# One bench too many with an allergen weighs as much as so many learners of an age too many at one.
_ALLERGY_WEIGHT = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Learner:
    """Somebody by initials or a nickname: age band, allergies, and what they have been shown (knife, hob ...)."""

    name: str
    age: str = ""
    allergies: frozenset[str] = frozenset()
    shown: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True, kw_only=True)
class Split:
    """Who is where. ``uneven``: for each age, skill and allergy that is not as even, or as close together, as numbers
    allow, by how many learners or benches. ``proven``: no split is fairer. ``conflict``: learners whose rules cannot
    all be kept; then there are no benches."""

    benches: tuple[tuple[str, ...], ...] = ()
    uneven: Mapping[str, int] | None = None
    proven: bool = False
    conflict: tuple[str, ...] = ()


def split(
    learners: Sequence[Learner],
    benches: int,
    *,
    together: Collection[tuple[str, str]] = (),
    apart: Collection[tuple[str, str]] = (),
    allergies: Allergies = "any",
    seconds: float = SECONDS,
) -> Split:
    """The fairest split into so many benches, whose sizes differ by one at most. Raises CoreError where there are fewer
    learners than benches, two of one name, or a rule about somebody who is not there."""
    _check(learners, benches, [*together, *apart])
    model = _Model(learners, benches, allergies)
    for one, other in together:
        model.join(one, other)
    for one, other in apart:
        model.part(one, other)
    return model.solve(seconds)


def rules_broken(
    benches: Mapping[str, Sequence[str]],
    *,
    together: Collection[tuple[str, str]] = (),
    apart: Collection[tuple[str, str]] = (),
) -> tuple[tuple[tuple[str, str], ...], tuple[tuple[str, str], ...]]:
    """The rules that a split made by hand does not keep: who is apart and must be together, and who is together and
    must not be. A rule about somebody who is at no bench is kept."""
    at = {name: bench for bench, names in benches.items() for name in names}
    parted = tuple((a, b) for a, b in together if a in at and b in at and at[a] != at[b])
    joined = tuple((a, b) for a, b in apart if a in at and at[a] == at.get(b))
    return parted, joined


def _check(learners: Sequence[Learner], benches: int, pairs: Sequence[tuple[str, str]]) -> None:
    if benches < 1 or len(learners) < benches:
        raise CoreError("benches", "fewer_than_benches", learners=len(learners), benches=benches)
    if len(learners) > MOST_LEARNERS:
        raise CoreError("learners", "too_many_learners", count=len(learners), most=MOST_LEARNERS)
    names = [row.name for row in learners]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise CoreError("learners", "id_used_twice", id=twice)
    for name in (name for pair in pairs for name in pair):
        if name not in names:
            raise CoreError("rules", "not_one_of", value=name, allowed=tuple(names[:20]))


class _Model:
    def __init__(self, learners: Sequence[Learner], benches: int, allergies: Allergies) -> None:
        self.learners, self.benches = learners, benches
        self.model = cp_model.CpModel()
        self.at = {
            (row.name, bench): self.model.new_bool_var(f"{row.name} at {bench}")
            for row in learners
            for bench in range(benches)
        }
        for row in learners:
            self.model.add_exactly_one(self.at[row.name, bench] for bench in range(benches))
        least, more = divmod(len(learners), benches)
        for bench in range(benches):  # the first benches are the larger ones: none is like another by name alone
            size = least + (1 if bench < more else 0)
            self.model.add(sum(self.at[row.name, bench] for row in learners) == size)
        self.costs: dict[str, tuple[Any, int]] = {}
        for kind, members in self._traits():
            self._spread(kind, members)
        if allergies != "any":
            self._allergies(allergies)
        self.model.minimize(sum(weight * cost for cost, weight in self.costs.values()))

    def join(self, one: str, other: str) -> None:
        """These two are at one bench."""
        for bench in range(self.benches):
            self.model.add(self.at[one, bench] == self.at[other, bench])

    def part(self, one: str, other: str) -> None:
        """These two are not."""
        for bench in range(self.benches):
            self.model.add(self.at[one, bench] + self.at[other, bench] <= 1)

    def _traits(self) -> Iterator[tuple[str, list[str]]]:
        for age in sorted({row.age for row in self.learners if row.age}):
            yield f"age {age}", [row.name for row in self.learners if row.age == age]
        for skill in sorted({skill for row in self.learners for skill in row.shown}):
            yield f"shown {skill}", [row.name for row in self.learners if skill in row.shown]

    def _spread(self, kind: str, members: list[str]) -> None:
        """As many at each bench as at any other, as far as numbers allow."""
        least, more = divmod(len(members), self.benches)
        over = []
        for bench in range(self.benches):
            count = sum(self.at[name, bench] for name in members)
            over.append(self.model.new_int_var(0, len(members), f"{kind} over at {bench}"))
            self.model.add(over[-1] >= count - (least + (1 if more else 0)))
            self.model.add(over[-1] >= least - count)
        total = self.model.new_int_var(0, len(members) * self.benches, kind)
        self.model.add(total == sum(over))
        self.costs[kind] = (total, 1)

    def _allergies(self, how: Allergies) -> None:
        for allergen in sorted({name for row in self.learners for name in row.allergies}):
            members = [row.name for row in self.learners if allergen in row.allergies]
            if how == "apart":
                self._spread(f"allergy {allergen}", members)
                continue
            used = []
            for bench in range(self.benches):
                used.append(self.model.new_bool_var(f"{allergen} at {bench}"))
                for name in members:
                    self.model.add(used[-1] >= self.at[name, bench])
            largest = -(-len(self.learners) // self.benches)
            more = self.model.new_int_var(0, self.benches, f"benches with {allergen}")
            self.model.add(more >= sum(used) - -(-len(members) // largest))
            self.costs[f"allergy {allergen}"] = (more, _ALLERGY_WEIGHT)

    def solve(self, seconds: float) -> Split:
        """The fairest found in so many seconds; raises CoreError where in many times that none is found, nor is it
        proven that there is none."""
        fair, solver = True, cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = seconds
        solver.parameters.num_workers = WORKERS
        solver.parameters.random_seed = SEED
        status = solver.solve(self.model)
        if status == cp_model.UNKNOWN:  # on a busy machine: any split that keeps the rules, however fair
            self.model.clear_objective()  # type: ignore[no-untyped-call]
            solver.parameters.max_time_in_seconds = LONGER * seconds
            fair, status = False, solver.solve(self.model)
        if status == cp_model.UNKNOWN:
            raise CoreError("rules", "no_split_in_time")
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Split(conflict=tuple(row.name for row in self.learners))
        benches = tuple(
            tuple(row.name for row in self.learners if solver.value(self.at[row.name, bench]))
            for bench in range(self.benches)
        )
        uneven = {kind: solver.value(cost) for kind, (cost, _) in self.costs.items() if solver.value(cost)}
        return Split(benches=benches, uneven=uneven, proven=fair and status == cp_model.OPTIMAL)
