"""Topic ``store``: until when food keeps."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Any, Literal

from foodsafety.cli.input import asked_profile, optional
from foodsafety.quantities import CoreError, finite
from foodsafety.shelf import StorageReason, StoredFood, UseBy, storage_category, use_by

Form = Literal["number", "date", "datetime"]


def _moment(value: object, field: str) -> tuple[dt.datetime, Form]:
    """A moment given as ISO 8601 or as seconds since 1970."""
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        seconds = finite(value, field, low=-6e10, high=2e11)
        return dt.datetime(1970, 1, 1, tzinfo=dt.UTC) + dt.timedelta(seconds=seconds), "number"
    if not isinstance(value, str):
        raise CoreError(field, "not_a_moment")
    try:
        moment = dt.datetime.fromisoformat(value)
    except ValueError:
        raise CoreError(field, "not_a_moment") from None
    return moment, ("date" if len(value.strip()) == 10 else "datetime")


def _written(found: UseBy, form: Form) -> str | float | None:
    """The date in the form it was asked in; with its hour where the limit counts hours."""
    moment = found.use_by
    if moment is None:
        return None
    if form == "number":
        return moment.timestamp()
    return moment.date().isoformat() if form == "date" and not found.by_the_hour else moment.isoformat()


def _other_moment(data: Mapping[str, Any], field: str, made_at: dt.datetime) -> dt.datetime | None:
    if data.get(field) is None:
        return None
    moment, _ = _moment(data[field], field)
    if (moment.tzinfo is None) != (made_at.tzinfo is None):
        raise CoreError(field, "zones_differ")
    return moment


def _stored(data: Mapping[str, Any], made_at: dt.datetime) -> StoredFood:
    if data.get("place") not in ("fridge", "freezer"):
        raise CoreError("place", "not_one_of", value=data.get("place"), allowed=("fridge", "freezer"))
    return StoredFood(
        made_at=made_at,
        place=data["place"],
        out_s=60 * finite(data.get("out_minutes") or 0, "out_minutes", low=0, high=1e7),
        ambient_c=optional(data, "hottest_c", low=-60, high=60),
        frozen_at=_other_moment(data, "frozen_at", made_at),
        thawed_at=_other_moment(data, "thawed_at", made_at),
    )


def _category(data: Mapping[str, Any]) -> str:
    name = data.get("category")
    if not isinstance(name, str):
        raise CoreError("category", "category_needed")
    return storage_category(name).id


def _use_by(data: Mapping[str, Any]) -> tuple[UseBy, Form]:
    code, name = asked_profile(data), _category(data)
    made_at, form = _moment(data.get("made_at"), "made_at")
    try:
        return use_by(name, code, _stored(data, made_at)), form
    except (OverflowError, ValueError) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("made_at", "date_out_of_range") from None


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``store``."""
    found, form = _use_by(data)
    return {
        "use_by": _written(found, form),
        "throw_away": found.discard,
        "why": [_line(reason) for reason in found.why],
    }


def _line(reason: StorageReason) -> str:
    """A reason as one line of fields: rule, figures, section."""
    figures = "-".join(f"{value:g}" for value in (reason.low, reason.high) if value is not None)
    section = f"[{reason.section}]" if reason.section else ""
    return " ".join(filter(None, (reason.rule, figures, reason.unit, section)))
