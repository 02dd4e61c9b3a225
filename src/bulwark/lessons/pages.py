"""What the educator's pages show, put together from states, drawings and wording."""

import datetime as dt
import secrets
import uuid
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from bulwark.groups import selectors as groups
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import call_wording, catching_up, drawings, log_wording, plan_wording, selectors, wording
from bulwark.lessons.adapters import as_half, to_care, to_event
from bulwark.lessons.crews import PACE, PACES
from bulwark.lessons.front_taps import front_taps
from bulwark.lessons.models import Bench, Device, Event, Lesson
from bulwark.lessons.variants import variants_of
from bulwark.people.actors import Actor
from bulwark.presentation import care, phrases
from bulwark.recipes import wording as recipe_wording
from foodsafety.contamination import rule_source
from foodsafety.lesson import (
    CREWS,
    FRIDGE,
    PHASES,
    PLANTED,
    TAKES_BACK,
    Correction,
    Incident,
    Plan,
    State,
    brick_corrections,
    bricks,
    corrections,
    kept_food,
    nameable,
    voided,
)
from foodsafety.quantities import CoreError
from foodsafety.recipes import accepted_rows, changes, open_questions, process_from
from foodsafety.rules import profile_ids, rule_profile


def wall_context(lesson: Lesson, unit: str, *, tag: str) -> dict[str, Any]:
    """Everything the wall's template needs; ``tag`` is what it was drawn for."""
    now = selectors.lesson_now(lesson)
    now_s = now.timestamp()
    plan = selectors.plan_for(lesson)
    rows = []
    benches = selectors.benches_of(lesson)
    selectors.read_logs(benches)
    for bench in benches:
        state, _ = selectors.bench_state(bench)
        rows.append((bench.pk, bench.name, state, bricks(state, now_s, ended=lesson.over), now_s))
    started = lesson.began_at
    elapsed_s = max(0.0, (now - started).total_seconds()) if lesson.opened_at else 0.0
    length_s = lesson.length_min * 60
    against = catching_up.against_plan(benches, now_s)
    starts = against.starts_s or plan.phase_starts_s
    return {
        "wall": drawings.draw_wall(
            rows, plan, started=started, elapsed_s=elapsed_s, unit=unit, ended=lesson.over, against=against
        ),
        "tag": tag,
        "pause": _pause_line(benches),
        "now": now,
        "started": started,
        "left_min": max(0, round((length_s - elapsed_s) / 60)),
        "run_percent": min(100, round(100 * elapsed_s / length_s, 1)),
        "marks": [round(100 * at / length_s, 1) for at in starts.values() if 0 < at < length_s],
        "profile": plan.profile,
    }


def _pause_line(benches: Sequence[Bench]) -> dict[str, Any] | None:
    """That the lesson stands still, why and since when; None while it does not."""
    pause = selectors.pause_of(benches)
    if pause is None or pause.ended_s is not None:
        return None
    at = timezone.localtime(dt.datetime.fromtimestamp(pause.begun_s, tz=dt.UTC))
    return {"why": wording.why_paused()[pause.why], "at": at}


def plan_page(lesson: Lesson, profile_id: str, unit: str) -> dict[str, Any]:
    """The safety plan as courses of explained bricks."""
    plans = selectors.plans_of(lesson, profile_id)
    plan = plans[0]
    return {
        "lesson": lesson,
        "plan": plan,
        "courses": list(_courses(plans, unit)),
        "profile": plan.profile,
        "profiles": [rule_profile(name) for name in profile_ids()],
        "asked": profile_id,
        "comparing": profile_id != lesson.profile,
        "equivalents": bool(lesson.house.get("cook_equivalents")),
        "has_equivalents": any(row.equivalents for row in plan.profile.cook.values()),
        "steps": lesson.process["steps"],
        "variants": variants_of(lesson, unit),
        "told_first": list(_told_first(lesson)),
        **_eaters(lesson),
    }


def _courses(plans: Sequence[Plan], unit: str) -> Iterator[dict[str, Any]]:
    """The courses of a lesson, each control point once, whichever bench has it."""
    starts = {phase: at for plan in reversed(plans) for phase, at in plan.phase_starts_s.items()}
    seen: set[str] = set()
    for phase in (phase for phase in PHASES if phase in starts):
        controls = []
        for plan in plans:
            for control in (row for row in dict(plan.courses).get(phase, ()) if row.id not in seen):
                seen.add(control.id)
                controls.append(
                    {
                        "control": control,
                        "name": wording.control_name(control),
                        "text": plan_wording.plan_text(control, plan, unit),
                        "glaze": drawings.glaze(control.id),
                        "weaker": plan_wording.weaker_limits(control, plan.profile),
                    }
                )
        if controls:
            yield {
                "name": wording.phase_name(phase, plans[0]),
                "at_min": round(starts[phase] / 60),
                "controls": controls,
            }


def kit_to_share(lesson: Lesson) -> list[tuple[str, bool]]:
    """The kit that benches could share, and whether they do; the fridge among it."""
    names = dict.fromkeys((FRIDGE, *(name for plan in selectors.plans_of(lesson) for name in plan.process.tools)))
    return [(name, name in lesson.shared) for name in names]


def limits_of(plan: Plan) -> list[tuple[str, str]]:
    """The limits of a plan's control points in words, in the unit of its profile."""
    rows = ((wording.control_name(row), plan_wording.plan_text(row, plan, plan.profile.unit)) for row in plan.controls)
    return [(name, text.limit) for name, text in rows if text.limit]


def _told_first(lesson: Lesson) -> Iterator[tuple[str, list[str]]]:
    """What is not known about the steps, and which findings stay, under their headings."""
    if asked := open_lines(lesson):
        yield wording.not_known_heading(), asked
    if kept := [recipe_wording.accepted_finding(row) for row in accepted_rows(lesson.process)]:
        yield wording.kept_heading(), kept


def hurts_page(lesson: Lesson, *, reads: bool) -> dict[str, Any]:
    """What can be said of somebody who was hurt in a lesson, and, for whoever ``reads`` it, who was."""
    kinds, care = wording.hurt_kinds(), wording.hurt_care()
    foods = {food for bench in selectors.benches_of(lesson) for food in _foods_there(bench)}
    return {
        "lesson": lesson,
        "kinds": [(key, name, wording.first_aid(key)) for key, name in kinds.items()],
        "care": list(care.items()),
        "foods": sorted(foods),
        "rows": [
            {"row": row, "what": kinds.get(row.what, row.what), "care": [care.get(name, name) for name in row.care]}
            for row in (selectors.hurts_of(lesson) if reads else ())
        ],
        "reads": reads,
    }


def _foods_there(bench: Bench) -> list[str]:
    state, _seq = selectors.bench_state(bench)
    process = state.plan.process
    return [food for food in (*process.made, *process.foods) if not state.food(food).settled]


def kept_lines(lesson: Lesson) -> Iterator[tuple[str, bool]]:
    """Of a half of a recipe: which it is, and of the second what each bench has from the first, with whether that may
    be used."""
    if half := lesson.half:
        yield wording.half_note(half["n"], half["kept"], half["place"]), True
        yield from kept_from_first(lesson)


def kept_from_first(lesson: Lesson, bench: str = "") -> Iterator[tuple[str, bool]]:
    """What each bench of the first of two lessons has kept for the second, or one of them, and whether it may be used:
    what nobody has said that it was put away never is."""
    half, first = lesson.half, lesson.first_half
    if half is None or first is None:
        return
    if not first.over:
        yield wording.first_half_not_over(), False
        return
    ends = timezone.localtime(lesson.starts_at + dt.timedelta(minutes=lesson.length_min))
    rows = [row for row in selectors.benches_of(first) if bench in ("", row.name)]
    yield from (_kept_line(row, half["kept"], ends) for row in rows)
    if not rows:
        yield wording.not_kept(bench, half["kept"]), False


def _kept_line(bench: Bench, food: str, ends: dt.datetime) -> tuple[str, bool]:
    """What a bench of the first of two lessons keeps for the second, which ends then, and whether it may be used."""
    state, _seq = selectors.bench_state(bench)
    food = state.plan.known.get(food, food)
    row = kept_food(state, food, timezone.get_current_timezone())
    if row is None:
        return wording.not_kept(bench.name, food), False
    if row.until is None:
        return wording.kept_thrown_away(bench.name, food), False
    until = phrases.moment(row.until) if row.use_by.by_the_hour else phrases.day(row.until)
    if row.until < ends:
        return wording.kept_too_short(bench.name, food, until), False
    return wording.kept_at(bench.name, food, until), True


def changed_since(lesson: Lesson, steps: dict[str, Any], unit: str) -> list[str]:
    """What of a recipe's steps has changed since the lesson was made from them, in words."""
    if lesson.half:
        try:
            steps = as_half(steps, lesson.half)
        except CoreError:
            return [wording.lesson_refusal("no_stop")]
    return [recipe_wording.change(row, unit) for row in changes(lesson.process, steps)]


def open_lines(lesson: Lesson) -> list[str]:
    """What nobody has answered about the lesson's steps and could hide a hazard, in words."""
    questions = open_questions((), lesson.process, process_from(lesson.process))
    return [recipe_wording.question(row) for row in questions if row.holds]


def rehearse_page(lesson: Lesson) -> dict[str, Any]:
    """What can be asked of a rehearsal."""
    return {
        "lesson": lesson,
        "paces": PACES,
        "pace": PACE,
        "error": "",
        "seed": secrets.randbelow(9998) + 1,
        "slips": [(name, wording.slip_name(name)) for name in PLANTED],
        "crews": [(name, wording.crew_name(name)) for name in CREWS],
        "benches": list(lesson.benches.all()),
    }


def to_teach_now(lesson: Lesson) -> list[str]:
    """What the last lesson's debrief says is to be taught in this one, until it is over."""
    before = selectors.taught_before(lesson) if not lesson.over else None
    return [wording.teach(rule) for rule in before.teach_next] if before else []


def group_moved_on(lesson: Lesson) -> list[str]:
    """What the lesson's group says of who eats and the lesson does not know yet: it was said later."""
    if lesson.group is None:
        return []
    now = groups.eaters_with(lesson.eaters, lesson.group)
    tags = sorted(set(now["allergens"]) - set(lesson.eaters.get("allergens", ())))
    known = lesson.eaters.get("groups", {})
    more = [(name, count) for name, count in now["groups"].items() if count > known.get(name, 0)]
    rows = [*(care.eater(f"allergen:{tag}") for tag in tags), *(f"{n} {care.eater(name)}" for name, n in more)]
    return [wording.group_moved_on(rows)] if rows else []


def _eaters(lesson: Lesson) -> dict[str, Any]:
    """Who may not have what is served, and whether anybody said who eats."""
    _, judged = to_care(lesson)
    return {"not_for": care.not_for_lines(judged.rows), "eaters_said": judged.said}


def _named_now(event: Event, known: Mapping[str, str]) -> dict[str, Any]:
    """What an entry holds, its foods as the bench calls them now; the entry that names one says the name it had."""
    if event.kind == "named" or not known:
        return dict(event.data)
    data = dict(event.data)
    if isinstance(data.get("food"), str):
        data["food"] = known.get(data["food"], data["food"])
    if isinstance(data.get("foods"), list):
        data["foods"] = [known.get(name, name) for name in data["foods"]]
    return data


def _came_after_the_end(event: Event, lesson: Lesson) -> bool:
    """True for what a tablet sent when its lesson had ended already."""
    from_bench = event.recorded_by.startswith("bench")
    return from_bench and lesson.closed_at is not None and event.recorded_at > lesson.closed_at


def log_rows(bench: Bench, unit: str) -> list[dict[str, Any]]:
    """A bench's log in words, newest last; voided entries are shown struck, never hidden."""
    titles = selectors.step_titles(bench.lesson)
    events = selectors.log_of(bench)
    not_counted = voided([to_event(event) for event in events])
    backs = {str(event.data.get("event")): event for event in events if event.kind in TAKES_BACK}
    known = selectors.names_in(bench, events).now
    return [
        {
            "event": event,
            "text": log_wording.entry_sentence(event.kind, _named_now(event, known), titles, unit),
            "voided": log_wording.why_voided(backs[str(event.uuid)].data) if str(event.uuid) in not_counted else "",
            "by": wording.recorded_by(event.recorded_by),
            "after_end": wording.after_the_end() if _came_after_the_end(event, bench.lesson) else "",
            "late_s": (event.recorded_at - event.happened_at).total_seconds() if not bench.lesson.rehearsal else 0,
        }
        for event in sorted(events, key=lambda event: (event.happened_at, event.seq))
    ]


def brick_rows(bench: Bench, unit: str) -> tuple[Any, list[dict[str, Any]]]:
    """A bench's state and each of its bricks in words: the table behind the wall."""
    state, _ = selectors.bench_state(bench)
    now_s = selectors.lesson_now(bench.lesson).timestamp()
    rows = []
    for brick in bricks(state, now_s, ended=bench.lesson.over):
        value = wording.brick_value(brick, unit)
        left = phrases.countdown(brick.remaining_s) if brick.remaining_s is not None and brick.status == "due" else ""
        rows.append(
            {
                "brick": brick,
                "name": wording.control_name(brick.control),
                "course": wording.phase_name(brick.control.phase, state.plan),
                "status": wording.status_name(brick.status),
                "value": value or left,
                "text": plan_wording.plan_text(brick.control, state.plan, unit),
                "waived": wording.why_waived(state, brick.control.id),
                "ways": correction_rows(brick_corrections(state, brick)),
                "can_waive": brick.status in ("missed", "due", "todo") and brick.control.id not in state.waived,
            }
        )
    return state, rows


# What the front enters for what is done about a breach at a bench.
_ENTRIES: Mapping[str, Mapping[str, str]] = {
    "cook_on": {"kind": "cooked_again"},
    "remake": {"kind": "remade"},
    "discard": {"kind": "gone", "how": "discarded"},
    "clean": {"kind": "cleaned", "how": "clean"},
}


def correction_rows(rows: Iterable[Correction]) -> list[dict[str, Any]]:
    """What may be done, best first, in words; what is one entry from the front with what it carries."""
    return [
        {
            "says": call_wording.correction_line(row),
            "entry": _ENTRIES.get(row.do),
            "food": row.food,
            "tools": row.tools,
            "danger": row.do == "discard",
        }
        for row in rows
    ]


def contact_source(state: State, incident: Incident) -> str:
    """Where the rule that was broken is written, under the lesson's profile."""
    control = state.plan.by_id.get(incident.control or "")
    own = rule_source(incident.finding.rule, state.plan.profile.id)
    return own or (control.section if control is not None else "")


def incident_rows(state: State, now_s: float) -> list[dict[str, Any]]:
    """Breaches in words, with what was or can be done."""
    return [
        {
            "incident": incident,
            "title": call_wording.finding_title(incident.finding, state),
            "path": call_wording.path_sentence(incident.finding, state),
            "do": call_wording.correction(incident.finding, state),
            "done": call_wording.mended_line(incident),
            "at_s": incident.at_s,
            "food": incident.finding.food,
            "decided": incident.decided,
            "ways": correction_rows(corrections(state, incident.finding, now_s)) if incident.open else [],
            "source": contact_source(state, incident),
        }
        for incident in state.incidents
    ]


def may_not_eat(bench: Bench, learner: str) -> str:
    """A warning where the group's list says that somebody has an allergy to what a bench cooks; "" for none known."""
    group = bench.lesson.group
    row = next((one for one in groups.learners_of(group) if one.name == learner), None) if group else None
    if row is None or not row.allergies:
        return ""
    process = selectors.plan_at(bench).process
    inside = {tag for food in process.foods.values() for tag in food.allergens}
    return wording.allergic_here(learner, bench.name, sorted(row.allergies & inside))


def waste_rows(state: State) -> list[dict[str, Any]]:
    """What was thrown away: when, what, how much and for which reason, and whether somebody has yet to say."""
    zone = timezone.get_current_timezone()
    return [
        {
            "at": dt.datetime.fromtimestamp(row.at_s, tz=zone),
            "food": row.food,
            "amount": log_wording.waste_amount({"value": row.value, "unit": row.unit}),
            "grams": row.value if row.unit == "g" else None,
            "why": call_wording.wasted_for(row.rule, row.how),
            "open": not row.unit,
        }
        for row in state.wasted
    ]


def note_rows(state: State) -> list[dict[str, Any]]:
    """What entries said that is no breach and must be seen, with when."""
    zone = timezone.get_current_timezone()
    rows = call_wording.notes(state)
    return [{"at": dt.datetime.fromtimestamp(at_s, tz=zone), "title": title} for at_s, title in rows]


def bench_page(bench: Bench, unit: str) -> dict[str, Any]:
    """The educator's page on one bench."""
    state, rows = brick_rows(bench, unit)
    process = state.plan.process
    now_s = selectors.lesson_now(bench.lesson).timestamp()
    return {
        "bench": bench,
        "lesson": bench.lesson,
        "state": state,
        "rows": rows,
        "incidents": incident_rows(state, now_s),
        "waste": waste_rows(state),
        "log": list(reversed(log_rows(bench, unit))),
        "behind": catching_up.call_for(bench, state, now_s),
        "taps": front_taps(bench, state, now_s),
        "advice": [log_wording.advice_line(row.what, row.of) for row in state.advice[-3:]],
        "notes": note_rows(state),
        "hands": [(name, *log_wording.hands_of(state, name, now_s)) for name in state.learners],
        "here": state.present,
        "away": [name for name in state.learners if state.person(name).away],
        "others": [row for row in bench.lesson.benches.all() if row.pk != bench.pk],
        "new_id": uuid.uuid4(),
        "timers": [(name, timer.name, round(timer.rings_s - now_s)) for name, timer in state.running],
        "unit": unit,
        "to_name": nameable(process),
        "foods": [food for food in (*process.made, *sorted(process.foods)) if not state.food(food).settled],
    }


@dataclass(frozen=True, slots=True)
class DeviceLine:
    """A device of a bench in words."""

    pk: int
    name: str
    says: str
    is_away: bool
    in_doubt: bool


def device_line(device: Device, heard_at: dt.datetime) -> DeviceLine:
    """Whether a device is there, and what waits on it."""
    ago = timezone.now() - heard_at
    away, silent = device.sent_away_at is not None, ago > selectors.SILENT_AFTER
    silent_s = ago.total_seconds() if silent else None
    says = wording.device_says(away=away, silent_s=silent_s, waiting=device.waiting)
    in_doubt = not away and (silent or device.waiting > 0)
    return DeviceLine(device.pk, wording.tablet(device.number), says, away, in_doubt)


def devices_in_doubt(lesson: Lesson) -> list[str]:
    """From which devices of a lesson something may still come, each with why."""
    rows = [(device.bench.name, device_line(device, heard)) for device, heard in selectors.devices_of(lesson)]
    return [wording.device_in_doubt(bench, line.name, line.says) for bench, line in rows if line.in_doubt]


def lesson_choices(actor: Actor) -> dict[str, Any]:
    """Where and with whom a lesson can be: counted kitchens, where there are several, and kept groups."""
    rooms = kitchens.kitchens_of(actor.organisation)
    return {"kitchens": rooms if len(rooms) > 1 else [], "groups": list(groups.groups_for(actor))}


def usual_lesson(actor: Actor) -> dict[str, str]:
    """What the form of a new lesson begins with: tomorrow morning, at the benches of the last one."""
    tomorrow = timezone.localtime() + dt.timedelta(days=1)
    place, benches = selectors.usual_benches(actor)
    return {"starts_at": f"{tomorrow:%Y-%m-%d}T10:30", "length_min": "90", "place": place, "benches": benches}
