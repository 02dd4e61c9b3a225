"""Food that a bench has put away: until when it keeps, or why it must be thrown away."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.contamination import Finding
from foodsafety.lesson.breaches import SERVED_UNPROVEN
from foodsafety.lesson.changed import changed
from foodsafety.lesson.chilling import Chilling, chilling_of
from foodsafety.lesson.food_state import Part, Place
from foodsafety.lesson.proving import unproven_in
from foodsafety.lesson.standing import clock_of, storage_categories, stored_too_late
from foodsafety.lesson.state import State
from foodsafety.rules import DateMark
from foodsafety.shelf import StorageReason, StoredFood, UseBy, strictest_use_by

Against = Literal["", "breach", "never-proven", "out-too-long"]


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptFood:
    """A food that is put away. ``against`` says why it must be thrown away, whatever its life:
    ``finding`` for a breach, ``unproven`` for what nobody showed to be cooked. ``chilling``: of a part, whether it was
    shown to be cold in time."""

    food: str
    made_at: dt.datetime
    stored_at: dt.datetime
    use_by: UseBy
    against: Against = ""
    finding: Finding | None = None
    unproven: tuple[str, ...] = ()
    chilling: Chilling | None = None

    @property
    def throw_away(self) -> bool:
        """True if it may not be kept."""
        return bool(self.against) or self.use_by.discard

    @property
    def until(self) -> dt.datetime | None:
        """Until when it may be eaten; None where it may not be kept."""
        return None if self.throw_away else self.use_by.use_by


def made_s(state: State, food: str) -> float:
    """When a food was made: shown to be cooked, or the last step that made or heated it."""
    held = state.food(food)
    known = [held.proof.at_s if held.proof else None, held.made_s, held.heated_s]
    fallback = held.kept.at_s if held.kept else 0.0
    return max((at_s for at_s in known if at_s is not None), default=fallback)


def _against(state: State, food: str) -> tuple[Against, Finding | None, tuple[str, ...]]:
    breach = next((i.finding for i in state.open_incidents if i.finding.food == food), None)
    if breach:
        return "breach", breach, ()
    unproven = unproven_in(state, food)
    if unproven and (state.food(food).heated_s is not None or food in state.plan.process.made):
        return "never-proven", None, unproven
    return ("out-too-long", None, ()) if stored_too_late(state, food) else ("", None, ())


def standing_why(state: State, food: str, now_s: float) -> tuple[str, ...]:
    """Why a food must be thrown away now, put away or not: out too long, an open breach, put away and
    never shown to be cooked, or past its life. Empty for food that may be used, and for food that is
    gone. A plate that is only unproven can still be measured, or cooked on."""
    held = state.food(food)
    if held.gone is not None:
        return ()
    why: list[str] = []
    if clock_of(state, food, now_s).standing == "over":
        why.append("out-too-long")
    kept = kept_food(state, food)
    if kept is None:
        breach, finding, _ = _against(state, food)
        lost = breach == "breach" and finding is not None and finding.rule not in SERVED_UNPROVEN
        return (*why, *([finding.rule] if lost and finding else ()))
    if kept.against == "breach" and kept.finding is not None:
        why.append(kept.finding.rule)
    elif kept.against:
        why.append(kept.against)
    if kept.use_by.discard:
        why += [row.rule for row in kept.use_by.why]
    elif kept.use_by.use_by is not None and kept.use_by.use_by.timestamp() < now_s:
        why.append("past-its-date")
    return tuple(dict.fromkeys(why))


def kept_food(
    state: State, food: str, zone: dt.tzinfo = dt.UTC, *, part: Part | None = None, now_s: float | None = None
) -> KeptFood | None:
    """What a label says of a food that is put away, in a time zone; None where it is not. ``part``: of this part of it,
    as it stands at ``now_s`` [s].

    The strictest date of all its categories counts; one that may not be kept there decides.
    """
    kept = state.food(food).kept
    if kept is None:
        return None
    made_at = dt.datetime.fromtimestamp(made_s(state, food), tz=zone)
    stored = StoredFood(made_at=made_at, place=kept.place, out_s=kept.out_s, ambient_c=state.ambient_c)
    if part is not None:
        stored = _as_stored(part, made_at, state.ambient_c, now_s if now_s is not None else part.since_s, zone)
    strictest = strictest_use_by(storage_categories(state, food), state.plan.profile, stored)
    strictest = _as_its_parts(state, food, strictest, stored.place, zone)
    against, finding, unproven = _against(state, food)
    chilling = None
    if part is not None:
        chilling = chilling_of(state, food, part, now_s if now_s is not None else part.since_s)
        strictest = _of_part(part, _as_cooled(part, strictest, chilling), zone)
        strictest = _without_air(part, strictest, state.plan.profile.dates, zone)
    return KeptFood(
        food=food,
        made_at=made_at,
        stored_at=dt.datetime.fromtimestamp(kept.at_s, tz=zone),
        use_by=strictest,
        against=against,
        finding=finding,
        unproven=unproven,
        chilling=chilling,
    )


def _as_its_parts(state: State, food: str, found: UseBy, place: Place, zone: dt.tzinfo) -> UseBy:
    """Nothing keeps longer than what went into it and was kept before, and what was frozen before is frozen again only
    cooked. Source: 3-501.17(D), a dish keeps the date of the ingredient that was made first; the stricter, so for all
    profiles."""
    before = [row for name in (food, *state.plan.behind(food)) if (row := state.food(name).earlier) is not None]
    if not before or found.use_by is None:
        return found
    if place == "freezer" and any(row.thawed for row in before) and state.plan.clock_kind(food) == "cold":
        return UseBy(use_by=None, why=(StorageReason(rule="no-refreezing", section=state.plan.profile.document),))
    own = dt.datetime.fromtimestamp(min(row.until_s for row in before), tz=zone)
    if own >= found.use_by:
        return found
    return UseBy(use_by=own, why=(*found.why, StorageReason(rule="earliest-ingredient")), by_the_hour=True)


def _as_cooled(part: Part, found: UseBy, chilling: Chilling) -> UseBy:
    """Not cold in time is thrown away, whatever its date. What nobody measured has no date either, until a person signs
    for it, nor has what nobody knows how long it was out."""
    if found.use_by is None or (chilling.standing not in ("too-slow", "not-seen") and not part.unknown):
        return found
    if chilling.standing == "too-slow":
        return UseBy(use_by=None, why=(StorageReason(rule="cooled-too-slowly", section=chilling.section),))
    if part.signed is None:
        rule = "nobody-knows-how-long" if part.unknown else "not-seen-cold"
        return UseBy(use_by=None, why=(StorageReason(rule=rule, section=chilling.section),))
    return replace(found, why=(*found.why, StorageReason(rule="signed-for", section=chilling.section)))


def _as_stored(part: Part, made_at: dt.datetime, ambient_c: float | None, now_s: float, zone: dt.tzinfo) -> StoredFood:
    """A part as the storage rules ask for it: what is out is what goes back into the fridge, at best. No moment of it
    is before the food was made."""

    def moment(at_s: float | None) -> dt.datetime | None:
        return None if at_s is None else max(made_at, dt.datetime.fromtimestamp(at_s, tz=zone))

    return StoredFood(
        made_at=made_at,
        place="freezer" if part.place == "freezer" else "fridge",
        out_s=part.out_until(now_s),
        ambient_c=ambient_c,
        frozen_at=moment(part.frozen_s),
        thawed_at=moment(part.thawed_s),
        trips=part.trips,
        refrozen=part.refrozen,
    )


def _of_part(part: Part, found: UseBy, zone: dt.tzinfo) -> UseBy:
    """A part's own date: a person's earlier date counts, what nobody knows is said, and what was heated again before it
    was over is eaten now and never kept."""
    if part.hole_s:
        found = replace(found, why=(*found.why, StorageReason(rule="history-has-a-hole", low=part.hole_s, unit="s")))
    own = dt.datetime.fromtimestamp(part.until_s, tz=zone) if part.until_s is not None else None
    if own is not None and found.use_by is not None and own < found.use_by:
        found = UseBy(use_by=own, why=(*found.why, StorageReason(rule="shortened-by-hand")), by_the_hour=True)
    if part.reheated_s is None or found.use_by is None or found.use_by.timestamp() < part.reheated_s:
        return found
    return UseBy(use_by=None, why=(StorageReason(rule="reheated-once"),))


def _without_air(part: Part, found: UseBy, dates: DateMark, zone: dt.tzinfo) -> UseBy:
    """Packing without air lengthens no date, and shortens it where the rules say so: what grows without air cannot be
    seen or smelt. Its time in the freezer does not count; thawed, it goes on."""
    if part.airless_s is None or found.use_by is None:
        return found
    if dates.airless_max_s is None or part.place == "freezer":
        return replace(
            found, why=(*found.why, StorageReason(rule="vacuum-adds-nothing", section=dates.airless_section))
        )
    frozen_s = max(0.0, part.thawed_s - max(part.frozen_s, part.airless_s)) if part.thawed_s and part.frozen_s else 0.0
    own = dt.datetime.fromtimestamp(part.airless_s + dates.airless_max_s + frozen_s, tz=zone)
    why = StorageReason(rule="packed-without-air", section=dates.airless_section, low=dates.airless_max_s, unit="s")
    if found.use_by <= own:
        return replace(found, why=(*found.why, why))
    return UseBy(use_by=own, why=(*found.why, why), by_the_hour=True)


def would_keep(state: State, food: str, place: Place, now_s: float, zone: dt.tzinfo = dt.UTC) -> KeptFood | None:
    """What a label would say of a food were it put away now: known before anybody does it."""
    held = changed(state.food(food), kept=None).put_away(now_s, place)
    return kept_food(state.with_food(food, held), food, zone)
