"""A process as integers, for searching among orders: soils are bits, one integer per carrier."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

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
    splashed,
    step_members,
    tracked_soils,
    washed_by,
)
from foodsafety.foods import soil
from foodsafety.recipes import WASHES, Process, Step, washable
from foodsafety.rules import House

Soiled = tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CompiledStep:
    """One step: carriers by index, soils by bit.

    ``kit`` are the tools and hands that touch the ``foods``; ``stood`` the (food, shelf) pairs
    that met before; ``beside`` what is soiled without touching; ``tasted`` what comes back from a
    mouth; ``own`` the soils the foods bring of themselves; ``guarded`` the soils a food must not
    catch here; ``washed`` what a wash step washes.
    """

    foods: tuple[int, ...]
    kit: tuple[int, ...]
    stood: tuple[tuple[int, int], ...]
    beside: tuple[int, ...]
    tasted: tuple[int, ...]
    made: int | None
    vessels: tuple[int, ...]
    own: int
    guarded: tuple[tuple[int, int], ...]
    washed: tuple[int, ...]
    cloths: tuple[int, ...]
    dry: bool
    wash: bool
    heat: bool
    rinse: bool

    @property
    def carriers(self) -> tuple[int, ...]:
        """Every carrier whose soils this step reads or changes."""
        made = () if self.made is None else (self.made,)
        shelves = (shelf for _, shelf in self.stood)
        every = (*self.foods, *self.kit, *shelves, *self.beside, *self.tasted, *made, *self.washed, *self.cloths)
        return tuple(dict.fromkeys(every))


class Compiled:
    """A process ready for a search over the order of its steps."""

    def __init__(self, process: Process, house: House) -> None:
        self.process = process
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

    def _mask(self, names: Iterable[str]) -> int:
        bits = 0
        for name in names:
            bits |= self.bit[name]
        return bits

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
        rows = []
        watched = tracked_soils(self.process)
        for food in self.process.steps[i].foods:
            bits = 0
            for name, bit in self.bit.items():
                for target in self._guards[i].of(name).get(food, ()):
                    if name not in watched or name in self.process.free_of.get(target, ()):
                        bits |= bit
            if bits:
                rows.append((self.index[food], bits))
        return tuple(rows)

    def _compiled(self) -> list[CompiledStep]:
        gloved: frozenset[str] = frozenset()
        rows = []
        for i, step in enumerate(self.process.steps):
            brought = self._brought[i]
            dry = step.do in DRY_VERBS
            eaten = () if dry else mouths(self.process, step)
            others = [name for name in step_members(self.process, step) if name not in step.foods]
            lower = [name for _, names in drips(self.process, step) for name in names]
            aside = (*splashed(self.process, step, brought), *lower, *eaten)
            rows.append(
                CompiledStep(
                    foods=() if dry else self._ids(step.foods),
                    kit=() if dry else self._ids(others),
                    stood=tuple((self.index[f], self.index[s]) for f, s in self.process.shelves_left.get(step.id, ())),
                    beside=() if dry else self._ids(aside),
                    tasted=self._ids(n for n in (*step.tools, *step.hands) if n not in eaten) if eaten else (),
                    made=self.index[step.makes] if step.makes and step.makes not in step.foods else None,
                    vessels=self._ids(heated_with(self.process, step)) if step.do == "heat" else (),
                    own=self._mask(brought & self.bit.keys()),
                    guarded=() if dry else self._guarded(i),
                    washed=self._ids(washed_by(self.process, step, gloved)),
                    cloths=self._ids(dried_on(self.process, step)),
                    dry=dry,
                    wash=step.do in WASHES,
                    heat=step.do == "heat",
                    rinse=step.do == "rinse",
                )
            )
            gloved = now_gloved(gloved, step)
        return rows

    def _before(self) -> list[int]:
        """For each step, a mask of the steps that must come first: ``after``, and whatever
        handles the same food earlier in the order written."""
        masks: list[int] = []
        at = self.process.step_index
        steps = self.process.steps
        mine: list[set[str | None]] = [{*step.foods, step.makes} - {None} for step in steps]
        for i, step in enumerate(steps):
            mask = sum(1 << at[name] for name in step.after)
            for j in range(i):
                if mine[i] & mine[j]:
                    mask |= 1 << j
            masks.append(mask)
        return masks

    def apply(self, i: int, soiled: Soiled) -> tuple[Soiled, bool]:
        """Soils after step i, and whether a guarded food caught something from a carrier."""
        step = self.steps[i]
        if step.dry:
            return soiled, False
        state = list(soiled)
        broken = False
        for food, shelf in step.stood:
            met = state[food] | state[shelf]
            broken |= any(m == food and met & ~step.own & ~state[m] & bits for m, bits in step.guarded)
            state[food] = state[shelf] = met
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

    def _finish(self, step: CompiledStep, state: list[int]) -> None:
        foods = step.foods
        if step.rinse:
            for m in foods:
                state[m] &= self.rinse_keeps
        if step.made is not None:
            for m in foods:
                state[step.made] |= state[m]
            foods = (*foods, step.made)
        if step.heat:
            for m in (*foods, *step.vessels):
                state[m] &= self.heat_keeps

    def as_written(self, i: int, soiled: Soiled) -> Soiled:
        """Soils after a wash step done just as written."""
        step = self.steps[i]
        state = list(soiled)
        for m in step.washed:
            state[m] = 0
        if step.cloths:
            together = (*step.washed, *step.cloths)
            everything = 0
            for m in together:
                everything |= state[m]
            for m in together:
                state[m] |= everything
        return tuple(state)

    def threatened(self, i: int, soiled: Soiled) -> int:
        """The soils that a food of step i would catch and must not: whatever carries one has to
        be washed first."""
        step = self.steps[i]
        bits = 0
        for m, guarded in step.guarded:
            bits |= guarded & ~step.own & ~soiled[m]
        return bits

    def worth_washing(self, i: int, soiled: Soiled) -> list[int]:
        """Soiled carriers of a step, but for those its own food would soil again just so."""
        step = self.steps[i]
        stays = 0
        for m in (*step.foods, *(m for m in step.kit if m not in self.washable)):
            stays |= soiled[m]
        shelves = (shelf for _, shelf in step.stood if shelf not in step.kit)
        # What a food stood on is washed as it is lifted.
        lifted = [m for m in dict.fromkeys(shelves) if soiled[m] and m in self.washable]
        return [*(m for m in step.kit if soiled[m] & ~stays and m in self.washable), *lifted]
