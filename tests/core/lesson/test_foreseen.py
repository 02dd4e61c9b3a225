"""What a tablet without a network knows by itself, held against what the server finds."""

from __future__ import annotations

from pathlib import Path

import pytest

from foodsafety.foods import is_raw
from foodsafety.lesson import Event, Plan, State, fold, foreseen, safety_plan, would_breach
from foodsafety.recipes import process_from
from foodsafety.rules import House, rule_profile
from tests.builders import DEMOS, demo_recipe

SD, RO = "SD", "RO"


def after(plan: Plan, steps: int) -> State:
    """The bench once SD has done so many steps, in their order, washing where the recipe says."""
    events = [
        Event(id=f"w{name}", kind="hands_washed", at_s=0.0, data={"learner": name, "scrub_s": 20}) for name in (SD, RO)
    ]
    for n, step in enumerate(plan.process.steps[:steps], start=1):
        if step.do == "wash_hands":
            wash = {"learner": SD, "scrub_s": 20}
            events.append(Event(id=f"w{n}", kind="hands_washed", at_s=60.0 * n, data=wash))
        events.append(Event(id=f"s{n}", kind="step_done", at_s=60.0 * n + 30, data={"step": step.id, "by": [SD]}))
    return fold(plan, (SD, RO), events)


def by_server(before: State, now: State, step: str) -> bool:
    """True if what was just done makes SD's doing this step a breach by raw soil, that was none before."""
    old = {row.key for row in would_breach(before, step, [SD])}
    new = [row for row in would_breach(now, step, [SD]) if row.key not in old]
    tools = set(now.plan.step(step).tools)
    return any(is_raw(row.soil) and {SD, *tools} & set(row.path) for row in new if row.soil)


def by_tablet(plan: Plan, done: str, step: str) -> bool:
    """The same by what was sent along with the two steps."""
    first, then = foreseen(plan, plan.step(done)), foreseen(plan, plan.step(step))
    carried = (first.hands and then.hands) or bool(set(first.tools) & set(then.tools))
    return carried and bool(set(first.gives) & set(then.harms))


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_the_tablet_finds_whatever_the_server_finds(path: Path) -> None:
    plan = safety_plan(process_from(demo_recipe(path.stem)["process"]), rule_profile("us-home"), House())
    steps = plan.process.steps
    for n, done in enumerate(steps[:-1]):
        before, now = after(plan, n), after(plan, n + 1)
        for step in steps[n + 1 :]:
            if step.do not in ("wash_hands", "clean") and by_server(before, now, step.id):
                assert by_tablet(plan, done.id, step.id), (done.id, step.id)


def test_it_finds_little_that_the_server_does_not() -> None:
    found = extra = 0
    for path in DEMOS:
        plan = safety_plan(process_from(demo_recipe(path.stem)["process"]), rule_profile("us-home"), House())
        steps = plan.process.steps
        for n, done in enumerate(steps[:-1]):
            before, now = after(plan, n), after(plan, n + 1)
            for step in steps[n + 1 :]:
                server, tablet = by_server(before, now, step.id), by_tablet(plan, done.id, step.id)
                found += server
                extra += tablet and not server
    print(f"found by both {found}, by the tablet alone {extra}")
    assert found > 10
    assert extra <= found
