"""Recipes somebody may see."""

import json
from functools import cache
from pathlib import Path
from typing import Any

_DEMO = Path(__file__).resolve().parent / "demo"


@cache
def demo_recipe(name: str) -> dict[str, Any]:
    """One of the demo recipes as written in its file."""
    return json.loads((_DEMO / f"{name}.json").read_text(encoding="utf-8"))
