"""A process as integers, for searching among orders: soils are bits, one integer per carrier."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import reduce
from operator import or_

from foodsafety.contamination import (
    DRY_VERBS,
    Surfaces,
    do_step,
    dried_on,
    drips,
    fates,
    heated_with,
    mouths,
    now_gloved,
    opening_surfaces,
    practice_only,
    splashed,
    step_members,
    tracked_soils,
    washed_by,
)
from foodsafety.foods import carrier_kinds, soil
from foodsafety.recipes import WASHES, Process, Step, washable
from foodsafety.rules import House

Soiled = tuple[int, ...]


def union(bits: Iterable[int]) -> int:
    """All the soils of several sets."""
    return reduce(or_, bits, 0)


def washed_off(soiled: Soiled, group: Iterable[int]) -> Soiled:
    """The soils once every carrier of a group is washed."""
    state = list(soiled)
    for m in group:
        state[m] = 0
    return tuple(state)


@dataclass(frozen=True, slots=True, kw_only=True)
class CompiledStep:
    """One step: carriers by index, soils by bit.

    ``kit`` are the tools and hands that touch the ``foods``; ``stood`` the (food, shelf) pairs
    that met before; ``beside`` what is soiled without touching; ``tasted`` what comes back from a
    mouth; ``rinsed`` the foods and hands under running water; ``own`` the soils the foods bring of
    themselves; ``guarded`` the soils a food must not catch here; ``washed`` what a wash step washes.
    """

    foods: tuple[int, ...] = ()
    kit: tuple[int, ...] = ()
    stood: tuple[tuple[int, int], ...] = ()
    beside: tuple[int, ...] = ()
    tasted: tuple[int, ...] = ()
    made: int | None = None
    vessels: tuple[int, ...] = ()
    own: int = 0
    guarded: tuple[tuple[int, int], ...] = ()
    washed: tuple[int, ...] = ()
    cloths: tuple[int, ...] = ()
    dry: bool = False
    wash: bool = False
    heat: bool = False
    rinse: bool = False
    rinsed: tuple[int, ...] = ()

    @property
    def carriers(self) -> tuple[int, ...]:
        """Every carrier whose soils this step reads or changes."""
        made = () if self.made is None else (self.made,)
        shelves = (shelf for _, shelf in self.stood)
        every = (*self.foods, *self.kit, *shelves, *self.beside, *self.tasted, *made, *self.washed, *self.cloths)
        return tuple(dict.fromkeys(every))

    @property
    def guarded_bits(self) -> int:
        """The soils that some food must not catch here and does not bring itself."""
        return union(bits & ~self.own for _, bits in self.guarded)


class Compiled:
    """A process ready for a search over the order of its steps. ``food_stays``: what a step's own food
    lies in is not washed before it, as nobody would; without, washes are counted wherever they would help."""

    def __init__(self, process: Process, house: House, *, food_stays: bool = False) -> None:
        self.process, self.house = process, house
        start = opening_surfaces(process, people=process.people, unwashed=house.arrive == "unwashed")
        self.names = sorted({*process.food_ids, *process.tools, *process.people})
        self.index = {name: i for i, name in enumerate(self.names)}
        self._guards = fates(process)
        self._brought = self._brought_by_step()
        person = {"person"} if any(mouths(process, step) for step in process.steps) else set()
        self.bit = self._bits(sorted({name for row in start.values() for name in row} | person))
        self.heat_keeps = self._mask(name for name in self.bit if not soil(name).heat_clears)
        self.rinse_keeps = self._mask(name for name in self.bit if not soil(name).rinse_clears)
        self.person = self.bit.get("person", 0)
        self.start: Soiled = tuple(self._mask(start.get(name, ())) for name in self.names)
        self.washable = frozenset(self.index[name] for name in self.names if washable(process, name))
        self.steps = self._compiled()
        self.before = self._before()
        self.lying_in = self._lying_in() if food_stays else (frozenset[int](),) * len(process.steps)

    def _lying_in(self) -> tuple[frozenset[int], ...]:
        """For each step, the carriers that its own food lies in as it begins: put there by the food's
        step before, they cannot be washed first, whatever the order of the other foods."""
        holding = carrier_kinds("holding")
        last: dict[str, frozenset[int]] = {}
        rows = []
        for step in self.process.steps:
            rows.append(frozenset[int]().union(*(last.get(food, frozenset()) for food in step.foods)))
            if step.do not in DRY_VERBS:
                here = frozenset(self.index[n] for n in step.tools if self.process.tools[n].kind in holding)
                last |= dict.fromkeys((*step.foods, *((step.makes,) if step.makes else ())), here)
        return tuple(rows)

    def _mask(self, names: Iterable[str]) -> int:
        return union(self.bit[name] for name in names)

    def _ids(self, names: Iterable[str]) -> tuple[int, ...]:
        return tuple(self.index[name] for name in names)

    def _bits(self, soils: list[str]) -> dict[str, int]:
        """A bit for each soil, but one for all that heat clears and that no step tells apart: those
        that the foods of the very same guarded steps bring themselves, or of none."""
        watched = tracked_soils(self.process)
        alike = {n for n in soils if soil(n).heat_clears and not soil(n).rinse_clears and n not in watched}
        told_apart: dict[tuple[bool, ...] | str, int] = {}
        bits: dict[str, int] = {}
        for name in soils:
            key = self._where_own(name) if name in alike else name
            bits[name] = told_apart.setdefault(key, 1 << len(told_apart))
        return bits

    def _where_own(self, name: str) -> tuple[bool, ...]:
        """At which of the steps that must keep something clean the foods bring this soil themselves."""
        return tuple(
            name in own
            for step, fate, own in zip(self.process.steps, self._guards, self._brought, strict=True)
            if any(fate.raw.get(food) for food in step.foods)
        )

    def _brought_by_step(self) -> list[set[str]]:
        """For each step, the soils its foods bring of themselves, not by way of a carrier."""
        surfaces: Surfaces = opening_surfaces(self.process, people=(), unwashed=False)
        rows: list[set[str]] = []
        for step in self.process.steps:
            rows.append({name for food in step.foods for name in surfaces.get(food, ())})
            alone = Step(id="", do=step.do, foods=step.foods, makes=step.makes)
            surfaces = {n: row for n, row in surfaces.items() if n not in self.process.tools}
            surfaces, _ = do_step(surfaces, self.process, alone)
        return rows

    def _guarded(self, i: int) -> tuple[tuple[int, int], ...]:
        """The foods of a step that must not catch which soils there."""
        rows = ((self.index[food], self._must_not_catch(i, food)) for food in self.process.steps[i].foods)
        return tuple((food, bits) for food, bits in rows if bits)

    def _must_not_catch(self, i: int, food: str) -> int:
        watched, free_of = tracked_soils(self.process), self.process.free_of
        return union(
            bit
            for name, bit in self.bit.items()
            if not practice_only(name, self.house)
            for target in self._guards[i].of(name).get(food, ())
            if name not in watched or name in free_of.get(target, ())
        )

    def _compiled(self) -> list[CompiledStep]:
        gloved: frozenset[str] = frozenset()
        rows = []
        for i, step in enumerate(self.process.steps):
            rows.append(self._dry_step(step, gloved) if step.do in DRY_VERBS else self._wet_step(i, step, gloved))
            gloved = now_gloved(gloved, step)
        return rows

    def _dry_step(self, step: Step, gloved: frozenset[str]) -> CompiledStep:
        """A step that brings nothing together: only what it washes counts."""
        return CompiledStep(
            stood=self._stood(step),
            made=self._made(step),
            washed=self._ids(washed_by(self.process, step, gloved)),
            cloths=self._ids(dried_on(self.process, step)),
            dry=True,
            wash=step.do in WASHES,
        )

    def _wet_step(self, i: int, step: Step, gloved: frozenset[str]) -> CompiledStep:
        process, brought = self.process, self._brought[i]
        eaten = mouths(process, step)
        lower = [name for _, names in drips(process, step) for name in names]
        return CompiledStep(
            foods=self._ids(step.foods),
            kit=self._ids(name for name in step_members(process, step) if name not in step.foods),
            stood=self._stood(step),
            beside=self._ids((*splashed(process, step, brought), *lower, *eaten)),
            tasted=self._ids(n for n in (*step.tools, *step.hands) if n not in eaten) if eaten else (),
            made=self._made(step),
            vessels=self._ids(heated_with(process, step)) if step.do == "heat" else (),
            own=self._mask(brought & self.bit.keys()),
            guarded=self._guarded(i),
            washed=self._ids(washed_by(process, step, gloved)),
            cloths=self._ids(dried_on(process, step)),
            wash=step.do in WASHES,
            heat=step.do == "heat" and not step.underdone,
            rinse=step.do == "rinse",
            rinsed=self._ids((*step.foods, *step.hands)) if step.do == "rinse" else (),
        )

    def _stood(self, step: Step) -> tuple[tuple[int, int], ...]:
        return tuple(
            (self.index[food], self.index[shelf]) for food, shelf in self.process.shelves_left.get(step.id, ())
        )

    def _made(self, step: Step) -> int | None:
        return self.index[step.makes] if step.makes and step.makes not in step.foods else None

    def _before(self) -> list[int]:
        """For each step, a mask of the steps that must come first: ``after``, and whatever
        handles the same food earlier in the order written."""
        steps, at = self.process.steps, self.process.step_index
        handled = [{*step.foods, step.makes} - {None} for step in steps]
        return [
            union([*(1 << at[name] for name in step.after), *(1 << j for j in range(i) if handled[i] & handled[j])])
            for i, step in enumerate(steps)
        ]

    def apply(self, i: int, soiled: Soiled) -> tuple[Soiled, bool]:
        """Soils after step i, and whether a guarded food caught something from a carrier."""
        step = self.steps[i]
        if step.dry:
            return soiled, False
        state = list(soiled)
        broken = self._lift(step, state) if step.stood else False
        everything = 0
        for m in (*step.foods, *step.kit):
            everything |= state[m]
        carried = everything & ~step.own
        broken |= bool(carried) and any(carried & ~state[m] & bits for m, bits in step.guarded)
        for m in (*step.foods, *step.kit, *step.beside):
            state[m] |= everything
        for m in step.tasted:
            state[m] |= self.person
        self._finish(step, state)
        return tuple(state), broken

    def _lift(self, step: CompiledStep, state: list[int]) -> bool:
        """Each food and what it stood on share their soils; whether a guarded food caught one."""
        broken = False
        for food, shelf in step.stood:
            met = state[food] | state[shelf]
            broken |= any(m == food and met & ~step.own & ~state[m] & bits for m, bits in step.guarded)
            state[food] = state[shelf] = met
        return broken

    def _finish(self, step: CompiledStep, state: list[int]) -> None:
        if step.rinse:
            for m in step.rinsed:
                state[m] &= self.rinse_keeps
        if step.made is not None:
            state[step.made] |= union(state[m] for m in step.foods)
        if step.heat:
            made = () if step.made is None else (step.made,)
            for m in (*step.foods, *made, *step.vessels):
                state[m] &= self.heat_keeps

    def as_written(self, i: int, soiled: Soiled) -> Soiled:
        """Soils after a wash step done just as written."""
        step = self.steps[i]
        state = washed_off(soiled, step.washed)
        if not step.cloths:
            return state
        dried = {*step.washed, *step.cloths}
        everything = union(state[m] for m in dried)
        return tuple(held | everything if m in dried else held for m, held in enumerate(state))

    def threatened(self, i: int, soiled: Soiled) -> int:
        """The soils that a food of step i would catch and must not: whatever carries one has to
        be washed first."""
        step = self.steps[i]
        bits = 0
        for m, guarded in step.guarded:
            bits |= guarded & ~step.own & ~soiled[m]
        return bits

    def worth_washing(self, i: int, soiled: Soiled) -> list[int]:
        """Soiled carriers of a step, but for those its own food lies in, or would soil again just so."""
        step = self.steps[i]
        stays = 0
        for m in (*step.foods, *(m for m in step.kit if m not in self.washable)):
            stays |= soiled[m]
        shelves = (shelf for _, shelf in step.stood if shelf not in step.kit)
        # What a food stood on is washed as it is lifted.
        lifted = [m for m in dict.fromkeys(shelves) if soiled[m] and m in self.washable]
        full = self.lying_in[i]
        dirty = [m for m in step.kit if soiled[m] & ~stays and m in self.washable and m not in full]
        return [*dirty, *lifted]
