"""What the bench's tablet shows: panels in the order of the lesson, one of them current.

Every panel still to come is sent along, so that the bench can go on through a gap in the Wi-Fi.
"""

import datetime as dt
import json
from itertools import islice
from typing import Any, Literal

from django.utils.timezone import get_current_timezone

from bulwark.bench import wording as bench_wording
from bulwark.bench.interlocks import alarm, interlocks
from bulwark.bench.panels import Panel, StepCare, Words
from bulwark.bench.probing import Tablet, anything_to_measure, may_go_on, probe_extra
from bulwark.bench.timing import by_the_plan, step_timer
from bulwark.bench.washing import arrive_panel, wash_rows, washing_up
from bulwark.lessons import call_wording, drawings, log_wording, selectors
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons.adapters import step_texts, to_care
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.lessons.variants import variants_of
from bulwark.lessons.wording import why_paused
from bulwark.presentation import care, phrases
from foodsafety.lesson import (
    Brick,
    ControlPoint,
    State,
    bricks,
    clock_of,
    coming_back,
    foreseen,
    is_ready,
    nameable,
    next_step,
    step_clocks,
    unrinsed,
    unsaid_menders,
    unsaid_waste,
    uses_for,
    would_keep,
)
from foodsafety.planning import TAKE_OUT
from foodsafety.quantities import Temperature
from foodsafety.recipes import Step


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


PANEL_KINDS = {"wash_hands": "wash", "clean": "clean", "probe": "probe"}


def _step_extra(state: State, step: Step, tablet: Tablet) -> dict[str, Any]:
    """What a panel of this kind of step needs besides its words."""
    kit = [(name, bench_wording.soiled_word(state.surfaces.get(name, ()))) for name in step.tools]
    extra: dict[str, Any] = {"step": step.id, "tools": kit, "foods": step.foods, "heat": False}
    extra["foreseen"] = _foreseen(state, step, tablet.now_s) if step.id not in state.done else ""
    extra["unrinsed"] = unrinsed(state, step) if step.id not in state.done else ()
    extra["timer"] = step_timer(state, step, tablet.now_s)
    if step.do == "heat" and step.id not in state.done:
        on_s = state.on_heat.get(step.id)
        extra |= {"heat": True, "on_s": tablet.now_s - on_s if on_s is not None else None}
        extra["ovens"] = [bench_wording.in_the_oven(use, step, tablet.unit) for use in uses_for(state, step)]
    if step.do == "wash_hands":
        rows = wash_rows(state, tablet.now_s)
        extra |= {"rows": rows, "soiled": [r["initials"] for r in rows if r["hands"] in ("raw", "bare", "dry")]}
    if step.do == "probe" and step.foods:
        extra |= probe_extra(state, step.foods, step.tools, tablet)
    return extra


def _foreseen(state: State, step: Step, now_s: float) -> str:
    """What a tablet without a network goes by, as JSON; ``until``: when the food that a step serves will have been out
    too long, by the clocks that run now [ms]."""
    row = foreseen(state.plan, step)
    until = {}
    for food in step.foods if step.do == "serve" else ():
        if food in state.plan.controlled and state.food(food).clock.since_s is not None:
            until[food] = round(1000 * (now_s + clock_of(state, food, now_s).remaining_s))
    known = {"gives": row.gives, "hands": row.hands, "tools": row.tools, "harms": row.harms}
    return json.dumps({**known, "until": until} if until else known)


def _words(bench: Bench, state: State) -> Words:
    """The words of each step, its cautions, and at the serving steps who may not eat what."""
    cautions, judged = to_care(bench.lesson, state.plan.known, bench.dishes)
    lines = care.not_for_lines(judged.rows)
    at = state.plan.serve_step
    said = {
        step.id: [care.caution_text(c.id) for c in cautions if c.step == step.id] for step in state.plan.process.steps
    }
    if TAKE_OUT in said:  # the second of two lessons: whether what it begins with may be used
        said[TAKE_OUT] += [text for text, _good in lesson_pages.kept_from_first(bench.lesson, bench.name)]
    for step_id, how in bench.lesson.arranged.items():
        for told in (step_id, *_shaped_at(state, step_id, how)):
            if told in said and (text := bench_wording.arranged(how)):
                said[told].insert(0, text)
    rows = {
        step.id: StepCare(
            cautions=tuple(said[step.id]),
            not_for=tuple(line for line in lines if at.get(line.served) == step.id),
            eaters_said=judged.said,
        )
        for step in state.plan.process.steps
    }
    return Words(texts=step_texts(bench.lesson, bench.dishes), care=rows)


def _shaped_at(state: State, step_id: str, how: str) -> list[str]:
    """Where the pieces of a step are made, that have to be smaller by then: the last step before it that cuts or shapes
    its food."""
    steps = {step.id: step for step in state.plan.process.steps}
    if how not in ("smaller", "thinner") or step_id not in steps:
        return []
    wanted = set(steps[step_id].foods)
    before = list(steps.values())[: list(steps).index(step_id)]
    rows = [row for row in before if row.do in ("cut", "touch", "mix") and wanted & {*row.foods, row.makes}]
    return [row.id for row in rows[-1:]]


def _step_panel(state: State, step: Step, words: Words, tablet: Tablet) -> Panel:
    row = words.texts[step.id]
    return Panel(
        id=_panel_id("step", step.id),
        kind=PANEL_KINDS.get(step.do, "step"),
        title=row["title"],
        detail=row.get("detail", ""),
        done=step.id in state.done,
        doers=_doers(state, tablet.now_s),
        chosen=_likely_doer(state),
        interlocks=interlocks(state, step, tablet) if step.id not in state.done else (),
        care=words.care[step.id],
        extra=_step_extra(state, step, tablet),
    )


def _panel_id(kind: str, name: str) -> str:
    return f"{kind}-{name}".replace(" ", "-")


def _unprobed(state: State, rows: tuple[Brick, ...]) -> dict[str, list[Brick]]:
    """The core temperatures that no step of the recipe reads, by the step that cooks the food."""
    process = state.plan.process
    probed = {step.id for step in process.steps if step.do == "probe"}
    found: dict[str, list[Brick]] = {}
    for brick in rows:
        control = brick.control
        if control.rule == "core-temperature" and not probed & set(control.steps):
            found.setdefault(control.due_after[0], []).append(brick)
    return found


def _core_panel(state: State, brick: Brick, tablet: Tablet) -> Panel:
    """Measuring that the recipe does not write down and the rules ask for all the same."""
    control: ControlPoint = brick.control
    probes = [name for name, tool in state.plan.process.tools.items() if tool.kind == "probe"]
    return Panel(
        id=_panel_id("core", control.due_after[0]),
        kind="probe",
        title=bench_wording.how_hot(control.measured),
        done=_settled(brick) or may_go_on(state, control.measured, tablet.now_s),
        waits=not _settled(brick),
        after=control.due_after[0],
        lingers=True,
        doers=_doers(state, tablet.now_s),
        chosen=_likely_doer(state),
        extra={"step": "", **probe_extra(state, control.measured, probes, tablet)},
    )


# So many portions are said with one tap; others at the front.
_PORTIONS = (1, 2, 3, 4, 5, 6, 8, 10, 12)


def _leftovers_panel(state: State, rows: tuple[Brick, ...], now_s: float) -> Panel | None:
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
            "foods": [_leftover(state, food, food in over, now_s) for food in label.control.foods],
            "left_s": out.remaining_s if out else None,
            "portions": _PORTIONS,
            "ambient_c": state.ambient_c,
        },
    )


def _outlook(state: State, food: str, place: Literal["fridge", "freezer"], now_s: float) -> dict[str, Any]:
    """Until when a food would keep were it put away now, said before the tap."""
    kept = would_keep(state, food, place, now_s, get_current_timezone())
    keeps = kept is not None and kept.until is not None
    return {"look": "is-primary" if keeps else "", "says": bench_wording.outlook(kept, place)}


def _leftover(state: State, food: str, out_too_long: bool, now_s: float) -> dict[str, Any]:
    over = out_too_long or any(i.open and i.finding.food == food for i in state.incidents)
    return {
        "food": food,
        "fridge": _outlook(state, food, "fridge", now_s),
        "freezer": _outlook(state, food, "freezer", now_s),
        "kept": state.food(food).kept,
        "portions": next((part.portions for part in state.food(food).parts.values() if part.ended is None), None),
        "gone": gone.how if (gone := state.food(food).gone) else "",
        "over": over,
        "thrown_look": "is-danger" if over else "",
    }


def _back_panel(state: State, words: Words, now_s: float) -> Panel | None:
    """After a pause: which heat was off, and what may still be used."""
    pause = state.pause
    if pause is None or pause.ended_s is None:
        return None
    asks = [(step, words.texts[step]["title"]) for step in pause.asks]
    rows = [(row.what, bench_wording.back_line(row)) for row in coming_back(state, now_s)]
    timers = [timer.name for _name, timer in state.running]
    extra = {"step": "", "asks": asks, "rows": rows, "timers": timers, "power": pause.why == "power"}
    return Panel(id=f"back-{pause.begun_s:.0f}", kind="back", title="back", done=pause.seen, extra=extra)


# What a bench is told of beforehand, so that it can get things ready.
_LOOKED_FORWARD_TO = frozenset({"step", "clean", "probe", "wash", "cold"})


def _panels(state: State, rows: tuple[Brick, ...], words: Words, tablet: Tablet) -> list[Panel]:
    back = _back_panel(state, words, tablet.now_s)
    panels: list[Panel] = [*([back] if back else []), _ready_panel(state)]
    fridge = _fridge_panel(state, tablet.unit, rows)
    panels += [fridge] if fridge else []
    panels.append(arrive_panel(state, tablet.now_s))
    chill = _chill_panels(state, tablet.unit, rows)
    unprobed = _unprobed(state, rows)
    to_wash = washing_up(state, rows, tablet.now_s)
    for step in state.plan.in_order:
        if step.do == "serve":
            panels += chill
            chill = []
        panels.append(_step_panel(state, step, words, tablet))
        panels += [to_wash[step.id]] if step.id in to_wash else []
        panels += [_core_panel(state, brick, tablet) for brick in unprobed.get(step.id, ())]
    leftovers = _leftovers_panel(state, rows, tablet.now_s)
    panels += [*chill, *([leftovers] if leftovers else [])]
    panels.append(Panel(id="finished", kind="finished", title="", extra={}))
    for n, panel in enumerate(panels):
        panel.extra["by"] = by_the_plan(tablet.planned.get(str(panel.extra.get("step"))), state, tablet.now_s)
        later = (row for row in panels[n + 1 :] if not row.done and row.kind in _LOOKED_FORWARD_TO)
        panel.extra["then"] = [(_by_plan(state, row, tablet), row.name) for row in islice(later, 2)]
    return panels


def _by_plan(state: State, panel: Panel, tablet: Tablet) -> str:
    """Who does a step by the plan, if they are here; whoever really does it says so at the step."""
    who = tablet.doers.get(str(panel.extra.get("step")), "")
    return who if who in state.present else ""


def _current(state: State, panels: list[Panel], asked: str | None) -> str:
    """The panel to show: the one asked for if it is still open, else the first open one whose turn it
    is."""
    upcoming = next_step(state)
    for panel in panels:
        if panel.id == asked and (panel.lingers or not panel.done):
            return panel.id
    for panel in panels:
        step = panel.extra.get("step")
        early = bool(step) and upcoming is not None and step != upcoming.id
        if not panel.done and not early and (not panel.after or panel.after in state.done):
            return panel.id
    return next((panel.id for panel in panels if panel.waits and panel.after in state.done), panels[-1].id)


def bench_screen(bench: Bench, *, unit: str, asked: str | None = None) -> dict[str, Any]:
    """Everything the bench's template needs."""
    state, seq = selectors.bench_state(bench)
    now = selectors.lesson_now(bench.lesson)
    now_s = now.timestamp()
    rows = bricks(state, now_s, ended=bench.lesson.over)
    pieces = {state.plan.known.get(food, food): row for food, row in bench.lesson.pieces.items()}
    opened_s = bench.lesson.opened_at.timestamp() if bench.lesson.opened_at else now_s
    planned = {step: opened_s + ends_s for step, (_begins_s, ends_s) in selectors.planned_at(bench).items()}
    doers = bench.lesson.planned.get("who", {}).get(bench.name, {})
    tablet = Tablet(
        pieces=pieces,
        now_s=now_s,
        unit=unit,
        planned=planned,
        doers={step: who[0] for step, who in doers.items()},
        wall_clock=not bench.lesson.rehearsal,
    )
    panels = _panels(state, rows, _words(bench, state), tablet)
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
        "variants": [row for row in variants_of(bench.lesson, unit) if row.of(state.learners)],
        "to_name": nameable(state.plan.process),
        "to_measure": anything_to_measure(state, tablet),
        "hands": [(name, *log_wording.hands_of(state, name, now_s)) for name in state.learners],
        "incidents": [alarm(incident, state, tablet) for incident in state.alarms],
        "waste": unsaid_waste(state)[:2],
        "menders": unsaid_menders(state, now_s)[:1],
        "notes": [*bench_wording.advice(state, now_s), *call_wording.fresh_notes(state, now_s)][:2],
        "called": state.called_s is not None,
        "paused": why_paused()[state.pause.why] if state.pause and state.paused else "",
        "timers": [(name, timer.name, round(timer.rings_s - now_s)) for name, timer in state.running],
        "clocks": [
            (_panel_id("step", clock.step), clock.name, round(clock.rings_s - now_s))
            for clock in step_clocks(state)
            if _panel_id("step", clock.step) != current
        ],
        "timer_names": (names := _timer_names(state)),
        "timer_name": names[0] if names else "",
        "timer_minutes": _TIMER_MINUTES,
        "left_min": _left_min(bench.lesson, now),
        "unit": unit,
        "scrub_s": state.plan.scrub_s,
    }


# What a timer is set for with one tap.
_TIMER_MINUTES = (1, 2, 3, 5, 8, 10, 12, 15, 20, 25, 30, 45)


def _timer_names(state: State) -> list[str]:
    """What a timer is likely for: the foods of the step that comes next, as the bench calls them."""
    step = next_step(state)
    return [*(step.foods if step else ())][:3]


def _wall(rows: tuple[Brick, ...], owner: str, unit: str) -> dict[str, Any]:
    """The wall drawn, how many bricks are laid, and the number of the one being laid."""
    laid = sum(1 for brick in rows if brick.status in ("laid", "mended"))
    return {
        "bricks": [drawings.draw_brick(b, owner=owner, unit=unit, long=i % 3 == 2) for i, b in enumerate(rows)],
        "laid": laid,
        "number": min(laid + 1, len(rows)),
    }


def _left_min(lesson: Lesson, now: dt.datetime) -> int:
    elapsed_s = (now - lesson.opened_at).total_seconds() if lesson.opened_at else 0
    return max(0, round((lesson.length_min * 60 - elapsed_s) / 60))
