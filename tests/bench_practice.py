"""How long puzzles take to be made, and a whole lesson as a file."""

from __future__ import annotations

import time

from bulwark.lessons.models import Lesson
from bulwark.records.services import lesson_zip
from foodsafety.practice import KINDS, make
from tests.core.practice.builders import NAMES, material

# Of these a heat model, or every order, is reckoned.
HEAVY = ("cold-in-time", "order", "next")
_OF_EACH = 1000


def slowest_ms(kinds: tuple[str, ...]) -> float:
    """Milliseconds for the slowest of a thousand puzzles of each of these kinds, from the hostel's recipes, once
    what is worked out of a recipe is known."""
    held = [material(name) for name in NAMES]
    worst = 0.0
    for kind in kinds:
        for row in held:
            make(kind, row, seed=0)
        for n in range(_OF_EACH):
            begun = time.perf_counter()
            make(kind, held[n % len(held)], seed=n // len(held), level=1 + n % 3)
            worst = max(worst, time.perf_counter() - begun)
    return 1000 * worst


def light_ms() -> float:
    """The slowest of all kinds but the heavy ones."""
    return slowest_ms(tuple(kind for kind in KINDS if kind not in HEAVY))


def heavy_ms() -> float:
    """The slowest of the heavy ones."""
    return slowest_ms(HEAVY)


def zip_ms() -> float:
    """Milliseconds to write the lesson with the longest log as a file."""
    lesson = Lesson.objects.filter(stock=False).order_by("pk").first()
    if lesson is None:
        return 0.0
    begun = time.perf_counter()
    lesson_zip(lesson)
    return 1000 * (time.perf_counter() - begun)
