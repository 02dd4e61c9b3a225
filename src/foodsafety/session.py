"""A bench in a lesson: ``advance(state, event)`` and what the state proves.

Pure and total: no event makes it raise. What depends on the present moment (what is due, what
has been missed, how long is left) is asked of a state with ``bricks(state, now_s)``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from foodsafety.contamination import (
    DRY_VERBS,
    Fate,
    Finding,
    Surfaces,
    Trace,
    Transfer,
    clear_carriers,
    do_step,
    heated_with,
    opening_surfaces,
    soil_matters,
    touch_all,
    transfer_findings,
)
from foodsafety.cooking import CookVerdict, Probing, cook_verdict
from foodsafety.events import READY_CHECKS, TOUCHED, Checked, Event, check
from foodsafety.foods import soil
from foodsafety.plan import ControlPoint, Plan, needs_temperature_control
from foodsafety.quantities import CoreError
from foodsafety.recipes import Step
from foodsafety.shelf import Clock, judge_clock


@dataclass(frozen=True, slots=True, kw_only=True)
class Wash:
    """A hand-wash: when it ended [s] and how long it scrubbed [s]."""

    at_s: float
    scrub_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Incident:
    """A breach as it happened, and how it was put right."""

    finding: Finding
    at_s: float
    control: str | None
    mended_s: float | None = None
    action: str = ""

    @property
    def open(self) -> bool:
        """True until a corrective action is recorded."""
        return self.mended_s is None


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """Food put away: when, where, how long [s] it had been out, and the hottest surroundings known."""

    at_s: float
    place: Literal["fridge", "freezer"]
    out_s: float


@dataclass(frozen=True, kw_only=True)
class State:
    """Everything known about one bench, folded from its log."""

    plan: Plan
    learners: tuple[str, ...]
    surfaces: Surfaces
    done: Mapping[str, float] = field(default_factory=dict)
    done_by: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    ready: Mapping[str, frozenset[str]] = field(default_factory=dict)
    unwell: frozenset[str] = frozenset()
    washing: Mapping[str, float] = field(default_factory=dict)
    washed: Mapping[str, Wash] = field(default_factory=dict)
    first_wash: Mapping[str, Wash] = field(default_factory=dict)
    cleaned: Mapping[str, float] = field(default_factory=dict)
    fridge: tuple[tuple[float, float], ...] = ()
    cold: Mapping[str, tuple[tuple[float, float], ...]] = field(default_factory=dict)
    probings: Mapping[str, tuple[Probing, ...]] = field(default_factory=dict)
    on_heat: Mapping[str, float] = field(default_factory=dict)
    off_heat: Mapping[str, float] = field(default_factory=dict)
    proven: Mapping[str, float] = field(default_factory=dict)
    clocks: Mapping[str, Clock] = field(default_factory=dict)
    ambient_c: float | None = None
    kept: Mapping[str, Kept] = field(default_factory=dict)
    gone: Mapping[str, tuple[float, str]] = field(default_factory=dict)
    waived: Mapping[str, str] = field(default_factory=dict)
    incidents: tuple[Incident, ...] = ()
    called_s: float | None = None
    seen: frozenset[str] = frozenset()

    @property
    def present(self) -> tuple[str, ...]:
        """Learners who may handle food: those not sent away as unwell."""
        return tuple(name for name in self.learners if name not in self.unwell)

    @property
    def open_incidents(self) -> tuple[Incident, ...]:
        """Breaches that nobody has put right yet."""
        return tuple(incident for incident in self.incidents if incident.open)


Move = tuple[State, tuple[Finding, ...]]
Handler = Callable[[State, float, Checked], Move]


def opening_state(plan: Plan, learners: Iterable[str]) -> State:
    """A bench before its first event: food as bought, tools clean, every hand unwashed."""
    names = tuple(dict.fromkeys(learners))
    return State(plan=plan, learners=names, surfaces=opening_surfaces(plan.process, people=names, unwashed=True))


def advance(state: State, event: Event) -> Move:
    """The state after an event, and the findings that event causes.

    An event seen before changes nothing. One that cannot be read changes nothing but leaves a
    finding, so that it is never taken for a pass. Voiding is done by ``fold``.
    """
    if event.id in state.seen:
        return state, ()
    return _take(replace(state, seen=state.seen | {event.id}), event)


def _take(state: State, event: Event) -> Move:
    try:
        data = check(event.kind, event.data, state.plan)
        learner = data.get("learner")
        if learner is not None and learner not in state.learners:
            raise CoreError("learner", f"{learner!r} is not at this bench")
    except CoreError as wrong:
        return state, (Finding(rule="entry-not-understood", step="", evidence={"field": wrong.field, "id": event.id}),)
    return _HANDLERS[event.kind](state, event.at_s, data)


def fold(plan: Plan, learners: Iterable[str], events: Iterable[Event]) -> State:
    """The state after a whole log, in the order in which things happened.

    Entries voided by a later one are left out; the log itself keeps both.
    """
    return fold_on(opening_state(plan, learners), events)


def fold_on(state: State, events: Iterable[Event]) -> State:
    """The state after more of the same log; each entry must have happened after those folded.

    The same as ``advance`` over each, but what was seen is gathered once.
    """
    rows = sorted(events, key=lambda row: row.at_s)
    voided = {str(row.data.get("event")) for row in rows if row.kind == "voided"}
    seen = set(state.seen)
    for row in rows:
        if row.id in seen:
            continue
        seen.add(row.id)
        if row.id not in voided:
            state, _ = _take(state, row)
    return replace(state, seen=frozenset(seen))


# --- handlers: one for each kind of entry -----------------------------------------------------------


def _put(mapping: Mapping[str, Any], key: str, value: Any) -> dict[str, Any]:
    return {**mapping, key: value}


def _without(mapping: Mapping[str, Any], keys: Iterable[str]) -> dict[str, Any]:
    gone = set(keys)
    return {key: value for key, value in mapping.items() if key not in gone}


def _on_ready(state: State, at_s: float, data: Checked) -> Move:
    checks = state.ready.get(data["learner"], frozenset()) | frozenset(data["checks"])
    unwell = state.unwell - {data["learner"]} if "well" in data["checks"] else state.unwell
    return replace(state, ready=_put(state.ready, data["learner"], checks), unwell=unwell), ()


def _on_unwell(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, unwell=state.unwell | {data["learner"]}), ()


def _on_wash_started(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, washing=_put(state.washing, data["learner"], at_s)), ()


def _on_hands_washed(state: State, at_s: float, data: Checked) -> Move:
    who = data["learner"]
    state = replace(state, washing=_without(state.washing, [who]))
    if data["scrub_s"] < state.plan.scrub_s:
        evidence = {"learner": who, "scrub_s": data["scrub_s"], "limit_s": state.plan.scrub_s}
        return state, (Finding(rule="wash-too-short", step="", path=(who,), evidence=evidence),)
    wash = Wash(at_s=at_s, scrub_s=data["scrub_s"])
    first = state.first_wash if who in state.first_wash else _put(state.first_wash, who, wash)
    washed = _put(state.washed, who, wash)
    return replace(state, washed=washed, first_wash=first, surfaces=clear_carriers(state.surfaces, [who])), ()


def _on_touched(state: State, at_s: float, data: Checked) -> Move:
    name = TOUCHED[data["what"]]
    held = state.surfaces.get(data["learner"], {})
    soiled = {**held, name: held.get(name) or Trace((data["what"], data["learner"]))}
    return replace(state, surfaces=_put(state.surfaces, data["learner"], soiled)), ()


def _on_cleaned(state: State, at_s: float, data: Checked) -> Move:
    tools = data["tools"]
    if data["how"] != "clean":
        surfaces, _ = touch_all(state.surfaces, tools)
        finding = Finding(rule="wiped-not-cleaned", step="", path=tools, evidence={"how": data["how"]})
        return replace(state, surfaces=surfaces), (finding,)
    cleaned = {**state.cleaned, **dict.fromkeys(tools, at_s)}
    return replace(state, surfaces=clear_carriers(state.surfaces, tools), cleaned=cleaned), ()


def _on_swapped(state: State, at_s: float, data: Checked) -> Move:
    return _on_cleaned(state, at_s, {"tools": data["tools"], "how": "clean"})


def _live_step(step: Step, by: tuple[str, ...]) -> Step:
    """The step with the hands that really did it; a step that the recipe does without hands
    (koftas turned with tongs) soils nobody's."""
    return replace(step, hands=by if step.hands else ())


def _contact(state: State, step: Step) -> tuple[Surfaces, tuple[Transfer, ...]]:
    """The contacts of a step. A heat step only touches here: in a live lesson heat is believed
    when the probe proves it, not when somebody says so."""
    if step.do in DRY_VERBS or step.do == "probe":
        return state.surfaces, ()
    if step.do != "heat":
        return do_step(state.surfaces, state.plan.process, step)
    if not any(state.plan.core_control(food) for food in step.foods):
        return do_step(state.surfaces, state.plan.process, step)  # nothing raw in it: no proof is owed
    return do_step(state.surfaces, state.plan.process, replace(step, do="part_cook"))


def _breaches(state: State, step: Step, catches: Iterable[Transfer]) -> tuple[Finding, ...]:
    """Catches that break a rule now. Heat that the recipe writes after this step counts as a kill
    step only for food that has not been cooked already: a bench may work in another order."""
    fate = state.plan.fate(step.id)
    process, proven = state.plan.process, frozenset(state.proven)
    rows = tuple(catches)
    before = [catch for catch in rows if catch.food not in proven]
    after = [catch for catch in rows if catch.food in proven]
    return (
        *transfer_findings(process, step, fate, before, proven),
        *transfer_findings(process, step, Fate(fate.any, fate.any, fate.any), after, proven),
    )


def would_breach(state: State, step_id: str, by: Iterable[str]) -> tuple[Finding, ...]:
    """What going on with a step would break, with these hands: the interlock's findings."""
    step = _live_step(state.plan.process.steps[state.plan.process.step_index[step_id]], tuple(by))
    if step_id in state.done:
        return ()
    _, catches = _contact(state, step)
    found = _breaches(state, step, catches)
    return (*found, *(_served(state, step) if step.do == "serve" else ()))


def _served(state: State, step: Step) -> tuple[Finding, ...]:
    """Foods about to be served with something raw on them: never proven cooked, or soiled since.
    What is a breach already is not told twice."""
    known = {incident.finding.food for incident in state.open_incidents}
    found = []
    for food in (name for name in step.foods if name not in state.gone):
        raw = [
            name
            for name in state.surfaces.get(food, {})
            if soil_matters(state.plan.process, name, food) and name.startswith("raw_")
        ]
        if raw and (food not in known or (food not in state.proven and state.plan.core_control(food))):
            if food in state.proven:
                rule = "cooked-meets-raw"
            else:
                rule = "served-below-limit" if state.probings.get(food) else "served-not-measured"
            soil_name = max(raw, key=lambda name: (soil(name).severity, name))
            path = state.surfaces[food][soil_name].path
            found.append(Finding(rule=rule, step=step.id, soil=soil_name, food=food, path=path))
    return tuple(found)


def control_of(plan: Plan, finding: Finding) -> str | None:
    """The control point that a finding breaks."""
    if finding.rule in ("served-below-limit", "served-not-measured", "probe-not-cleaned"):
        core = plan.core_control(finding.food)
        return core.id if core else None
    watching = [c for c in plan.controls if finding.step in c.steps]
    for rule in ("ready-to-eat-clean", "clean-utensils", "raw-kept-apart", "core-temperature", "time-out"):
        for control in watching:
            if control.rule == rule:
                return control.id
    return watching[0].id if watching else None


def _record(state: State, findings: Iterable[Finding], at_s: float) -> State:
    new = tuple(Incident(finding=f, at_s=at_s, control=control_of(state.plan, f)) for f in findings)
    return replace(state, incidents=(*state.incidents, *new)) if new else state


def _on_step_done(state: State, at_s: float, data: Checked) -> Move:
    process = state.plan.process
    step_id = data["step"]
    if step_id in state.done:
        return state, ()  # a second tap, or the bench's other tablet
    by = tuple(name for name in data["by"] if name in state.learners)
    step = _live_step(process.steps[process.step_index[step_id]], by)
    surfaces, catches = _contact(state, step)
    findings = _breaches(state, step, catches)
    if step.do == "serve":
        findings = (*findings, *_served(state, step))
    state = replace(
        state,
        surfaces=surfaces,
        done=_put(state.done, step_id, at_s),
        done_by=_put(state.done_by, step_id, by),
    )
    if step.do == "clean":
        state, _ = _on_cleaned(state, at_s, {"tools": step.tools, "how": "clean"})
    state = _record(state, findings, at_s)
    return _run_clocks(state, step, at_s), findings


def _run_clocks(state: State, step: Step, at_s: float) -> State:
    """Food leaves temperature control when it is first handled and regains it in the cold; what
    a step makes inherits the longest time of its parts.

    On the heat a new clock begins for raw food: how long it was out raw is held against its own
    limit by the raw-out-of-fridge control, which heat does not mend. Heating ready food again
    gives no time back.
    """
    process = state.plan.process
    clocks = dict(state.clocks)
    made = (step.makes,) if step.makes else ()
    if step.do in ("chill", "freeze"):
        for food in (*step.foods, *made):
            clocks[food] = clocks.get(food, Clock()).back(at_s)
    elif step.do == "heat":
        for food in (*step.foods, *made):
            raw = state.plan.core_control(food) is not None
            clocks[food] = Clock() if raw else clocks.get(food, Clock()).back(at_s)
    else:
        for food in step.foods:
            if needs_temperature_control(process, food):
                clocks[food] = clocks.get(food, Clock()).out(at_s)
        for food in made:
            parts = [clocks[part] for part in step.foods if part in clocks]
            if parts:
                clocks[food] = max(parts, key=lambda clock: clock.total_s(at_s))
            for part in step.foods:
                if part in clocks and part in process.foods:
                    clocks[part] = clocks[part].back(at_s)
    return replace(state, clocks=clocks)


def _on_fridge_read(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, fridge=(*state.fridge, (at_s, data["core_c"]))), ()


def _on_cold_read(state: State, at_s: float, data: Checked) -> Move:
    rows = (*state.cold.get(data["food"], ()), (at_s, data["core_c"]))
    return replace(state, cold=_put(state.cold, data["food"], rows)), ()


def verdict_of(state: State, food: str, now_s: float) -> CookVerdict | None:
    """The cooking verdict on a food, or None where the plan asks for none."""
    control = state.plan.core_control(food)
    if control is None or control.cook is None:
        return None
    return cook_verdict(
        state.probings.get(food, ()),
        control.cook,
        state.plan.profile,
        now_s=now_s,
        house=state.plan.house,
        off_heat_s=state.off_heat.get(food),
    )


def _prove(state: State, food: str, at_s: float) -> State:
    """If the readings now prove the food cooked, its microbial soils are gone."""
    if food in state.proven:
        return state
    verdict = verdict_of(state, food, at_s)
    if verdict is None or verdict.status != "reached":
        return state
    step_id = state.plan.heat_for(food)
    heat = state.plan.process.steps[state.plan.process.step_index[step_id]] if step_id else None
    carriers = (food, *(heated_with(state.plan.process, heat) if heat else ()))
    kept = [n for c in carriers for n in state.surfaces.get(c, {}) if not soil(n).heat_clears]
    state = replace(
        state,
        proven=_put(state.proven, food, at_s),
        surfaces=clear_carriers(state.surfaces, carriers, keep=kept),
    )
    return _mend(state, food, at_s, "cooked_again")


def _probes(state: State) -> tuple[str, ...]:
    return tuple(tool.id for tool in state.plan.process.tools.values() if tool.kind == "probe")


def _on_core_read(state: State, at_s: float, data: Checked) -> Move:
    food = data["food"]
    probing = Probing(at_s=at_s, piece=data["piece"], core_c=data["core_c"], error_c=data["error_c"])
    state, findings = _probe_contact(state, food, probing)
    probings = (*state.probings.get(food, ()), probing)
    state = replace(state, probings=_put(state.probings, food, probings))
    return _record(_prove(state, food, at_s), findings, at_s), findings


def _probe_contact(state: State, food: str, probing: Probing) -> tuple[State, tuple[Finding, ...]]:
    """A probe in an undercooked piece is soiled; the same probe in a cooked one carries it in."""
    control = state.plan.core_control(food)
    tools = _probes(state)
    if control is None or control.limit is None or not tools:
        return state, ()
    probe = tools[0]
    held = state.surfaces.get(probe, {})
    if not control.limit.met_by(probing.core_c):
        surfaces, _ = touch_all(state.surfaces, (food, probe))
        return replace(state, surfaces=surfaces), ()
    raw = [name for name in held if soil(name).heat_clears]
    if not raw:
        return state, ()
    soil_name = max(raw, key=lambda name: (soil(name).severity, name))
    step = next((s for s in control.steps if s not in state.plan.heat_steps), control.steps[0])
    path = held[soil_name].to(food).path
    return state, (Finding(rule="probe-not-cleaned", step=step, soil=soil_name, food=food, path=path),)


def _on_on_heat(state: State, at_s: float, data: Checked) -> Move:
    """A heat step has begun: out of the danger of standing about, though nothing is proven by it."""
    step_id = data["step"]
    if step_id in state.done or step_id in state.on_heat:
        return state, ()
    step = state.plan.process.steps[state.plan.process.step_index[step_id]]
    return _run_clocks(replace(state, on_heat=_put(state.on_heat, step_id, at_s)), step, at_s), ()


def _on_off_heat(state: State, at_s: float, data: Checked) -> Move:
    state = replace(state, off_heat=_put(state.off_heat, data["food"], at_s))
    return _prove(state, data["food"], at_s), ()


def _on_ambient(state: State, at_s: float, data: Checked) -> Move:
    hottest = data["ambient_c"] if state.ambient_c is None else max(state.ambient_c, data["ambient_c"])
    return replace(state, ambient_c=hottest), ()


def _on_stored(state: State, at_s: float, data: Checked) -> Move:
    food = data["food"]
    if food in state.kept or food in state.gone:
        return state, ()
    clock = state.clocks.get(food, Clock())
    kept = Kept(at_s=at_s, place=data["place"], out_s=clock.total_s(at_s))
    return replace(state, kept=_put(state.kept, food, kept), clocks=_put(state.clocks, food, clock.back(at_s))), ()


def _on_gone(state: State, at_s: float, data: Checked) -> Move:
    food = data["food"]
    if food in state.gone:
        return state, ()
    clock = state.clocks.get(food, Clock()).back(at_s)
    state = replace(
        state,
        gone=_put(state.gone, food, (at_s, data["how"])),
        kept=_without(state.kept, [food]),
        clocks=_put(state.clocks, food, clock),
    )
    return (_mend(state, food, at_s, "discarded") if data["how"] == "discarded" else state), ()


def _mend(state: State, food: str, at_s: float, action: str) -> State:
    """Mark the open breaches of a food as put right. Cooking it again does not take out an
    allergen, a toxin or a residue."""

    def mended(incident: Incident) -> Incident:
        hopeless = action == "cooked_again" and not soil(incident.finding.soil).heat_clears
        if incident.open and incident.finding.food == food and not hopeless:
            return replace(incident, mended_s=at_s, action=action)
        return incident

    if not any(i.open and i.finding.food == food for i in state.incidents):
        return state
    return replace(state, incidents=tuple(mended(i) for i in state.incidents))


def _on_remade(state: State, at_s: float, data: Checked) -> Move:
    """Thrown away and made again: its steps are open again, its ingredients are fresh ones."""
    process = state.plan.process
    food = data["food"]
    parts = {food, *process.ingredients_of(food), *(p for m in [food] for p in process.made.get(m, ()))}
    fresh = opening_surfaces(process, people=(), unwashed=False)
    surfaces = {name: row for name, row in state.surfaces.items() if name not in parts}
    surfaces.update({name: fresh[name] for name in parts if name in fresh})
    steps = [s.id for s in process.steps if s.makes in parts or (s.foods and s.do != "serve" and set(s.foods) <= parts)]
    state = replace(
        state,
        surfaces=surfaces,
        done=_without(state.done, steps),
        on_heat=_without(state.on_heat, steps),
        clocks=_without(state.clocks, parts),
        cold=_without(state.cold, parts),
        probings=_without(state.probings, parts),
        proven=_without(state.proven, parts),
        gone=_without(state.gone, [food]),
    )
    return _mend(state, food, at_s, "remade"), ()


def _on_cooked_again(state: State, at_s: float, data: Checked) -> Move:
    """Back on the heat: what was read before proves nothing any more."""
    food = data["food"]
    if state.plan.core_control(food) is None:
        return state, (Finding(rule="no-heat-for-this-food", step="", food=food),)
    return (
        replace(
            state,
            probings=_without(state.probings, [food]),
            proven=_without(state.proven, [food]),
            off_heat=_without(state.off_heat, [food]),
        ),
        (),
    )


def _on_waived(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, waived=_put(state.waived, data["control"], data["reason"])), ()


def _on_called(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, called_s=at_s), ()


def _on_answered(state: State, at_s: float, data: Checked) -> Move:
    return replace(state, called_s=None), ()


def _on_voided(state: State, at_s: float, data: Checked) -> Move:
    return state, ()


_HANDLERS: Mapping[str, Handler] = {
    "ready": _on_ready,
    "unwell": _on_unwell,
    "wash_started": _on_wash_started,
    "hands_washed": _on_hands_washed,
    "touched": _on_touched,
    "step_done": _on_step_done,
    "cleaned": _on_cleaned,
    "swapped": _on_swapped,
    "fridge_read": _on_fridge_read,
    "cold_read": _on_cold_read,
    "core_read": _on_core_read,
    "on_heat": _on_on_heat,
    "off_heat": _on_off_heat,
    "ambient_read": _on_ambient,
    "stored": _on_stored,
    "gone": _on_gone,
    "remade": _on_remade,
    "cooked_again": _on_cooked_again,
    "waived": _on_waived,
    "called": _on_called,
    "answered": _on_answered,
    "voided": _on_voided,
}


def is_ready(state: State, learner: str) -> bool:
    """True if a learner has ticked every readiness check."""
    return state.ready.get(learner, frozenset()) >= frozenset(READY_CHECKS)


def next_step(state: State) -> Step | None:
    """The first step as written that is not done and whose predecessors are."""
    for step in state.plan.process.steps:
        if step.id not in state.done and all(name in state.done for name in step.after):
            return step
    return None


# --- bricks: what the state proves at a moment ---------------------------------------------------------

Status = Literal["todo", "due", "laid", "missed", "breach", "mended", "waived"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Brick:
    """A control point with its evidence at a moment."""

    control: ControlPoint
    status: Status
    evidence: Mapping[str, Any] = field(default_factory=dict)
    remaining_s: float | None = None
    incidents: tuple[Incident, ...] = ()


@dataclass(frozen=True, slots=True)
class _Shown:
    """What a rule's own evidence says: laid, failed or nothing yet."""

    status: Literal["laid", "failed", "open", "late"]
    evidence: Mapping[str, Any] = field(default_factory=dict)
    remaining_s: float | None = None
    at_s: float | None = None
    failed_before: bool = False


def bricks(state: State, now_s: float) -> tuple[Brick, ...]:
    """Every control point of the bench with its status at a moment."""
    return tuple(_brick(state, control, now_s) for control in state.plan.controls)


def _brick(state: State, control: ControlPoint, now_s: float) -> Brick:
    mine = tuple(i for i in state.incidents if i.control == control.id)
    shown = _EVIDENCE[control.rule](state, control, now_s)
    status = _status(state, control, shown, mine)
    return Brick(
        control=control,
        status=status,
        evidence=shown.evidence,
        remaining_s=shown.remaining_s if status in ("due", "laid") else None,
        incidents=mine,
    )


def _status(state: State, control: ControlPoint, shown: _Shown, mine: tuple[Incident, ...]) -> Status:
    if any(i.open for i in mine):
        return "breach"
    if shown.status == "failed":
        return "breach"  # a reason given beforehand does not make a failed limit pass
    if shown.status == "laid":
        return "mended" if mine or shown.failed_before or _late(state, control, shown) else "laid"
    if shown.status == "late":
        return "mended"
    if control.id in state.waived:
        return "waived"
    if control.missed_after and control.missed_after in state.done:
        return "missed"
    if mine and mine[-1].action == "discarded":
        return "mended"
    due = all(name in state.done for name in control.due_after)
    begun = not control.steps or control.due_after or _begun(state, control)
    return "due" if due and begun else "todo"


def _late(state: State, control: ControlPoint, shown: _Shown) -> bool:
    """Evidence that came after its time had passed."""
    missed_s = state.done.get(control.missed_after) if control.missed_after else None
    return missed_s is not None and shown.at_s is not None and shown.at_s > missed_s


def _begun(state: State, control: ControlPoint) -> bool:
    upcoming = next_step(state)
    return any(name in state.done for name in control.steps) or (upcoming is not None and upcoming.id in control.steps)


Evidence = Callable[[State, ControlPoint, float], _Shown]


def _fridge(state: State, control: ControlPoint, now_s: float) -> _Shown:
    if not state.fridge or control.limit is None:
        return _Shown("open")
    at_s, last_c = state.fridge[-1]
    evidence = {"core_c": last_c}
    if not control.limit.kept_by(last_c):
        return _Shown("failed", evidence)
    before = any(not control.limit.kept_by(c) for _, c in state.fridge[:-1])
    return _Shown("laid", evidence, at_s=at_s, failed_before=before)


def _hands_arrive(state: State, control: ControlPoint, now_s: float) -> _Shown:
    present = state.present
    washes = [state.first_wash[name] for name in present if name in state.first_wash]
    evidence = {"washed": len(washes), "learners": len(present)}
    if not present or len(washes) < len(present):
        return _Shown("open", evidence)
    shortest = min(wash.scrub_s for wash in washes)
    return _Shown("laid", {**evidence, "scrub_s": shortest}, at_s=max(w.at_s for w in washes))


def _steps_done(state: State, control: ControlPoint, now_s: float) -> _Shown:
    done = [state.done[name] for name in control.steps if name in state.done]
    if not control.steps or len(done) < len(control.steps):
        return _Shown("open", {"done": len(done), "of": len(control.steps)})
    return _Shown("laid", {"done": len(done), "of": len(control.steps)}, at_s=max(done))


def _chilled(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Every food that was chilled, each with a reading of its own; the worst one speaks."""
    rank = {"failed": 0, "open": 1, "late": 2, "laid": 3}
    shown = [_chilled_food(state, control, food, now_s) for food in control.foods]
    return min(shown, key=lambda one: rank[one.status])


def _chilled_food(state: State, control: ControlPoint, food: str, now_s: float) -> _Shown:
    rows = state.cold.get(food, ())
    clock = state.clocks.get(food, Clock())
    limit = control.clock or state.plan.profile.clock_for("cold", state.ambient_c)
    standing = judge_clock(clock, limit, now_s=now_s)
    evidence: dict[str, Any] = {"out_s": standing.total_s, "food": food}
    if food in state.gone and state.gone[food][1] == "discarded":
        return _Shown("late", evidence)
    if standing.standing == "over":
        return _Shown("failed", evidence)
    if not rows or control.limit is None:
        return _Shown("open", evidence, standing.remaining_s if clock.since_s is not None else None)
    at_s, last_c = rows[-1]
    evidence["core_c"] = last_c
    if not control.limit.kept_by(last_c):
        return _Shown("open", evidence)
    return _Shown("laid", evidence, at_s=at_s)


def _raw_out(state: State, control: ControlPoint, now_s: float) -> _Shown:
    first, heat = control.steps
    if control.clock is None or first not in state.done:
        return _Shown("open")
    limit = state.plan.profile.clock_for("cold", state.ambient_c)
    clock = Clock(since_s=state.done[first])
    heated_s = state.on_heat.get(heat, state.done.get(heat))
    if heated_s is not None:
        clock = clock.back(heated_s)
    standing = judge_clock(clock, limit, now_s=now_s)
    evidence = {"out_s": standing.total_s}
    if standing.standing == "over":
        discarded = all(state.gone.get(food, (0, ""))[1] == "discarded" for food in control.foods)
        return _Shown("late" if discarded else "failed", evidence)
    if heated_s is not None:
        return _Shown("laid", evidence, at_s=heated_s)
    return _Shown("open", evidence, standing.remaining_s)


def _raw_soils(state: State, carrier: str) -> tuple[str, ...]:
    held = state.surfaces.get(carrier, {})
    return tuple(name for name in held if name.startswith("raw_"))


def _last_raw_s(state: State, *, by: str = "", tool: str = "") -> float | None:
    """When a person's hands or a tool last took part in a raw step."""
    steps = state.plan.process.steps
    at = state.plan.process.step_index
    times = [
        state.done[name]
        for name in state.plan.raw_steps
        if name in state.done
        and ((steps[at[name]].hands and by in state.done_by.get(name, ())) or tool in steps[at[name]].tools)
    ]
    return max(times, default=None)


def _hands_back(state: State, control: ControlPoint, now_s: float) -> _Shown:
    soiled = tuple(name for name in state.present if _raw_soils(state, name))
    last = {name: _last_raw_s(state, by=name) for name in state.present}
    owed = {name: at_s for name, at_s in last.items() if at_s is not None}
    washes = [state.washed[n] for n, at_s in owed.items() if n in state.washed and state.washed[n].at_s >= at_s]
    evidence: dict[str, Any] = {"soiled": soiled}
    if soiled or not owed or len(washes) < len(owed) or not _all_done(state, control.due_after):
        return _Shown("open", evidence)
    return _Shown("laid", {**evidence, "scrub_s": min(w.scrub_s for w in washes)}, at_s=max(w.at_s for w in washes))


def _all_done(state: State, steps: tuple[str, ...]) -> bool:
    return all(name in state.done for name in steps)


def _kit_back(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Each tool clean now, and cleaned since it last met the raw food."""
    soiled = tuple(name for name in control.carriers if _raw_soils(state, name))
    heated = max((state.done[n] for n in control.due_after if n in state.done), default=0.0)
    cleaned: list[float] = []
    for name in control.carriers:
        used_s = _last_raw_s(state, tool=name)
        at_s = state.cleaned.get(name)
        if at_s is not None and at_s >= (heated if used_s is None else used_s):
            cleaned.append(at_s)
    evidence = {"soiled": soiled, "cleaned": len(cleaned), "of": len(control.carriers)}
    if soiled or len(cleaned) < len(control.carriers) or not _all_done(state, control.due_after):
        return _Shown("open", evidence)
    return _Shown("laid", evidence, at_s=max(cleaned))


def _core(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Every food of the heat step, each proven by its own readings; the worst one speaks."""
    rank = {"failed": 0, "open": 1, "late": 2, "laid": 3}
    shown = [_core_food(state, food, now_s) for food in _cooked_foods(state.plan, control)]
    return min(shown, key=lambda one: rank[one.status], default=_Shown("open"))


def _cooked_foods(plan: Plan, control: ControlPoint) -> tuple[str, ...]:
    """What must be probed: the food a heat step makes, or else all that it heats."""
    heat = plan.process.steps[plan.process.step_index[control.steps[0]]]
    return (heat.makes,) if heat.makes else heat.foods


def _core_food(state: State, food: str, now_s: float) -> _Shown:
    verdict = verdict_of(state, food, now_s)
    if verdict is None:
        return _Shown("open")
    evidence: dict[str, Any] = {"verdict": verdict.status, "core_c": verdict.lowest_c, "pieces": verdict.pieces}
    if food in state.gone and state.gone[food][1] == "discarded" and verdict.status != "reached":
        return _Shown("late", evidence)
    if food in state.proven:
        return _Shown("laid", evidence, at_s=state.proven[food])
    return _Shown("open", evidence, verdict.remaining_s or None)


def _part_cooked(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Laid only when what was part-cooked, or what it went into, is proven cooked through."""
    foods = {*control.foods, *(name for name in state.plan.process.made if _holds(state.plan, name, control.foods))}
    proven = [state.proven[food] for food in foods if food in state.proven]
    if proven:
        return _Shown("laid", at_s=min(proven))
    if any(food in state.gone and state.gone[food][1] == "discarded" for food in foods):
        return _Shown("late")
    return _Shown("open")


def _holds(plan: Plan, made: str, foods: tuple[str, ...]) -> bool:
    """True if a made food has any of the foods in it."""
    parts, waiting = set[str](), [made]
    while waiting:
        for part in plan.process.made.get(waiting.pop(), ()):
            if part not in parts:
                parts.add(part)
                waiting.append(part)
    return bool(parts & set(foods))


def _time_out(state: State, control: ControlPoint, now_s: float) -> _Shown:
    foods = [food for food in control.foods if food in state.clocks]
    served = all(name in state.done for name in control.due_after)
    if not served or not foods:
        return _Shown("open")
    limit = state.plan.profile.clock_for("hot", state.ambient_c)
    standings = {food: judge_clock(state.clocks[food], limit, now_s=now_s) for food in foods}
    worst = max(standings.values(), key=lambda s: s.total_s)
    evidence = {"out_s": worst.total_s, "limit_s": limit.limit_s, "ambient_c": state.ambient_c}
    late = [food for food in foods if standings[food].standing == "over"]
    if late:
        discarded = all(state.gone.get(food, (0.0, ""))[1] == "discarded" for food in late)
        return _Shown("late" if discarded else "failed", {**evidence, "foods": tuple(late)})
    if all(food in state.kept or food in state.gone for food in foods):
        return _Shown("laid", evidence)
    return _Shown("open", evidence, worst.remaining_s)


def _label(state: State, control: ControlPoint, now_s: float) -> _Shown:
    settled = [food for food in control.foods if food in state.kept or food in state.gone]
    kept = [food for food in control.foods if food in state.kept]
    evidence = {"kept": len(kept), "settled": len(settled), "of": len(control.foods)}
    return _Shown("laid" if len(settled) == len(control.foods) else "open", evidence)


_EVIDENCE: Mapping[str, Evidence] = {
    "fridge-cold": _fridge,
    "hands-on-arrival": _hands_arrive,
    "ready-to-eat-clean": _steps_done,
    "chilled-in-time": _chilled,
    "raw-kept-apart": _steps_done,
    "raw-out-of-fridge": _raw_out,
    "hands-after-raw": _hands_back,
    "kit-after-raw": _kit_back,
    "clean-utensils": _kit_back,
    "part-cooked": _part_cooked,
    "core-temperature": _core,
    "time-out": _time_out,
    "leftovers-labelled": _label,
}
