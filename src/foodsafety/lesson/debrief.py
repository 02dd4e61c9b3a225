"""After the lesson: what carried a soil when, where a breach began, what was caught in time, and what to teach next."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.contamination import Finding
from foodsafety.lesson.breaches import SERVED_UNPROVEN
from foodsafety.lesson.entry import Event, voided
from foodsafety.lesson.evidence import Brick
from foodsafety.lesson.folding import advance, fold
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import Incident, State, opening_state
from foodsafety.recipes import Step

CarrierKind = Literal["food", "hands", "tool"]
# Harm of what was open at the end, before that of what was mended, before that of what was missed [rank].
_WEIGHT = {"open": 3, "mended": 2, "missed": 1, "noted": 1}


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """A time [s] over which something carried a soil; ``to_s`` is None where it carried it to the end. ``ended`` is
    the kind of the entry that ended it."""

    from_s: float
    to_s: float | None = None
    ended: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Lane:
    """One carrier on the way of a breach: when it carried the soil, and when an entry worked with it [s]."""

    carrier: str
    kind: CarrierKind
    stretches: tuple[Stretch, ...]
    touched: tuple[tuple[float, str], ...]


def state_at(plan: Plan, learners: Sequence[str], events: Iterable[Event], at_s: float) -> State:
    """A bench as it stood at a moment [s]: what had happened by then, whenever it reached the log. Entries that were
    taken back later are left out as they are everywhere."""
    rows = list(events)
    not_counted = voided(rows)
    return fold(plan, learners, [row for row in rows if row.at_s <= at_s and row.id not in not_counted])


def lanes(plan: Plan, learners: Sequence[str], events: Iterable[Event], finding: Finding) -> tuple[Lane, ...]:
    """Each carrier on the way of a breach, from where the soil came to what would have been eaten."""
    carriers = tuple(dict.fromkeys(finding.path)) or ((finding.food,) if finding.food else ())
    state = opening_state(plan, tuple(learners))
    spans: dict[str, list[Stretch]] = {name: [] for name in carriers}
    touched: dict[str, list[tuple[float, str]]] = {name: [] for name in carriers}
    began: float | None = None
    joined: set[str] = set()
    for event in _in_order(events):
        began = event.at_s if began is None else began
        before, (state, _) = state, advance(state, event)
        joined |= _joined(event, plan)
        for name in carriers:
            carried = _carries(before, name, finding.soil)
            carries = _carries(state, name, finding.soil) and name not in joined
            own = spans[name]
            if carries and (not own or own[-1].to_s is not None):
                own.append(Stretch(from_s=event.at_s))
            elif carried and not carries and own and own[-1].to_s is None:
                own[-1] = replace(own[-1], to_s=event.at_s, ended="joined" if name in joined else event.kind)
            if _works_with(event, name, plan):
                touched[name].append((event.at_s, str(event.data.get("step") or "")))
    for name in carriers:  # what is raw as it comes carries it before anything happens
        if not spans[name] and began is not None and _carries(state, name, finding.soil):
            spans[name] = [Stretch(from_s=began)]
    return tuple(
        Lane(
            carrier=name,
            kind="hands" if name in learners else "tool" if name in plan.process.tools else "food",
            stretches=tuple(spans[name]),
            touched=tuple(touched[name]),
        )
        for name in carriers
    )


def _in_order(events: Iterable[Event]) -> list[Event]:
    rows = sorted(events, key=lambda row: row.at_s)
    not_counted = voided(rows)
    return [row for row in rows if row.id not in not_counted]


def _carries(state: State, name: str, soil: str) -> bool:
    return soil in state.surfaces.get(name, ()) or soil in state.inside.get(name, ())


def _joined(event: Event, plan: Plan) -> frozenset[str]:
    """The foods that go into something else with an entry: from there on it carries what they brought."""
    step = _step_of(event, plan)
    return frozenset(step.foods) - {step.makes} if step is not None and step.makes else frozenset()


def _step_of(event: Event, plan: Plan) -> Step | None:
    wanted = event.data.get("step") if event.kind == "step_done" else None
    return next((row for row in plan.process.steps if row.id == wanted), None)


def _works_with(event: Event, name: str, plan: Plan) -> bool:
    """True for an entry that says that a carrier took part in a step."""
    step = _step_of(event, plan)
    by = event.data.get("by") or ()
    return step is not None and name in (*step.foods, *step.tools, step.makes or "", *by)


@dataclass(frozen=True, slots=True, kw_only=True)
class Catch:
    """What was noticed in time: a reading below the limit that was followed by proof (``how`` "measured"), or a breach
    that was put right before its food was eaten ("mended")."""

    how: Literal["measured", "mended"]
    food: str
    at_s: float
    after_s: float
    low_c: float | None = None
    rule: str = ""


def best_catch(state: State, events: Iterable[Event]) -> Catch | None:
    """The best thing that a bench noticed itself: food that was measured, was not hot enough and was cooked on until it
    was; else the breach that was put right soonest. None where there is nothing of the kind."""
    readings: list[Catch] = []
    for event in _in_order(events):
        food = str(event.data.get("food"))
        limit = state.plan.provable.get(food)
        core_c = event.data.get("core_c")
        proof = state.food(food).proof
        if event.kind == "core_read" and limit is not None and proof is not None and isinstance(core_c, (int, float)):
            low = limit.main is not None and core_c < limit.main.temperature.c
            if low and proof.at_s > event.at_s:
                after_s = proof.at_s - event.at_s
                readings.append(Catch(how="measured", food=food, at_s=event.at_s, after_s=after_s, low_c=core_c))
    if readings:
        return max(readings, key=lambda row: row.after_s)
    mended = [
        Catch(how="mended", food=i.finding.food, at_s=i.at_s, after_s=i.mended_s - i.at_s, rule=i.finding.rule)
        for i in state.incidents
        if i.mended_s is not None and i.action != "discarded"
    ]
    return min(mended, key=lambda row: row.after_s, default=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class ToTeach:
    """Something to teach next: the rule it is about, and where it showed, by bench: when [s], who or which food, and
    whether it was "open", "mended", "missed" or "noted"."""

    rule: str
    seen: tuple[tuple[str, float, str, str], ...]

    @property
    def rank(self) -> tuple[int, int]:
        """What matters more comes first: what was open, then how often it showed."""
        return (max(_WEIGHT[how] for *_rest, how in self.seen), len(self.seen))


def teach_next(benches: Mapping[str, tuple[State, Sequence[Brick]]]) -> tuple[ToTeach, ...]:
    """What to teach next, for a class: every rule that was broken or missed at any bench, what matters most first."""
    seen: dict[str, list[tuple[str, float, str, str]]] = {}
    for name, (state, bricks) in benches.items():
        for incident in state.incidents:
            rule, who = _subject(incident, state)
            how = "mended" if not incident.open else "open"
            seen.setdefault(rule, []).append((name, incident.at_s, who, how))
        for brick in bricks:
            if brick.status in ("missed", "not_done") or (brick.status == "breach" and not brick.incidents):
                food = ", ".join(brick.control.foods)
                seen.setdefault(brick.control.rule, []).append((name, 0.0, food, "missed"))
    rows = [ToTeach(rule=rule, seen=tuple(rows)) for rule, rows in seen.items()]
    return tuple(sorted(rows, key=lambda row: row.rank, reverse=True))


def _subject(incident: Incident, state: State) -> tuple[str, str]:
    """What a breach is about, and who or what brought it about: the last hands or kit on its way, else its food."""
    finding = incident.finding
    by = [name for name in finding.path if name in state.learners or name in state.plan.process.tools]
    rule = "core-temperature" if finding.rule in SERVED_UNPROVEN else finding.rule
    return rule, by[-1] if by else finding.food
