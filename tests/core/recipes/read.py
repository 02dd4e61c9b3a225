"""A text read as it would be pasted, and what came of it."""

from typing import Any

from foodsafety.recipes import Reading, read_recipe


def reading(text: str, *lines: str, title: str = "Supper") -> Reading:
    """A method with its list, in plain English."""
    return read_recipe(f"{title}\n\n" + "\n".join(lines) + f"\n\nMethod\n{text}", "en-GB")


def done(found: Reading) -> list[tuple[str, list[str]]]:
    """The work that was read, and on what."""
    return [(row["do"], row["foods"]) for row in found.data["steps"]]


def step(found: Reading, do: str) -> dict[str, Any]:
    """The first step of a kind."""
    return next(row for row in found.data["steps"] if row["do"] == do)
