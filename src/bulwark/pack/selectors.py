"""What a lesson's papers hold: worked out from its plan, its recipe's lines and what the kitchen has said."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import Any

from django.utils import timezone

from bulwark.board import selectors as boards
from bulwark.board.choices import Choices
from bulwark.board.selectors import Board
from bulwark.board.wording import oven_words
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from bulwark.pack import wording
from bulwark.pack.models import TalkingPoints
from bulwark.recipes.adapters import to_ingredients
from bulwark.shelf.selectors import Brought, brought_to, brought_to_all, off_the_shelf
from foodsafety.cooling import FrozenPiece, thawing_course
from foodsafety.foods import Locale, food_kind, plain_id
from foodsafety.planning import hot_water_steps, planning_figures, with_what_comes_first
from foodsafety.recipes import Ingredient, KnownFoods, Process, weight_g
from foodsafety.review import ShoppingList, shopping_list

# Short waits are seen at the bench; these are worth a date in a calendar.
LEAST_WAIT_S = 1800


@dataclass(frozen=True, slots=True, kw_only=True)
class Reminder:
    """Something to do before or in a lesson, and when."""

    kind: str
    what: str
    at: dt.datetime
    minutes: int = 15
    why: str = ""
    lesson_id: int = 0
    done: bool = False

    @property
    def key(self) -> str:
        """What it is called where somebody says that it is done."""
        return f"{self.kind}:{self.what}"[:110]

    @property
    def says(self) -> str:
        """In words."""
        return wording.reminder(self.kind, self.what)


# The dates of what goes on by itself: its beginning, and its end.
_DATES = {
    "marinade": ("marinade_in", "marinade_out"),
    "slow_cooker": ("slow_cooker_on", "end"),
    "soak": ("soak", "soak_out"),
}


def waits_as(row: Mapping[str, Any], process: Process) -> str:
    """What a step that goes on by itself is: "marinade", "slow_cooker", "soak", or "" for any other."""
    if row["do"] == "marinate":
        return "marinade"
    kinds = {process.tools[tool].kind for tool in row.get("tools", ()) if tool in process.tools}
    if row["do"] in ("heat", "part_cook") and "slow_cooker" in kinds:
        return "slow_cooker"
    said = f"{row.get('detail') or ''} {row.get('title') or ''}".lower()
    return "soak" if row["do"] == "rest" and "soak" in said else ""


def _took(row: Mapping[str, Any], ahead_min: float) -> dt.timedelta:
    """How long before a lesson a step begins that is done by then, with the work at its end."""
    return dt.timedelta(minutes=float(row.get("minutes") or 0) + ahead_min)


class Pack:
    """A lesson with everything its papers are made of."""

    def __init__(self, lesson: Lesson) -> None:
        self.lesson = lesson

    @classmethod
    def of_all(cls, rows: Sequence[Lesson]) -> list[Pack]:
        """The packs of several lessons of one organisation, with what they share asked for once."""
        decided = boards.decided_of_all(rows)
        known = kitchens.known_foods(rows[0].organisation_id) if rows else {}
        ready_made = brought_to_all(rows)
        lessons.read_benches(rows)
        found = [cls(row) for row in rows]
        for pack in found:
            pack.__dict__["decided"] = decided.get(pack.lesson.pk, Choices())
            pack.__dict__["known"] = known
            pack.__dict__["brought"] = ready_made.get(pack.lesson.pk, [])
        return found

    @cached_property
    def decided(self) -> Choices:
        """What has been decided about its plan."""
        return boards.decided_of(self.lesson)

    @cached_property
    def known(self) -> KnownFoods:
        """Foods its organisation has been asked about."""
        return kitchens.known_foods(self.lesson.organisation_id)

    @cached_property
    def brought(self) -> list[Brought]:
        """What is brought to it ready made."""
        return brought_to(self.lesson)

    @cached_property
    def board(self) -> Board:
        """Its plan."""
        return boards.board_of(self.lesson)

    @cached_property
    def items(self) -> list[Ingredient]:
        """Its recipe's lines as they are now: a lesson keeps steps, not amounts."""
        return to_ingredients(self.lesson.recipe, self.known)

    @cached_property
    def benches(self) -> int:
        """How many make it."""
        return len(lessons.benches_of(self.lesson))

    @cached_property
    def cooked_at(self) -> list[tuple[str, ...]]:
        """For each of the recipe's lines the benches that need it: all, but for a menu whose dishes they share."""
        benches = lessons.benches_of(self.lesson)
        foods = self.lesson.process["foods"].values()
        dish_of = {row["line"]: row.get("dish") for row in foods if row.get("line") is not None}
        return [
            tuple(row.name for row in benches if not row.dishes or dish_of.get(n) in (None, *row.dishes))
            if self._is_bought(n)
            else ()
            for n in range(len(self.items))
        ]

    def _is_bought(self, line: int) -> bool:
        """True for a line that this lesson needs: of two lessons the first buys what it uses and what is in no step,
        the second what the first has not bought."""
        half = self.lesson.half
        if half is None:
            return True
        whole = {row.get("line") for row in self.lesson.recipe.process["foods"].values()}
        here = {row.get("line"): name for name, row in self.lesson.process["foods"].items()}
        if half["n"] == 1:
            return line in here or line not in whole
        return line in here and here[line] not in half["had"]

    @cached_property
    def shopping(self) -> ShoppingList:
        """What to buy for all benches; what is kept for the lesson on the shelf is there already."""
        kept = {name for row in off_the_shelf(self.lesson) for name in (row.food.lower(), plain_id(row.food))}
        return shopping_list(
            [([item], len(benches)) for item, benches in zip(self.items, self.cooked_at, strict=True) if benches],
            self.lesson.recipe.measures,
            prices=kitchens.prices_of(self.lesson.organisation_id),
            have=self.decided.have | kept,
        )

    def weighed(self) -> list[tuple[Ingredient, float | None, tuple[str, ...]]]:
        """What lies on the prep table for each bench, weighed out where it can be [g], and which where it is
        not for all."""
        return [
            (item, weight_g(item, self.lesson.recipe.measures), () if len(at) == self.benches else at)
            for item, at in zip(self.items, self.cooked_at, strict=True)
            if item.food and at
        ]

    # --- dates ---

    def before(self) -> list[Reminder]:
        """What has to be done before the lesson begins, the soonest first; needs no plan."""
        lesson, choices = self.lesson, self.decided
        titles = lessons.step_titles(lesson)
        starts = timezone.localtime(lesson.starts_at)
        day_before = starts.date() - dt.timedelta(days=1)
        shop_at = timezone.make_aware(dt.datetime.combine(day_before, dt.time(_before("shop_hour"))))
        found = [Reminder(kind="shop", what=lesson.title, at=shop_at, minutes=60), *self._thaws(starts)]
        rows = {str(row["id"]): row for row in lesson.process["steps"]}
        ahead_min = _before("ahead_min")
        process = lessons.plan_for(lesson).process
        for step in choices.ready & rows.keys():
            at = starts - _took(rows[step], ahead_min)
            begins, ends = _DATES.get(waits_as(rows[step], process), ("ready", None))
            found.append(Reminder(kind=begins, what=titles[step], at=at, minutes=ahead_min))
            if ends:
                at = starts - dt.timedelta(minutes=ahead_min)
                found.append(Reminder(kind=ends, what=titles[step], at=at, minutes=ahead_min))
        water = hot_water_steps(process)
        for step in with_what_comes_first(process, choices.ahead):
            kind, early_min = ("water", _before("preheat_min")) if step in water else ("ahead", ahead_min)
            at = starts - dt.timedelta(minutes=early_min)
            found.append(Reminder(kind=kind, what=titles[step], at=at, minutes=early_min))
        known = [replace(row, lesson_id=lesson.pk, done=row.key in choices.did) for row in found]
        return sorted(known, key=lambda row: row.at)

    def _thaws(self, starts: dt.datetime) -> Iterator[Reminder]:
        """What is bought frozen and must not be so when it is used."""
        fridge_c = lessons.profile_of(self.lesson).hold["cold"].temperature.c
        needed = self._needed_before(starts)
        for item, at_benches in zip(self.items, self.cooked_at, strict=True):
            kind = food_kind(item.kind) if item.kind else None
            if not at_benches or "frozen" not in item.text.lower() or (kind and kind.group in _before("stays_frozen")):
                continue
            grams = most_g(item, self.lesson.recipe.measures)
            hours = int(_before("unknown_thaw_h"))
            if kind and grams:
                hours = _thaw_hours(kind.id, -(-grams // 100) * 100, fridge_c)
            at = needed.get(self._line_of(item), starts) - dt.timedelta(hours=hours)
            yield Reminder(kind="thaw", what=item.text, at=at, why=wording.thaw_why(hours))
        hours = int(_before("unknown_thaw_h"))
        for what in self._frozen_dishes():
            at = starts - dt.timedelta(hours=hours)
            yield Reminder(kind="thaw", what=what, at=at, why=wording.thaw_why_unknown(hours))

    def _line_of(self, item: Ingredient) -> int:
        return next(n for n, row in enumerate(self.items) if row is item)

    def _needed_before(self, starts: dt.datetime) -> dict[int, dt.datetime]:
        """The recipe's lines of which something is made before the lesson, and when that begins: what is frozen has to
        have thawed by then."""
        process = lessons.plan_for(self.lesson).process
        rows = {str(row["id"]): row for row in self.lesson.process["steps"]}
        foods = self.lesson.process["foods"]
        found: dict[int, dt.datetime] = {}
        for step in process.steps:
            if step.id not in self.decided.ready or step.id not in rows:
                continue
            at = starts - _took(rows[step.id], _before("ahead_min"))
            for part in {part for name in step.foods for part in process.ingredients_of(name)}:
                line = foods.get(part, {}).get("line")
                if line is not None:
                    found[line] = min(at, found.get(line, at))
        return found

    def _frozen_dishes(self) -> list[str]:
        """What comes out of a freezer ready made, or from the first of two lessons."""
        half = self.lesson.half
        kept = [half["kept"]] if half and half["n"] == 2 and half["place"] == "freezer" else []
        return [*kept, *(row.dish.title for row in self.brought if row.dish.place == "freezer")]

    def within(self) -> list[Reminder]:
        """What begins and ends by itself in the lesson, as it is planned."""
        board, found = self.board, []
        titles = lessons.step_titles(self.lesson)
        starts, tasks = board.shown.starts, board.whole.problem.tasks
        heated: set[int | None] = set()
        preheat_min = _before("preheat_min")
        for task in sorted((row for row in tasks.values() if starts and row.oven), key=lambda row: starts[row.id]):
            number = board.shown.ovens.get(task.id)
            if number not in heated:
                heated.add(number)
                at = self.lesson.starts_at + dt.timedelta(seconds=starts[task.id], minutes=-preheat_min)
                words = oven_words(number, task.oven_heat)
                found.append(Reminder(kind="preheat", what=words, at=at, minutes=preheat_min))
        seen: set[str] = set()
        process = lessons.plan_for(self.lesson).process
        rows = {str(row["id"]): row for row in self.lesson.process["steps"]}
        for part in board.whole.parts.values():
            task = tasks[part.id]
            if part.kind != "wait" or not part.step or part.step in seen or task.s < LEAST_WAIT_S or not starts:
                continue
            seen.add(part.step)
            at = self.lesson.starts_at + dt.timedelta(seconds=starts[part.id])
            title = titles[part.step]
            begins, ends = _DATES.get(waits_as(rows[part.step], process), ("begin", "end"))
            found.append(Reminder(kind=begins, what=title, at=at))
            found.append(Reminder(kind=ends, what=title, at=at + dt.timedelta(seconds=task.s)))
        return sorted(found, key=lambda row: row.at)

    # --- what is said while hands are free ---

    def talks(self) -> list[tuple[dt.datetime, str]]:
        """Talking points where most hands are free: each once, about what goes on then, and never while a probe or a
        hand-wash is due."""
        board = self.board
        starts, tasks = board.shown.starts, board.whole.problem.tasks
        if not starts:
            return []
        people = sum(bench.people for bench in board.whole.problem.benches.values())
        points, found = self._points(), []
        for begin_s, end_s, busy in _quiet(starts, tasks):
            if 2 * busy > people or end_s - begin_s < planning_figures()["talk"]["least_s"]:
                continue
            about = [
                part
                for part in board.whole.parts.values()
                if starts[part.id] <= begin_s < starts[part.id] + tasks[part.id].s
            ]
            if any(self._is_check(part.step) for part in about):
                continue
            words = {word for part in about for word in self._words(part.step)}
            point = next((row for row in points if row[0] in words), None) or next(iter(points), None)
            if point is None:
                break
            points.remove(point)
            found.append((self.lesson.starts_at + dt.timedelta(seconds=begin_s), point[1]))
        return found

    def _is_check(self, step: str | None) -> bool:
        return bool(step) and self._step(step).do in ("probe", "wash_hands")

    def _words(self, step: str | None) -> frozenset[str]:
        if not step:
            return frozenset()
        row, process = self._step(step), self.board.process
        parts = {part for name in row.foods for part in process.ingredients_of(name) if part in process.foods}
        return frozenset({row.do, *(soil for part in parts for soil in process.foods[part].soils)})

    def _step(self, step: str | None) -> Any:
        return self.board.process.steps[self.board.process.step_index[str(step)]]

    def _points(self) -> list[tuple[str, str]]:
        pairs = (line.partition(":") for line in talking_of(self.lesson.organisation_id).splitlines())
        return [(about.strip(), words.strip()) for about, _sep, words in pairs if words.strip()]


@lru_cache(maxsize=256)
def _thaw_hours(kind: str, grams: float, fridge_c: float) -> int:
    """How long a food takes to thaw in a fridge at its limit [h], as one ball: no shape of its weight takes longer."""
    radius_m = (3 * grams / 1e6 / (4 * math.pi)) ** (1 / 3)
    piece = FrozenPiece(shape="sphere", size_m=(radius_m,), composition=food_kind(kind).composition)
    took_s = thawing_course(piece, where="fridge", around_c=fridge_c, start_c=_before("freezer_c")).reached_s
    if took_s is None:
        return int(_before("unknown_thaw_h"))
    return max(int(_before("least_thaw_h")), math.ceil(took_s / 3600))


def most_g(item: Ingredient, locale: Locale) -> float | None:
    """What a line weighs at the most [g]: of "2 to 3" three. None where that would be a guess."""
    return weight_g(replace(item, low=item.high), locale)


def _before(name: str) -> Any:
    """A figure of what is done before a lesson."""
    return planning_figures()["before"][name]


def talking_of(organisation_id: int) -> str:
    """What an organisation says while hands are free: its own, or ours where it has written none."""
    row = TalkingPoints.objects.filter(organisation_id=organisation_id).first()
    return row.lines if row else wording.talking_points()


def _quiet(starts: Mapping[str, int], tasks: Mapping[str, Any]) -> Iterator[tuple[int, int, int]]:
    """Stretches between moments at which something begins or ends, with how many people are at work."""
    moments = sorted({at for name, task in tasks.items() for at in (starts[name], starts[name] + task.s)})
    for begin, end in pairwise(moments):
        there = [task for name, task in tasks.items() if starts[name] <= begin < starts[name] + task.s]
        yield begin, end, sum(task.hands for task in there)
