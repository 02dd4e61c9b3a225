"""What stands in the way of a step: what going on would do, how it got there, and what prevents it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from bulwark.bench import wording as bench_wording
from bulwark.bench.owed import as_json
from bulwark.bench.probing import Measuring, Tablet, measuring
from bulwark.lessons import call_wording
from foodsafety.contamination import Finding
from foodsafety.foods import soil
from foodsafety.lesson import (
    SERVED_UNPROVEN,
    Correction,
    Incident,
    State,
    corrections,
    lacking,
    remade_helps,
    soiled,
    would_breach,
)
from foodsafety.recipes import Step


@dataclass(frozen=True, slots=True, kw_only=True)
class Fix:
    """What ends a danger before it travels: hands to wash, tools to clean or change, a food to
    measure, to put back on the heat, to let rest, to make again or to throw away, a rinse to leave
    out, or the educator to ask."""

    kind: str
    who: str = ""
    tools: tuple[str, ...] = ()
    done: str = ""
    food: str = ""
    step: str = ""
    measure: Measuring | None = None
    wait_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Interlock:
    """What going on would do with these hands, its path, and what prevents it. ``owed``: where nothing but readings is
    lacking, those, as JSON, so that a tablet without a network knows when it has them."""

    learner: str
    title: str
    paths: tuple[str, ...]
    fixes: tuple[Fix, ...]
    owed: str = ""


def interlocks(state: State, step: Step, tablet: Tablet) -> tuple[Interlock, ...]:
    """For each learner whose doing a step now would be a breach, what stands in the way."""
    found = ((learner, would_breach(state, step.id, [learner])) for learner in state.present)
    return tuple(_interlock(state, step, who, findings, tablet) for who, findings in found if findings)


def _interlock(state: State, step: Step, learner: str, findings: tuple[Finding, ...], tablet: Tablet) -> Interlock:
    worst = max(findings, key=lambda f: (f.rule in SERVED_UNPROVEN, soil(f.soil).severity if f.soil else 0, f.soil))
    paths = (call_wording.path_sentence(f, state) for f in findings if f.soil)
    rinsed = [f for f in findings if f.rule == "raw-meat-rinsed"]
    standing = [f for f in findings if f.rule in SERVED_UNPROVEN or not (remade_helps(state, f) or f in rinsed)]
    return Interlock(
        learner=learner,
        owed=as_json(lacking(state, findings), state) if tablet.wall_clock else "",
        title=call_wording.finding_title(worst, state),
        paths=tuple(dict.fromkeys(paths)),
        fixes=(
            *_cleaning(state, step, learner, [f for f in findings if f.rule not in SERVED_UNPROVEN]),
            *((Fix(kind="leave", step=step.id),) if rinsed else ()),
            *(row for f in standing[:1] for row in fixes_of(state, f, tablet) if row.kind not in ("wash", "clean")),
        ),
    )


def _cleaning(state: State, step: Step, learner: str, findings: Sequence[Finding]) -> tuple[Fix, ...]:
    """The hands and the tools of the step that carry one of the soils found, with their remedies."""
    hands, kit = soiled(state, step, learner, findings)
    wash = [Fix(kind="wash", who=name) for name in hands]
    tools = tuple(kit)
    return (*wash, *([Fix(kind="clean", tools=tools, done=bench_wording.cleaned(tools))] if tools else []))


def fixes_of(state: State, finding: Finding, tablet: Tablet) -> tuple[Fix, ...]:
    """What the profile lets be done about a breach, best first, as buttons."""
    rows = (_fixes(state, row, tablet) for row in corrections(state, finding, tablet.now_s))
    return tuple(fix for row in rows for fix in row)


_KINDS = {"rest": "wait", "cook_on": "again", "remake": "remake", "discard": "bin", "ask": "ask"}


def _fixes(state: State, row: Correction, tablet: Tablet) -> tuple[Fix, ...]:
    if row.do == "wash":
        return tuple(Fix(kind="wash", who=name) for name in row.who)
    if row.do == "clean":
        return (Fix(kind="clean", tools=row.tools, done=bench_wording.cleaned(row.tools)),)
    if row.do == "measure":
        of = measuring(state, row.food, tablet)
        return (Fix(kind="measure", food=row.food, measure=of),) if of else ()
    return (Fix(kind=_KINDS[row.do], food=row.food, wait_s=row.wait_s),)


def alarm(incident: Incident, state: State, tablet: Tablet) -> dict[str, Any]:
    """A breach that happened, and what puts it right."""
    found = incident.finding
    return {
        "title": call_wording.finding_title(found, state),
        "path": call_wording.path_sentence(found, state) if found.soil else "",
        "fixes": fixes_of(state, found, tablet),
    }
