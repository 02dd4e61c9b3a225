"""Units as people type them: to SI at the edge, and back for display, never rounded towards safe."""

import math
from dataclasses import dataclass
from typing import Literal

from foodsafety.quantities import Temperature, c_from_f, f_from_c

Temps = Literal["C", "F"]
System = Literal["metric", "us"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Units:
    """What somebody reads and types in."""

    temps: Temps = "C"
    system: System = "metric"


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A kind of quantity: what one of its units is in SI (or in the core's own), in each system."""

    metric: str
    us: str
    metric_si: float = 1.0
    us_si: float = 1.0


MEASURES: dict[str, Measure] = {
    "length": Measure(metric="cm", us="in", metric_si=0.01, us_si=0.0254),
    "volume": Measure(metric="l", us="qt", us_si=0.946353),
    "mass": Measure(metric="kg", us="lb", us_si=0.45359237),
    "grams": Measure(metric="g", us="oz", us_si=28.349523125),
    "altitude": Measure(metric="m", us="ft", us_si=0.3048),
    "millilitres": Measure(metric="ml", us="fl oz", us_si=29.5735),
    "minutes": Measure(metric="min", us="min", metric_si=60.0, us_si=60.0),
    "hours": Measure(metric="h", us="h", metric_si=3600.0, us_si=3600.0),
    "seconds": Measure(metric="s", us="s"),
    "count": Measure(metric="", us=""),
    "percent": Measure(metric="%", us="%"),
    "ppm": Measure(metric="ppm", us="ppm"),
    "coefficient": Measure(metric="W/m²K", us="W/m²K"),
}


def unit_name(measure: str, units: Units) -> str:
    """What stands behind a number."""
    if measure == "temp":
        return f"°{units.temps}"
    row = MEASURES[measure]
    return row.us if units.system == "us" else row.metric


def to_si(value: float, measure: str, units: Units) -> float:
    """A typed number in the core's unit."""
    if measure == "temp":
        return value if units.temps == "C" else c_from_f(value)
    row = MEASURES[measure]
    return value * (row.us_si if units.system == "us" else row.metric_si)


def from_si(value: float, measure: str, units: Units) -> float:
    """The core's number as it is typed."""
    if measure == "temp":
        return value if units.temps == "C" else f_from_c(value)
    row = MEASURES[measure]
    return value / (row.us_si if units.system == "us" else row.metric_si)


def shown(value: float, measure: str, units: Units, *, up: bool | None = None, places: int | None = None) -> str:
    """A number of the core's with its unit, to a sensible number of places; ``up`` rounds it up
    (True) or down (False), wherever the other way would be towards safe."""
    number = from_si(value, measure, units)
    if places is None:
        places = 1 if measure == "temp" or abs(number) < 10 else 0
    scale = 10**places
    if up is not None:
        number = (math.ceil(number * scale - 1e-9) if up else math.floor(number * scale + 1e-9)) / scale
    text = f"{number:.{places}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    text = "0" if text == "-0" else text.replace("-", "\u2212")
    name = unit_name(measure, units)
    return f"{text}\u00a0{name}" if name else text


def temp(celsius: float, units: Units, *, up: bool | None = None, whole: bool = False) -> str:
    """A temperature as it is read."""
    return shown(celsius, "temp", units, up=up, places=0 if whole else None)


def tidy_temp(celsius: float, units: Units) -> str:
    """A temperature on an axis: whole where it is whole."""
    return temp(celsius, units, whole=abs(celsius - round(celsius)) < 0.05)


def limit(row: Temperature, units: Units) -> str:
    """A limit: exact in the unit its source states, else cut to a tenth."""
    if row.unit == units.temps:
        return f"{row.value:g}\u00a0°{row.unit}"
    number = row.c if units.temps == "C" else f_from_c(row.c)
    return f"{number:.1f}".rstrip("0").rstrip(".") + f"\u00a0°{units.temps}"
