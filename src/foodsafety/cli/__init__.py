"""The core's command line: ``python -m foodsafety TOPIC < in.json > out.json``, one module a topic.

Bad input: exit status 2 and one JSON error naming the field, on standard output for the
program that reads it and on standard error for the person who redirected it.
"""

from __future__ import annotations

import importlib
import json
import sys
from collections.abc import Callable, Mapping
from typing import Any, NoReturn, cast

from foodsafety.cli.input import an_object
from foodsafety.quantities import CoreError

__all__ = ["MOST_INPUT_BYTES", "TOPICS", "main"]

MOST_INPUT_BYTES = 64 * 1024 * 1024

TOPICS = (
    "lethality",
    "analyse",
    "store",
    "conduct",
    "cooling",
    "parse",
    "cook",
    "clock",
    "coldstore",
    "replay",
    "read",
    "schedule",
)


def _run(topic: str) -> Callable[[Mapping[str, Any]], dict[str, Any]]:
    """A topic's own module, loaded when it is asked for: a cook check waits for no solver."""
    module = importlib.import_module(f"foodsafety.cli.{topic}")
    return cast("Callable[[Mapping[str, Any]], dict[str, Any]]", module.run)


def run_read(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``read`` for a program that has the core loaded."""
    return _run("read")(data)


def _refuse_constant(name: str) -> NoReturn:
    raise CoreError("input", "not_json_number", name=name)


def _read_input() -> object:
    raw = sys.stdin.buffer.read(MOST_INPUT_BYTES + 1)
    if len(raw) > MOST_INPUT_BYTES:
        raise CoreError("input", "too_large", most=MOST_INPUT_BYTES)
    try:
        return json.loads(raw.decode("utf-8"), parse_constant=_refuse_constant)
    except UnicodeDecodeError:
        raise CoreError("input", "not_utf8") from None
    except RecursionError:
        raise CoreError("input", "nested_too_deeply") from None
    except json.JSONDecodeError as wrong:
        raise CoreError("input", "not_json", line=wrong.lineno) from None


def main(argv: list[str] | None = None) -> int:
    """Run one topic on standard input; the exit status."""
    words = sys.argv[1:] if argv is None else argv
    try:
        if len(words) != 1 or words[0] not in TOPICS:
            raise CoreError("topic", "not_one_of", value=" ".join(words), allowed=TOPICS)
        answer = _run(words[0])(an_object(_read_input()))
    except CoreError as wrong:
        return _refuse(wrong)
    json.dump(answer, sys.stdout)
    print()
    return 0


def _refuse(wrong: CoreError) -> int:
    line = json.dumps({"error": {"field": wrong.field, "message": wrong.detail}})
    print(line)
    print(line, file=sys.stderr)
    return 2
