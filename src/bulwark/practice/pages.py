"""What the pages of practice show."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Mapping
from typing import Any

from django.urls import reverse

from bulwark.bench.wording import wash_stages
from bulwark.groups import selectors as groups
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.lessons.wording import teach
from bulwark.people.actors import Actor
from bulwark.practice import adapters, asking, drawings, explaining, forgetting, selectors
from bulwark.practice.answering import answer
from bulwark.practice.asking import Asking
from bulwark.practice.models import Round
from bulwark.presentation.phrases import degrees, duration
from bulwark.recipes import selectors as recipes
from bulwark.records import keeping
from foodsafety.contamination import rule_source
from foodsafety.practice import KINDS, LEVELS, SOURCE, Gain
from foodsafety.quantities import f_from_c
from foodsafety.rules import rule_profile

_LETTERS = "ABCDEFGH"
# So many of what would go are shown by their titles.
MOST_SHOWN = 30
# Of these the answer is tapped on the drawing itself.
ON_THE_DRAWING = ("find-slip", "tip", "shelf")


def practice_page(actor: Actor, typed: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Rounds made so far, and what a new one is made of."""
    return {
        "rows": [_round_row(row) for row in selectors.latest(actor)],
        "lessons": lessons.lessons_for(actor).filter(rehearsal=False, stock=False).order_by("-starts_at")[:20],
        "recipes": recipes.recipes_for(actor).filter(archived_at=None).exclude(confirmed_at=None)[:200],
        "groups": groups.groups_for(actor),
        "kinds": [(name, asking.kind_name(name)) for name in KINDS],
        "levels": LEVELS,
        "spacing": SOURCE,
        "typed": {
            **dict.fromkeys(("lesson", "recipe", "group", "only", "seed"), ""),
            "count": 5,
            "level": 2,
            "kind": Round.PRACTICE,
            **(typed or {}),
        },
    }


def _round_row(row: Mapping[str, Any]) -> dict[str, Any]:
    right = sum(each.right for each in row["counted"])
    answers = sum(each.answers for each in row["counted"])
    return {"round": row["round"], "told": explaining.told(right, answers)}


def play_page(
    found: Round, number: int, unit: str, *, tapped: str = "", learner: str = "", again: bool = False
) -> dict[str, Any]:
    """One puzzle of a round: what is asked, its drawing, its answers, and, once one is tapped, why."""
    number = min(max(0, number), len(found.puzzles) - 1)
    row = Asking(puzzle=adapters.to_puzzle(found.puzzles[number]), titles=found.titles, unit=unit)
    answered = tapped in [choice.id for choice in row.puzzle.choices]
    counted = selectors.counted(found)[number]
    return {
        "round": found,
        "number": number,
        "of": len(found.puzzles),
        "kind": asking.kind_name(row.puzzle.kind),
        "question": asking.question(row),
        "choices": _choices(row, tapped if answered else "", counted.by_choice),
        "answered": answered,
        "right": answered and tapped == row.puzzle.right.id,
        "told": _told(row, tapped) if answered else None,
        "counted": explaining.told(counted.right, counted.answers) if counted.answers else "",
        "learner": learner,
        "again": again,
        "last": number == len(found.puzzles) - 1,
        "drawn": row.puzzle.kind in ON_THE_DRAWING,
        "spots": not answered,
        **figure(row, answered=answered, tapped=tapped),
    }


def _choices(row: Asking, tapped: str, hands: Mapping[str, int]) -> list[dict[str, Any]]:
    """The answers with their letters; once one is tapped, which was right and which was tapped."""
    return [
        {
            "id": choice.id,
            "letter": _LETTERS[n],
            "n": n,
            "says": answer(row, choice),
            "right": bool(tapped) and choice.right,
            "tapped": choice.id == tapped,
            "hands": hands.get(choice.id, 0),
        }
        for n, choice in enumerate(row.puzzle.choices)
    ]


def _told(row: Asking, tapped: str) -> dict[str, Any]:
    """The explanation: what is wrong with what was tapped, why the other is right, and where that is written."""
    choice = next(choice for choice in row.puzzle.choices if choice.id == tapped)
    return {
        "why": explaining.why(row),
        "why_not": "" if choice.right else explaining.why_not(row, choice),
        "answer": answer(row, row.puzzle.right),
        "section": row.puzzle.section,
        "rule": teach(row.puzzle.rule) if row.puzzle.rule else "",
    }


# --- the drawing of each kind -----------------------------------------------------------------------------


def figure(row: Asking, *, answered: bool, tapped: str = "") -> dict[str, Any]:
    """Which drawing a puzzle has, and its parts."""
    asks, kind = row.asks, row.puzzle.kind
    if kind in ("find-slip", "contact"):
        return {"figure": "slip", "slip": _slip(row, answered=answered, tapped=tapped)}
    if kind == "tip":
        tips = [(_LETTERS[n], choice.id, choice.says["tip"]) for n, choice in enumerate(row.puzzle.choices)]
        return {"figure": "piece", "piece": drawings.piece(asks, tips), **_shown_marks(row, tapped if answered else "")}
    if kind == "display":
        shows = asks["shows_c"] if row.unit == "C" else f_from_c(asks["shows_c"])
        dial = drawings.dial(shows, row.unit) if asks["dial"] else None
        return {"figure": "display", "dial": dial, "shows": degrees(asks["shows_c"], row.unit), "unit": row.unit}
    if kind == "done":
        return {"figure": "readings", "readings": _readings(row), "now": duration(asks["now_s"])}
    if kind == "hob":
        return {"figure": "hob", "things": drawings.hob(asks["scene"], _marks(row))}
    if kind == "tool":
        return {"figure": "tool", "tool": asks["tool"]}
    return {"figure": "fridge", "fridge": _fridge(row, answered=answered)} if kind == "shelf" else {"figure": ""}


def _shown_marks(row: Asking, tapped: str) -> dict[str, str]:
    """Once one is tapped: the letter of the right answer, and of the tapped one."""
    letters = _marks(row)
    return {"shown_right": letters[row.puzzle.right.id], "shown_tapped": letters.get(tapped, "")} if tapped else {}


def _marks(row: Asking) -> dict[str, str]:
    """The letter that stands at each place of a drawing."""
    return {choice.id: _LETTERS[n] for n, choice in enumerate(row.puzzle.choices)}


def _slip(row: Asking, *, answered: bool, tapped: str) -> dict[str, Any]:
    asks = row.asks
    names = {lane: "hands" for lane, kind in asks["kinds"].items() if kind == "hands"}
    by_step = {choice.id: n for n, choice in enumerate(row.puzzle.choices)} if row.puzzle.kind == "find-slip" else {}
    later = {other["finding"]["step"] for other in row.why.get("also", ())}
    rows = [
        {
            "number": n,
            "id": step["id"],
            "title": row.step(step["id"]),
            "lanes": lanes,
            "letter": _LETTERS[by_step[step["id"]]] if step["id"] in by_step else "",
            "breach": answered and step["id"] == row.finding.step,
            "later": answered and step["id"] in later,
            "with": asking.used_in(step),
            "tapped": answered and step["id"] == tapped,
            "asked": row.puzzle.kind == "contact" and step["id"] == row.finding.step,
        }
        for n, (step, lanes) in enumerate(zip(asks["steps"], drawings.lane_rows(asks), strict=True), start=1)
    ]
    heads = drawings.lane_heads(asks, names)
    return {
        "heads": heads,
        "heads_height": drawings.heads_height(heads),
        "aslant": drawings.aslant(heads),
        "rows": rows,
        "width": drawings.lanes_width(asks),
        "height": drawings.ROW,
        "shown": answered,
        # The lanes of a contact would tell it.
        "lanes": answered or row.puzzle.kind == "find-slip",
    }


def _readings(row: Asking) -> list[dict[str, Any]]:
    """Readings by piece, one column a round of reading, each with its time from the first: a hold is judged by it."""
    pieces: dict[str, list[dict[str, str]]] = {}
    for reading in row.asks["readings"]:
        told = {"core": degrees(reading["core_c"], row.unit), "at": duration(reading["at_s"])}
        pieces.setdefault(reading["piece"], []).append(told)
    needed = row.why["needed"]
    rows = [{"piece": name, "cores": cores} for name, cores in pieces.items()]
    rows += [{"piece": str(n), "cores": []} for n in range(len(rows) + 1, needed + 1)]
    return rows


def _fridge(row: Asking, *, answered: bool) -> list[dict[str, Any]]:
    """The shelves from the top, with a letter where there is room between them."""
    places = {
        choice.says["place"]: {"letter": _LETTERS[n], "id": choice.id, "right": answered and choice.right}
        for n, choice in enumerate(row.puzzle.choices)
    }
    rows: list[dict[str, Any]] = []
    for n, shelf in enumerate([*row.asks["fridge"], None]):
        rows.append({"gap": True, **places.get(n, {})})
        if shelf is not None:
            rows.append({"gap": False, "food": shelf["food"], "raw": shelf["raw"]})
    return rows


def names_page(actor: Actor, before: Mapping[str, dt.date], typed: Mapping[str, str] | None) -> dict[str, Any]:
    """Each kind of record that holds names: for how long, and how many are older. ``typed``: what was wrong stays."""
    kept, older = keeping.kept_by(actor.organisation), forgetting.older(actor.organisation, before)
    usual, said = keeping.usual_of(actor.organisation), asking.kinds_of_record()
    rows = [
        {
            "kind": kind,
            "name": said[kind][0],
            "goes": said[kind][1],
            "months": (typed or {}).get(kind, kept[kind]),
            "usual": usual.months[kind],
            "before": before[kind],
            "count": len(older[kind]),
            # Lessons have a table of their own, with what changes in each.
            "which": older[kind][:MOST_SHOWN] if kind != "lessons" else (),
        }
        for kind in keeping.KINDS
    ]
    return {"kinds": rows, "source": usual.source, "any": any(older.values()), "count": len(older["lessons"])}


def hands_page(actor: Actor) -> dict[str, Any]:
    """The places of a hand, and how long they are scrubbed in all under the rules here."""
    decided = kitchens.decided_by(actor.organisation)
    profile, house = kitchens.rules_for(actor.organisation, decided.profile), kitchens.house_of(decided)
    scrub_s = math.ceil(max(profile.scrub_s, house.scrub_s))
    section = rule_source("unwashed-hands", profile.id) or profile.document
    return {
        "seconds": scrub_s,
        "places": [row["name"] for row in wash_stages(scrub_s) if row["scrub"]],
        "hands": [{"back": False}, {"back": True}],
        "section": section,
    }


# --- a round as a whole -----------------------------------------------------------------------------------


def round_page(found: Round, unit: str) -> dict[str, Any]:
    """A round: its puzzles with how they were answered, and what came of it."""
    counted = selectors.counted(found)
    rows = [
        {
            "number": n,
            "kind": asking.kind_name(puzzle["kind"]),
            "question": asking.question(Asking(puzzle=adapters.to_puzzle(puzzle), titles=found.titles, unit=unit)),
            "rule": teach(puzzle["rule"]),
            "told": explaining.told(counted[n].right, counted[n].answers),
        }
        for n, puzzle in enumerate(found.puzzles)
    ]
    return {"round": found, "rows": rows, "profile": rule_profile(found.profile).name, **gain_page(found)}


def sheet_rows(found: Round, unit: str) -> Iterator[list[object]]:
    """A round as rows of a sheet: its puzzles with how they were answered, then what was learnt. No learner stands in
    it."""
    counted = selectors.counted(found)
    yield ["number", "kind", "rule", "question", "right", "answers"]
    for n, puzzle in enumerate(found.puzzles):
        row = Asking(puzzle=adapters.to_puzzle(puzzle), titles=found.titles, unit=unit)
        yield [n + 1, puzzle["kind"], puzzle["rule"], asking.question(row), counted[n].right, counted[n].answers]
    if found.matches is not None:
        yield []
        yield ["rule", "before", "after", "gain", "low_95", "high_95", "pairs", "answers_before", "answers_after"]
        for each in selectors.gains(found.matches, found):
            yield [each.rule or "all", *_gain_cells(each.gain)]


def _gain_cells(gain: Gain | None) -> list[object]:
    if gain is None:
        return []
    shares = [gain.before, gain.after, gain.difference, gain.low, gain.high]
    return [*(round(share, 4) for share in shares), gain.pairs, gain.asked_before, gain.asked_after]


def gain_page(found: Round) -> dict[str, Any]:
    """What was learnt between a round and the one before it that it matches; nothing where it matches none."""
    if found.matches is None:
        return {"gains": [], "after": found.matched_by.order_by("-pk").first()}
    rows = selectors.gains(found.matches, found)
    return {"gains": [_gain(row) for row in rows], "after": None}


def _gain(row: selectors.RuleGain) -> dict[str, Any]:
    """A gain as it is read: shares in whole per cent, and its interval."""
    if row.gain is None:
        return {"rule": teach(row.rule) if row.rule else "", "gain": None}
    gain = row.gain
    return {
        "rule": teach(row.rule) if row.rule else "",
        "gain": gain,
        "before": f"{100 * gain.before:.0f}",
        "after": f"{100 * gain.after:.0f}",
        "difference": f"{100 * gain.difference:+.0f}",
        "low": f"{100 * gain.low:+.0f}",
        "high": f"{100 * gain.high:+.0f}",
        # Of a bar from -100 to +100.
        "bar_x": f"{50 + 50 * gain.low:.1f}",
        "bar_w": f"{50 * (gain.high - gain.low):.1f}",
        "at": f"{50 + 50 * gain.difference:.1f}",
    }


def paper_page(found: Round, unit: str) -> dict[str, Any]:
    """The puzzles on paper, and the answers on a sheet of their own."""
    rows = []
    for n, puzzle in enumerate(found.puzzles, start=1):
        row = Asking(puzzle=adapters.to_puzzle(puzzle), titles=found.titles, unit=unit)
        letters = _marks(row)
        rows.append(
            {
                "number": n,
                "kind": asking.kind_name(row.puzzle.kind),
                "question": asking.question(row),
                "choices": _choices(row, "", {}),
                "key": letters[row.puzzle.right.id],
                "answer": answer(row, row.puzzle.right),
                "why": explaining.why(row),
                "section": row.puzzle.section,
                **figure(row, answered=False),
            }
        )
    return {"round": found, "rows": rows, "back": reverse("round", args=[found.pk])}
