"""What the evidence shows of each control point at a moment: the bricks of the wall."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from foodsafety.foods import is_raw
from foodsafety.lesson.food_state import FoodState
from foodsafety.lesson.plan import ControlPoint
from foodsafety.lesson.proving import settle, thrown_away, unproven_in, verdict_of
from foodsafety.lesson.standing import clock_of, stored_too_late
from foodsafety.lesson.state import Incident, State, Wash, all_done, next_step

# --- bricks: what the state proves at a moment ---------------------------------------------------------

BrickStatus = Literal["todo", "due", "laid", "missed", "not_done", "breach", "mended", "waived"]
# What a lesson that is over leaves open: its time had come, or never came.
_AT_THE_END: Mapping[BrickStatus, BrickStatus] = {"due": "missed", "todo": "not_done"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Brick:
    """A control point with its evidence at a moment."""

    control: ControlPoint
    status: BrickStatus
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


def bricks(state: State, now_s: float, *, ended: bool = False) -> tuple[Brick, ...]:
    """Every control point of the bench with its status at a moment [s]; once the lesson has ended,
    nothing is "due" or "not yet" any more."""
    state = settle(state, now_s)
    rows = tuple(_brick(state, control, now_s) for control in state.plan.controls)
    return tuple(_at_the_end(row) for row in rows) if ended else rows


def _at_the_end(brick: Brick) -> Brick:
    return replace(brick, status=_AT_THE_END.get(brick.status, brick.status), remaining_s=None)


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


def _status(state: State, control: ControlPoint, shown: _Shown, mine: tuple[Incident, ...]) -> BrickStatus:
    if any(i.open for i in mine):
        return "breach"
    if control.id in state.dropped:
        return "waived"
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
    washes = [wash for name in present if (wash := state.person(name).first_wash)]
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


_RANK = {"failed": 0, "open": 1, "late": 2, "laid": 3}


def _worst(shown: list[_Shown]) -> _Shown:
    """Of several foods the worst speaks; of those that are all laid, the last one."""
    return min(shown, key=lambda one: (_RANK[one.status], -(one.at_s or 0.0)), default=_Shown("open"))


def _chilled(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Every food that was chilled, each with a reading of its own; the worst one speaks."""
    return _worst([_chilled_food(state, control, food, now_s) for food in control.foods])


def _chilled_food(state: State, control: ControlPoint, food: str, now_s: float) -> _Shown:
    held = state.food(food)
    standing = clock_of(state, food, now_s)
    evidence: dict[str, Any] = {"out_s": standing.total_s, "limit_s": standing.limit.limit_s, "food": food}
    if thrown_away(state, food):
        return _Shown("late", evidence)
    if standing.standing != "within":
        return _Shown("failed", evidence)  # out too long to be put back into the cold
    if not held.cold or control.limit is None:
        return _Shown("open", evidence, standing.remaining_s if held.clock.since_s is not None else None)
    at_s, last_c = held.cold[-1]
    evidence["core_c"] = last_c
    if not control.limit.kept_by(last_c):
        return _Shown("open", evidence)
    return _Shown("laid", evidence, at_s=at_s)


def _raw_out(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Every raw food until it is on the heat, each by its own clock; the worst one speaks."""
    return _worst([_raw_out_food(state, food, now_s) for food in control.foods])


def _raw_out_food(state: State, food: str, now_s: float) -> _Shown:
    names = (food, *state.plan.ahead(food))
    raw = [state.food(name) for name in names if name in state.foods]
    times = [held.raw.total_s(now_s) if held.raw else held.clock.total_s(now_s) for held in raw if _raw_yet(held)]
    out_s = max(times, default=0.0)
    limit = state.plan.profile.clock_for("cold", state.ambient_c)
    evidence = {"out_s": out_s, "limit_s": limit.limit_s, "food": food}
    if limit.over(out_s):
        return _Shown("late" if thrown_away(state, food) else "failed", evidence)
    heated = [at_s for held in raw if held.raw is not None and (at_s := held.on_since_s) is not None]
    if heated:
        return _Shown("laid", evidence, at_s=max(heated))
    if thrown_away(state, food):
        return _Shown("late", evidence)
    begun = any(held.clock.since_s is not None for held in raw)
    return _Shown("open", evidence, max(0.0, limit.limit_s - out_s) if begun else None)


def _raw_yet(held: FoodState) -> bool:
    """True if the time of a food is still that of raw food: it has not been heated, or its time
    before that is known apart."""
    return held.raw is not None or held.heated_s is None


def _raw_soils(state: State, carrier: str) -> tuple[str, ...]:
    held = state.surfaces.get(carrier, {})
    return tuple(name for name in held if is_raw(name))


def _last_raw_s(state: State, *, by: str = "", tool: str = "") -> float | None:
    """When a person's hands or a tool last took part in a raw step."""
    steps = [state.plan.step(name) for name in state.plan.raw_steps if name in state.done]
    steps = [step for step in steps if step.do not in ("wash_hands", "clean")]
    times = [
        state.done[step.id]
        for step in steps
        # Where nobody said who did it, it was anybody.
        if (by and step.hands and by in (state.done_by.get(step.id) or state.present)) or (tool and tool in step.tools)
    ]
    return max(times, default=None)


def _hands_back(state: State, control: ControlPoint, now_s: float) -> _Shown:
    soiled = tuple(name for name in state.present if _raw_soils(state, name))
    last = {name: _last_raw_s(state, by=name) for name in state.present}
    owed = {name: at_s for name, at_s in last.items() if at_s is not None}
    washed = {name: wash for name, at_s in owed.items() if (wash := _washed_since(state, name, at_s))}
    washes = list(washed.values())
    left = tuple(name for name in state.present if name in soiled or name in owed.keys() - washed.keys())
    evidence: dict[str, Any] = {"soiled": soiled, "left": left}
    if soiled or not owed or len(washes) < len(owed) or not all_done(state, control.due_after):
        return _Shown("open", evidence)
    return _Shown("laid", {**evidence, "scrub_s": min(w.scrub_s for w in washes)}, at_s=max(w.at_s for w in washes))


def _washed_since(state: State, name: str, at_s: float) -> Wash | None:
    wash = state.person(name).washed
    return wash if wash is not None and wash.at_s >= at_s else None


def _kit_back(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Each tool clean now, and cleaned since it last met the raw food."""
    soiled = tuple(name for name in control.carriers if _raw_soils(state, name))
    heated = max((state.done[n] for n in control.due_after if n in state.done), default=0.0)
    cleaned: list[float] = []
    left: list[str] = []
    for name in control.carriers:
        used_s = _last_raw_s(state, tool=name)
        at_s = state.cleaned.get(name)
        if name not in soiled and at_s is not None and at_s >= (heated if used_s is None else used_s):
            cleaned.append(at_s)
        else:
            left.append(name)
    evidence = {"soiled": soiled, "cleaned": len(cleaned), "of": len(control.carriers), "left": tuple(left)}
    if soiled or len(cleaned) < len(control.carriers) or not all_done(state, control.due_after):
        return _Shown("open", evidence)
    return _Shown("laid", evidence, at_s=max(cleaned))


def _core(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Every food that has to be measured, each proven by its own readings; the worst one speaks."""
    return _worst([_core_food(state, food, now_s) for food in control.measured])


def _core_food(state: State, food: str, now_s: float) -> _Shown:
    evidence = _core_evidence(state, food, now_s)
    held = state.food(food)
    if held.proof is not None:
        return _Shown("laid", evidence, at_s=held.proof.at_s)
    if thrown_away(state, food):
        return _Shown("late", evidence)
    if _shown_otherwise(state, food):
        proofs = [state.food(n).proof for n in (*state.plan.behind(food), *state.plan.ahead(food))]
        return _Shown("laid", evidence, at_s=max(proof.at_s for proof in proofs if proof))
    return _Shown("open", evidence, evidence.get("wait_s"))


def _shown_otherwise(state: State, food: str) -> bool:
    """True if a food is shown by what it was made from, or by what it went into."""
    behind = any(state.food(name).proof for name in state.plan.behind(food))
    held = state.food(food)
    if behind and not held.reheating and not unproven_in(state, food):
        return True
    return any(state.food(name).proof for name in state.plan.ahead(food))


def _core_evidence(state: State, food: str, now_s: float) -> dict[str, Any]:
    verdict = verdict_of(state, food, now_s)
    if verdict is None:
        return {"food": food}
    evidence: dict[str, Any] = {
        "food": food,
        "verdict": verdict.status,
        "core_c": verdict.lowest_c,
        "pieces": verdict.pieces,
    }
    if verdict.remaining_s:
        evidence["wait_s"] = verdict.remaining_s
    if verdict.rests_on:
        evidence["rests_on"] = verdict.rests_on
    return evidence


def _part_cooked(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """Laid only when everything part-cooked, or what each of it went into, is proven cooked through."""
    step = state.plan.step(control.steps[0])
    return _worst([_finished(state, food) for food in ([step.makes] if step.makes else step.foods)])


def _finished(state: State, food: str) -> _Shown:
    proofs = [proof for name in (food, *state.plan.ahead(food)) if (proof := state.food(name).proof)]
    if proofs:
        return _Shown("laid", {"food": food}, at_s=min(proof.at_s for proof in proofs))
    if thrown_away(state, food):
        return _Shown("late", {"food": food})
    return _Shown("open", {"food": food}) if unproven_in(state, food) else _Shown("laid", {"food": food}, at_s=0.0)


def _time_out(state: State, control: ControlPoint, now_s: float) -> _Shown:
    """What is served, from when it left a safe temperature until it is away: over at any moment is
    over, whether it has been served or not."""
    foods = [food for food in control.foods if food in state.foods]
    standings = {food: clock_of(state, food, now_s) for food in foods}
    worst = max(standings.values(), key=lambda s: s.total_s, default=None)
    evidence: dict[str, Any] = {"ambient_c": state.ambient_c}
    if worst is not None:
        evidence |= {"out_s": worst.total_s, "limit_s": worst.limit.limit_s}
    late = [food for food in foods if standings[food].standing == "over" or stored_too_late(state, food)]
    if late:
        discarded = all(state.food(food).discarded for food in late)
        return _Shown("late" if discarded else "failed", {**evidence, "foods": tuple(late)})
    if all(state.food(food).settled for food in control.foods):
        times = [away.at_s for food in foods if (away := state.food(food).gone or state.food(food).kept)]
        return _Shown("laid", evidence, at_s=max(times, default=None))
    return _Shown("open", evidence, worst.remaining_s if worst and all_done(state, control.due_after) else None)


def _label(state: State, control: ControlPoint, now_s: float) -> _Shown:
    settled = [food for food in control.foods if state.food(food).settled]
    kept = [food for food in control.foods if state.food(food).kept]
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
