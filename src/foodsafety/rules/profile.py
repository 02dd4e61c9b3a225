"""Rule profiles: a jurisdiction's limits, each with its section, loaded from data files."""

from __future__ import annotations

import datetime as dt
import hashlib
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any, Literal

from foodsafety.data import profile_folders, profile_text
from foodsafety.quantities import CoreError, Temperature, Unit, finite, positive

# The model code: where a school says nothing of a thing that must be planned or named, its text stands.
MODEL_CODE = "us-foodservice"

HoldName = Literal["cold", "hot", "freezer"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Hold:
    """A temperature kept for a time [s]."""

    temperature: Temperature
    hold_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CookLimit:
    """One row of a cooking table.

    ``main`` is None where the source gives only an observation ("shells open"): such a row can
    be recorded and can never be measured. ``alternatives`` are holds that the row itself names
    beside the main one; ``equivalents`` are the source's table of other holds, open only to a
    kitchen that has chosen them.
    """

    food_class: str
    main: Hold | None
    rest_s: float = 0.0
    stand_s: float = 0.0
    observation: str = ""
    section: str
    verify: bool = False
    alternatives: tuple[Hold, ...] = ()
    equivalents: tuple[Hold, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockLimit:
    """How long [s] food may be out of temperature control, and what then. ``above`` is the
    surrounding temperature beyond which this stricter clock runs; ``warn_s`` when it may no
    longer go back into the fridge. ``or_more``: the source says "so long or more", so exactly at a
    limit is over it. ``starts_above``: the food's temperature above which the clock runs, where that
    is not the cold holding limit. ``one_period``: food may be out once, not in several trips.
    ``from_control``: only for food that was cold or hot when it was taken out."""

    limit_s: float
    warn_s: float | None = None
    action: str
    section: str
    above: Temperature | None = None
    or_more: bool = False
    starts_above: Temperature | None = None
    one_period: bool = False
    from_control: bool = False

    def over(self, out_s: float) -> bool:
        """True if so long out [s] is too long to eat."""
        return out_s >= self.limit_s if self.or_more else out_s > self.limit_s

    def no_return(self, out_s: float) -> bool:
        """True if so long out [s] is too long to go back into the cold."""
        if self.warn_s is None:
            return self.over(out_s)
        return out_s >= self.warn_s if self.or_more else out_s > self.warn_s


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldLimit:
    """A storage or holding temperature with its section."""

    temperature: Temperature
    section: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolingStage:
    """From one temperature to another within a time [s]; ``needs`` names equipment it presumes."""

    start: Temperature
    end: Temperature
    within_s: float
    needs: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cooling:
    """How cooked food must be cooled: measured stages, and the time [s] it has to reach a fridge.
    ``ambient`` is the stage of food made from ingredients at room temperature, where a profile has one; ``caps``: the
    storage categories that must reach the fridge sooner, and within how long [s]."""

    into_fridge_s: float
    stages: tuple[CoolingStage, ...]
    section: str
    ambient: CoolingStage | None = None
    caps: Mapping[str, float] = field(default_factory=dict)

    def into_fridge_for(self, category: str) -> float:
        """How long [s] cooked food of a storage category has to reach a fridge."""
        return min(self.into_fridge_s, self.caps.get(category, self.into_fridge_s))


@dataclass(frozen=True, slots=True, kw_only=True)
class DateMark:
    """How long [s] cooked food keeps in the fridge. The shorter figure of a range is the limit.
    ``by_the_hour``: the source counts hours, so a date without its hour would say too much.
    ``thawed_max_s``: how long [s] thawed food may be kept at most, where a profile says so; ``airless_max_s``: food
    that was packed without air (vacuum), and where that stands."""

    leftover_min_s: float
    leftover_max_s: float
    caps: Mapping[str, float]
    section: str
    every_ready_food: bool = False
    by_the_hour: bool = False
    thawed_max_s: float | None = None
    airless_max_s: float | None = None
    airless_section: str = ""

    def applies(self, category: str, *, leftover: bool) -> bool:
        """True if the mark caps a storage category: leftovers, or all that is ready to eat."""
        raw = category.startswith("raw_") or category == "eggs_in_shell"
        return leftover or (self.every_ready_food and not raw)

    def cap_s(self, category: str) -> float:
        """The cap [s] for a storage category."""
        return min(self.leftover_min_s, self.caps.get(category, self.leftover_min_s))


@dataclass(frozen=True, slots=True, kw_only=True)
class PartCook:
    """Heating food only part of the way: at most ``limit_s`` [s] of it where the profile says so
    (None: it says none), and then through to the full limit."""

    limit_s: float | None
    section: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """A jurisdiction's limits. Every figure is compared in the unit its source states. A local
    profile lists its ``changes``; those in ``weaker`` are less strict than the base."""

    id: str
    name: str
    document: str
    edition: str
    review_by: dt.date
    local_code: str
    cook: Mapping[str, CookLimit]
    hold: Mapping[str, HoldLimit]
    clocks: Mapping[str, ClockLimit]
    cooling: Cooling
    dates: DateMark
    scrub_s: float
    hands_section: str
    part_cook: PartCook
    pieces: int
    probe_accuracy_c: float | None
    subtract_probe_error: bool
    longest_gap_s: float
    rank: int
    unit: Unit
    spelling: Literal["en-us", "en-gb"]
    allergens: str
    changes: tuple[LocalChange, ...] = ()
    weaker: frozenset[str] = frozenset()

    def clock_for(self, kind: Literal["hot", "cold"], ambient_c: float | None) -> ClockLimit:
        """The clock for food out of temperature control: the strictest that applies.

        An unmeasured ambient cannot show that the hot-weather clock is off; the caller must
        say so beside the verdict.
        """
        rules = [self.clocks[kind]]
        if "leftover" in self.clocks and kind == "hot":
            rules.append(self.clocks["leftover"])
        in_heat = self.clocks.get("in_heat")
        if in_heat and in_heat.above and ambient_c is not None and in_heat.above.passed_by(ambient_c):
            rules.append(in_heat)
        return min(rules, key=lambda rule: rule.limit_s)


def _temperature(row: Mapping[str, Any], field: str, key: str = "temperature") -> Temperature:
    unit: Unit = "F" if row.get("unit") == "F" else "C"
    if row.get("unit") not in ("C", "F"):
        raise CoreError(f"{field}.unit", "unit_needed")
    return Temperature(value=finite(row[key], f"{field}.{key}"), unit=unit)


def _part_cook(data: Mapping[str, Any]) -> PartCook:
    row = data["part_cook"]
    limit_s = row.get("limit_s")
    return PartCook(limit_s=None if limit_s is None else positive(limit_s, "part_cook.limit_s"), section=row["section"])


def _cook(food_class: str, row: Mapping[str, Any], table: tuple[Hold, ...]) -> CookLimit:
    field = f"cook.{food_class}"
    main = None
    if "temperature" in row:
        main = Hold(temperature=_temperature(row, field), hold_s=finite(row.get("hold_s", 0), f"{field}.hold_s", low=0))
    elif not row.get("observation"):
        raise CoreError(field, "no_limit_given")
    return CookLimit(
        food_class=food_class,
        main=main,
        rest_s=finite(row.get("rest_s", 0), f"{field}.rest_s", low=0),
        stand_s=finite(row.get("stand_s", 0), f"{field}.stand_s", low=0),
        observation=row.get("observation", ""),
        section=row["section"],
        verify=bool(row.get("verify", False)),
        alternatives=_alternatives(row.get("alternatives", []), table, field),
        equivalents=table if row.get("equivalents") else (),
    )


def _alternatives(rows: Any, table: tuple[Hold, ...], field: str) -> tuple[Hold, ...]:
    if rows is True:
        return table
    return tuple(
        Hold(temperature=_temperature(row, field), hold_s=finite(row["hold_s"], f"{field}.hold_s", low=0))
        for row in rows
    )


def _clock(name: str, row: Mapping[str, Any]) -> ClockLimit:
    return ClockLimit(
        limit_s=positive(row["limit_s"], f"clock.{name}.limit_s"),
        warn_s=row.get("warn_s"),
        action=row["action"],
        section=row["section"],
        above=_temperature(row, f"clock.{name}", "above") if "above" in row else None,
        or_more=bool(row.get("or_more", False)),
        starts_above=_temperature(row, f"clock.{name}", "starts_above") if "starts_above" in row else None,
        one_period=bool(row.get("one_period", False)),
        from_control=bool(row.get("from_control", False)),
    )


def _stage(stage: Mapping[str, Any], field: str) -> CoolingStage:
    return CoolingStage(
        start=_temperature(stage, field, "from"),
        end=_temperature(stage, field, "to"),
        within_s=positive(stage["within_s"], f"{field}.within_s"),
        needs=stage.get("needs", ""),
    )


def _cooling(row: Mapping[str, Any]) -> Cooling:
    return Cooling(
        into_fridge_s=positive(row["into_fridge_s"], "cooling.into_fridge_s"),
        section=row["section"],
        stages=tuple(_stage(stage, f"cooling.stages[{i}]") for i, stage in enumerate(row["stages"])),
        ambient=_stage(row["ambient"], "cooling.ambient") if "ambient" in row else None,
        caps={name: positive(cap_s, f"cooling.caps.{name}") for name, cap_s in row.get("caps", {}).items()},
    )


def _dates(row: Mapping[str, Any]) -> DateMark:
    thawed_s, airless_s = row.get("thawed_max_s"), row.get("airless_max_s")
    return DateMark(
        leftover_min_s=positive(row["leftover_min_s"], "dates.leftover_min_s"),
        leftover_max_s=positive(row["leftover_max_s"], "dates.leftover_max_s"),
        caps=row.get("caps", {}),
        section=row["section"],
        every_ready_food=bool(row.get("every_ready_food", False)),
        by_the_hour=bool(row.get("by_the_hour", False)),
        thawed_max_s=None if thawed_s is None else positive(thawed_s, "dates.thawed_max_s"),
        airless_max_s=None if airless_s is None else positive(airless_s, "dates.airless_max_s"),
        airless_section=str(row.get("airless_section", "")),
    )


def profile_from_data(data: Mapping[str, Any]) -> Profile:
    table = tuple(
        Hold(temperature=_temperature(row, "equivalents"), hold_s=finite(row["hold_s"], "equivalents.hold_s", low=0))
        for row in data.get("equivalents", [])
    )
    probe = data["probe"]
    return Profile(
        id=data["id"],
        name=data["name"],
        document=data["document"],
        edition=data["edition"],
        review_by=data["review_by"],
        local_code=data["local_code"],
        cook={name: _cook(name, row, table) for name, row in data["cook"].items()},
        hold={
            name: HoldLimit(temperature=_temperature(row, f"hold.{name}"), section=row["section"])
            for name, row in data["hold"].items()
        },
        clocks={name: _clock(name, row) for name, row in data["clock"].items()},
        cooling=_cooling(data["cooling"]),
        dates=_dates(data["dates"]),
        scrub_s=positive(data["hands"]["scrub_s"], "hands.scrub_s"),
        hands_section=data["hands"]["section"],
        part_cook=_part_cook(data),
        pieces=int(positive(probe["pieces"], "probe.pieces")),
        probe_accuracy_c=probe.get("accuracy_c"),
        subtract_probe_error=bool(probe["subtract_error"]),
        longest_gap_s=positive(probe["longest_gap_s"], "probe.longest_gap_s"),
        rank=int(data["rank"]),
        unit="F" if data["unit"] == "F" else "C",
        spelling="en-us" if data["spelling"] == "en-us" else "en-gb",
        allergens=data["allergens"],
    )


@cache
def profile_ids() -> tuple[str, ...]:
    """The profiles shipped, sorted: one folder of data each."""
    return profile_folders()


def profile_digest(profile_id: str) -> str:
    """SHA-256 of every figure and source of a profile, as its files have them: two lessons with the same one were
    judged by the same limits."""
    names = ("limits.toml", "contact_sources.toml", "lethality.toml", "allergens.toml")
    texts = (f"{name}\n{profile_text(profile_id, name)}" for name in names)
    return hashlib.sha256("\n".join(texts).encode()).hexdigest()


@cache
def ranked_profiles() -> tuple[Profile, ...]:
    """Every shipped profile, in the order in which they stand side by side."""
    return tuple(sorted(map(rule_profile, profile_ids()), key=lambda row: (row.rank, row.id)))


@cache
def rule_profile(profile_id: str) -> Profile:
    """A shipped profile. Raises CoreError naming the ones there are."""
    if profile_id not in profile_ids():
        raise CoreError("code", "unknown_profile", value=profile_id, allowed=tuple(profile_ids()))
    return profile_from_data(profile_data(profile_id))


def profile_data(profile_id: str) -> dict[str, Any]:
    """The limits of a profile as its folder has them."""
    return {**tomllib.loads(profile_text(profile_id, "limits.toml")), "id": profile_id}


@dataclass(frozen=True, slots=True, kw_only=True)
class LocalChange:
    """One limit a kitchen has set itself: ``path`` as in "cook.poultry.temperature", the value in
    the unit of its base, who set it, when and why."""

    path: str
    value: float
    by: str
    on: dt.date
    reason: str
