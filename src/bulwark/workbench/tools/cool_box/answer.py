"""Ice or packs for the hours, eat-by in the heat, water without a tap."""

from bulwark.presentation.charts import Chart, ChartSpec, Curve, Wall, band_words, chart
from bulwark.presentation.phrases import clock_word, source_line
from bulwark.presentation.units import tidy_temp
from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.cool_box import wording
from foodsafety.cooling import BoxPlan, BoxTrip, field_water, plan_box

_BEYOND = 1.6
_HOTTEST_DRAWN_C = 40.0


def answer(asked: Asked, setting: Setting) -> Answer:
    """A box for a trip, and the water to carry."""
    profile = setting.rules(asked["code"])
    trip = BoxTrip(
        box=asked["box"],
        cold=asked["cold"],
        ambient_c=asked["ambient"],
        hours=asked["hours"] / 3600,
        food_kg=asked["food_kg"],
        food_c=asked["food_c"],
        keep_c=profile.hold["cold"].temperature.c,
        openings=asked["openings"],
    )
    plan = plan_box(trip, profile, out_before_s=asked["out"])
    water = field_water(people=asked["people"], washes_each=asked["washes"], produce_kg=asked["produce"])
    state, title, text = wording.verdict(plan, trip, profile, setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_chart(plan, trip, setting, title),
        cards=wording.cards(plan, trip, water, asked["out"], setting.units),
        tables=(wording.table(plan, trip),),
        source=source_line(profile, plan.eat.limit.section),
        extra={"good": state == "ahead"},
    )


def _chart(plan: BoxPlan, trip: BoxTrip, setting: Setting, title: str) -> Chart:
    asked_s = trip.hours * 3600
    points = [row for row in plan.with_cold.points if row[0] <= asked_s * _BEYOND]
    without = [row for row in plan.without.points if row[1] < _HOTTEST_DRAWN_C]
    with_cold = points[:: max(1, len(points) // 160)]
    return chart(
        ChartSpec(
            curves=(
                Curve(kind="stay", points=without, label=wording.without_ice()),
                Curve(kind="actual-line", points=with_cold, label=wording.with_cold(plan, setting.units)),
            ),
            limits=(0.0, trip.keep_c, trip.ambient_c),
            cold_c=trip.keep_c,
            until_s=asked_s * _BEYOND,
            low_c=-2.0,
            high_c=max(trip.ambient_c + 2, 12.0),
            walls=(Wall(at_s=asked_s, limit_c=trip.keep_c, label=wording.home_again(asked_s)),),
            words=band_words(),
            degrees=lambda c: tidy_temp(c, setting.units),
            clock=clock_word(None),
            title=title,
            desc=wording.chart_text(),
            height=400.0,
        )
    )
