"""What planning assumes, from its data file."""

import tomllib
from collections.abc import Mapping
from functools import cache
from typing import Any

from foodsafety.data import data_text


@cache
def figures() -> Mapping[str, Any]:
    """The whole of planning.toml."""
    return tomllib.loads(data_text("planning.toml"))


def may_be_added() -> tuple[str, ...]:
    """What can be had once more for a lesson."""
    return tuple(figures()["added"]["things"])


def behind_s() -> int:
    """A bench that is so long behind its plan is called out [s]."""
    return int(figures()["behind"]["call_s"])


def long_wait_s() -> int:
    """What is waited for so long is worth bringing ready made [s]."""
    return int(figures()["added"]["long_wait_s"])
