"""A changed copy of a frozen record, as quick as a fold of thousands of entries needs it."""

from __future__ import annotations

from typing import Any, TypeVar

_Record = TypeVar("_Record")


def changed(record: _Record, **fields: Any) -> _Record:
    """The record with some of its fields changed: what ``dataclasses.replace`` does, without calling
    ``__init__`` for all the others. Only for frozen dataclasses without slots, whose fields check
    nothing; a field that does not exist raises AttributeError."""
    known = record.__dict__
    values = {**known, **fields}
    if len(values) != len(known):
        raise AttributeError(", ".join(sorted(fields.keys() - known.keys())))
    copy = object.__new__(type(record))
    object.__setattr__(copy, "__dict__", values)
    return copy
