"""What the flow map says: one sentence for each contact, finding, wash and mend."""

import itertools
from collections.abc import Iterable, Mapping

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.presentation.phrases import verb
from bulwark.recipes import wording as recipes
from foodsafety.contamination import Band, Cleared, Contact, Finding, Flow, Lane, Mark
from foodsafety.lesson import Told
from foodsafety.ordering import Repair
from foodsafety.recipes import Process, Step

ALONE = ("cook",)  # how the reader calls whoever cooks where nobody has a name yet


def beside(one: str, other: str) -> str:
    """Two recipes cooked side by side."""
    return _("%(one)s beside %(other)s") % {"one": one, "other": other}


def short_title(title: str) -> str:
    """A recipe in a word, to tell one bench's hands from another's."""
    return title.split()[0].strip(",:").lower() if title.split() else _("other")


def soil(name: str) -> str:
    """A soil or an allergen in words."""
    return recipes.hazard(name)


def capital(text: str) -> str:
    """With a capital first letter."""
    return text[:1].upper() + text[1:]


def listed(names: Iterable[str]) -> str:
    """Names as a list: a, b and c."""
    rows = list(names)
    if len(rows) < 2:
        return "".join(rows)
    return _("%(most)s and %(last)s") % {"most": ", ".join(rows[:-1]), "last": rows[-1]}


def carrier(name: str, process: Process) -> str:
    """A carrier as it is spoken of: hands belong to somebody, unless there is only one cook."""
    if name not in process.people:
        return name
    if len(process.people) == 1 and name in ALONE:
        return _("hands")
    return _("%(name)s's hands") % {"name": name}


def lane_name(lane: Lane, process: Process) -> str:
    """The name at the head of a lane."""
    names = lane.names if lane.alike else lane.names[:1]
    return capital(", ".join(carrier(name, process) for name in names))


def group_name(group: str) -> str:
    """The name of a group of lanes."""
    return {"raw": _("raw, to be cooked"), "kit": _("hands and kit"), "ready": _("ready to eat")}[group]


def map_title(flow: Flow, finding: Finding | None) -> str:
    """What the drawing shows, for who cannot see it."""
    if finding is None:
        return _("Flow map of %(n)d steps") % {"n": len(flow.process.steps)}
    return _("Flow map: %(title)s, by way of %(path)s") % {
        "title": finding_title(finding),
        "path": " → ".join(carrier(name, flow.process) for name in finding.path),
    }


def soils(names: Iterable[str]) -> str:
    """Several soils in words."""
    return listed([soil(name) for name in names])


def contact(flow: Flow, row: Contact, lane: str, title: str) -> str:
    """One contact in one sentence: where, what touches what, and what passes."""
    step = flow.process.steps[row.step]
    where = _("Step %(n)d, %(title)s") % {"n": row.step + 1, "title": title or verb(step.do)}
    meets = _meeting(flow, step, lane)
    soiled = next((names for member, names in row.members if member == lane), ())
    if not soiled:
        return _("%(where)s. %(meets)s: nothing raw here.") % {"where": where, "meets": meets}
    new = [name for name in soiled if _caught(flow, lane, name, row.step)]
    words = {"where": where, "meets": meets, "soils": soils(new or soiled)}
    if new:
        return _("%(where)s. %(meets)s: %(soils)s comes onto it here.") % words
    return _("%(where)s. %(meets)s: it carries %(soils)s.") % words


def _meeting(flow: Flow, step: Step, lane: str) -> str:
    """What stands on a lane at a step, and what it touches there."""
    process = flow.process
    names = next(item for item in flow.lanes if item.id == lane).names
    there = dict.fromkeys((*step.foods, *step.tools, *step.hands, *((step.makes,) if step.makes else ())))
    what = capital(carrier(next((n for n in names if n in there), lane), process))
    others = [carrier(name, process) for name in there if name not in names]
    return _("%(what)s with %(others)s") % {"what": what, "others": listed(others)} if others else what


def _caught(flow: Flow, lane: str, name: str, step: int) -> bool:
    return any(band.lane == lane and band.soil == name and band.start == step for band in flow.bands)


def mark(flow: Flow, row: Mark, title: str) -> str:
    """A wash, a rinse or a heat in one sentence."""
    where = _("Step %(n)d, %(title)s") % {"n": row.step + 1, "title": title or verb(flow.process.steps[row.step].do)}
    lane = next(item for item in flow.lanes if item.id == row.lane)
    name = lane_name(lane, flow.process)
    if row.ended:
        ends = {
            "wash": _("washing ends %(soils)s"),
            "heat": _("heat ends %(soils)s"),
            "rinse": _("rinsing ends %(soils)s"),
        }
        return f"{where}. {name}: {ends[row.what] % {'soils': soils(row.ended)}}."
    nothing = {"wash": _("washed, and clean before"), "heat": _("heated"), "rinse": _("rinsed")}
    return f"{where}. {name}: {nothing[row.what]}."


def band(row: Band, lane: Lane, flow: Flow) -> str:
    """A band in words: from where to where."""
    start = _("from the start") if row.start < 0 else _("from step %(n)d") % {"n": row.start + 1}
    end = _("to the end") if row.end >= len(flow.process.steps) else _("to step %(n)d") % {"n": row.end + 1}
    return f"{lane_name(lane, flow.process)}: {soil(row.soil)}, {start} {end}"


def finding_title(finding: Finding) -> str:
    """A finding as a heading."""
    what = capital(soil(finding.soil)) if finding.soil else ""
    texts = {
        "ready-to-eat-meets-raw": _("%(soil)s in the %(food)s"),
        "cooked-meets-raw": _("%(soil)s back on the cooked %(food)s"),
        "gloves-not-changed": _("Gloves from %(low)s in the %(food)s"),
        "unwashed-hands": _("Unwashed hands in the %(food)s"),
        "ready-to-eat-meets-unwashed": _("%(soil)s on its way to the %(food)s"),
        "no-kill-step": _("%(food_cap)s is eaten with %(low)s"),
        "produce-not-rinsed": _("%(food_cap)s is eaten unrinsed"),
        "raw-meat-rinsed": _("%(food_cap)s is rinsed raw: it splashes"),
        "raw-tasted": _("%(food_cap)s is tasted with %(low)s"),
        "allergen-contact": _("%(soil)s gets to the %(food)s"),
        "allergen-inside": _("%(soil)s is in the %(food)s"),
        "board-not-separate": _("One board for raw and for %(food)s"),
        "bare-hands-on-ready-to-eat": _("Bare hands on the %(food)s"),
        "nothing-served": _("No step serves anything"),
    }
    low = soil(finding.soil) if finding.soil else ""
    words = {"soil": what, "low": low, "food": finding.food, "food_cap": capital(finding.food)}
    return texts.get(finding.rule, finding.rule.replace("-", " ")) % words


def hops(
    finding: Finding, flow: Flow, discarded: frozenset[str] = frozenset(), waiting: frozenset[str] = frozenset()
) -> list[tuple[str, int | None]]:
    """The path of a finding, a line each, with the step it happens at (from 1)."""
    where = flow.process.step_index
    at = finding.at or ("", *(finding.step for _item in finding.path[1:]))
    rows: list[tuple[str, int | None]] = []
    for (before, _at), (name, step) in itertools.pairwise(zip(finding.path, at, strict=False)):
        number = where[step] + 1 if step in where else None
        rows.append((_hop(flow.process, before, name, number), number))
    return rows + _end(finding, flow, discarded, waiting)


def _hop(process: Process, before: str, name: str, number: int | None) -> str:
    """How a soil got from one carrier onto the next, at a step (from 1) or at no step known."""
    words = {"a": capital(carrier(before, process)), "b": carrier(name, process)}
    if number and process.steps[number - 1].makes == name:
        return _("%(a)s goes into the %(b)s") % words
    if name in process.people:
        return _("%(a)s gets on the hands") % words if name in ALONE else _("%(a)s gets on %(b)s") % words
    if before in process.people:
        return _("Those hands touch the %(b)s") % words
    return _("%(a)s touches the %(b)s") % words


def _end(
    finding: Finding, flow: Flow, discarded: frozenset[str], waiting: frozenset[str]
) -> list[tuple[str, int | None]]:
    """What became of the food at the end of a path."""
    words = {"food": finding.food}
    if finding.food in discarded:
        return [(_("Thrown away: %(food)s") % words, None)]
    if finding.food in waiting:
        return [(_("Not on a plate yet, as far as is recorded: %(food)s") % words, None)]
    served = flow.served.get(finding.food)
    if served is None or finding.rule == "raw-tasted":
        return []
    return [(_("Onto the plate: %(food)s") % words, served + 1)]


def too_late(finding: Finding, flow: Flow) -> list[str]:
    """What was done about it and does not help."""
    where, rows = flow.process.step_index, []
    if finding.evidence.get("wiped"):
        rows.append(
            _("Step %(n)d only wipes or rinses it: that is not washing.") % {"n": where[finding.evidence["wiped"]] + 1}
        )
    if finding.evidence.get("too_late"):
        rows.append(_("Washing at step %(n)d is too late.") % {"n": where[finding.evidence["too_late"]] + 1})
    wash = finding.evidence.get("wash")
    if wash:
        name, before = wash
        rows.append(
            _("Washing %(what)s before step %(n)d would still end it.")
            % {"what": _the(name, flow.process), "n": where[before] + 1}
        )
    return rows


def _the(name: str, process: Process) -> str:
    if name in process.people:
        return carrier(name, process)
    return _("the %(name)s") % {"name": name}


def severity(level: int) -> str:
    """How much it matters, in a word."""
    return {1: _("mind it"), 2: _("serious"), 3: _("grave"), 4: _("gravest: vulnerable eaters")}[level]


def cleared(row: Cleared, flow: Flow, titles: Mapping[str, str]) -> str:
    """A soil that a later step ends: no finding."""
    n = flow.process.step_index[row.by] + 1
    words = {"food": capital(row.food), "soil": soil(row.soil), "n": n, "title": titles.get(row.by, "")}
    return _("%(food)s, %(soil)s: cleared by step %(n)d, %(title)s") % words


def repair_title(repair: Repair) -> str:
    """A mend's heading."""
    return {
        "wash": _("Wash"),
        "tool": _("Second tools"),
        "hands": _("Other hands"),
        "move": _("Move"),
        "mixed": _("The smallest change"),
        "order": _("Reorder"),
        "house": _("By the house rule"),
    }[repair.kind]


def repair_text(repair: Repair, flow: Flow, titles: Mapping[str, str]) -> str:
    """What a mend changes, in one sentence."""
    parts = []
    if repair.moved:
        parts.append(_("move %(steps)s") % {"steps": listed([f"“{titles.get(n, n)}”" for n in repair.moved])})
    parts += _added(repair, titles)
    parts += [_("take a second %(tool)s") % {"tool": old} for _new, old in repair.copies]
    parts += [
        _("“%(title)s” by %(who)s") % {"title": titles.get(step, step), "who": who}
        for step, _before, who in repair.handed
    ]
    return capital("; ".join(parts)) + "." if parts else ""


def _added(repair: Repair, titles: Mapping[str, str]) -> list[str]:
    """The washes and gloves that a mend adds, each with the step it stands before."""
    by_id = {step.id: step for step in repair.process.steps}
    said = [
        _("wash %(what)s before “%(title)s”")
        % {
            "what": listed([_the(n, repair.process) for n in (*by_id[name].hands, *by_id[name].tools)]),
            "title": titles.get(_next_written(repair, name), ""),
        }
        for name in repair.added
        if by_id[name].do not in ("gloves_on", "gloves_off")
    ]
    if any(by_id[name].do == "gloves_on" for name in repair.added):
        said.append(_("fresh gloves for what is eaten without more heat"))
    return said


def _next_written(repair: Repair, name: str) -> str:
    """The first step after an added one that the recipe itself has."""
    order = [step.id for step in repair.process.steps]
    return next((later for later in order[order.index(name) + 1 :] if later not in repair.added), "")


def repair_left(repair: Repair) -> str:
    """What a mend does not clear."""
    n = len(repair.left)
    return ngettext("%(n)d finding stays.", "%(n)d findings stay.", n) % {"n": n} if n else ""


def cost(repair: Repair) -> str:
    """A mend's cost: seconds, litres, tools."""
    parts = [_("%(s)d s of work") % {"s": round(repair.cost.seconds)}]
    if repair.cost.litres:
        parts.append(_("%(l).1f l of water") % {"l": repair.cost.litres})
    if repair.cost.tools:
        parts.append(ngettext("%(n)d more tool", "%(n)d more tools", repair.cost.tools) % {"n": repair.cost.tools})
    return ", ".join(parts)


def told_title(row: Told, titles: Mapping[str, str], step: Step) -> str:
    """The title of an entry of a bench's log as a step."""
    title = titles.get(row.recipe_step, "")
    return {
        "step": title,
        "heat-step": title,
        "wash": _("%(who)s washes") % {"who": row.who},
        "short-wash": _("%(who)s washes too short") % {"who": row.who},
        "touched": _("%(who)s touches %(what)s") % {"who": row.who, "what": listed(step.tools)},
        "clean": _("Clean %(what)s") % {"what": listed(step.tools)},
        "wipe": _("Only wiped: %(what)s") % {"what": listed(step.tools)},
        "rinsed": _("Rinsed: %(what)s") % {"what": listed(step.foods)},
        "swapped": _("Fresh %(what)s") % {"what": listed(step.tools)},
        "probe": _("Probe %(what)s") % {"what": listed(step.foods)},
        "proved": _("Proved hot: %(what)s") % {"what": listed(step.foods)},
    }[row.what] or verb(step.do)


def new_step_title(do: str, names: Iterable[str]) -> str:
    """The title of a step that a mend adds."""
    what = listed(names)
    return {
        "wash_hands": _("Wash hands"),
        "clean": _("Wash the %(what)s") % {"what": what},
        "rinse": _("Rinse the %(what)s") % {"what": what},
        "gloves_on": _("Gloves on"),
        "gloves_off": _("Gloves off"),
    }[do]
