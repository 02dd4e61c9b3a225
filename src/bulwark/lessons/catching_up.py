"""A lesson that runs, held against its plan: when each course is reached by it, and which benches are to be asked."""

from collections.abc import Sequence

from bulwark.lessons import call_wording, drawings, selectors
from bulwark.lessons.models import Bench
from foodsafety.lesson import Phase, State, gone_s, has_begun
from foodsafety.planning import behind_s


def against_plan(benches: Sequence[Bench], now_s: float) -> drawings.AgainstPlan:
    """A lesson's benches held against its plan; nothing of it where no plan was found."""
    starts: dict[Phase, float] = {}
    calls = {}
    for bench in benches:
        state, _ = selectors.bench_state(bench)
        begins = {step: begins_s for step, (begins_s, _ends_s) in selectors.planned_at(bench).items()}
        for phase, at_s in state.plan.phases_at(begins).items() if begins else ():
            starts[phase] = min(at_s, starts.get(phase, at_s))
        if call := call_for(bench, state, now_s):
            calls[bench.pk] = call
    paper = frozenset(bench.pk for bench in benches if bench.on_paper)
    return drawings.AgainstPlan(starts_s=starts, calls=calls, paper=paper)


def call_for(bench: Bench, state: State, now_s: float) -> call_wording.Call | None:
    """What to say to a bench that is far behind its plan, of which nothing is heard, or whose help was not enough. None
    where nothing is to be said, and always of a bench on paper: what it has done is typed in later."""
    lesson = bench.lesson
    late = selectors.late_of(bench, state, now_s)
    if bench.on_paper or lesson.opened_at is None or lesson.over or state.paused:
        return None
    if late is not None and late.s >= behind_s():
        title = selectors.step_titles(lesson).get(late.step, late.step)
        return call_wording.behind_call(title, late.s)
    if not has_begun(state):
        ends_s = min((ends_s for _begins_s, ends_s in selectors.planned_at(bench).values()), default=None)
        silent_s = gone_s(state, lesson.opened_at.timestamp(), now_s)
        return call_wording.silent_call(silent_s) if ends_s and silent_s >= ends_s + behind_s() else None
    over_s = lesson.planned.get("ends_s", 0) - lesson.length_min * 60
    return call_wording.too_late_call(over_s) if state.advice and over_s > 0 else None
