"""What the bench is shown of a food that has to be measured: its pieces against the limit, what its
readings say so far, and which piece to probe next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from bulwark.bench import drawings as bench_drawings
from bulwark.bench import wording as bench_wording
from bulwark.bench.owed import as_json
from bulwark.lessons import log_wording
from bulwark.presentation import phrases
from foodsafety.cooking import CookVerdict
from foodsafety.lesson import State, lacking_of, pieces_needed, thrown_away, verdict_of
from foodsafety.quantities import Temperature

MOST_PIECES = 8  # more bars than this cannot be read on the tablet


@dataclass(frozen=True, slots=True, kw_only=True)
class Measuring:
    """A food to measure: the piece that is next, how one piece is called, and the limit in words."""

    food: str
    one: str
    piece: str
    limit: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ProbedPieces:
    """The core of every piece asked for, by its name [°C], and which to probe next."""

    core_c: dict[str, float | None]
    next: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Tablet:
    """What a drawing of the bench needs besides the state: the pieces the recipe names, the moment
    [s], the unit shown, and by the lesson's plan until when each step should be done [s], and by whom."""

    pieces: Mapping[str, Any]
    now_s: float
    unit: str
    planned: Mapping[str, float] = field(default_factory=dict)
    doers: Mapping[str, str] = field(default_factory=dict)
    # Moments are those of the clock on the wall, as a tablet without a network has them too: not in a rehearsal.
    wall_clock: bool = True

    def one(self, food: str) -> str:
        """How one piece of a food is called; the panel names the food itself."""
        return str(self.pieces.get(food, {}).get("one") or bench_wording.a_piece())

    def count(self, state: State, food: str) -> int:
        """How many pieces of a food are shown: as many as have to be probed, or more if there are more."""
        counted = state.food(food).counted
        there = counted if counted is not None else int(self.pieces.get(food, {}).get("count", 0))
        return min(MOST_PIECES, max(there, pieces_needed(state, food)))


def settled(state: State, food: str) -> bool:
    """True if nothing more has to be measured of a food: it is proven, or thrown away."""
    return state.food(food).proof is not None or thrown_away(state, food)


def may_go_on(state: State, foods: Sequence[str], now_s: float) -> bool:
    """True if every food is settled, or rests towards it: then the lesson need not stand still."""
    return all(settled(state, food) or _resting(state, food, now_s) for food in foods)


def _resting(state: State, food: str, now_s: float) -> bool:
    verdict = verdict_of(state, food, now_s)
    return verdict is not None and verdict.status == "rest"


def measuring(state: State, food: str, tablet: Tablet) -> Measuring | None:
    """What to type a reading of next, or None where no temperature is published for the food."""
    verdict = verdict_of(state, food, tablet.now_s)
    control = state.plan.core_control(food)
    if verdict is None or control is None or control.limit is None:
        return None
    one = tablet.one(food)
    following = _probed_pieces(state, food, tablet, verdict).next
    return Measuring(food=food, one=one, piece=following, limit=_limit_words(verdict, one, tablet))


def _limit_words(verdict: CookVerdict, one: str, tablet: Tablet) -> str:
    return log_wording.verdict_text(verdict, one, tablet.unit).then


def probe_extra(state: State, foods: Sequence[str], probe: Sequence[str], tablet: Tablet) -> dict[str, Any]:
    """What a probing panel needs: of several foods the first that is still to be shown speaks."""
    food = _next_to_probe(state, foods, tablet.now_s)
    one = tablet.one(food)
    verdict = verdict_of(state, food, tablet.now_s)
    control = state.plan.core_control(food)
    if verdict is None or control is None:
        return {"food": food, "one": one, "verdict": None, "chart": None, "reached": True}
    if control.limit is None:
        return _seen_extra(state, food, verdict, tablet)
    probed = _probed_pieces(state, food, tablet, verdict)
    return {
        "food": food,
        "one": one,
        "measure": measuring(state, food, tablet),
        "verdict": log_wording.verdict_text(verdict, one, tablet.unit),
        "reached": may_go_on(state, [n for n in foods if n in state.plan.provable], tablet.now_s),
        "counts": _counts(state, food),
        "off": state.food(food).off_heat_s is None and verdict.status in ("rest", "reached"),
        "probe_tools": probe[:1],
        "probe_soiled": bool(probe and state.surfaces.get(probe[0])),
        "probe_done": bench_wording.cleaned(probe[:1]),
        "chart": _probe_chart(state, probed, one, control.limit, tablet.unit),
        "owed": _owed(state, foods) if tablet.wall_clock else "",
    }


def _owed(state: State, foods: Sequence[str]) -> str:
    """What is still to be read here, for a tablet without a network."""
    left = [name for name in foods if name in state.plan.provable and not settled(state, name)]
    return as_json(lacking_of(state, left), state)


def _seen_extra(state: State, food: str, verdict: CookVerdict, tablet: Tablet) -> dict[str, Any]:
    """A food that its source gives no temperature for: what has to be seen."""
    one = tablet.one(food)
    return {
        "food": food,
        "one": one,
        "verdict": log_wording.verdict_text(verdict, one, tablet.unit),
        "reached": settled(state, food),
        "sights": bench_wording.sights(),
        "chart": None,
    }


def _counts(state: State, food: str) -> tuple[tuple[int, bool], ...]:
    """Numbers of pieces to choose from, up to as many as the rules want probed, and which one holds."""
    rule = state.plan.cook_rules.get(food)
    most = rule.needed if rule else 0
    now = pieces_needed(state, food)
    return tuple((n, n == now) for n in range(1, most + 1)) if most > 1 else ()


def anything_to_measure(state: State, tablet: Tablet) -> tuple[dict[str, Any], ...]:
    """Every food that is there now, with what its next reading is called: a temperature can be taken
    at any moment, whatever the step."""
    there = [
        n for n, held in state.foods.items() if not held.settled and (held.made_s is not None or _raw_there(state, n))
    ]
    return tuple(_measurable(state, food, tablet) for food in there)


def _raw_there(state: State, food: str) -> bool:
    """True for an ingredient that has not gone into anything yet."""
    into = [name for name in state.plan.ahead(food) if state.food(name).made_s is not None]
    return food in state.plan.process.foods and not into


def _measurable(state: State, food: str, tablet: Tablet) -> dict[str, Any]:
    of = measuring(state, food, tablet)
    if of is not None:
        return {"food": food, "kind": "core_read", "piece": of.piece, "one": of.one, "limit": of.limit}
    hot = state.food(food).heated_s is not None or state.food(food).on_heat_s is not None
    return {"food": food, "kind": "core_read" if hot else "cold_read", "piece": "", "one": "", "limit": ""}


def _next_to_probe(state: State, foods: Sequence[str], now_s: float) -> str:
    """The first food that has still to be shown; one that rests only when no other waits, for every new
    reading would begin its rest again. The first one when all are shown."""
    waiting = [name for name in foods if name in state.plan.provable and not settled(state, name)]
    return next((name for name in waiting if not _resting(state, name, now_s)), (waiting or foods)[0])


def _probed_pieces(state: State, food: str, tablet: Tablet, verdict: CookVerdict) -> ProbedPieces:
    count = tablet.count(state, food)
    latest = {p.piece: p.core_c for p in state.food(food).readings}
    names = [str(i) for i in range(1, count + 1)]
    lowest = verdict.lowest_piece if verdict.status in ("below", "confirm") else None
    return ProbedPieces(
        core_c={name: latest.get(name) for name in names},
        next=lowest or next((name for name in names if name not in latest), "1"),
    )


def _piece_status(name: str, core_c: float | None, limit: Temperature, following: str) -> str:
    if core_c is None:
        return "next" if name == following else "todo"
    return "laid" if limit.met_by(core_c) else "due"


def _probe_chart(
    state: State, probed: ProbedPieces, one: str, limit: Temperature, unit: str
) -> bench_drawings.PieceChart:
    hot = state.plan.profile.hold["hot"].temperature
    rows = []
    for name, core_c in probed.core_c.items():
        status = _piece_status(name, core_c, limit, probed.next)
        shown = phrases.whole_degrees(core_c, unit) if core_c is not None else ""
        rows.append((f"{one} {name}", core_c, shown, bench_wording.piece_word(status), status))
    return bench_drawings.piece_chart(
        rows,
        limit_c=limit.c,
        hot_c=hot.c,
        limit_text=phrases.short_limit(limit, unit),
        hot_text=phrases.short_limit(hot, unit),
    )
