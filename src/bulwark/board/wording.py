"""The plan board in words."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l
from django.utils.translation import ngettext

from bulwark.groups.selectors import Said
from bulwark.groups.wording import shown
from bulwark.presentation.phrases import Text, capital, day, duration, listed, moment, verb
from bulwark.recipes.wording import tool
from foodsafety.planning import Bound, Part, Plan, Task, WholeLesson, unwashed
from foodsafety.recipes import Process

# How pieces are made smaller.
How = Literal["smaller", "thinner", "shallow"]
# So many steps are named one by one.
MOST_NAMED = 3
MINUTE_S = 60
MOST_MINUTES = 120
_SHARED = {
    "adult": "adult",
    "basin": "hand-wash basin",
    "sink": "washing-up sink",
    "hob_ring": "hob ring",
    "probe": "probe",
}


def shared_name(kind: str) -> str:
    """Something that benches share."""
    return _(_SHARED[kind]) if kind in _SHARED else tool(kind)


def holds(task: Task, oven: int | None) -> str:
    """What of the shared things a task holds, an oven with its number and heat."""
    names = [shared_name(name) for name in task.needs if name != "oven"]
    if task.oven:
        names.append(oven_words(oven, task.oven_heat))
    return ", ".join(names)


def oven_words(number: int | None, heat: str) -> str:
    """An oven by its number, where it has one, and its heat, where somebody has said it."""
    name = _("oven %(n)d") % {"n": number} if number else _("oven")
    return name if heat.startswith("?") or not heat else f"{name}, {heat} °C"


def frame_names(kind: str) -> tuple[str, ...]:
    """What a lesson has around its steps, the longest name first."""
    return {
        "review": (_("Review questions: all answer"), _("Questions")),
        "show": (_("Demonstration: all look"), _("Demonstration")),
        "eat": (_("Eat together"), _("Eat")),
        "ready": (_("Get ready: apron, hair, jewellery, cuts"), _("Get ready")),
        "wash": (_("Wash hands"),),
        "hands": (_("Wash hands: the recipe does not say so"), _("Wash hands")),
        "kit": (_("Wash the kit: the recipe does not say so"), _("Wash the kit"), _("Kit")),
        "wash_kit": (_("Wash up the kit, then hands"), _("Kit, then hands"), _("Wash kit")),
        "wash_up": (_("Wash up, dry, put away"), _("Wash up")),
    }[kind]


def at_once(name: str) -> str:
    """Something that all do at once, as a form asks for it."""
    return {"review": _("Questions first"), "show": _("Shown to all"), "eat": _("Eating together")}[name]


def choices(part: Part, titles: Mapping[str, str], process: Process) -> tuple[str, ...]:
    """What could be written on a brick, the longest first; what it does at least."""
    if part.kind in ("wash", "hands"):
        return ()  # a drop is drawn on it
    if part.step is None:
        return frame_names(part.kind)
    step = process.steps[process.step_index[part.step]]
    if part.kind == "wait":
        return (_("waiting: %(step)s") % {"step": titles[step.id]}, verb(step.do))
    return (titles[step.id], verb(step.do), str(process.step_index[step.id] + 1))


def title(part: Part, titles: Mapping[str, str], who: Sequence[str], minutes: float) -> str:
    """A brick in full."""
    name = titles[part.step] if part.step else frame_names(part.kind)[0]
    if part.beside:
        name = _("%(wash)s (“%(step)s”)") % {"wash": name, "step": titles[part.beside]}
    if part.kind == "wait":
        name = _("%(step)s: nobody has to stand by") % {"step": name}
    told = _("%(minutes)g min, nobody said how long") if part.typical else _("%(minutes)g min")
    rows = [name, told % {"minutes": minutes}, _("an adult does it") if part.adult else ", ".join(who)]
    return ", ".join(row for row in rows if row)


def spare(seconds: float) -> str:
    """Time that is left or lacking: whole minutes, cut, or hours and minutes."""
    minutes = int(seconds // MINUTE_S)
    return _("%(n)d min") % {"n": minutes} if minutes < MOST_MINUTES else duration(minutes * MINUTE_S)


def headline(whole: WholeLesson, plan: Plan) -> str:
    """Does it fit?"""
    if plan.makespan_s is None:
        return _("No plan was found")
    left_s = whole.problem.lesson_s - plan.makespan_s
    if 0 <= left_s < MINUTE_S:
        return _("It fits, with no minute to spare")
    told = {"time": spare(abs(left_s) if left_s > 0 else -(-abs(left_s) // MINUTE_S) * MINUTE_S)}
    if left_s > 0:
        return _("It fits: %(time)s to spare") % told
    if plan.status == "unknown":
        return _("The best plan found is %(time)s over") % told
    return _("It does not fit: %(time)s over") % told


def proof(whole: WholeLesson, plan: Plan, titles: Mapping[str, str], at: str) -> str:
    """What is proven of it. ``at``: the time of day at which no plan can have ended before."""
    if lacking := _lacking(whole, plan.conflict, titles):
        return lacking
    if len(plan.conflict) == 1:
        alone = conflict(whole, plan.conflict, titles)[0]
        return _("Proven: %(step)s alone takes longer than the period.") % {"step": alone}
    if plan.conflict:
        return _("Proven: %(steps)s cannot be done in the period together.") % {
            "steps": listed(conflict(whole, plan.conflict, titles))
        }
    if plan.makespan_s == plan.bound_s:
        return _("Proven: with these steps, people and things no plan ends before %(at)s.") % {"at": at}
    return _("Not proven to be the shortest: none can end before %(at)s.") % {"at": at}


def _lacking(whole: WholeLesson, ids: Sequence[str], titles: Mapping[str, str]) -> str:
    """What a step needs more of than there is; nothing where that is not why."""
    problem = whole.problem
    for name in problem.never:
        if name in ids:
            task = problem.tasks[name]
            short = [thing for thing, amount in task.needs.items() if amount > problem.resources.get(thing, 0)]
            step = conflict(whole, [name], titles)[0]
            if short:
                things = listed(shared_name(thing) for thing in short)
                return _("%(step)s needs more than there is: %(things)s.") % {"step": step, "things": things}
            return _("%(step)s needs more people than may do it.") % {"step": step}
    return ""


def unclean() -> str:
    """A plan that must not be cooked by as it stands."""
    return _("Cooked in this order, soil reaches food that it does not reach as written. Wash in between.")


def hot_waits(seconds: int | None) -> str:
    """How long hot food waits before it is eaten."""
    if seconds is None:
        return ""
    if seconds <= 0:
        return _("Hot food is eaten at once.")
    return _("Hot food waits %(time)s at most before it is eaten.") % {"time": duration(seconds)}


def conflict(whole: WholeLesson, ids: Sequence[str], titles: Mapping[str, str]) -> list[str]:
    """Steps that cannot all be, each once; a few by name, the longest first."""
    found: dict[str, int] = {}
    for name in sorted(ids, key=lambda name: -whole.problem.tasks[name].s):
        part = whole.parts[name]
        said = titles[part.step] if part.step else frame_names(part.kind)[-1]
        found[said] = found.get(said, 0) + 1
    benches = len(whole.problem.benches)
    rows = [
        _("“%(step)s” at every bench") % {"step": said} if n >= benches > 1 else _("“%(step)s”") % {"step": said}
        for said, n in found.items()
    ]
    if len(rows) <= MOST_NAMED:
        return rows
    more = len(rows) - MOST_NAMED
    return [*rows[:MOST_NAMED], ngettext("%(n)d more step", "%(n)d more steps", more) % {"n": more}]


def what_moved(moved_min: Sequence[int], ends: str, later_s: int) -> str:
    """What the bricks that were put did to the others."""
    if not moved_min:
        start = _("Nothing else had to move.")
    else:
        most = max(moved_min, key=abs)
        how = _("most of all by %(n)d min, later") if most > 0 else _("most of all by %(n)d min, earlier")
        start = ngettext("%(n)d other brick moved, ", "%(n)d other bricks moved, ", len(moved_min)) % {
            "n": len(moved_min)
        }
        start += how % {"n": abs(most)} + "."
    if later_s > 0:
        return _("%(moved)s The lesson ends at %(at)s, %(time)s later than it could.") % {
            "moved": start,
            "at": ends,
            "time": duration(later_s),
        }
    return _("%(moved)s The lesson ends at %(at)s all the same.") % {"moved": start, "at": ends}


def cannot_hold(whole: WholeLesson, plan: Plan, titles: Mapping[str, str]) -> str:
    """Why bricks cannot be where they were put."""
    steps = listed(conflict(whole, plan.conflict, titles))
    return _("It cannot be put there: %(steps)s cannot all be as asked. The board shows the plan without it.") % {
        "steps": steps
    }


def way(do: str, of: str, titles: Mapping[str, str], value: str = "") -> str:
    """What to change."""
    texts = {
        "leave": _("“%(value)s” alone"),
        "ready": _("One ready made: nobody waits for “%(step)s”"),
        "ahead": _("“%(step)s” done before the lesson"),
        "adult": _("One more adult at %(of)s"),
        "smaller": _("“%(step)s”: pieces of half the size"),
        "thinner": _("“%(step)s”: pieces half as high"),
        "shallow": _("“%(step)s”: half as deep, in twice as many boxes"),
        "water": _("“%(step)s” begun before: hot when they come"),
        "share_out": _("A dish of the menu at each bench"),
        "split": _("Over two lessons: stop after “%(step)s”"),
        "let_all_go": _("Let go what was put by hand"),
        "show": _("No demonstration first"),
        "review": _("No questions first"),
        "eat": _("Nobody eats in the lesson"),
    }
    if do not in texts:
        return _("One more %(thing)s") % {"thing": shared_name(of)}
    return texts[do] % {"value": value, "step": titles.get(of, of), "of": of}


_SMALLER: Mapping[How, Text] = {
    "smaller": _l(
        "Some %(before)d g each become %(after)d g, twice as many: by the heat model %(long)d min become %(short)d. "
        "The probe decides, in several pieces."
    ),
    "thinner": _l(
        "By the heat model %(long)d min become %(short)d. They take twice the room: if the pan does not hold them all "
        "at once, nothing is won. The probe decides, in several pieces."
    ),
    "shallow": _l(
        "From tubs no deeper than wide %(long)d min become %(short)d at the most, by the heat model. They take twice "
        "the room. A thermometer decides, and a look whether it has set."
    ),
}


def smaller_why(how: How, grams: float, before_s: float, after_s: float) -> str:
    """What cutting pieces of so many grams in two comes to, pressing them to half their height, or what is chilled to
    half its depth. The new time is rounded up."""
    told = {"long": round(before_s / MINUTE_S), "short": int(-(-after_s // MINUTE_S))}
    return str(_SMALLER[how]) % {**told, "before": round(grams), "after": round(grams / 2)}


def split_why(kept: str, place: str, starts_at: dt.datetime, until: dt.datetime) -> str:
    """What a recipe over two lessons asks for, and when the second is."""
    texts = {
        "fridge": _(
            "%(food)s is kept covered and dated in the fridge, until %(until)s by the rules. A second lesson is "
            "made for the rest on %(day)s; it can be moved."
        ),
        "freezer": _(
            "%(food)s is kept wrapped and dated in the freezer, until %(until)s by the rules. A second lesson is "
            "made for the rest on %(day)s; it can be moved."
        ),
    }
    told = {"food": capital(kept), "until": day(until), "day": moment(starts_at)}
    return texts[place] % told


def two_lessons(kept: str, second: dt.datetime) -> str:
    """A lesson that stops and goes on in another."""
    told = {"food": kept, "day": moment(second)}
    return _("Over two lessons: it stops with %(food)s put away, and goes on on %(day)s") % told


def way_why(do: str, cold: str) -> str:
    """What it asks for. ``cold``: how cold what is done before is kept."""
    if do == "ahead":
        return _("By clean hands with clean kit; covered in the fridge at %(cold)s or below, and used that day.") % {
            "cold": cold
        }
    return {
        "water": _("An adult puts it on and stays with it, lid on; it is topped up and boiling when it is needed."),
        "leave": _("The other dishes of the menu are left out: the lesson takes this recipe as it is now."),
        "ready": _("Made before and kept cold or hot by the lesson's rules; the group's own goes on after the lesson."),
        "adult": _("Works at the bench all the while, with washed hands like everybody."),
        "let_all_go": _("Every brick is planned where it suits all best."),
        "share_out": _("Each bench cooks one dish, and all eat of every dish. It can be chosen bench by bench below."),
        "show": _("Each technique is shown at the benches when it is needed."),
        "review": _("They are asked while something cooks by itself."),
        "eat": _("What is made goes home or to the next meal: its clock goes on, and its note says until when."),
    }.get(do, _("Borrowed, set up or freed for the lesson."))


def shared(rows: Sequence[tuple[str, Sequence[str]]]) -> str:
    """Which bench cooks which dishes."""
    told = [_("%(bench)s: %(dishes)s") % {"bench": bench, "dishes": listed(dishes)} for bench, dishes in rows]
    return _("Not every bench cooks everything. %(benches)s.") % {"benches": "; ".join(told)}


class AheadWords(NamedTuple):
    """How cold what is done before the lesson is kept, and what else must be done before it."""

    cold: str
    first: Sequence[str]


def decided(do: str, of: str, value: str, titles: Mapping[str, str], ahead: AheadWords) -> str:
    """What the plan counts on, since somebody decided it. ``do``: what would take it away."""
    if do == "less":
        n = int(value)
        return ngettext("%(n)d more %(thing)s than counted", "%(n)d more %(thing)s than counted", n) % {
            "n": n,
            "thing": shared_name(of),
        }
    if do == "no_adult":
        n = int(value)
        return ngettext("%(n)d adult more at %(bench)s", "%(n)d adults more at %(bench)s", n) % {"n": n, "bench": of}
    if do in ("review", "show", "eat"):
        return way(do, of, titles, value)
    if do in ("together", "join"):
        return value
    step = titles.get(of, of)
    if do == "not_smaller":
        return _("“%(step)s”: pieces of half the size, done sooner; the probe decides") % {"step": step}
    if do == "not_shallow":
        return _("“%(step)s”: half as deep, cold sooner; the thermometer decides") % {"step": step}
    if do == "not_water":
        return _("“%(step)s” is begun before the lesson by an adult who stays with it") % {"step": step}
    if do == "not_thinner":
        return _("“%(step)s”: pieces half as high, done sooner; the probe decides") % {"step": step}
    if do == "not_ready":
        return _("“%(step)s”: one is brought ready made") % {"step": step}
    return _decided_ahead(step, ahead)


def _decided_ahead(step: str, ahead: AheadWords) -> str:
    told = {"step": step, "cold": ahead.cold, "first": listed([f"“{name}”" for name in ahead.first])}
    if ahead.first:
        return _("“%(step)s” is done before the lesson, after %(first)s; kept covered at %(cold)s or below") % told
    return _("“%(step)s” is done before the lesson, kept covered at %(cold)s or below") % told


def change(do: str, of: str, value: str, name: str) -> str:
    """One change of the plan. ``name``: what it was made to."""
    if do == "take_back":
        said = change(value, of, "", name) if value != "put" else _("“%(name)s” put elsewhere") % {"name": name}
        return _("Taken back: %(change)s") % {"change": said}
    texts = {
        "put": _("“%(name)s” put to minute %(value)s"),
        "let_go": _("“%(name)s” let go"),
        "let_all_go": _("All bricks let go"),
        "more": _("One more: %(name)s"),
        "less": _("No more than counted: %(name)s"),
        "adult": _("An adult more at %(name)s"),
        "no_adult": _("No adult more at %(name)s"),
        "review": _("Questions first: %(value)s min") if value else _("How long is asked first"),
        "show": _("Shown first: %(value)s min") if value else _("How long is shown first"),
        "eat": _("Eaten together: %(value)s min") if value else _("How long is eaten together"),
        "ready": _("“%(name)s”: one ready made"),
        "not_ready": _("“%(name)s”: none ready made"),
        "ahead": _("“%(name)s” before the lesson"),
        "not_ahead": _("“%(name)s” in the lesson again"),
        "leave": _("“%(value)s” alone: the other dishes left out"),
        "smaller": _("“%(name)s”: pieces of half the size"),
        "not_smaller": _("“%(name)s”: pieces as the recipe has them"),
        "thinner": _("“%(name)s”: pieces half as high"),
        "not_thinner": _("“%(name)s”: pieces as the recipe has them"),
        "shallow": _("“%(name)s”: half as deep"),
        "not_shallow": _("“%(name)s”: as deep as it comes"),
        "water": _("“%(name)s” begun before the lesson"),
        "not_water": _("“%(name)s” begun in the lesson again"),
        "share": _("%(name)s cooks %(value)s") if value else _("%(name)s cooks every dish"),
        "share_out": _("A dish of the menu at each bench"),
        "together": _("Every bench cooks every dish"),
        "split": _("Over two lessons, stopped after “%(name)s”"),
        "join": _("In one lesson again"),
        "ambient": _("How warm it will be: %(value)s °C") if value else _("Nobody says how warm it will be"),
        "away": _("Away from the fridge: %(value)s h") if value else _("Nobody says how long they are away"),
        "did": _("Done: %(name)s"),
        "not_did": _("Not done after all: %(name)s"),
        "have": _("There is already: %(name)s"),
        "not_have": _("To be bought after all: %(name)s"),
        "doer": _("“%(name)s” is done by %(value)s") if value else _("“%(name)s” is done by anybody"),
    }
    return texts[do] % {"name": name, "value": value} if do in texts else name


def taken_for_granted(whole: WholeLesson) -> list[str]:
    """What nobody has counted or said, and what was taken instead."""
    rows = [
        _("Nobody has counted: %(thing)s. Planned with %(n)d.") % {"thing": shared_name(name), "n": number}
        for name, number in whole.uncounted.items()
    ]
    timeless = {part.step for part in whole.parts.values() if part.typical}
    if timeless:
        n = len(timeless)
        rows.append(
            ngettext(
                "%(n)d step has no time in the recipe: a typical one was taken, marked with a tilde.",
                "%(n)d steps have no time in the recipe: typical ones were taken, marked with a tilde.",
                n,
            )
            % {"n": n}
        )
    if whole.unsaid:
        asked = listed(sorted(shown(name) for name in whole.unsaid))
        rows.append(
            _("Nobody has said who has been shown what: %(skills)s. Planned as if anybody may.") % {"skills": asked}
        )
    return rows


def not_said(said: Said) -> list[str]:
    """What nobody has said of who is at the benches."""
    rows = []
    if said.unknown:
        rows.append(_("Not in the group's list, and so shown nothing: %(who)s.") % {"who": listed(said.unknown)})
    if said.unchecked:
        rows.append(_("Allergies that no dish is checked for: %(words)s.") % {"words": listed(said.unchecked)})
    return rows


def own_ages(ages: Mapping[str, int]) -> list[str]:
    """That a kitchen's own ages count."""
    if not ages:
        return []
    rows = listed([_("%(skill)s from %(age)d") % {"skill": shown(name), "age": age} for name, age in ages.items()])
    return [_("Ages are this kitchen's own: %(ages)s.") % {"ages": rows}]


def adults_steps(whole: WholeLesson, titles: Mapping[str, str]) -> list[str]:
    """Steps that nobody at a bench may do."""
    found: dict[str, list[str]] = {}
    for part in whole.parts.values():
        if part.adult and part.step:
            found.setdefault(titles[part.step], []).append(str(part.bench))
    return [
        _("An adult does “%(step)s” at %(benches)s: nobody there has been shown it, or is old enough.")
        % {"step": step, "benches": listed(benches)}
        for step, benches in found.items()
    ]


def not_kept(broken: Sequence[tuple[Bound, int, int]], benches: Sequence[str], titles: Mapping[str, str]) -> list[str]:
    """The times that a rule asks and that the plan does not keep, each once, with the benches."""
    found: dict[Bound, list[tuple[str, int]]] = {}
    for bound, number, over_s in broken:
        found.setdefault(bound, []).append((benches[number - 1], over_s))
    return [
        _(
            "Not kept at %(benches)s: %(rule)s, %(limit)s from “%(first)s” to “%(then)s” (%(section)s),"
            " by up to %(over)s."
        )
        % {
            "benches": listed(bench for bench, _over in rows),
            "rule": _BOUNDS.get(bound.rule, bound.rule),
            "limit": duration(bound.s),
            "first": titles[bound.first],
            "then": titles[bound.then],
            "section": bound.section,
            "over": duration(max(over for _bench, over in rows)),
        }
        for bound, rows in found.items()
    ]


_BOUNDS = {
    "raw-out-of-fridge": _l("raw food out of the fridge"),
    "part-cooked": _l("part-cooked food back to the heat"),
    "chilled-in-time": _l("hot food into the fridge"),
    "time-out": _l("hot food to the plate"),
}


def must_wash_too(whole: WholeLesson, plan: Plan, titles: Mapping[str, str]) -> list[str]:
    """Who had their hands on raw food and is not the one that a wash is planned for."""
    return [
        _("At “%(step)s” %(who)s must wash too: their hands were on raw food.")
        % {"step": titles.get(str(whole.parts[task].step), ""), "who": listed(who)}
        for task, who in unwashed(whole.problem, plan.people).items()
    ]


def washes_left_out(hands: int, kit: int) -> list[str]:
    """That the recipe leaves out washes, which the plan has bricks for all the same."""
    if not hands and not kit:
        return []
    said = _("The recipe leaves out washes that a bench is asked for: hands %(hands)d ×, kit %(kit)d ×.")
    more = _("This plan has them: one washes for each; more hands on raw food take as long again.")
    return [" ".join([said % {"hands": hands, "kit": kit}, more])]


def row_name(part: Part, titles: Mapping[str, str], process: Process) -> str:
    """A brick's name in the table, with the number that stands on a brick too narrow for words."""
    said = capital(title(part, titles, (), 0).partition(", 0")[0])
    return f"{process.step_index[part.step] + 1}. {said}" if part.step else said
