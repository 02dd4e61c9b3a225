"""What somebody has decided about a lesson's plan: plain values, as they are kept and as the planner asks for them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from foodsafety.quantities import CoreError, finite

# What all do at once, how long as a rule [min].
USUAL_MIN = {"review": 0, "show": 5, "eat": 7}
# All at once for longer than this is another lesson.
MOST_AT_ONCE_MIN = 60
MOST_PINS = 40
MOST_MORE = 12
MOST_MIN = 7 * 24 * 60
# The recipe is cooked over two lessons, or in one again; the last change is taken back; of a menu one dish alone is
# cooked (the lesson takes that recipe), or one at each bench, in turn.
SPLIT, JOIN, TAKE_BACK = "split", "join", "take_back"
LEAVE, SHARE_OUT = "leave", "share_out"
Pairs = tuple[tuple[str, int], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Choices:
    """``review_min``, ``show_min``, ``eat_min``: how long all are asked and shown something first, and eat together at
    the end [min]. ``pins``: where a brick is put, by task [min]. ``more``: how many more there will be of something
    shared. ``adults``: how many adults more stand at a bench. ``ready``: steps for which nobody waits, since one is
    brought ready made. ``ahead``: steps done before the lesson. ``smaller``: steps in an oven whose pieces are cut in
    two. ``doers``: who does a task, by initials. ``have``: kinds of food that need not be bought. ``did``: what had to
    be done before the lesson and is done. ``ambient_c``: how warm it will be [C], ``away_h``: how long they are away
    from the fridge [h], where somebody has said so. ``menu``: the recipe of which one dish alone is cooked.
    ``split``: the step after which it stops until a second lesson. ``share``: which dishes of a menu a bench cooks,
    where it is not all of them."""

    review_min: int = USUAL_MIN["review"]
    show_min: int = USUAL_MIN["show"]
    eat_min: int = USUAL_MIN["eat"]
    pins: Pairs = ()
    more: Pairs = ()
    adults: Pairs = ()
    ready: frozenset[str] = frozenset()
    ahead: frozenset[str] = frozenset()
    smaller: frozenset[str] = frozenset()
    doers: tuple[tuple[str, tuple[str, ...]], ...] = ()
    have: frozenset[str] = frozenset()
    did: frozenset[str] = frozenset()
    ambient_c: float | None = None
    away_h: float | None = None
    menu: int | None = None
    split: str = ""
    share: tuple[tuple[str, tuple[str, ...]], ...] = ()

    def minutes(self, name: str) -> int:
        """How long all do something at once [min], by its name in ``USUAL_MIN``."""
        return {"review": self.review_min, "show": self.show_min, "eat": self.eat_min}[name]

    def stored(self) -> dict[str, Any]:
        """As it is kept."""
        return {
            "review_min": self.review_min,
            "show_min": self.show_min,
            "eat_min": self.eat_min,
            "pins": dict(self.pins),
            "more": dict(self.more),
            "adults": dict(self.adults),
            "ready": sorted(self.ready),
            "ahead": sorted(self.ahead),
            "smaller": sorted(self.smaller),
            "doers": {name: list(who) for name, who in self.doers},
            "have": sorted(self.have),
            "did": sorted(self.did),
            "ambient_c": self.ambient_c,
            "away_h": self.away_h,
            "menu": self.menu,
            "split": self.split,
            "share": {bench: list(dishes) for bench, dishes in self.share},
        }

    def with_pin(self, task: str, at_min: int | None) -> Choices:
        """With a brick put somewhere, or let go."""
        return replace(self, pins=_with(self.pins, task, at_min))

    def with_more(self, thing: str, count: int) -> Choices:
        """With so many more of something; none takes them away."""
        return replace(self, more=_with(self.more, thing, count or None))

    def with_adults(self, bench: str, count: int) -> Choices:
        """With so many adults more at a bench."""
        return replace(self, adults=_with(self.adults, bench, count or None))

    def with_share(self, bench: str, dishes: tuple[str, ...]) -> Choices:
        """With the dishes that a bench cooks; none named is all."""
        rows = {**dict(self.share), bench: dishes}
        return replace(self, share=tuple(sorted((name, cooks) for name, cooks in rows.items() if cooks)))

    def with_doers(self, task: str, who: tuple[str, ...]) -> Choices:
        """With who does a task; nobody named leaves it to the plan."""
        rows = {**dict(self.doers), task: who}
        return replace(self, doers=tuple(sorted((name, names) for name, names in rows.items() if names)))


def choices_from(data: Mapping[str, Any]) -> Choices:
    """From what is kept; what is missing in it is as it is at first."""
    return Choices(
        review_min=int(data.get("review_min", USUAL_MIN["review"])),
        show_min=int(data.get("show_min", USUAL_MIN["show"])),
        eat_min=int(data.get("eat_min", USUAL_MIN["eat"])),
        pins=_pairs(data, "pins"),
        more=_pairs(data, "more"),
        adults=_pairs(data, "adults"),
        ready=frozenset(data.get("ready", ())),
        ahead=frozenset(data.get("ahead", ())),
        smaller=frozenset(data.get("smaller", ())),
        doers=tuple(sorted((name, tuple(who)) for name, who in data.get("doers", {}).items())),
        have=frozenset(data.get("have", ())),
        did=frozenset(data.get("did", ())),
        ambient_c=data.get("ambient_c"),
        away_h=data.get("away_h"),
        menu=data.get("menu"),
        split=data.get("split", ""),
        share=tuple(sorted((bench, tuple(dishes)) for bench, dishes in data.get("share", {}).items())),
    )


def _pairs(data: Mapping[str, Any], name: str) -> Pairs:
    return tuple(sorted((key, int(value)) for key, value in data.get(name, {}).items()))


def _with(pairs: Pairs, key: str, value: int | None) -> Pairs:
    rows = {**dict(pairs), key: value}
    return tuple(sorted((name, number) for name, number in rows.items() if number is not None))


def without_steps(choices: Choices) -> Choices:
    """What stands whatever is cooked: nothing of what was decided about steps."""
    none: frozenset[str] = frozenset()
    return replace(choices, pins=(), doers=(), ready=none, ahead=none, smaller=none, share=(), split="")


def changed(choices: Choices, do: str, of: str = "", value: str = "") -> Choices:
    """With one change made: ``do`` to ``of``. Raises CoreError for what is no change, or too many of one."""
    if do == "put":
        found = choices.with_pin(of, _whole(value, "at", MOST_MIN))
        if len(found.pins) > MOST_PINS:
            raise CoreError("put", "too_many_pins", most=MOST_PINS)
        return found
    simple = {
        "leave": lambda: without_steps(choices),
        "share": lambda: choices.with_share(of, tuple(value.splitlines())),
        "split": lambda: replace(without_steps(choices), split=of),
        "join": lambda: replace(without_steps(choices), split=""),
        "share_out": lambda: choices,  # which bench gets which dish is the lesson's to say (services)
        "together": lambda: replace(choices, share=()),
        "let_go": lambda: choices.with_pin(of, None),
        "let_all_go": lambda: replace(choices, pins=()),
        "more": lambda: choices.with_more(of, min(MOST_MORE, dict(choices.more).get(of, 0) + 1)),
        "less": lambda: choices.with_more(of, 0),
        "adult": lambda: choices.with_adults(of, min(MOST_MORE, dict(choices.adults).get(of, 0) + 1)),
        "no_adult": lambda: choices.with_adults(of, 0),
        "review": lambda: replace(choices, review_min=_whole(value, "review", MOST_AT_ONCE_MIN)),
        "show": lambda: replace(choices, show_min=_whole(value, "show", MOST_AT_ONCE_MIN)),
        "eat": lambda: replace(choices, eat_min=_whole(value, "eat", MOST_AT_ONCE_MIN)),
        "ready": lambda: replace(choices, ready=choices.ready | {of}),
        "not_ready": lambda: replace(choices, ready=choices.ready - {of}),
        "ahead": lambda: replace(choices, ahead=choices.ahead | {of}),
        "smaller": lambda: replace(choices, smaller=choices.smaller | {of}),
        "not_smaller": lambda: replace(choices, smaller=choices.smaller - {of}),
        "not_ahead": lambda: replace(choices, ahead=choices.ahead - {of}),
        "ambient": lambda: replace(choices, ambient_c=_number(value, "ambient_c", -20, 60)),
        "away": lambda: replace(choices, away_h=_number(value, "away_h", 0.25, 96)),
        "did": lambda: replace(choices, did=choices.did | {of}),
        "not_did": lambda: replace(choices, did=choices.did - {of}),
        "have": lambda: replace(choices, have=choices.have | {of}),
        "not_have": lambda: replace(choices, have=choices.have - {of}),
        "doer": lambda: choices.with_doers(of, tuple(who for who in value.split(",") if who)),
    }
    if do not in simple:
        raise CoreError("do", "not_one_of", value=do, allowed=("put", *simple))
    return simple[do]()


def _number(value: str, name: str, low: float, high: float) -> float | None:
    """A number as it is written, or None for an empty box."""
    if not value.strip():
        return None
    try:
        return finite(float(value.replace(",", ".")), name, low=low, high=high)
    except ValueError:
        raise CoreError(name, "not_a_number", value=value[:20]) from None


def _whole(value: str, name: str, most: int) -> int:
    number = finite(int(value) if value.isdecimal() and len(value) < 7 else value, name, low=0, high=most)
    return int(number)
