"""What people see of a process beside its steps, in its plain data: the sentences it was read from, those
nobody understood, and what somebody said of each finding. All of it may come from a file, so it is checked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from foodsafety.quantities import CoreError

MOST_ROWS = 2000
LONGEST_SENTENCE = 2000
LONGEST_REASON = 200
Answer = Literal["slip", "cannot"]
# What somebody says of a finding that stays: it is kept to be taught, or it cannot happen here.
ANSWERS: tuple[Answer, ...] = ("slip", "cannot")
# What a sentence that was read may say all the same: raw food is eaten or left raw, what it lay in comes again, food
# stands in the warm or is kept for too long.
DANGERS = frozenset({"tasting", "left_raw", "used_again", "left_out", "kept_long", "not_always", "warmed", "at_risk"})
FINDING_KEY = ("rule", "step", "food", "soil", "path")


def mapping(value: object, where: str) -> Mapping[str, Any]:
    """A value as an object; nothing is an empty one. Raises CoreError naming the place."""
    if value is None:
        return {}
    if not isinstance(value, Mapping) or not all(isinstance(key, str) for key in value):
        raise CoreError(where, "not_an_object")
    return value


def _rows(top: Mapping[str, Any], name: str) -> list[tuple[str, Mapping[str, Any]]]:
    rows = top.get(name) or ()
    if isinstance(rows, (str, bytes)) or not isinstance(rows, Sequence):
        raise CoreError(name, "not_a_list")
    if len(rows) > MOST_ROWS:
        raise CoreError(name, "too_many_sentences", most=MOST_ROWS)
    return [(f"{name}[{i}]", mapping(row, f"{name}[{i}]")) for i, row in enumerate(rows)]


def _text(row: Mapping[str, Any], key: str, where: str) -> str:
    text = row.get(key)
    if not isinstance(text, str) or not text.strip():
        raise CoreError(f"{where}.{key}", "not_a_text", value=text)
    return text[:LONGEST_SENTENCE]


def unread_rows(top: Mapping[str, Any], name: str = "unread") -> tuple[dict[str, Any], ...]:
    """The sentences of a process in plain data that nobody has understood yet, or ("aside") that order
    nothing: ``text``, ``holds`` (it may hide a hazard), ``after`` (the step read before it), ``says`` (which of
    ``DANGERS`` one that was read speaks of, or ""). Raises CoreError for what is none."""
    return tuple(
        {
            "text": _text(row, "text", where),
            "holds": row.get("holds") is not False,
            "after": str(row.get("after") or ""),
            "says": str(row["says"]) if row.get("says") in DANGERS else "",
        }
        for where, row in _rows(top, name)
    )


def told_rows(top: Mapping[str, Any]) -> tuple[dict[str, str], ...]:
    """The sentences of the method that a process was read from, in their order: ``text`` and what it was
    ``taken`` for. A step's ``sentence`` is the place of its own. Raises CoreError for what is none."""
    return tuple(
        {"text": _text(row, "text", where), "taken": _text(row, "taken", where)} for where, row in _rows(top, "told")
    )


def accepted_rows(top: Mapping[str, Any]) -> tuple[dict[str, str], ...]:
    """What somebody said of findings that stay: the finding's ``rule``, ``step``, ``food`` and ``soil``,
    ``how`` ("slip": kept to be taught; "cannot": it cannot happen here, for a ``reason``). Raises CoreError
    naming the field that is wrong."""
    found = []
    for where, row in _rows(top, "accepted"):
        how = _text(row, "how", where)
        if how not in ANSWERS:
            raise CoreError(f"{where}.how", "not_one_of", value=how, allowed=ANSWERS)
        reason = str(row.get("reason") or "").strip()[:LONGEST_REASON]
        if how == "cannot" and not reason:
            raise CoreError(f"{where}.reason", "reason_needed")
        found.append({**{key: str(row.get(key) or "") for key in FINDING_KEY}, "how": how, "reason": reason})
    return tuple(found)


def finding_key(finding: Any) -> tuple[str, ...]:
    """What tells a finding from others while the steps stay: its rule, step, food, soil and path. An answer
    for a path over the board says nothing of one over the hands."""
    return (finding.rule, finding.step, finding.food, finding.soil, " ".join(finding.path))


def finding_name(finding: Any) -> str:
    """The same as one text, for a form."""
    return "|".join(finding_key(finding))


def accepted(top: Mapping[str, Any]) -> dict[tuple[str, ...], dict[str, str]]:
    """What somebody said of each finding, by what tells it from others."""
    return {tuple(row[key] for key in FINDING_KEY): row for row in accepted_rows(top)}


def accept(top: Mapping[str, Any], key: Sequence[str], how: str, reason: str = "") -> dict[str, Any]:
    """The process with a finding, by its ``finding_key``, said to be kept as a slip, or to be impossible here
    for a reason. Raises CoreError for another answer, and for no reason."""
    row = {**dict(zip(FINDING_KEY, key, strict=True)), "how": how, "reason": reason}
    others = [row for other, row in accepted(top).items() if other != tuple(key)]
    changed = {**top, "accepted": [*others, row]}
    return {**changed, "accepted": list(accepted_rows(changed))}
