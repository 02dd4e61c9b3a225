"""What each kind of event does to a bench's state."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from typing import Any

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
from foodsafety.foods import is_raw, soil
from foodsafety.lesson.events import TOUCHED, Payload
from foodsafety.lesson.plan import Plan, needs_temperature_control
from foodsafety.lesson.state import Incident, Kept, Move, State, Wash
from foodsafety.recipes import Step
from foodsafety.shelf import Clock

Handler = Callable[[State, float, Payload], Move]


# --- handlers: one for each kind of entry -----------------------------------------------------------


def _put(mapping: Mapping[str, Any], key: str, value: Any) -> dict[str, Any]:
    return {**mapping, key: value}


def _without(mapping: Mapping[str, Any], keys: Iterable[str]) -> dict[str, Any]:
    gone = set(keys)
    return {key: value for key, value in mapping.items() if key not in gone}


def _on_ready(state: State, at_s: float, data: Payload) -> Move:
    checks = state.ready.get(data["learner"], frozenset()) | frozenset(data["checks"])
    unwell = state.unwell - {data["learner"]} if "well" in data["checks"] else state.unwell
    return replace(state, ready=_put(state.ready, data["learner"], checks), unwell=unwell), ()


def _on_unwell(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, unwell=state.unwell | {data["learner"]}), ()


def _on_wash_started(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, washing=_put(state.washing, data["learner"], at_s)), ()


def _on_hands_washed(state: State, at_s: float, data: Payload) -> Move:
    who = data["learner"]
    state = replace(state, washing=_without(state.washing, [who]))
    if data["scrub_s"] < state.plan.scrub_s:
        evidence = {"learner": who, "scrub_s": data["scrub_s"], "limit_s": state.plan.scrub_s}
        return state, (Finding(rule="wash-too-short", step="", path=(who,), evidence=evidence),)
    wash = Wash(at_s=at_s, scrub_s=data["scrub_s"])
    first = state.first_wash if who in state.first_wash else _put(state.first_wash, who, wash)
    washed = _put(state.washed, who, wash)
    return replace(state, washed=washed, first_wash=first, surfaces=clear_carriers(state.surfaces, [who])), ()


def _on_touched(state: State, at_s: float, data: Payload) -> Move:
    name = TOUCHED[data["what"]]
    held = state.surfaces.get(data["learner"], {})
    soiled = {**held, name: held.get(name) or Trace((data["what"], data["learner"]))}
    return replace(state, surfaces=_put(state.surfaces, data["learner"], soiled)), ()


def _on_cleaned(state: State, at_s: float, data: Payload) -> Move:
    tools = data["tools"]
    if data["how"] != "clean":
        surfaces, _ = touch_all(state.surfaces, tools)
        finding = Finding(rule="wiped-not-cleaned", step="", path=tools, evidence={"how": data["how"]})
        return replace(state, surfaces=surfaces), (finding,)
    cleaned = {**state.cleaned, **dict.fromkeys(tools, at_s)}
    return replace(state, surfaces=clear_carriers(state.surfaces, tools), cleaned=cleaned), ()


def _on_swapped(state: State, at_s: float, data: Payload) -> Move:
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
            if soil_matters(state.plan.process, name, food) and is_raw(name)
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


def _on_step_done(state: State, at_s: float, data: Payload) -> Move:
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


def _on_fridge_read(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, fridge=(*state.fridge, (at_s, data["core_c"]))), ()


def _on_cold_read(state: State, at_s: float, data: Payload) -> Move:
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


def _on_core_read(state: State, at_s: float, data: Payload) -> Move:
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


def _on_on_heat(state: State, at_s: float, data: Payload) -> Move:
    """A heat step has begun: out of the danger of standing about, though nothing is proven by it."""
    step_id = data["step"]
    if step_id in state.done or step_id in state.on_heat:
        return state, ()
    step = state.plan.process.steps[state.plan.process.step_index[step_id]]
    return _run_clocks(replace(state, on_heat=_put(state.on_heat, step_id, at_s)), step, at_s), ()


def _on_off_heat(state: State, at_s: float, data: Payload) -> Move:
    state = replace(state, off_heat=_put(state.off_heat, data["food"], at_s))
    return _prove(state, data["food"], at_s), ()


def _on_ambient(state: State, at_s: float, data: Payload) -> Move:
    hottest = data["ambient_c"] if state.ambient_c is None else max(state.ambient_c, data["ambient_c"])
    return replace(state, ambient_c=hottest), ()


def _on_stored(state: State, at_s: float, data: Payload) -> Move:
    food = data["food"]
    if food in state.kept or food in state.gone:
        return state, ()
    clock = state.clocks.get(food, Clock())
    kept = Kept(at_s=at_s, place=data["place"], out_s=clock.total_s(at_s))
    return replace(state, kept=_put(state.kept, food, kept), clocks=_put(state.clocks, food, clock.back(at_s))), ()


def _on_gone(state: State, at_s: float, data: Payload) -> Move:
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


def _on_remade(state: State, at_s: float, data: Payload) -> Move:
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


def _on_cooked_again(state: State, at_s: float, data: Payload) -> Move:
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


def _on_waived(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, waived=_put(state.waived, data["control"], data["reason"])), ()


def _on_called(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, called_s=at_s), ()


def _on_answered(state: State, at_s: float, data: Payload) -> Move:
    return replace(state, called_s=None), ()


def _on_voided(state: State, at_s: float, data: Payload) -> Move:
    return state, ()


HANDLERS: Mapping[str, Handler] = {
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
