"""What the evidence shows of each control point at a moment: the bricks of the wall."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from foodsafety.foods import is_raw
from foodsafety.lesson.handlers import verdict_of
from foodsafety.lesson.plan import ControlPoint, Plan
from foodsafety.lesson.state import Incident, State, next_step
from foodsafety.shelf import Clock, judge_clock

# --- bricks: what the state proves at a moment ---------------------------------------------------------

BrickStatus = Literal["todo", "due", "laid", "missed", "breach", "mended", "waived"]


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


def _status(state: State, control: ControlPoint, shown: _Shown, mine: tuple[Incident, ...]) -> BrickStatus:
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
    return tuple(name for name in held if is_raw(name))


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
