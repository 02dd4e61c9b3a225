"""Whether food is shown to be cooked: proof given by readings, taken back by a lower one, and asked
for of a food and of everything it was made from. The one place that says "cooked" in a lesson."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from foodsafety.contamination import Finding, Surfaces, Trace, clear_carriers, heated_with
from foodsafety.cooking import CookVerdict
from foodsafety.foods import soil
from foodsafety.lesson.breaches import SERVED_UNPROVEN, mend, record
from foodsafety.lesson.changed import changed
from foodsafety.lesson.food_state import Proof
from foodsafety.lesson.plan import brings_raw
from foodsafety.lesson.state import State
from foodsafety.recipes import Step


def verdict_of(state: State, food: str, now_s: float) -> CookVerdict | None:
    """The cooking verdict on a food, or None where nothing has to be measured of it."""
    rule = state.plan.cook_rules.get(food)
    if rule is None:
        return None
    held = state.food(food)
    rule = rule.for_pieces(held.counted)
    return rule.verdict(held.shown or rule.nothing, now_s=now_s, off_heat_s=held.off_heat_s)


def pieces_needed(state: State, food: str) -> int:
    """How many pieces of a food have to be probed."""
    rule = state.plan.cook_rules.get(food)
    return rule.for_pieces(state.food(food).counted).needed if rule else state.plan.profile.pieces


def unproven_in(state: State, food: str) -> tuple[str, ...]:
    """What had to be shown cooked and is not, of a food and of everything it was made from: chicken
    folded into a sauce is still the chicken that nobody measured. Empty for food that is proven, and
    for food that was never raw."""
    return tuple(sorted(_unproven(state, food, set())))


def _unproven(state: State, food: str, seen: set[str]) -> set[str]:
    held = state.food(food)
    if food in seen or held.proof is not None:
        return set()
    seen.add(food)
    if held.reheating:
        return {food}
    process = state.plan.process
    own = process.foods.get(food)
    found = {food} if own is not None and brings_raw(own) else set()
    for part in process.made.get(food, ()):
        found |= _unproven(state, part, seen)
    return {food} if found and food in state.plan.provable and food in process.made else found


def thrown_away(state: State, food: str) -> bool:
    """True if a food is thrown away: itself, or all that it went into."""
    if state.food(food).discarded:
        return True
    made = [name for name in state.plan.ahead(food) if name in state.foods and state.food(name).made_s is not None]
    last = [name for name in made if not any(name in state.plan.behind(other) for other in made)]
    return bool(last) and all(state.food(name).discarded for name in last)


def heats_of(state: State, food: str) -> tuple[Step, ...]:
    """The heat steps that a food takes part in and that are done or have begun."""
    return tuple(
        step
        for step in state.plan.process.steps
        if step.do == "heat"
        and food in (*step.foods, step.makes)
        and (step.id in state.done or step.id in state.on_heat)
    )


def owed(state: State, step: Step) -> bool:
    """True if a reading is owed of something in a heat step: then its heat ends nothing raw until
    the reading shows it."""
    names = (step.makes,) if step.makes else step.foods
    return any(name in state.plan.provable and unproven_in(state, name) for name in names)


def settle(state: State, now_s: float) -> State:
    """The state with every rest that time has brought to its end."""
    resting = [n for n, held in state.foods.items() if held.rest_over_s is not None and held.rest_over_s <= now_s]
    for name in resting:
        state = judge(state, name, state.food(name).rest_over_s or now_s)
    return state


def judge(state: State, food: str, at_s: float) -> State:
    """What the readings of a food now show: a proof, none, or one that is taken back."""
    verdict = verdict_of(state, food, at_s)
    if verdict is None:
        return state
    held = state.food(food)
    rest_s = at_s + verdict.remaining_s if verdict.status == "rest" else None
    state = state.with_food(food, changed(held, rest_over_s=rest_s))
    if verdict.status == "reached" and held.proof is None:
        return _prove(state, food, at_s, verdict.rests_on)
    # Below the limit, or more pieces than were thought and not all of them shown.
    if held.proof is not None and verdict.status in ("below", "too_few"):
        return _withdraw(state, food, at_s)
    return state


def prove_by_sight(state: State, food: str, at_s: float) -> State:
    """Shown by what is seen, where the source gives nothing else to go by."""
    held = state.food(food)
    return state if held.proof else _prove(state, food, at_s, "seen")


def _prove(state: State, food: str, at_s: float, rests_on: str) -> State:
    carriers = _ended_with(state, food)
    ended = _heat_clears(state.surfaces, carriers)
    inside = _heat_clears(state.inside, [food])
    proof = Proof(at_s=at_s, rests_on=rests_on, ended=ended, ended_inside=inside)
    held = state.food(food)
    clock = held.clock
    if held.on_heat_s is None and clock.since_s is None and held.kept is None:
        clock = clock.out(max((row.at_s for row in held.readings), default=at_s))
    state = changed(
        state,
        surfaces=_without(state.surfaces, ended),
        inside=_without(state.inside, inside),
        foods={**state.foods, food: changed(held, proof=proof, rest_over_s=None, clock=clock)},
    )
    return _mend_served(state, food, at_s)


def _ended_with(state: State, food: str) -> tuple[str, ...]:
    """The food, and what was on the heat with it once nothing in there is owed a reading any more."""
    carriers: dict[str, None] = {food: None}
    proven = state.with_food(food, changed(state.food(food), proof=Proof(at_s=0.0)))
    for step in heats_of(state, food):
        if not owed(proven, step):
            carriers |= dict.fromkeys((*step.foods, *heated_with(state.plan.process, step)))
    return tuple(carriers)


def _heat_clears(surfaces: Surfaces, carriers: Iterable[str]) -> dict[str, dict[str, Trace]]:
    """The soils on the carriers that heat ends."""
    rows = {c: {n: t for n, t in surfaces.get(c, {}).items() if soil(n).heat_clears} for c in carriers}
    return {carrier: row for carrier, row in rows.items() if row}


def _without(surfaces: Surfaces, ended: Mapping[str, Mapping[str, Trace]]) -> Surfaces:
    for carrier, row in ended.items():
        stays = [name for name in surfaces.get(carrier, {}) if name not in row]
        surfaces = clear_carriers(surfaces, [carrier], keep=stays)
    return surfaces


def _again(surfaces: Surfaces, ended: Mapping[str, Mapping[str, Trace]], caught: Iterable[str]) -> Surfaces:
    """The surfaces with what a proof ended there again, and on what has caught it since."""
    after = dict(surfaces)
    for carrier, row in ended.items():
        after[carrier] = {**row, **after.get(carrier, {})}
    for name in caught:
        for row in ended.values():
            traces = {soil_name: trace.to(name) for soil_name, trace in row.items()}
            after[name] = {**traces, **after.get(name, {})}
    return after


def _clean_since(state: State, carrier: str, at_s: float) -> bool:
    """True if kit was cleaned, or hands were washed, after a moment."""
    wash = state.person(carrier).washed
    return state.cleaned.get(carrier, at_s) > at_s or (wash is not None and wash.at_s > at_s)


def _touched_since(state: State, food: str, at_s: float) -> set[str]:
    """Hands and kit that a food met after a moment, and that were not washed after they did."""
    found = set()
    for step_id, done_s in state.done.items():
        step = state.plan.step(step_id)
        if done_s >= at_s and food in step.foods:
            met = (*step.tools, *(state.done_by.get(step_id, ()) if step.hands or step.do == "serve" else ()))
            found |= {name for name in met if not _clean_since(state, name, done_s)}
    return found


def _withdraw(state: State, food: str, at_s: float) -> State:
    """A lower reading: what the proof ended is there again, on what the food went into and on the hands
    and kit it has met since; a plate that was served with it is a breach from now on."""
    held = state.food(food)
    if held.proof is None:
        return state
    proof, made = held.proof, [name for name in state.plan.ahead(food) if state.food(name).made_s is not None]
    ended = {c: row for c, row in proof.ended.items() if c == food or not _clean_since(state, c, proof.at_s)}
    own = {food: proof.ended.get(food, {})}
    state = changed(
        state,
        surfaces=_again(_again(state.surfaces, ended, made), own, _touched_since(state, food, proof.at_s)),
        inside=_again(state.inside, proof.ended_inside, made),
        foods={**state.foods, food: changed(held, proof=None)},
    )
    findings = [found for name in (food, *made) for found in served_unproven(state, name) if served(state, name)]
    return record(state, findings, at_s)


def served(state: State, food: str) -> bool:
    """True if a food is on the plate."""
    step = state.plan.serve_step.get(food)
    return step is not None and step in state.done and state.food(food).gone is None


def served_unproven(state: State, food: str, step: str = "") -> tuple[Finding, ...]:
    """The finding that a food is served and was never shown to be cooked, or to be hot again; none
    where it was, or where there is nothing to show it by."""
    names = [name for name in unproven_in(state, food) if name in state.plan.provable]
    if not names:
        return ()
    rule = "served-below-limit" if any(state.food(name).readings for name in names) else "served-not-measured"
    raw = {n: t for name in (food, *names) for n, t in state.surfaces.get(name, {}).items() if soil(n).by_reading}
    worst = max(raw, key=lambda name: (soil(name).severity, name), default="")
    return (
        Finding(
            rule=rule,
            step=step or state.plan.serve_step.get(food, ""),
            soil=worst,
            food=food,
            path=raw[worst].path if worst else (),
            evidence={"unproven": tuple(names)},
        ),
    )


def _mend_served(state: State, food: str, at_s: float) -> State:
    """The breaches that a proof puts right: those of the food itself, and of plates it is on where
    nothing else is unproven."""
    state = mend(state, food, at_s, "cooked_again")
    for incident in state.open_incidents:
        plate = incident.finding.food
        if incident.finding.rule in SERVED_UNPROVEN and not served_unproven(state, plate):
            state = mend(state, plate, at_s, "cooked_again", rules=SERVED_UNPROVEN)
    return state
