"""The slow cooker: how full, by when on, how long in the danger band, what goes in late.

Its contents are reckoned as one well-mixed mass that a constant power heats and that loses heat to
the room: good to some tens of minutes. A thermometer decides; frozen food never goes in.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite, positive

SlowCookerSetting = Literal["low", "high"]
_CP_J_KG_K, _RHO_KG_L = 3700.0, 1.03
_SIMMER_C = 97.0
_STEP_S = 120.0


@cache
def _file() -> Mapping[str, Any]:
    return tomllib.loads(data_text("slow_cooker.toml"))


def crock_sizes_l() -> tuple[float, ...]:
    """The sizes [l] there are figures for."""
    return tuple(float(key) for key in _file()["sizes"])


def danger_band_c() -> tuple[float, float]:
    """The band [C] that food must pass quickly."""
    danger = _file()["danger"]
    return float(danger["low_c"]), float(danger["high_c"])


@dataclass(frozen=True, slots=True, kw_only=True)
class CrockFill:
    """How full a cooker is, as a share; "under" burns and cooks too fast, "over" too slowly."""

    share: float
    standing: Literal["under", "good", "over"]
    least_l: float
    most_l: float


def crock_fill(volume_l: float, size_l: float) -> CrockFill:
    """How full a cooker of a size is with so much in it; a half and two thirds are still good."""
    share = positive(volume_l, "volume_l") / positive(size_l, "size_l")
    limits = _file()["fill"]
    standing: Literal["under", "good", "over"] = (
        "under" if share < limits["least"] else "over" if share > limits["most"] else "good"
    )
    return CrockFill(share=share, standing=standing, least_l=limits["least"] * size_l, most_l=limits["most"] * size_l)


@dataclass(frozen=True, slots=True, kw_only=True)
class WarmUp:
    """The predicted course [(s, C)] and the time [s] in the danger band; ``out_s`` when it leaves
    it (None: it never does). ``within``: by the limit of about four hours."""

    course: tuple[tuple[float, float], ...]
    in_band_s: float | None
    out_s: float | None
    limit_s: float
    within: bool


def _size(size_l: float) -> Mapping[str, float]:
    sizes = _file()["sizes"]
    found: Mapping[str, float] | None = sizes.get(f"{size_l:g}" if f"{size_l:g}" in sizes else f"{size_l:.1f}")
    if found is None:
        raise CoreError("size_l", "not_one_of", value=size_l, allowed=tuple(sizes))
    return found


def warm_up(
    *,
    volume_l: float,
    size_l: float,
    setting: SlowCookerSetting,
    start_c: float,
    room_c: float = 20.0,
    lid_lifts_s: Sequence[float] = (),
    high_first_s: float = 0.0,
    until_s: float = 10 * 3600.0,
) -> WarmUp:
    """How the contents warm. ``high_first_s`` [s] on high before the setting; each lift of the lid
    costs the longer of its figures. Raises CoreError for frozen food and for sizes without figures."""
    finite(start_c, "start_c", low=-60, high=100)
    if start_c < 0:
        raise CoreError("start_c", "frozen", start_c=start_c)
    pot = _size(size_l)
    high_s = _on_high_s(setting, high_first_s)
    finite(volume_l, "volume_l", low=0.1, high=size_l)
    finite(room_c, "room_c", low=-10, high=45)
    lifts = sorted(finite(one, "lid_lifts_s", low=0, high=until_s) for one in lid_lifts_s)
    rows = _course(pot, volume_l, start_c=float(start_c), room_c=room_c, lifts=lifts, high_s=high_s, until_s=until_s)
    return _through_the_band(rows)


def _on_high_s(setting: SlowCookerSetting, high_first_s: float) -> float:
    if setting not in ("low", "high"):
        raise CoreError("setting", "not_one_of", value=setting, allowed=("low", "high"))
    return math.inf if setting == "high" else high_first_s


def _course(
    pot: Mapping[str, float],
    volume_l: float,
    *,
    start_c: float,
    room_c: float,
    lifts: Sequence[float],
    high_s: float,
    until_s: float,
) -> list[tuple[float, float]]:
    """The contents over time [(s, C)], on high for ``high_s`` [s] and on low after that."""
    heat_j_k = volume_l * _RHO_KG_L * _CP_J_KG_K + pot["pot_j_k"]
    lid_s, loss = _file()["lid"]["most_s"], pot["loss_w_k"]
    temp, time_s, lost_s = start_c, 0.0, 0.0
    rows = [(0.0, temp)]
    while time_s < until_s:
        # A lid that is lifted stands the heating still for as long as it costs.
        lost_s += sum(lid_s for one in lifts if time_s <= one < time_s + _STEP_S)
        if lost_s > 0:
            lost_s -= _STEP_S
        else:
            steady_c = room_c + pot["high_w" if time_s < high_s else "low_w"] / loss
            temp = _one_step(temp, steady_c, loss / heat_j_k)
        time_s += _STEP_S
        rows.append((time_s, temp))
    return rows


def _one_step(temp_c: float, steady_c: float, rate: float) -> float:
    """Towards the steady temperature at a rate [1/s], but never above a simmer."""
    return min(_SIMMER_C, steady_c + (temp_c - steady_c) * math.exp(-_STEP_S * rate))


def _through_the_band(rows: Sequence[tuple[float, float]]) -> WarmUp:
    danger = _file()["danger"]
    out_s = _reaches_s(rows, danger["high_c"])
    in_s = next((t for t, c in rows if c > danger["low_c"]), 0.0)
    in_band_s = None if out_s is None else max(0.0, out_s - in_s)
    return WarmUp(
        course=tuple(rows),
        in_band_s=in_band_s,
        out_s=out_s,
        limit_s=danger["limit_s"],
        within=in_band_s is not None and in_band_s <= danger["limit_s"],
    )


def _reaches_s(rows: Sequence[tuple[float, float]], high_c: float) -> float | None:
    """When the contents first reach a temperature [s]; None: never."""
    crossings = (
        t0 + (t1 - t0) * (high_c - c0) / (c1 - c0) for (t0, c0), (t1, c1) in pairwise(rows) if c0 < high_c <= c1
    )
    return next(crossings, 0.0 if rows[0][1] >= high_c else None)


@dataclass(frozen=True, slots=True, kw_only=True)
class SlowCookerTimes:
    """A hob recipe in a slow cooker: hours on low and high, and the liquid to use [ml]."""

    low_s: tuple[float, float]
    high_s: tuple[float, float]
    liquid_ml: tuple[float, float]


def slow_cooker_times(*, simmer_s: float, liquid_ml: float) -> SlowCookerTimes:
    """The times and the liquid of a hob recipe: hardly anything boils away under the lid, so half
    to two thirds of the liquid is enough. Soups keep theirs."""
    positive(simmer_s, "simmer_s")
    finite(liquid_ml, "liquid_ml", low=0, high=50_000)
    row = next((row for row in _file()["convert"] if simmer_s <= 60 * row["upto_min"]), None)
    if row is None:
        raise CoreError("simmer_s", "cooks_too_long", hours=simmer_s / 3600)
    low, high = (tuple(3600.0 * hours for hours in row[key]) for key in ("low_h", "high_h"))
    return SlowCookerTimes(
        low_s=(low[0], low[1]), high_s=(high[0], high[1]), liquid_ml=(liquid_ml / 2, liquid_ml * 2 / 3)
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class CookWindow:
    """From the serving time backwards [s before it]: on at the latest and at the earliest, and when
    what must not cook long goes in."""

    latest_s: float
    earliest_s: float
    late_from_s: float
    late_to_s: float


def cook_window(cook_s: tuple[float, float], *, lid_lifts: int = 0, rest_s: float = 600.0) -> CookWindow:
    """When it must be switched on, counted back from serving: the longer figure of each range, and
    the longer cost of every lift of the lid, decide the latest moment."""
    if lid_lifts < 0:
        raise CoreError("lid_lifts", "below", value=lid_lifts, low=0)
    lid, late = _file()["lid"], _file()["late"]
    latest = cook_s[1] + lid_lifts * lid["most_s"] + rest_s
    return CookWindow(
        latest_s=latest,
        earliest_s=latest + 3600.0,
        late_from_s=late["most_s"] + rest_s,
        late_to_s=late["least_s"] + rest_s,
    )


def _hourly_lifts_s(lid_lifts: int, takes_s: float) -> list[float]:
    """The lid lifted once an hour while it cooks [s]."""
    return [3600.0 * n for n in range(1, lid_lifts + 1) if 3600.0 * n < takes_s]


@dataclass(frozen=True, slots=True, kw_only=True)
class SlowCookerPlan:
    """A slow-cooker dish planned: how full, its hours, its course, and when it must be on."""

    standing: Literal["too_long_in_band", "under", "over", "planned"]
    fill: CrockFill
    times: SlowCookerTimes
    takes_s: tuple[float, float]
    warm_up: WarmUp
    window: CookWindow
    lid_lifts: int


def plan_slow_cooker(
    *,
    volume_l: float,
    size_l: float,
    setting: SlowCookerSetting,
    high_first: bool,
    start_c: float,
    room_c: float,
    simmer_s: float,
    liquid_ml: float,
    lid_lifts: int,
) -> SlowCookerPlan:
    """A hob recipe taken into a slow cooker, its lid lifted once an hour. Raises CoreError where it
    does not fit."""
    fill = crock_fill(volume_l, size_l)
    if volume_l > size_l:
        raise CoreError("volume", "does_not_fit_cooker", volume_l=volume_l, size_l=size_l)
    times = slow_cooker_times(simmer_s=simmer_s, liquid_ml=liquid_ml)
    takes_s = times.low_s if setting == "low" else times.high_s
    lifts_s = _hourly_lifts_s(lid_lifts, takes_s[1])
    went = warm_up(
        volume_l=volume_l,
        size_l=size_l,
        setting=setting,
        start_c=start_c,
        room_c=room_c,
        lid_lifts_s=lifts_s,
        high_first_s=3600.0 if high_first else 0.0,
        until_s=takes_s[1] + 3600,
    )
    full: Literal["under", "over", "planned"] = "planned" if fill.standing == "good" else fill.standing
    return SlowCookerPlan(
        standing=full if went.within else "too_long_in_band",
        fill=fill,
        times=times,
        takes_s=takes_s,
        warm_up=went,
        window=cook_window(takes_s, lid_lifts=len(lifts_s)),
        lid_lifts=len(lifts_s),
    )
