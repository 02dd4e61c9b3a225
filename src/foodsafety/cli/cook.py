"""Topic ``cook``: core readings of food on the heat against the limit of what is in it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from foodsafety.cli.input import a_list, asked_profile, one_of, optional
from foodsafety.cooking import APPLIANCES, CookVerdict, Probing, cook_verdict, limit_for
from foodsafety.foods import FoodKind, food_kind
from foodsafety.quantities import CoreError, finite
from foodsafety.rules import CookLimit

_SAID = {"not_measured": "cannot_judge", "too_few": "cannot_judge", "confirm": "hold"}


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``cook``. Where nobody says how many ``pieces`` there are, those that were read count."""
    profile = asked_profile(data)
    method = one_of(data, "method", APPLIANCES)
    limit = limit_for(_kinds(data), profile, microwave=method == "microwave", reheat=_reheated(data))
    rows = tuple(_probings(data))
    if limit is None:
        return {"verdict": "cannot_judge", "limit_c": None, "why": ["no-cooking-limit"]}
    found = cook_verdict(
        rows,
        limit,
        profile,
        now_s=_now_s(data, rows),
        off_heat_s=optional(data, "off_heat_s", low=-1e12, high=1e12),
        pieces_needed=int(optional(data, "pieces", low=1, high=1000) or 1),
    )
    return _answer(found, limit)


def _now_s(data: Mapping[str, Any], rows: Sequence[Probing]) -> float:
    """Now, which is never before the last reading."""
    last_s = max((row.at_s for row in rows), default=0.0)
    now_s = optional(data, "now_s", low=-1e12, high=1e12)
    return last_s if now_s is None else max(now_s, last_s)


def _answer(found: CookVerdict, limit: CookLimit) -> dict[str, Any]:
    answer: dict[str, Any] = {
        "verdict": _SAID.get(found.status, found.status),
        "limit_c": limit.main.temperature.c if limit.main else None,
        "why": list(_why(found, limit)),
    }
    if found.status in ("hold", "rest", "confirm"):
        answer["wait_s"] = found.remaining_s
    return answer


def _why(found: CookVerdict, limit: CookLimit) -> Iterator[str]:
    yield f"{limit.food_class} [{limit.section}]"
    if found.lowest_c is not None:
        read = f"{found.pieces} of {found.pieces_needed}"
        yield f"{found.status} {found.lowest_c:.2f} C piece {found.lowest_piece}, {read}"
    if found.hold:
        yield f"hold {found.hold.temperature.value:g} {found.hold.temperature.unit} {found.hold.hold_s:g} s"
    if limit.rest_s or limit.stand_s:
        yield f"rest {limit.rest_s + limit.stand_s:g} s {found.rests_on}".rstrip()
    if limit.observation:
        yield f"observe {limit.observation}"
    if limit.verify:
        yield "verify-locally"


def _kinds(data: Mapping[str, Any]) -> list[FoodKind]:
    names = a_list(data, "kinds", "kinds of food") if data.get("kinds") is not None else [data.get("kind")]
    if not names:
        raise CoreError("kinds", "none_given")
    return [_kind(name) for name in names]


def _kind(name: object) -> FoodKind:
    if not isinstance(name, str):
        raise CoreError("kind", "kind_needed")
    return food_kind(name)


def _reheated(data: Mapping[str, Any]) -> bool:
    value = data.get("reheat", False)
    if not isinstance(value, bool):
        raise CoreError("reheat", "not_true_or_false", value=value)
    return value


def _probings(data: Mapping[str, Any]) -> Iterator[Probing]:
    error_c = optional(data, "error_c", low=0, high=20) or 0.0
    for i, row in enumerate(a_list(data, "readings", "[piece, seconds, Celsius]")):
        if row is None:
            continue
        if not isinstance(row, list) or len(row) != 3:
            raise CoreError(f"readings[{i}]", "not_a_triple")
        if None not in row:
            yield _probing(row, f"readings[{i}]", error_c)


def _probing(row: list[Any], where: str, error_c: float) -> Probing:
    return Probing(
        at_s=finite(row[1], f"{where}[1]", low=-1e12, high=1e12),
        piece=_piece(row[0], f"{where}[0]"),
        core_c=finite(row[2], f"{where}[2]", low=-273.15, high=1000),
        error_c=error_c,
    )


def _piece(value: object, field: str) -> str:
    if isinstance(value, bool) or not isinstance(value, (str, int)):
        raise CoreError(field, "piece_needed")
    return str(value)
