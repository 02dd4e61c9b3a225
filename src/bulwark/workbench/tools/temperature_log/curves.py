"""A log drawn against its limits."""

import math

from bulwark.presentation.charts import Chart, ChartSpec, Curve, Wall, band_words, chart
from bulwark.presentation.phrases import Clock, span
from bulwark.presentation.units import Units, tidy_temp
from bulwark.workbench.tools.temperature_log import wording
from foodsafety.cooling import CoolingVerdict
from foodsafety.measuring import TemperatureLog
from foodsafety.quantities import Series, Temperature

_MOST_DRAWN, _MOST_DOTS = 400, 60


def thinned(series: Series) -> Series:
    """A long log for drawing: of each stretch its highest and lowest, nothing in between."""
    if len(series) <= _MOST_DRAWN:
        return series
    size = math.ceil(2 * len(series) / _MOST_DRAWN)
    found: list[tuple[float, float]] = []
    for start in range(0, len(series), size):
        part = series[start : start + size]
        found += sorted({max(part, key=lambda row: row[1]), min(part, key=lambda row: row[1])})
    return tuple(found)


def stage_walls(verdict: CoolingVerdict) -> tuple[Wall, ...]:
    """A wall for each stage of the rule."""
    start_s = verdict.start_s or 0.0
    return tuple(
        Wall(at_s=row.due_s, limit_c=row.stage.end.c, label=span(row.due_s - start_s)) for row in verdict.stages
    )


def log_chart(
    log: TemperatureLog,
    units: Units,
    *,
    title: str,
    clock: Clock,
    limits: tuple[Temperature, ...],
    walls: tuple[Wall, ...] = (),
) -> Chart:
    """The log over time; what is not believed is marked."""
    drawn, believed = thinned(log.series), set(log.series)
    limits_c = tuple(row.c for row in limits)
    return chart(
        ChartSpec(
            curves=(Curve(kind="actual" if len(drawn) <= _MOST_DOTS else "actual-line", points=drawn),),
            limits=limits_c,
            hot_c=max(limits_c) if len(limits) > 1 else None,
            cold_c=min(limits_c),
            until_s=max(drawn[-1][0] * 1.05, 600.0, *(wall.at_s * 1.08 for wall in walls), 0.0),
            low_c=min(min(c for _s, c in drawn) - 2, min(limits_c) - 5),
            high_c=max(max(c for _s, c in log.kept) + 3, max(limits_c) + 5),
            walls=walls,
            doubted=tuple(row for row in log.kept if row not in believed)[:_MOST_DOTS],
            words=band_words(),
            degrees=lambda c: tidy_temp(c, units),
            clock=clock,
            title=title,
            desc=wording.chart_text(),
        )
    )
