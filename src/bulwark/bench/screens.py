"""What the bench's tablet shows: panels in the order of the lesson, one of them current.

Every panel still to come is sent along, so that the bench can go on through a gap in the Wi-Fi.
"""

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from bulwark.bench import drawings as bench_drawings
from bulwark.bench import wording as bench_wording
from bulwark.lessons import call_wording, drawings, log_wording, selectors
from bulwark.lessons.adapters import step_texts
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.presentation import phrases
from foodsafety.contamination import Finding
from foodsafety.cooking import CookVerdict
from foodsafety.foods import soil
from foodsafety.lesson import Brick, Incident, State, bricks, is_ready, next_step, verdict_of, would_breach
from foodsafety.quantities import Temperature
from foodsafety.recipes import Step

MOST_PIECES = 8  # more bars than this cannot be read on the tablet


@dataclass(frozen=True, slots=True, kw_only=True)
class Fix:
    """What ends a soil before it travels: hands to wash, or tools to clean or change."""

    kind: str
    who: str = ""
    tools: tuple[str, ...] = ()
    done: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Interlock:
    """What going on would do with these hands, its path, and what prevents it."""

    learner: str
    title: str
    paths: tuple[str, ...]
    fixes: tuple[Fix, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel:
    """One screenful: what to do, who can, and what stands in the way."""

    id: str
    kind: str
    title: str
    detail: str = ""
    done: bool = False
    current: bool = False
    doers: tuple[dict[str, str], ...] = ()
    chosen: str = ""
    interlocks: tuple[Interlock, ...] = ()
    extra: dict[str, Any] = field(default_factory=dict)


def _doers(state: State, now_s: float) -> tuple[dict[str, str], ...]:
    rows = []
    for name in state.present:
        hands, word = log_wording.hands_of(state, name, now_s)
        rows.append({"initials": name, "hands": hands, "word": word})
    return tuple(rows)


def _likely_doer(state: State) -> str:
    """Whoever did the last step goes on, unless they chose otherwise."""
    last = max(state.done, key=lambda name: state.done[name], default=None)
    by = state.done_by.get(last, ()) if last else ()
    present = state.present
    return next((name for name in by if name in present), present[0] if present else "")


def _fixes(state: State, step: Step, learner: str, findings: tuple[Finding, ...]) -> tuple[Fix, ...]:
    """The hands and the tools of the step that carry one of the soils found, with their remedies."""
    soils = {finding.soil for finding in findings}
    hands = _carrying(state, soils, (learner,) if step.hands else ())
    tools = _carrying(state, soils, step.tools)
    wash = [Fix(kind="wash", who=name) for name in hands]
    return (*wash, *([Fix(kind="clean", tools=tools, done=bench_wording.cleaned(tools))] if tools else []))


def _carrying(state: State, soils: set[str], carriers: Sequence[str]) -> tuple[str, ...]:
    """Those that carry any of the soils now."""
    return tuple(name for name in carriers if soils & set(state.surfaces.get(name, ())))


def _interlock(state: State, step: Step, learner: str, findings: tuple[Finding, ...]) -> Interlock:
    worst = max(findings, key=lambda f: (soil(f.soil).severity, f.soil))
    return Interlock(
        learner=learner,
        title=call_wording.finding_title(worst, state),
        paths=tuple(dict.fromkeys(call_wording.path_sentence(f, state) for f in findings)),
        fixes=_fixes(state, step, learner, findings),
    )


def _interlocks(state: State, step: Step) -> tuple[Interlock, ...]:
    found = ((learner, would_breach(state, step.id, [learner])) for learner in state.present)
    return tuple(_interlock(state, step, learner, findings) for learner, findings in found if findings)


def _ready_row(state: State, name: str) -> dict[str, Any]:
    ticked = state.person(name).ready
    return {
        "initials": name,
        "ready": is_ready(state, name),
        "unwell": state.person(name).unwell,
        "checks": [(key, text, key in ticked) for key, text in bench_wording.ready_checks()],
    }


def _ready_panel(state: State) -> Panel:
    rows = [_ready_row(state, name) for name in state.learners]
    waiting = [row["initials"] for row in rows if not row["ready"] and not row["unwell"]]
    return Panel(
        id="ready",
        kind="ready",
        title="",
        done=not waiting,
        extra={"learners": rows, "now": waiting[0] if waiting else ""},
    )


def _wash_rows(state: State, now_s: float) -> list[dict[str, str]]:
    rows = []
    for name in state.present:
        hands, word = log_wording.hands_of(state, name, now_s)
        wash = state.person(name).washed
        rows.append({"initials": name, "hands": hands, "word": word, "scrub": f"{wash.scrub_s:g} s" if wash else ""})
    return rows


def _arrive_panel(state: State, now_s: float) -> Panel:
    rows = _wash_rows(state, now_s)
    done = bool(rows) and all(state.person(name).washed for name in state.present)
    return Panel(id="arrive-wash", kind="wash", title="arrive", done=done, extra={"rows": rows, "step": ""})


def _settled(brick: Brick) -> bool:
    return brick.status in ("laid", "mended", "waived")


def _brick_of(rows: tuple[Brick, ...], rule: str) -> Brick | None:
    return next((brick for brick in rows if brick.control.rule == rule), None)


def _fridge_panel(state: State, unit: str, rows: tuple[Brick, ...]) -> Panel | None:
    brick = _brick_of(rows, "fridge-cold")
    if brick is None or brick.control.limit is None:
        return None
    last = state.fridge[-1][1] if state.fridge else None
    return Panel(
        id="fridge",
        kind="cold",
        title="fridge",
        done=_settled(brick),
        extra={
            "entry": "fridge_read",
            "food": "",
            "limit": phrases.limit_degrees(brick.control.limit, unit, at_most=True),
            "last": phrases.degrees(last, unit, cold=True) if last is not None else "",
            "failed": brick.status == "breach",
        },
    )


def _chill_panels(state: State, unit: str, rows: tuple[Brick, ...]) -> list[Panel]:
    return [
        _chill_panel(state, unit, brick, brick.control.limit)
        for brick in rows
        if brick.control.rule == "chilled-in-time" and brick.control.limit is not None
    ]


def _chill_panel(state: State, unit: str, brick: Brick, limit: Temperature) -> Panel:
    food = brick.control.foods[0]
    readings = state.food(food).cold
    return Panel(
        id=f"cold-{food}",
        kind="cold",
        title="chilled",
        done=_settled(brick),
        extra={
            "entry": "cold_read",
            "food": food,
            "limit": phrases.limit_degrees(limit, unit, at_most=True),
            "last": phrases.degrees(readings[-1][1], unit, cold=True) if readings else "",
            "failed": bool(readings),
        },
    )


def _probe_extra(state: State, step: Step, pieces: dict[str, Any], now_s: float, unit: str) -> dict[str, Any]:
    food = _next_to_probe(state, step)
    one = pieces.get(food, {}).get("one", food)
    verdict = verdict_of(state, food, now_s)
    control = state.plan.core_control(food)
    if verdict is None or control is None:
        return {"food": food, "one": one, "verdict": None, "chart": None, "reached": True}
    if control.limit is None:
        return _seen_extra(state, food, one, verdict, unit)
    probed = _probed_pieces(state, food, pieces, verdict)
    return {
        "food": food,
        "one": one,
        "next": probed.next,
        "verdict": log_wording.verdict_text(verdict, one, unit),
        "reached": all(state.food(n).proof for n in step.foods if n in state.plan.provable),
        "off": state.food(food).off_heat_s is None and verdict.status in ("rest", "reached"),
        "probe": step.tools[0] if step.tools else "",
        "probe_soiled": bool(step.tools and state.surfaces.get(step.tools[0])),
        "probe_done": bench_wording.cleaned(step.tools[:1]),
        "chart": _probe_chart(probed, one, control.limit, state.plan.profile.hold["hot"].temperature, unit),
    }


def _seen_extra(state: State, food: str, one: str, verdict: CookVerdict, unit: str) -> dict[str, Any]:
    """A food that its source gives no temperature for: what has to be seen."""
    return {
        "food": food,
        "one": one,
        "verdict": log_wording.verdict_text(verdict, one, unit),
        "reached": state.food(food).proof is not None,
        "sights": bench_wording.sights(),
        "chart": None,
    }


def _next_to_probe(state: State, step: Step) -> str:
    """The food of a probing step that has still to be shown; the first one when all are."""
    waiting = (name for name in step.foods if name in state.plan.provable and not state.food(name).proof)
    return next(waiting, step.foods[0])


@dataclass(frozen=True, slots=True, kw_only=True)
class ProbedPieces:
    """The core of every piece asked for, by its name [°C], and which to probe next."""

    core_c: dict[str, float | None]
    next: str


def _probed_pieces(state: State, food: str, pieces: dict[str, Any], verdict: CookVerdict) -> ProbedPieces:
    count = min(MOST_PIECES, int(pieces.get(food, {}).get("count", state.plan.profile.pieces)))
    latest = {p.piece: p.core_c for p in state.food(food).readings}
    names = [str(i) for i in range(1, count + 1)]
    lowest = verdict.lowest_piece if verdict.status in ("below", "confirm") else None
    return ProbedPieces(
        core_c={name: latest.get(name) for name in names},
        next=lowest or next((name for name in names if name not in latest), "1"),
    )


def _piece_status(name: str, core_c: float | None, limit: Temperature, following: str) -> str:
    if core_c is None:
        return "next" if name == following else "todo"
    return "laid" if limit.met_by(core_c) else "due"


def _probe_chart(
    probed: ProbedPieces, one: str, limit: Temperature, hot: Temperature, unit: str
) -> bench_drawings.PieceChart:
    rows = []
    for name, core_c in probed.core_c.items():
        status = _piece_status(name, core_c, limit, probed.next)
        shown = phrases.whole_degrees(core_c, unit) if core_c is not None else ""
        rows.append((f"{one} {name}", core_c, shown, bench_wording.piece_word(status), status))
    return bench_drawings.piece_chart(
        rows,
        limit_c=limit.c,
        hot_c=hot.c,
        limit_text=phrases.short_limit(limit, unit),
        hot_text=phrases.short_limit(hot, unit),
    )


PANEL_KINDS = {"wash_hands": "wash", "clean": "clean", "probe": "probe"}


def _step_extra(state: State, step: Step, pieces: dict[str, Any], now_s: float, unit: str) -> dict[str, Any]:
    """What a panel of this kind of step needs besides its words."""
    kit = [(name, bench_wording.soiled_word(state.surfaces.get(name, ()))) for name in step.tools]
    extra: dict[str, Any] = {"step": step.id, "tools": kit, "foods": step.foods, "heat": False}
    if step.do == "heat" and step.id not in state.done:
        extra |= {"heat": True, "on_s": now_s - state.on_heat[step.id] if step.id in state.on_heat else None}
    if step.do == "wash_hands":
        rows = _wash_rows(state, now_s)
        extra |= {"rows": rows, "soiled": [r["initials"] for r in rows if r["hands"] in ("raw", "bare", "dry")]}
    if step.do == "probe" and step.foods:
        extra |= _probe_extra(state, step, pieces, now_s, unit)
    return extra


def _step_panel(
    state: State, step: Step, texts: dict[str, Any], pieces: dict[str, Any], now_s: float, unit: str
) -> Panel:
    row = texts.get(step.id, {})
    return Panel(
        id=f"step-{step.id}".replace(" ", "-"),
        kind=PANEL_KINDS.get(step.do, "step"),
        title=row.get("title", step.id),
        detail=row.get("detail", ""),
        done=step.id in state.done,
        doers=_doers(state, now_s),
        chosen=_likely_doer(state),
        interlocks=_interlocks(state, step) if step.id not in state.done else (),
        extra=_step_extra(state, step, pieces, now_s, unit),
    )


def _leftovers_panel(state: State, rows: tuple[Brick, ...]) -> Panel | None:
    label = _brick_of(rows, "leftovers-labelled")
    if label is None:
        return None
    out = _brick_of(rows, "time-out")
    over = set(out.evidence.get("foods", ())) if out and out.status == "breach" else set()
    return Panel(
        id="leftovers",
        kind="leftovers",
        title="",
        done=_settled(label),
        extra={
            "foods": [_leftover(state, food, food in over) for food in label.control.foods],
            "left_s": out.remaining_s if out else None,
            "ambient_c": state.ambient_c,
        },
    )


def _leftover(state: State, food: str, out_too_long: bool) -> dict[str, Any]:
    return {
        "food": food,
        "kept": state.food(food).kept,
        "gone": gone.how if (gone := state.food(food).gone) else "",
        "over": out_too_long or any(i.open and i.finding.food == food for i in state.incidents),
    }


def _panels(
    state: State, rows: tuple[Brick, ...], texts: dict[str, Any], pieces: dict[str, Any], now_s: float, unit: str
) -> list[Panel]:
    panels: list[Panel] = [_ready_panel(state)]
    fridge = _fridge_panel(state, unit, rows)
    panels += [fridge] if fridge else []
    panels.append(_arrive_panel(state, now_s))
    chill = _chill_panels(state, unit, rows)
    for step in state.plan.process.steps:
        if step.do == "serve":
            panels += chill
            chill = []
        panels.append(_step_panel(state, step, texts, pieces, now_s, unit))
    leftovers = _leftovers_panel(state, rows)
    panels += [*chill, *([leftovers] if leftovers else [])]
    panels.append(Panel(id="finished", kind="finished", title="", extra={}))
    return panels


def _current(state: State, panels: list[Panel], asked: str | None) -> str:
    """The panel to show: the one asked for if it is still open, else the first open one."""
    open_ids = [panel.id for panel in panels if not panel.done]
    if asked in open_ids:
        return asked
    upcoming = next_step(state)
    for panel in panels:
        if panel.done:
            continue
        if panel.kind in ("step", "clean", "probe", "wash") and panel.extra.get("step"):
            if upcoming is None or panel.extra["step"] == upcoming.id:
                return panel.id
            continue
        return panel.id
    return panels[-1].id


def bench_screen(bench: Bench, *, unit: str, asked: str | None = None) -> dict[str, Any]:
    """Everything the bench's template needs."""
    state, seq = selectors.bench_state(bench)
    now = selectors.lesson_now(bench.lesson)
    now_s = now.timestamp()
    rows = bricks(state, now_s)
    panels = _panels(state, rows, step_texts(bench.lesson), bench.lesson.pieces, now_s, unit)
    current = _current(state, panels, asked)
    return {
        **_wall(rows, str(bench.pk), unit),
        "bench": bench,
        "lesson": bench.lesson,
        "profile": state.plan.profile,
        "state": state,
        "seq": seq,
        "panels": [(panel, panel.id == current) for panel in panels],
        "current": current,
        "hands": [(name, *log_wording.hands_of(state, name, now_s)) for name in state.learners],
        "incidents": [_incident(incident, state) for incident in state.open_incidents],
        "notes": call_wording.fresh_notes(state, now_s)[:2],
        "called": state.called_s is not None,
        "left_min": _left_min(bench.lesson, now),
        "unit": unit,
        "scrub_s": state.plan.scrub_s,
    }


def _wall(rows: tuple[Brick, ...], owner: str, unit: str) -> dict[str, Any]:
    """The wall drawn, how many bricks are laid, and the number of the one being laid."""
    laid = sum(1 for brick in rows if brick.status in ("laid", "mended"))
    return {
        "bricks": [drawings.draw_brick(b, owner=owner, unit=unit, long=i % 3 == 2) for i, b in enumerate(rows)],
        "laid": laid,
        "number": min(laid + 1, len(rows)),
    }


def _incident(incident: Incident, state: State) -> dict[str, Any]:
    found = incident.finding
    return {
        "title": call_wording.finding_title(found, state),
        "path": call_wording.path_sentence(found, state),
        "do": call_wording.correction(found, state),
        "food": found.food,
        "again": call_wording.cook_again(found, state),
    }


def _left_min(lesson: Lesson, now: dt.datetime) -> int:
    elapsed_s = (now - lesson.opened_at).total_seconds() if lesson.opened_at else 0
    return max(0, round((lesson.length_min * 60 - elapsed_s) / 60))
