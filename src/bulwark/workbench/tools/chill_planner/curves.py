"""A chill plan drawn: readings, what is to come, other ways, and the walls of the rule."""

from collections.abc import Sequence

from bulwark.presentation.charts import Chart, ChartSpec, Curve, Wall, band_words, chart
from bulwark.presentation.phrases import Clock
from bulwark.presentation.units import Units, tidy_temp
from bulwark.workbench.places import place_name
from bulwark.workbench.tools.chill_planner import wording
from foodsafety.cooling import ChillOutlook, ChillPlan, stages_of
from foodsafety.measuring import TemperatureLog


def outlook_chart(look: ChillOutlook, log: TemperatureLog, clock: Clock, units: Units, title: str) -> Chart:
    """Everything about a batch in one drawing."""
    stages = stages_of(look.situation.profile)
    hot, cold = stages[0].start.c, min(stage.end.c for stage in stages)
    return chart(
        ChartSpec(
            curves=(
                Curve(kind="actual", points=log.series),
                *_stay_curve(look),
                *(_way_curve(look, kind, plan, cold, clock) for kind, plan in _drawn_ways(look.better)),
            ),
            limits=tuple(sorted({stage.end.c for stage in stages} | {hot})),
            hot_c=hot,
            cold_c=cold,
            until_s=look.until_s,
            low_c=min(cold - 5, 0.0),
            high_c=max(hot + 12, max(c for _s, c in log.kept) + 4),
            walls=_walls(look),
            band=tuple((at_s, low, high) for at_s, low, _middle, high in look.ahead),
            now=(look.situation.now_s, look.situation.now_c),
            doubted=tuple(sorted(set(log.kept) - set(log.series))),
            words=band_words(),
            degrees=lambda c: tidy_temp(c, units),
            clock=clock,
            title=title,
            desc=wording.chart_text(),
        )
    )


def _stay_curve(look: ChillOutlook) -> tuple[Curve, ...]:
    if len(look.stay) < 2:
        return ()
    kind = "stay-good" if look.final.verdict == "pass" else "stay"
    note = wording.where_from(forecast=bool(look.ahead))
    return (Curve(kind=kind, points=look.stay, label=wording.as_it_is(), note=note),)


def _drawn_ways(better: Sequence[ChillPlan]) -> list[tuple[str, ChillPlan]]:
    """The best way with trays and the best with ice: more would not be told apart."""
    found: dict[str, ChillPlan] = {}
    for plan in better:
        found.setdefault("bath" if "ice" in plan.way.where else "way", plan)
    return list(found.items())


def _way_curve(look: ChillOutlook, kind: str, plan: ChillPlan, cold_c: float, clock: Clock) -> Curve:
    now = look.situation
    until_s = plan.cold_s or look.until_s
    points = [row for row in plan.course.series(now.now_c, now.now_s) if row[0] <= until_s]
    if plan.cold_s is not None:
        points.append((plan.cold_s, cold_c))
    return Curve(
        kind=kind,
        points=points,
        label=wording.boxes(plan) if kind == "way" else place_name(plan.way.where),
        end_text=clock(plan.cold_s) if plan.cold_s else "",
    )


def _walls(look: ChillOutlook) -> tuple[Wall, ...]:
    rows = look.final.stages
    start_s = look.final.start_s if look.final.start_s is not None else look.situation.now_s
    walls = []
    for n, row in enumerate(rows):
        hit_c = look.stays_at_c(row.due_s)
        over = hit_c is not None and row.stage.end.passed_by(hit_c)
        label = wording.wall_name(n, len(rows), row.due_s - start_s, row.stage.within_s)
        walls.append(Wall(at_s=row.due_s, limit_c=row.stage.end.c, label=label, hit_c=hit_c if over else None))
    return tuple(walls)
