"""What is known of one food at a bench: readings, heat, proof, clocks, where it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import reduce
from typing import Literal

from foodsafety.contamination import Trace
from foodsafety.cooking import CookRule, Probing, ShownSoFar, reading_order
from foodsafety.lesson.changed import changed
from foodsafety.shelf import Clock

Soils = Mapping[str, Trace]
Place = Literal["fridge", "freezer"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Proof:
    """A food shown to be cooked: since when [s], what the end of its rest rests on, and the soils
    that this ended, by carrier, on the surfaces and in the food itself: should a later reading take
    the proof back, they are there again."""

    at_s: float
    rests_on: str = ""
    ended: Mapping[str, Soils] = field(default_factory=dict)
    ended_inside: Mapping[str, Soils] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """Food put away: when [s], where, and how long [s] it had been out."""

    at_s: float
    place: Place
    out_s: float


PartPlace = Literal["fridge", "freezer", "out"]
PartEnd = Literal["eaten", "discarded", "sent_home", "used", "missing"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """What a part stands in: ``count`` of a kind of container with so much [l] in all of them (None: nobody has said),
    and how it is covered."""

    container: str
    count: int = 1
    litres: float | None = None
    wrap: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Signed:
    """A person signed for food of which nobody has measured that it was cold in time, or that was to go earlier: when
    [s], in what name, and why."""

    at_s: float
    signer: str
    reason: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Earlier:
    """A food that was kept before it came to this bench: until when [s] it keeps, and whether it had been frozen."""

    until_s: float
    thawed: bool


@dataclass(frozen=True, kw_only=True)
class Part:
    """Some portions of a food that is kept: all of it at first, or what was split off. ``portions``: how many, None
    where nobody has counted. ``since_s``: in its ``place`` since then. ``out_s``: out of temperature control so far,
    over all trips that have ended; one goes on while it is out. ``trips``: how often it has left the cold.
    ``frozen_s``, ``thawed_s``: first into the freezer, first out of it; ``refrozen``: into it again after that.
    ``reheated_s``: heated again, ``hot_since_s``: read at its limit since then, ``hot``: shown to be hot enough for
    long enough. ``prints``: how often its labels were printed. ``hole_s``: for so long nobody knows where it was, or
    how warm; ``unknown``: nobody knows for how long either; ``judged_s``: up to when somebody has said how
    warm its store was. ``until_s``: a date that a person has set, and that is
    never later than its own. ``cold``: its readings while it was kept [(s, C)]; ``box``: what it stands in;
    ``airless_s``: first packed without air (vacuum) then;
    ``signed``: who answers for what was not measured; ``seen_s``: when somebody who went through the shelf saw it.
    ``ended``: how it ended."""

    place: PartPlace
    since_s: float
    portions: int | None = None
    store: str = ""
    out_s: float = 0.0
    trips: int = 0
    frozen_s: float | None = None
    thawed_s: float | None = None
    refrozen: bool = False
    reheated_s: float | None = None
    hot_since_s: float | None = None
    hot: bool = False
    prints: int = 0
    hole_s: float = 0.0
    unknown: bool = False
    judged_s: float | None = None
    until_s: float | None = None
    cold: tuple[tuple[float, float], ...] = ()
    box: Box | None = None
    airless_s: float | None = None
    signed: Signed | None = None
    seen_s: float | None = None
    ended: PartEnd | None = None
    ended_s: float | None = None

    def out_until(self, at_s: float) -> float:
        """Seconds out of temperature control up to a moment."""
        return self.out_s + (max(0.0, at_s - self.since_s) if self.place == "out" else 0.0)

    def moved(self, at_s: float, place: PartPlace, store: str) -> Part:
        """In another place. Out of the freezer is thawed, wherever it goes; time out is never given back."""
        first_frozen = at_s if place == "freezer" and self.frozen_s is None else self.frozen_s
        thaws = self.place == "freezer" and place != "freezer" and self.thawed_s is None
        return changed(
            self,
            place=place,
            store=store,
            since_s=at_s,
            out_s=self.out_until(at_s),
            trips=self.trips + (place == "out" != self.place),
            frozen_s=first_frozen,
            thawed_s=at_s if thaws else self.thawed_s,
            refrozen=self.refrozen or (place == "freezer" != self.place and self.thawed_s is not None),
        )

    def end(self, at_s: float, how: PartEnd) -> Part:
        """Gone: nothing more becomes of it."""
        return changed(self, out_s=self.out_until(at_s), since_s=at_s, ended=how, ended_s=at_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class Gone:
    """Food eaten or thrown away, or left out of the meal before anything of it was begun."""

    at_s: float
    how: Literal["eaten", "discarded", "not_made"]


_NEVER_OUT = Clock()


@dataclass(frozen=True, kw_only=True)
class FoodState:
    """One food at one bench.

    ``readings`` are those of the cook it is in now, ``shown`` what they show so far, ``cold`` those of
    its chilling [(s, C)].
    ``on_heat_s`` is set while it is on the heat; ``heated_s`` when a heat step with it was done,
    ``off_heat_s`` when somebody said it came off, ``handled_s`` when it was last handled. ``clock`` runs
    while it is out of temperature control, ``raw`` is the time it spent out before it went on the heat:
    held against it until it is shown to be cooked. ``rest_over_s`` is when its rest will be over.
    ``parts``: what is kept of it, part by part. ``earlier``: it came off a shelf, and its history goes along;
    ``batches``: those on its packets.
    ``reheating``: it was ready, is being heated again, and must be shown hot. ``category`` is the
    storage category that a person has said, ``counted`` how many pieces of it somebody has counted.
    """

    readings: tuple[Probing, ...] = ()
    shown: ShownSoFar | None = None
    cold: tuple[tuple[float, float], ...] = ()
    seen: tuple[str, ...] = ()
    on_heat_s: float | None = None
    heated_s: float | None = None
    off_heat_s: float | None = None
    clock: Clock = _NEVER_OUT
    raw: Clock | None = None
    proof: Proof | None = None
    rest_over_s: float | None = None
    reheating: bool = False
    made_s: float | None = None
    handled_s: float | None = None
    category: str = ""
    counted: int | None = None
    kept: Kept | None = None
    gone: Gone | None = None
    earlier: Earlier | None = None
    batches: tuple[str, ...] = ()
    parts: Mapping[str, Part] = field(default_factory=dict)

    def read(self, probing: Probing, rule: CookRule | None) -> FoodState:
        """With one more reading, in the order in which readings count."""
        if not self.readings or self.readings[-1].at_s < probing.at_s:
            shown = rule.after(self.shown or rule.nothing, probing) if rule else None
            return changed(self, readings=(*self.readings, probing), shown=shown)
        rows = tuple(sorted((*self.readings, probing), key=reading_order))
        return changed(self, readings=rows, shown=reduce(rule.after, rows, rule.nothing) if rule else None)

    def unread(self) -> FoodState:
        """As if nothing had been read of it: what was proves nothing any more."""
        return changed(self, readings=(), shown=None, proof=None, rest_over_s=None)

    @property
    def discarded(self) -> bool:
        """True if it was thrown away."""
        return self.gone is not None and self.gone.how == "discarded"

    @property
    def settled(self) -> bool:
        """True if it is put away, eaten or thrown away."""
        return self.kept is not None or self.gone is not None

    def put_away(self, at_s: float, place: Place) -> FoodState:
        """Put into the cold, with the time it had been out until then."""
        kept = Kept(at_s=at_s, place=place, out_s=self.out_s(at_s))
        frozen_s = at_s if place == "freezer" else None
        whole = Part(place=place, since_s=at_s, out_s=kept.out_s, frozen_s=frozen_s)
        return changed(self.under_control(at_s), kept=kept, parts={"1": whole})

    def out_s(self, now_s: float) -> float:
        """Seconds out of temperature control, over every trip. Cooking gives back the time spent raw,
        and only once it is shown; heating ready food again gives nothing back."""
        before_s = self.raw.total_s(now_s) if self.raw and self.proof is None else 0.0
        return before_s + self.clock.total_s(now_s)

    def on_the_heat(self, at_s: float, *, raw: bool) -> FoodState:
        """Put on the heat: no longer standing out."""
        if self.on_heat_s is not None:
            return self
        clock = self.clock.back(at_s)
        if raw and self.raw is None and self.proof is None:
            return changed(self, on_heat_s=at_s, off_heat_s=None, raw=clock, clock=Clock())
        return changed(self, on_heat_s=at_s, off_heat_s=None, clock=clock)

    @property
    def on_since_s(self) -> float | None:
        """When it is known to have been on the heat first; None where it was not."""
        return next((at for at in (self.on_heat_s, self.off_heat_s, self.heated_s) if at is not None), None)

    @property
    def off_since_heated(self) -> bool:
        """True if somebody said it came off the heat, and its step was not tapped since."""
        return self.off_heat_s is not None and (self.heated_s is None or self.off_heat_s > self.heated_s)

    def heat_done(self, at_s: float, *, raw: bool) -> FoodState:
        """Its heat step is done: off the heat then, unless somebody said when."""
        if self.off_since_heated and self.on_heat_s is None:
            return changed(self, heated_s=at_s)
        return changed(self.on_the_heat(at_s, raw=raw).under_control(at_s), on_heat_s=None, heated_s=at_s)._out(at_s)

    def _out(self, at_s: float) -> FoodState:
        return changed(self, clock=self.clock.out(at_s))

    def off_the_heat(self, at_s: float, *, raw: bool) -> FoodState:
        """Said to be off the heat: out of control from then on, not from when its step was tapped."""
        food = self
        if self.heated_s is None:
            food = self.on_the_heat(at_s, raw=raw)
        elif self.handled_s is None or self.handled_s < self.heated_s:
            food = changed(self, clock=Clock(spent_s=self.clock.spent_s))
        return changed(food, on_heat_s=None, off_heat_s=at_s)._out(at_s)

    def handled(self, at_s: float) -> FoodState:
        """Out on the bench. Food that nobody took off the heat was off it since its last reading."""
        since_s = at_s
        if self.on_heat_s is not None:
            since_s = max((row.at_s for row in self.readings), default=self.on_heat_s)
        since_s = since_s if self.on_heat_s is None else max(since_s, self.on_heat_s)
        return changed(self, on_heat_s=None, handled_s=at_s, clock=self.clock.out(since_s))

    def safe_at(self, at_s: float) -> FoodState:
        """Read at a safe temperature: the trip it is on begins only now."""
        if self.clock.since_s is None:
            return self
        return changed(self, clock=Clock(spent_s=self.clock.spent_s, since_s=max(at_s, self.clock.since_s)))

    def under_control(self, at_s: float) -> FoodState:
        """Back in the cold, or no longer there to be kept."""
        return changed(self, clock=self.clock.back(at_s))
