"""Which bench cooks which dishes of a menu."""

from __future__ import annotations

from dataclasses import replace

from bulwark.board.choices import Choices
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from foodsafety.recipes import dishes_in


def shared_out(choices: Choices, lesson: Lesson) -> Choices:
    """With one dish of the lesson's menu at each bench, in turn."""
    dishes = dishes_in(lesson.process)
    for n, bench in enumerate(lessons.benches_of(lesson) if dishes else ()):
        choices = choices.with_share(bench.name, (dishes[n % len(dishes)],))
    return choices


def cooked_now(choices: Choices, lesson: Lesson) -> Choices:
    """With the dishes that each bench cooks, as the lesson has them: a copy of a lesson has them without a change."""
    rows = ((bench.name, tuple(bench.dishes)) for bench in lessons.benches_of(lesson) if bench.dishes)
    return replace(choices, share=tuple(sorted(rows)))
