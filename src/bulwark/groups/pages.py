"""What the pages about groups show."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bulwark.groups import rosters, selectors, wording
from bulwark.groups.models import Group
from bulwark.people.actors import Actor
from bulwark.presentation import care
from bulwark.presentation.errors import error_sentence
from foodsafety.planning import ALLERGIES, Allergies, Learner, rules_broken, split
from foodsafety.quantities import CoreError
from foodsafety.review import eater_groups


def group_page(group: Group | None, typed: Mapping[str, str] | None = None) -> dict[str, Any]:
    """A group's form: as it is kept, or as somebody typed it."""
    empty = dict.fromkeys(("name", "lines", "roles", "rules"), "")
    said = {**empty, **(_kept(group) if group else {}), **(typed or {})}
    return {
        "group": group,
        "learners": group.members.all() if group else [],
        "typed": said,
        "eater_groups": [(name, care.eater(name), said.get(f"n-{name}", "")) for name in eater_groups()],
        "read": None,
        "wrong": "",
    }


def _kept(group: Group) -> dict[str, str]:
    rows = [
        {
            "initials": row.initials,
            "age": row.age,
            "allergies": "; ".join(row.allergies),
            "shown": " ".join(row.shown),
            "needs": row.needs,
            "eats": "" if row.eats else "no",
        }
        for row in selectors.members_of(group)
    ]
    roles = [f"{row.name}: {', '.join(row.duties)}" if row.duties else row.name for row in selectors.roles_of(group)]
    return {
        "name": group.name,
        "lines": rosters.written(rows),
        "roles": "\n".join(roles),
        "rules": group.rules,
        **{f"n-{name}": str(count) for name, count in group.eaters.items()},
    }


def read_page(roster: rosters.Roster, rules: str) -> dict[str, Any]:
    """What was read of a group, every line beside its doubts."""
    together, apart, doubts = rosters.read_rules(rules)
    names = {row.name for row in roster.learners}
    gone = sorted({name for pair in (*together, *apart) for name in pair} - names)
    silent = sum(1 for row in roster.learners if not row.shown)
    return {
        "rows": [_read_row(row) for row in roster.rows],
        "said": [*roster.said, *doubts, *([wording.not_in_group(gone)] if gone else [])],
        "counts": wording.counted(len(roster.learners), silent),
    }


def _read_row(row: rosters.Row) -> dict[str, Any]:
    """A line as it was written, and who was read from it."""
    found = row.learner
    return {
        "line": row.line,
        "learner": found,
        "allergies": ", ".join(wording.allergen(name) for name in sorted(found.allergies)) if found else "",
        "shown": ", ".join(wording.shown(name) for name in sorted(found.shown)) if found else "",
        "needs": row.needs,
        "eats": row.eats,
        "doubts": row.doubts,
    }


def split_page(actor: Actor, asked: Mapping[str, str]) -> dict[str, Any]:
    """The fairest split of a group into the benches that were, or what stands against it."""
    names = list(rosters.bench_lines(asked.get("benches", "")))
    learners, rules, doubts = _asked_group(actor, asked)
    together, apart, wrong_rules = rosters.read_rules(rules)
    page: dict[str, Any] = {
        "doubts": [*doubts, *wrong_rules],
        "benches": asked.get("benches", ""),
        "wrong": "",
        "split": None,
    }
    if not learners or not names:
        return {**page, "wrong": wording.nothing_to_split(has_group=bool(learners))}
    how: Allergies = next((word for word in ALLERGIES if word == asked.get("allergies")), "any")
    try:
        found = split(learners, len(names), together=together, apart=apart, allergies=how)
    except CoreError as wrong:
        return {**page, "wrong": error_sentence(wrong)}
    if not found.benches:
        return {**page, "wrong": wording.rules_cannot_be_kept()}
    rows = zip(names, found.benches, strict=True)
    return {
        **page,
        "split": found,
        "says": wording.fairness(found),
        "benches": "\n".join(f"{name}: {', '.join(bench)}" for name, bench in rows),
    }


def check_page(actor: Actor, asked: Mapping[str, str]) -> dict[str, Any]:
    """What stands against the benches as somebody has changed them: who is at two or at none, and rules not kept."""
    benches = rosters.bench_lines(asked.get("benches", ""))
    learners, rules, _doubts = _asked_group(actor, asked)
    together, apart, _wrong = rosters.read_rules(rules)
    seated = [name for names in benches.values() for name in names]
    missing = [row.name for row in learners if row.name not in seated]
    twice = rosters.twice_seated(benches)
    against = [
        *(wording.at_two_benches(name, rows) for name, rows in twice.items()),
        *wording.broken_rules(*rules_broken(benches, together=together, apart=apart)),
        *([wording.nowhere(missing)] if missing else []),
    ]
    return {"against": against, "kept": wording.seated(len(set(seated)), rules=bool(together or apart))}


def _asked_group(actor: Actor, asked: Mapping[str, str]) -> tuple[tuple[Learner, ...], str, tuple[str, ...]]:
    """Who is to be split: the group that was chosen with its own rules, or the lines that were typed."""
    chosen = asked.get("group_id", "")
    if chosen.isdecimal() and len(chosen) < 10:
        group = selectors.groups_for(actor).filter(pk=int(chosen)).first()
        if group:
            return selectors.learners_of(group), "\n".join([group.rules, asked.get("rules", "")]), ()
    roster = rosters.read_roster(asked.get("group", ""))
    return roster.learners, asked.get("rules", ""), roster.doubts
