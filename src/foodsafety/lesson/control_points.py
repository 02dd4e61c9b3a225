"""Control points worked out from a process and a rule profile."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.contamination import DRY_VERBS, Fate, Surfaces, after_alone, fates, foods_alone, heated_with
from foodsafety.cooking import strictest
from foodsafety.foods import is_raw
from foodsafety.lesson.plan import (
    NO_HANDLING,
    PHASES,
    ControlPoint,
    Phase,
    Plan,
    all_behind,
    brings_raw,
    cook_limit,
    in_microwave,
    needs_temperature_control,
)
from foodsafety.recipes import Process, Step, served_without
from foodsafety.rules import CookLimit, House, Profile


@dataclass(frozen=True, slots=True)
class _StepReading:
    """What one pass over the process tells of a step: the foods that are ``raw`` by themselves, those
    that are ``owed`` a reading still (raw, and heated only on the way), and those that were
    ``cooked`` before, or cooked and ``chilled`` since."""

    raw: frozenset[str]
    owed: frozenset[str]
    cooked: frozenset[str]
    chilled: frozenset[str]


def _raw_of(inside: Surfaces, step: Step) -> frozenset[str]:
    return frozenset(food for food in step.foods if any(is_raw(name) for name in inside.get(food, ())))


def _read(process: Process, deciding: frozenset[str]) -> dict[str, _StepReading]:
    """Heat ends what is owed a reading only where it has to cook through (``deciding``)."""
    inside = owed = foods_alone(process)
    cooked: frozenset[str] = frozenset()
    chilled: frozenset[str] = frozenset()
    rows: dict[str, _StepReading] = {}
    for step in process.steps:
        foods = frozenset(step.foods)
        rows[step.id] = _StepReading(_raw_of(inside, step), _raw_of(owed, step), foods & cooked, foods & chilled)
        inside = after_alone(inside, process, step)
        through = step.do != "heat" or step.id in deciding
        owed = after_alone(owed, process, step if through else replace(step, do="part_cook"))
        if step.do == "heat":
            heated = foods | frozenset([step.makes] if step.makes else ())
            cooked, chilled = cooked | heated, chilled - heated
        elif step.do in ("chill", "freeze"):
            chilled |= foods & cooked
    return rows


def _deciding(process: Process) -> frozenset[str]:
    """The heat steps that have to cook their food through: after them it is measured, chilled, served,
    or never heated again."""
    found = set()
    for i, step in enumerate(process.steps):
        if step.do == "heat" and not _heated_on(process, i, step):
            found.add(step.id)
    return frozenset(found)


def _heated_on(process: Process, i: int, step: Step) -> bool:
    """True if all that is heated here is heated again before anything else is asked of it."""
    holding = {step.makes} if step.makes else set(step.foods)
    parts = frozenset().union(*(process.ingredients_of(food) for food in step.foods))
    for other in process.steps[i + 1 :]:
        if not holding & {*other.foods}:
            continue
        if other.do in ("probe", "chill", "freeze", "serve"):
            return False
        if other.do == "heat" and parts <= frozenset().union(*(process.ingredients_of(f) for f in other.foods)):
            return True
        if other.makes:
            holding.add(other.makes)
    return False


class _Builder:
    """Works the control points out of one process; each method adds those of one rule."""

    def __init__(self, process: Process, profile: Profile, house: House) -> None:
        self.process = process
        self.profile = profile
        self.house = house
        self.fates = fates(process)
        self.deciding = _deciding(process)
        self.read = _read(process, self.deciding)
        steps = process.steps
        self.raw = [s for s in steps if self.read[s.id].raw and s.do not in DRY_VERBS | {"heat", "serve"}]
        self.heat = [s for s in steps if self.read[s.id].owed and s.do == "heat"]
        self.handled = [(s, fate) for s, fate in zip(steps, self.fates, strict=True) if self._handled(s, fate)]
        self.cooked = [s for s in steps if self.read[s.id].cooked and s.do not in NO_HANDLING - {"serve"}]
        self.first_raw = process.step_index[self.raw[0].id] if self.raw else len(steps)
        self.serving = [s for s in steps if s.do == "serve"]
        self.controls: list[ControlPoint] = []

    def _handled(self, step: Step, fate: Fate) -> bool:
        """True if food that is ready, or gets no more heat, is handled at a step."""
        row = self.read[step.id]
        return (
            not row.raw and not row.cooked and step.do not in NO_HANDLING and any(fate.raw.get(f) for f in step.foods)
        )

    def build(self) -> tuple[ControlPoint, ...]:
        self._arrive()
        self._ready_to_eat()
        self._chilled()
        self._raw()
        self._wash_back()
        self._utensils()
        self._part_cooked()
        self._cores()
        self._serve()
        order = {phase: i for i, phase in enumerate(PHASES)}
        # Washing back comes before the food that it protects.
        return tuple(sorted(self.controls, key=lambda c: (order[c.phase], c.phase == "wash_back" and bool(c.foods))))

    def _add(self, control: ControlPoint) -> None:
        self.controls.append(control)

    def _tcs(self, foods: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(food for food in foods if needs_temperature_control(self.process, food))

    def _arrive(self) -> None:
        first = next((s.id for s in self.process.steps if s.do not in DRY_VERBS), None)
        cold = self.profile.hold["cold"]
        if self._tcs(tuple(self.process.foods)):
            self._add(
                ControlPoint(
                    id="fridge",
                    rule="fridge-cold",
                    phase="arrive",
                    missed_after=first,
                    limit=cold.temperature,
                    section=cold.section,
                )
            )
        self._add(
            ControlPoint(
                id="hands-arrive",
                rule="hands-on-arrival",
                phase="arrive",
                missed_after=first,
                limit_s=max(self.profile.scrub_s, self.house.scrub_s),
                section=self.profile.hands_section,
            )
        )

    def _ready_to_eat(self) -> None:
        """One control per served food and side of the raw work: nothing raw may touch it."""
        groups: dict[tuple[str, Phase], list[Step]] = {}
        at = self.process.step_index
        for step, fate in self.handled:
            target = min(t for food in step.foods for t in fate.raw.get(food, {}))
            phase: Phase = "cold_first" if at[step.id] < self.first_raw else "wash_back"
            groups.setdefault((target, phase), []).append(step)
        for (target, phase), steps in groups.items():
            suffix = "" if sum(1 for t, _ in groups if t == target) == 1 else f"-{phase}"
            self._add(
                ControlPoint(
                    id=f"clean-{target}{suffix}",
                    rule="ready-to-eat-clean",
                    phase=phase,
                    steps=tuple(s.id for s in steps),
                    foods=(target,),
                    section=self.profile.document,
                )
            )

    def _chilled(self) -> None:
        at = self.process.step_index
        for step in self.process.steps:
            foods = tuple(name for name in self._tcs(step.foods) if not self._heated_after(step, name))
            if step.do != "chill" or not foods:
                continue
            cold = self.profile.hold["cold"]
            self._add(
                ControlPoint(
                    id=f"chilled-{step.id}",
                    rule="chilled-in-time",
                    phase="cold_first" if at[step.id] < self.first_raw else "serve",
                    steps=(step.id,),
                    due_after=(step.id,),
                    missed_after=self._serve_of(*foods),
                    foods=foods,
                    limit=cold.temperature,
                    clock=self.profile.clock_for(self._clock_kind(foods), None),
                    section=cold.section,
                )
            )

    def _heated_after(self, chill: Step, food: str) -> bool:
        """True if all of a food that is eaten goes on the heat after it was chilled: a marinade that is
        baked is kept cold by the fridge, and shown by the heat. Some of it kept apart is not."""
        on_plate = any(food == name or food in all_behind(self.process, name) for name in self.process.serve)
        return on_plate and not served_without(self.process, food, frozenset({"heat"}), after=chill.id)

    def _clock_kind(self, foods: tuple[str, ...]) -> Literal["hot", "cold"]:
        """Which clock the foods run by; heat anywhere behind one makes it hot food."""
        heated = {n for s in self.process.steps if s.do == "heat" for n in (*s.foods, *((s.makes,) if s.makes else ()))}
        parts = {name for food in foods for name in (food, *all_behind(self.process, food))}
        return "hot" if heated & parts else "cold"

    def _serve_of(self, *foods: str) -> str | None:
        """The step that serves one of the foods, or anything made from one."""
        for step in self.serving:
            if any(food == name or food in all_behind(self.process, name) for food in foods for name in step.foods):
                return step.id
        last = self.process.steps[-1].id
        plates = self.process.serve
        served = any(food == name or food in all_behind(self.process, name) for food in foods for name in plates)
        return last if served else None

    def _raw(self) -> None:
        if not self.raw:
            return
        foods = tuple(dict.fromkeys(name for s in self.raw for name in s.foods if name in self.process.foods))
        raw_foods = tuple(n for n in foods if any(is_raw(name) for name in self.process.foods[n].soils))
        self._add(
            ControlPoint(
                id="raw-apart",
                rule="raw-kept-apart",
                phase="raw",
                steps=tuple(s.id for s in self.raw if s.do != "probe"),
                foods=raw_foods,
                section=self.profile.document,
            )
        )
        clock = self.profile.clock_for("cold", None)
        tcs = self._tcs(raw_foods)
        if tcs and self.heat:
            self._add(
                ControlPoint(
                    id="raw-out",
                    rule="raw-out-of-fridge",
                    phase="raw",
                    steps=(self.raw[0].id, *(s.id for s in self.heat)),
                    foods=tcs,
                    clock=clock,
                    limit_s=clock.limit_s,
                    section=clock.section,
                )
            )

    def _wash_back(self) -> None:
        prep = [s for s in self.raw if s.do != "probe"]
        if not prep:
            return
        heated = {name for s in self.heat for name in s.tools}
        kit = tuple(dict.fromkeys(name for s in prep for name in s.tools if name not in heated))
        last = prep[-1].id
        missed = self.serving[0].id if self.serving else None
        by_hand = [s for s in prep if s.hands]
        if by_hand:
            self._add(
                ControlPoint(
                    id="hands-back",
                    rule="hands-after-raw",
                    phase="wash_back",
                    steps=tuple(s.id for s in self.process.steps if s.do == "wash_hands"),
                    due_after=(by_hand[-1].id,),
                    missed_after=missed,
                    limit_s=max(self.profile.scrub_s, self.house.scrub_s),
                    section=self.profile.hands_section,
                )
            )
        if kit:
            self._add(
                ControlPoint(
                    id="kit-back",
                    rule="kit-after-raw",
                    phase="wash_back",
                    steps=tuple(s.id for s in self.process.steps if s.do == "clean" and set(s.tools) & set(kit)),
                    due_after=(last,),
                    missed_after=missed,
                    carriers=kit,
                    section=self.profile.document,
                )
            )

    def _utensils(self) -> None:
        """Tools that touched the food raw on the heat and touch it again cooked."""
        for heat in self.heat:
            vessels = heated_with(self.process, heat)
            later = [s for s in self.cooked if set(s.tools) & set(heat.tools) - set(vessels)]
            tools = tuple(n for n in heat.tools if n not in vessels and any(n in s.tools for s in later))
            if not tools:
                continue
            self._add(
                ControlPoint(
                    id=f"utensils-{heat.id}",
                    rule="clean-utensils",
                    phase="cook",
                    steps=tuple(s.id for s in self.cooked),
                    due_after=(heat.id,),
                    missed_after=later[0].id,
                    carriers=tools,
                    foods=heat.foods,
                    section=self.profile.document,
                )
            )

    def _part_cooked(self) -> None:
        """Food heated only part of the way is raw in every respect until it is cooked through: it
        needs a brick of its own, and what held it meanwhile is raw kit."""
        at = self.process.step_index
        for step in self.process.steps:
            if step.do != "part_cook" or not self.read[step.id].raw:
                continue
            foods = (*step.foods, step.makes) if step.makes else step.foods
            finish = next((s for s in self.heat if at[s.id] > at[step.id] and set(s.foods) & set(foods)), None)
            until = at[finish.id] if finish else len(self.process.steps)
            between = self.process.steps[at[step.id] + 1 : until]
            held = dict.fromkeys(name for s in between if set(s.foods) & set(foods) for name in s.tools)
            rule = self.profile.part_cook
            self._add(
                ControlPoint(
                    id=f"part-{step.id}",
                    rule="part-cooked",
                    phase="cook",
                    steps=(step.id, *((finish.id,) if finish else ())),
                    due_after=(step.id,),
                    missed_after=self._serve_of(*foods),
                    foods=foods,
                    carriers=tuple(held),
                    limit_s=rule.limit_s,
                    section=rule.section,
                )
            )

    def _raw_in(self, step: Step) -> tuple[str, ...]:
        """The foods of a heat step that only a reading shows to be cooked."""
        return tuple(n for n in step.foods if n in self.read[step.id].owed and self._by_reading(n))

    def _by_reading(self, food: str) -> bool:
        return any(brings_raw(self.process.foods[name]) for name in self.process.ingredients_of(food))

    def _reheated_in(self, step: Step) -> tuple[str, ...]:
        """The foods of a heat step that were ready and are heated again: cooked and chilled, or
        bought cooked."""
        chilled = self.read[step.id].chilled
        return tuple(n for n in step.foods if n in chilled or self._bought_cooked(n))

    def _bought_cooked(self, food: str) -> bool:
        kind = self.process.foods[food].kind if food in self.process.foods else None
        ready = kind is not None and kind.ready == "as_is" and kind.control == "yes"
        return ready and kind is not None and kind.cook_class in ("reheat", "precooked_meat")

    def provable(self) -> dict[str, CookLimit]:
        """Every food that a core reading can show to be cooked, or hot again, with its limit: what is
        heated raw at any heat step, and what such a step makes."""
        found: dict[str, list[CookLimit]] = {}
        for step in self.process.steps:
            if step.do != "heat":
                continue
            for names, limit in self._limits_of(step):
                for name in names:
                    found.setdefault(name, []).append(limit)
        return {name: found_one for name, rows in found.items() if (found_one := strictest(rows)) is not None}

    def _limits_of(self, step: Step) -> list[tuple[tuple[str, ...], CookLimit]]:
        """The foods to be measured at a heat step, each with its limit."""
        raw, again = self._raw_in(step), self._reheated_in(step)
        microwave = in_microwave(self.process, step)
        rows = [((name,), self._limit((name,), microwave, reheat=False)) for name in raw]
        rows += [((name,), self._limit((name,), microwave, reheat=True)) for name in again if name not in raw]
        if step.makes and (raw or again):
            limits = [limit for _, limit in rows if limit]
            whole = self._limit(step.foods, microwave, reheat=False) if raw else None
            rows.append(((step.makes,), strictest([*limits, *([whole] if whole else [])])))
        return [(names, limit) for names, limit in rows if limit is not None]

    def _limit(self, foods: tuple[str, ...], microwave: bool, *, reheat: bool) -> CookLimit | None:
        return cook_limit(self.process, self.profile, foods, microwave=microwave, reheat=reheat)

    def reheated(self) -> dict[str, frozenset[str]]:
        """For each heat step, the foods that were ready and are heated again."""
        heats = [step for step in self.process.steps if step.do == "heat"]
        rows = {step.id: frozenset(self._reheated_in(step)) - frozenset(self._raw_in(step)) for step in heats}
        return {step: foods for step, foods in rows.items() if foods}

    def _cores(self) -> None:
        """One control for each heat step that has to cook through what is raw, or to make ready food
        hot again."""
        for heat in self.process.steps:
            rows = self._limits_of(heat) if heat.do == "heat" and heat.id in self.deciding else []
            limit = strictest(row for _, row in rows)
            if limit is None:
                continue
            names = tuple(dict.fromkeys(name for row, _ in rows for name in row))
            measured = (heat.makes,) if heat.makes else names
            probe = tuple(s.id for s in self.process.steps if s.do == "probe" and set(s.foods) & set(names))
            self._add(
                ControlPoint(
                    id=f"core-{heat.id}",
                    rule="core-temperature",
                    phase="cook",
                    steps=(heat.id, *probe),
                    due_after=(heat.id,),
                    missed_after=self._missed_after(heat, names),
                    foods=names,
                    measured=measured,
                    cook=limit,
                    limit=limit.main.temperature if limit.main else None,
                    limit_s=limit.main.hold_s if limit.main else None,
                    section=limit.section,
                )
            )

    def _missed_after(self, heat: Step, foods: tuple[str, ...]) -> str | None:
        """When the time to measure has passed: with the step after the probe that uses the food, or
        with the first that uses it where no step probes it."""
        at = self.process.step_index
        later = [s for s in self.process.steps[at[heat.id] + 1 :] if set(s.foods) & set(foods)]
        probe = next((at[s.id] for s in later if s.do == "probe"), at[heat.id])
        using = (s.id for s in later if at[s.id] > probe and s.do not in ("rest", "probe"))
        return next(using, None) or self._serve_of(*foods)

    def _serve(self) -> None:
        served = tuple(dict.fromkeys((*(n for s in self.serving for n in s.foods), *self.process.serve)))
        foods = self._tcs(served)
        if not foods:
            return
        after = tuple(s.id for s in self.serving)
        clock = self.profile.clock_for(self._clock_kind(foods), None)
        dates = self.profile.dates
        self._add(
            ControlPoint(
                id="out",
                rule="time-out",
                phase="serve",
                steps=after,
                due_after=after,
                foods=foods,
                clock=clock,
                limit_s=clock.limit_s,
                section=clock.section,
            )
        )
        self._add(
            ControlPoint(
                id="label",
                rule="leftovers-labelled",
                phase="serve",
                due_after=after,
                foods=foods,
                limit_s=dates.leftover_min_s,
                section=dates.section,
            )
        )


def safety_plan(process: Process, profile: Profile, house: House | None = None) -> Plan:
    """The control points of a process under a profile."""
    builder = _Builder(process, profile, house or House())
    return Plan(
        process=process,
        profile=profile,
        house=builder.house,
        controls=builder.build(),
        fates=builder.fates,
        raw_steps=tuple(s.id for s in builder.raw),
        heat_steps=tuple(s.id for s in builder.heat),
        provable=builder.provable(),
        reheated=builder.reheated(),
    )
