"""What the front can log for a bench with one tap: the step it is at, by whom, and whose hands were seen washed."""

from dataclasses import dataclass

from bulwark.lessons import call_wording, log_wording, selectors
from bulwark.lessons.models import Bench
from foodsafety.lesson import State, next_step, would_breach
from foodsafety.recipes import Step


@dataclass(frozen=True, slots=True, kw_only=True)
class Tap:
    """One button: the kind of entry, who, and what it would break (``stops``), if anything."""

    kind: str
    who: str
    scrub_s: float = 0.0
    stops: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class FrontTaps:
    """The step that a bench is at (none once all is done), its title, a button each, and whose hands are not clean."""

    step: str
    title: str
    taps: tuple[Tap, ...]
    washes: tuple[Tap, ...]


def front_taps(bench: Bench, state: State, now_s: float) -> FrontTaps | None:
    """None before a lesson, after it, and where nobody is at the bench."""
    lesson = bench.lesson
    if lesson.opened_at is None or lesson.over or not state.present:
        return None
    step = next_step(state)
    washes = tuple(
        Tap(kind="hands_washed", who=name, scrub_s=state.plan.scrub_s)
        for name in state.present
        if log_wording.hands_of(state, name, now_s)[0] != "clean"
    )
    taps = () if step is None else _taps(state, step)
    title = "" if step is None else selectors.step_titles(lesson).get(step.id, step.id)
    return FrontTaps(step=step.id if step else "", title=title, taps=taps, washes=washes)


def _taps(state: State, step: Step) -> tuple[Tap, ...]:
    if step.do == "heat" and step.id not in state.on_heat:
        return (Tap(kind="on_heat", who=""),)
    return tuple(Tap(kind="step_done", who=name, stops=_stops(state, step, name)) for name in state.present)


def _stops(state: State, step: Step, who: str) -> str:
    """What it would break, as the bench would be told."""
    found = would_breach(state, step.id, [who])
    return call_wording.finding_title(found[0], state) if found else ""
