"""What a step does at a bench: who touches what, what that breaks, and what serving would break."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from foodsafety.contamination import (
    DRY_VERBS,
    Fate,
    Finding,
    Surfaces,
    Trace,
    Transfer,
    after_alone,
    clear_carriers,
    do_step,
    heated_with,
    house_findings,
    judge_served,
    now_gloved,
    rinsed_raw,
    soil_matters,
    tasted,
    transfer_findings,
    transfer_rule,
    weighed,
)
from foodsafety.foods import carrier_kinds, heated_tool_kinds, is_raw, soil
from foodsafety.lesson.breaches import control_of, told_unproven
from foodsafety.lesson.changed import changed
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.proving import owed, served_unproven
from foodsafety.lesson.state import State, all_done
from foodsafety.recipes import Step

# Verbs of which somebody's hands are part even where the recipe names none.
_BY_HAND = frozenset({"serve", "garnish", "probe", "touch"})
_MOVES = frozenset({"cut", "peel", "grate", "mix", "coat", "marinate", "transfer", "brush", "heat", "part_cook"})


def live_step(state: State, step: Step, by: tuple[str, ...]) -> Step:
    """The step with the hands that really did it.

    Nobody named though the recipe uses hands: anybody at the bench may have done it, and is taken to.
    Named though the recipe names no hands: they touch what is served, garnished or probed, and raw
    food that is moved without a utensil.
    """
    if step.do in DRY_VERBS:
        return replace(step, hands=by)
    if step.hands:
        return replace(step, hands=by or state.present)
    touches = step.do in _BY_HAND or _moved_raw(state, step)
    return replace(step, hands=by if touches else ())


def _moved_raw(state: State, step: Step) -> bool:
    """True if raw food is moved by this step, without a utensil, and not in the vessel it lies in."""
    done = (s for s in state.plan.process.steps if s.id in state.done)
    return any(_raw_on(state, food) for food in step.foods) and _by_hand(state.plan, step, done)


def _by_hand(plan: Plan, step: Step, before: Iterable[Step]) -> bool:
    """True if food is moved by a step without a utensil, and does not lie in its vessel since a step before."""
    if step.do not in _MOVES:
        return False
    kinds = {name: plan.process.tools[name].kind for name in step.tools}
    vessels = {name for name, kind in kinds.items() if kind in heated_tool_kinds()}
    lies = any(vessels & set(s.tools) for s in before if {*s.foods, s.makes} & set(step.foods))
    return not lies and carrier_kinds("utensils").isdisjoint(kinds.values())


def _raw_on(state: State, carrier: str) -> bool:
    return any(is_raw(name) for name in state.surfaces.get(carrier, ()))


def _heat(surfaces: Surfaces, carriers: Iterable[str], *, shown: bool) -> Surfaces:
    """What heat ends of itself: everything it can, or, while a reading is owed, all that needs none."""
    for carrier in carriers:
        held = surfaces.get(carrier)
        if held:
            keep = [n for n in held if not soil(n).heat_clears or (not shown and soil(n).by_reading)]
            surfaces = clear_carriers(surfaces, [carrier], keep=keep) if len(keep) < len(held) else surfaces
    return surfaces


def contact(state: State, step: Step) -> tuple[Surfaces, Surfaces, tuple[Transfer, ...]]:
    """Surfaces and insides after the contacts of a step, and what its foods caught. Heat ends what no
    reading is owed for; of the rest it is believed when the probe proves it."""
    process = state.plan.process
    if step.do in DRY_VERBS:
        return state.surfaces, state.inside, ()
    if step.do == "probe":
        # What a hand or a probe brings to the food; what the food leaves on a probe its readings say.
        after, catches = do_step(state.surfaces, process, step, state.gloved)
        read = {name: after[name] for name in step.foods if name in after}
        return {**state.surfaces, **read}, state.inside, catches
    if step.do != "heat":
        surfaces, catches = do_step(state.surfaces, process, step, state.gloved)
        return surfaces, after_alone(state.inside, process, step), catches
    shown = not owed(state, step)
    plain = replace(step, do="part_cook")
    surfaces, catches = do_step(state.surfaces, process, plain, state.gloved)
    inside = after_alone(state.inside, process, plain)
    foods = (*step.foods, *((step.makes,) if step.makes else ()))
    surfaces = _heat(surfaces, (*foods, *heated_with(process, step)), shown=shown)
    return surfaces, _heat(inside, foods, shown=shown), catches


def breaches(state: State, step: Step, catches: Iterable[Transfer]) -> tuple[Finding, ...]:
    """What a step breaks now: tasting, rinsing raw meat, and catches that reach a plate. Heat that
    the recipe writes after this step counts as a kill step only for food that has not been cooked
    already: a bench may work in another order."""
    fate = state.plan.fate(step.id)
    process = state.plan.process
    cooked = frozenset(name for name, food in state.foods.items() if food.proof or food.heated_s is not None)
    proven = frozenset(name for name, food in state.foods.items() if food.proof)
    rows = tuple(catches)
    before = [catch for catch in rows if catch.food not in proven]
    after = [catch for catch in rows if catch.food in proven]
    return (
        *tasted(process, state.surfaces, step),
        *transfer_findings(process, step, fate, before, cooked, state.gloved),
        *transfer_findings(process, step, Fate(fate.any, fate.any, fate.any), after, cooked, state.gloved),
        *rinsed_raw(process, step),
    )


def serving(state: State, step: Step, told: Iterable[Finding] = ()) -> tuple[Finding, ...]:
    """What serving breaks: food never shown to be cooked, food that is raw or unwashed of itself, and
    raw soils that no step before was found to bring. What is a breach already, or is ``told`` of this
    very step, is not told twice."""
    known = {(i.finding.food, i.finding.soil) for i in state.open_incidents} | {(f.food, f.soil) for f in told}
    found: list[Finding] = []
    for food in plates(state, step):
        if state.food(food).gone is not None or (step.do == "heat" and food in (*step.foods, step.makes)):
            continue  # what has only just been heated is measured next, and judged when it is eaten
        unproven = served_unproven(state, food, step.id)
        found += [row for row in unproven if not told_unproven(state, food)]
        own = list(judge_served(state.plan.process, state.inside, food, step.id))
        found += [row for row in own if not (unproven and soil(row.soil).by_reading)]
        if not unproven:
            found += _caught(state, step, food, {row.soil for row in own} | {s for f, s in known if f == food})
    return tuple(found)


def eating(state: State, food: str) -> tuple[Finding, ...]:
    """What eating a food breaks. Where its serving was tapped, the plate was judged as it came, and
    only what was never shown to be cooked is asked again; else it is judged now."""
    served = state.plan.serve_step.get(food, "")
    if served in state.done:
        return () if told_unproven(state, food) else served_unproven(state, food)
    return serving(state, Step(id=served, do="serve", foods=(food,)))


def plates(state: State, step: Step) -> tuple[str, ...]:
    """The foods that a step serves: those of a serving step; with the last step, what no step serves."""
    served = step.foods if step.do == "serve" else ()
    others = [s.id for s in state.plan.process.steps if s.id != step.id]
    if all_done(state, others):
        rest = [n for n, at in state.plan.serve_step.items() if state.plan.step(at).do != "serve"]
        served = (*served, *(name for name in rest if name not in served))
    return served


def _caught(state: State, step: Step, food: str, told: set[str]) -> list[Finding]:
    """Raw soils on a plate that no contact was found to bring: the heat that was to end them was left out."""
    held = state.food(food)
    cooked = frozenset([food]) if held.heated_s is not None or held.proof else frozenset()
    rows = []
    for name, trace in state.surfaces.get(food, {}).items():
        if name in told or not is_raw(name) or not soil_matters(state.plan.process, name, food):
            continue
        if _mixed_in(state, trace):
            continue
        catch = Transfer(food, name, trace.path[-2] if len(trace.path) > 1 else "", trace.path, trace.at)
        rule = transfer_rule(state.plan.process, catch, cooked)
        rows.append(Finding(rule=rule, step=step.id, soil=name, food=food, path=trace.path, at=trace.at))
    return rows


def _mixed_in(state: State, trace: Trace) -> bool:
    """True if a soil came from another food while both went into a mixture: what is left of this one
    was not in it, and the mixture has its own finding."""
    process = state.plan.process
    if len(trace.path) < 2 or not trace.at or trace.path[-2] not in process.food_ids or not trace.at[-1]:
        return False
    return state.plan.step(trace.at[-1]).makes is not None


def kitchen_rules(state: State, step: Step) -> tuple[State, tuple[Finding, ...]]:
    """The state as gloves and boards are with a step that is about to be done, and what it breaks of the
    kitchen's own school: seen and said, but nobody's dinner is thrown away for it."""
    plan = state.plan
    gloved = now_gloved(state.gloved, step)
    boards, found = house_findings(
        plan.process, plan.house, state.surfaces, step, plan.fate(step.id), gloved=gloved, uses=state.boards
    )
    return changed(state, gloved=gloved, boards=boards), found


def done(state: State, step: Step) -> tuple[State, tuple[Finding, ...]]:
    """The state after the contacts of a step (with the hands that did it), and all that they break."""
    surfaces, inside, catches = contact(state, step)
    found = breaches(state, step, catches)
    # A plate is judged as it comes: what its foods pass to each other on it is their own finding.
    plate = changed(state, inside=inside) if step.do == "serve" else changed(state, surfaces=surfaces, inside=inside)
    found = (*found, *serving(plate, step, found))
    return changed(state, surfaces=surfaces, inside=inside), found


def would_breach(state: State, step_id: str, by: Iterable[str]) -> tuple[Finding, ...]:
    """What going on with a step would break, with these hands: the interlock's findings. What is about
    food that was thrown away, or what the educator has decided on, is not asked."""
    if step_id in state.done:
        return ()
    _, found = done(state, live_step(state, state.plan.step(step_id), tuple(by)))
    asked = (f for f in found if not state.food(f.food).discarded and control_of(state.plan, f) not in state.waived)
    return weighed(asked, state.plan.house)[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class Foreseen:
    """What can be known of a step before it is done, so that a tablet without a network knows it too. ``gives``: the
    raw soils that hands and kit take from its food. ``hands``: hands touch that. ``tools``: its kit. ``harms``: the raw
    soils that would reach a plate from here, were they on those hands or that kit."""

    gives: tuple[str, ...] = ()
    hands: bool = False
    tools: tuple[str, ...] = ()
    harms: tuple[str, ...] = ()


def foreseen(plan: Plan, step: Step) -> Foreseen:
    """The same question as ``would_breach`` asks, of the recipe as written: what has become of its foods at the bench
    is not in it, so that it finds rather too much than too little."""
    if step.do in DRY_VERBS:
        return Foreseen()
    process, fate = plan.process, plan.fate(step.id)
    inside = {name for food in step.foods for name in process.ingredients_of(food)}
    own = {soil for name in inside for soil in process.foods[name].soils if is_raw(soil)}
    raw = {soil for food in process.foods.values() for soil in food.soils if is_raw(soil)}
    held = (*step.foods, *((step.makes,) if step.makes else ()))
    gives = tuple(sorted(own)) if step.id in plan.raw_steps else ()
    before = process.steps[: process.step_index[step.id]]
    return Foreseen(
        gives=gives,
        hands=bool(step.hands) or step.do in _BY_HAND or (bool(gives) and _by_hand(plan, step, before)),
        tools=step.tools,
        harms=tuple(sorted(name for name in raw if any(fate.of(name).get(food) for food in held))),
    )


def unrinsed(state: State, step: Step) -> tuple[str, ...]:
    """The produce that a step works on, that is unwashed of itself, and that would reach a plate so:
    the last moment at which it can simply be rinsed."""
    if step.do in DRY_VERBS or step.do == "rinse":
        return ()
    fate = state.plan.fate(step.id)
    rows = []
    for food in step.foods:
        own = [name for name in state.inside.get(food, ()) if soil(name).rinse_clears]
        if food in state.plan.process.foods and any(fate.of(name).get(food) for name in own):
            rows.append(food)
    return tuple(rows)
