"""Control points worked out from a process and a rule profile."""

from __future__ import annotations

from dataclasses import dataclass

from foodsafety.contamination import DRY_VERBS, Surfaces, do_step, fates, heated_with, opening_surfaces
from foodsafety.lesson.plan import (
    NO_HANDLING,
    NOT_RAW,
    PHASES,
    ControlPoint,
    Phase,
    Plan,
    cook_class,
    is_raw,
    needs_temperature_control,
)
from foodsafety.recipes import Process, Step
from foodsafety.rules import House, Profile


@dataclass(frozen=True, slots=True)
class _ProcessReading:
    """What one pass over the process tells: which soils each food has at each step by itself."""

    raw_at: tuple[frozenset[str], ...]
    cooked_at: tuple[frozenset[str], ...]
    surfaces_at: tuple[Surfaces, ...]


def _read(process: Process) -> _ProcessReading:
    surfaces: Surfaces = opening_surfaces(process, people=(), unwashed=False)
    cooked: frozenset[str] = frozenset()
    raw_at: list[frozenset[str]] = []
    cooked_at: list[frozenset[str]] = []
    surfaces_at: list[Surfaces] = []
    for step in process.steps:
        surfaces_at.append(surfaces)
        raw_at.append(frozenset(name for name in step.foods if is_raw(surfaces, name)))
        cooked_at.append(frozenset(step.foods) & cooked)
        alone = Step(id=step.id, do=step.do, foods=step.foods, makes=step.makes)
        surfaces, _ = do_step(surfaces, process, alone)
        if step.do == "heat":
            cooked |= frozenset(step.foods) | ({step.makes} if step.makes else frozenset())
    return _ProcessReading(tuple(raw_at), tuple(cooked_at), tuple(surfaces_at))


class _Builder:
    """Works the control points out of one process; each method adds those of one rule."""

    def __init__(self, process: Process, profile: Profile, house: House) -> None:
        self.process = process
        self.profile = profile
        self.house = house
        self.fates = fates(process)
        read = _read(process)
        self.raw_before = dict(zip((step.id for step in process.steps), read.surfaces_at, strict=True))
        steps = process.steps
        self.raw = [
            s for s, raw in zip(steps, read.raw_at, strict=True) if raw and s.do not in DRY_VERBS | {"heat", "serve"}
        ]
        self.heat = [s for s, raw in zip(steps, read.raw_at, strict=True) if raw and s.do == "heat"]
        self.handled = [
            (s, fate)
            for s, fate, raw, cooked in zip(steps, self.fates, read.raw_at, read.cooked_at, strict=True)
            if not raw and not cooked and s.do not in NO_HANDLING and any(fate.raw.get(f) for f in s.foods)
        ]
        self.cooked = [
            s for s, done in zip(steps, read.cooked_at, strict=True) if done and s.do not in NO_HANDLING - {"serve"}
        ]
        self.first_raw = process.step_index[self.raw[0].id] if self.raw else len(steps)
        self.serving = [s for s in steps if s.do == "serve"]
        self.controls: list[ControlPoint] = []

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
            foods = self._tcs(step.foods)
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
                    missed_after=self._serve_of(foods[0]),
                    foods=foods,
                    limit=cold.temperature,
                    clock=self.profile.clock_for("cold", None),
                    section=cold.section,
                )
            )

    def _serve_of(self, food: str) -> str | None:
        return next((s.id for s in self.serving if food in s.foods), None)

    def _raw(self) -> None:
        if not self.raw:
            return
        foods = tuple(dict.fromkeys(name for s in self.raw for name in s.foods if name in self.process.foods))
        raw_foods = tuple(n for n in foods if self.process.foods[n].soils - NOT_RAW)
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
                    steps=(self.raw[0].id, self.heat[0].id),
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
            if step.do != "part_cook" or not any(is_raw(self.raw_before[step.id], food) for food in step.foods):
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
                    missed_after=self._serve_of(foods[-1]),
                    foods=foods,
                    carriers=tuple(held),
                    limit_s=rule.limit_s,
                    section=rule.section,
                )
            )

    def _judged_later(self, heat: Step) -> bool:
        """True if a later heat step with a limit cooks everything in this one: a case baked blind, a
        sauce that goes into a pie. Flour by itself has no limit to be measured against."""
        if {*heat.foods, heat.makes} & set(self.process.serve):
            return False
        parts = frozenset().union(*(self.process.ingredients_of(food) for food in heat.foods))
        later = self.heat[self.heat.index(heat) + 1 :]
        return any(
            parts <= frozenset().union(*(self.process.ingredients_of(food) for food in step.foods))
            and cook_class(self.process, self.profile, step.foods) is not None
            for step in later
        )

    def _cores(self) -> None:
        for heat in self.heat:
            limit = cook_class(self.process, self.profile, heat.foods)
            if limit is None and self._judged_later(heat):
                continue
            foods = heat.foods if not heat.makes else (*heat.foods, heat.makes)
            main = limit.main if limit else None
            probe = tuple(s.id for s in self.process.steps if s.do == "probe" and set(s.foods) & set(foods))
            self._add(
                ControlPoint(
                    id=f"core-{heat.id}",
                    rule="core-temperature",
                    phase="cook",
                    steps=(heat.id, *probe),
                    due_after=(heat.id,),
                    missed_after=self._serve_of(foods[-1]),
                    foods=foods,
                    cook=limit,
                    limit=main.temperature if main else None,
                    limit_s=main.hold_s if main else None,
                    section=limit.section if limit else "",
                )
            )

    def _serve(self) -> None:
        served = tuple(dict.fromkeys((*(n for s in self.serving for n in s.foods), *self.process.serve)))
        foods = self._tcs(served)
        if not foods:
            return
        after = tuple(s.id for s in self.serving)
        hot = any(food in s.foods for s in self.heat for food in foods) or bool(self.heat)
        clock = self.profile.clock_for("hot" if hot else "cold", None)
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
    )
