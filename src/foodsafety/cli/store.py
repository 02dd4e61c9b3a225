"""Topic ``store``: until when food keeps."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Any, Literal

from foodsafety.cli.input import asked_profile
from foodsafety.quantities import CoreError, finite
from foodsafety.shelf import StorageReason, UseBy, use_by

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


def _written(moment: dt.datetime, form: Form) -> str | float:
    if form == "number":
        return moment.timestamp()
    return moment.date().isoformat() if form == "date" else moment.isoformat()


def _times(data: Mapping[str, Any]) -> tuple[dt.datetime, Form, dt.datetime | None]:
    """When it was made, how that was written, and when it was thawed if it was."""
    made_at, form = _moment(data.get("made_at"), "made_at")
    if data.get("thawed_at") is None:
        return made_at, form, None
    thawed_at, _ = _moment(data["thawed_at"], "thawed_at")
    if (thawed_at.tzinfo is None) != (made_at.tzinfo is None):
        raise CoreError("thawed_at", "zones_differ")
    return made_at, form, thawed_at


def _use_by(data: Mapping[str, Any], made_at: dt.datetime, thawed_at: dt.datetime | None) -> UseBy:
    code = asked_profile(data)
    name = data.get("category")
    if not isinstance(name, str):
        raise CoreError("category", "category_needed")
    if data.get("place") not in ("fridge", "freezer"):
        raise CoreError("place", "not_one_of", value=data.get("place"), allowed=("fridge", "freezer"))
    out_s = 60 * finite(data.get("out_minutes") or 0, "out_minutes", low=0, high=1e7)
    try:
        return use_by(name, code, made_at=made_at, place=data["place"], out_s=out_s, thawed_at=thawed_at)
    except (OverflowError, ValueError) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("made_at", "date_out_of_range") from None


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``store``."""
    asked_profile(data)
    made_at, form, thawed_at = _times(data)
    found = _use_by(data, made_at, thawed_at)
    return {
        "use_by": _written(found.use_by, form) if found.use_by else None,
        "why": [_line(reason) for reason in found.why],
    }


def _line(reason: StorageReason) -> str:
    """A reason as one line of fields: rule, figures, section."""
    figures = "-".join(f"{value:g}" for value in (reason.low, reason.high) if value is not None)
    section = f"[{reason.section}]" if reason.section else ""
    return " ".join(filter(None, (reason.rule, figures, reason.unit, section)))
