# ruff: noqa: E501 - a list to look through
"""Values nobody means well with, and some that somebody does."""

import json
import random
from typing import Any

TEXTS = (
    "", " ", "\x00", "a\x00b", "\ud800", "\udfff\ud83d", "\ufeff", "\u202e", "\u0000" * 9, "\r\n", "'", '"', "\\", "%00", "%s",
    "{}", "<b>", "</script><a ", "../../etc/passwd", "-", "=1+1", "None", "null", "true", "NaN", "inf", "-Infinity", "1e309",
    "-1", "0", "-0", "1e-320", "0.1e999", "1/0", "½", "٣", "9" * 400, "9" * 4301, "1" + "0" * 24, "-" + "9" * 400, "1_000",
    "0x10", "1,5", "1e400", "2026-02-30", "0001-01-01T00:00", "9999-12-31T23:59", "10000-01-01", "25:61", "T", "2026-06-13T11:26:04+99:99",
    "x" * 200, "x" * 5_000, "é" * 400, "🥘" * 90, "a,b;c:d", "on", "undo", "place", "en-XX", "us-home", "koftas", "AK", "C", "F", "K",
    "bake for " + "1" + "0" * 24 + " hours", "Fry the lamb for 9 minutes.\n" * 40, "<html>" + "<a " * 300, "{" * 300, "[" * 300,
    '{"@type":"Recipe"', "time,channel,celsius\n0001-01-01T00:00:00Z,1,5", "http://[", "//evil.example", "abc", "javascript:alert(1)",
)  # fmt: skip
NUMBERS: tuple[Any, ...] = (
    0, -1, 1, 10**24, -(10**24), 10**400, 2**31, 2**63, 1e308, -1e308, 5e-324, float("nan"), float("inf"), -0.0, True, False, 0.333333,
)  # fmt: skip


def deep(levels: int) -> Any:
    """Lists in lists."""
    found: Any = []
    for _ in range(levels):
        found = [found]
    return found


def text(draw: random.Random) -> str:
    """A value of a form's field."""
    found = draw.choice(TEXTS)
    return found + draw.choice(TEXTS) if draw.random() < 0.15 else found


def anything(draw: random.Random) -> Any:
    """A value of a JSON document."""
    kind = draw.random()
    if kind < 0.45:
        return text(draw)
    if kind < 0.75:
        return draw.choice(NUMBERS)
    if kind < 0.85:
        return draw.choice([None, [], {}, [None], {"": None}, [[[]]], deep(60)])
    return {text(draw): draw.choice(NUMBERS)} if kind < 0.92 else [text(draw), draw.choice(NUMBERS)]


def changed(value: Any, draw: random.Random, *, often: float = 0.25) -> Any:
    """A JSON value with some of what is in it replaced, anywhere."""
    if draw.random() < often:
        return anything(draw)
    if isinstance(value, dict):
        found = {key: changed(one, draw, often=often) for key, one in value.items() if draw.random() > 0.05}
        return found | ({text(draw): anything(draw)} if draw.random() < 0.1 else {})
    if isinstance(value, list):
        return [changed(one, draw, often=often) for one in value]
    return value


def as_json(value: Any, draw: random.Random) -> bytes:
    """The document as bytes: mostly whole, now and then cut off, eight hundred lists deep or no UTF-8."""
    kind = draw.random()
    if kind < 0.02:
        return b"[" * 800 + b"]" * 800
    if kind < 0.04:
        return b'{"id": "\xff\xfe"}'
    whole = json.dumps(value).encode("utf-8", "surrogatepass")
    return whole[: draw.randrange(len(whole) + 1)] if kind < 0.08 else whole
