"""How full, on by when, how long in the danger band."""

from bulwark.presentation.charts import Chart, ChartSpec, Curve, band_words, chart
from bulwark.presentation.phrases import clock_word
from bulwark.presentation.units import temp
from bulwark.workbench.answers import Answer
from bulwark.workbench.readings import asked_clock
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.slow_cooker import wording
from foodsafety.cooking import SlowCookerPlan, danger_band_c, plan_slow_cooker


def answer(asked: Asked, setting: Setting) -> Answer:
    """A hob recipe in a slow cooker."""
    serve_s = asked_clock(asked, "serve")
    plan = plan_slow_cooker(
        volume_l=asked["volume"],
        size_l=float(asked["size"]),
        setting="low" if asked["setting"] == "high_first" else asked["setting"],
        high_first=asked["setting"] == "high_first",
        start_c=asked["start"],
        room_c=asked["room"],
        simmer_s=asked["simmer"],
        liquid_ml=asked["liquid"],
        lid_lifts=asked["lifts"],
    )
    state, title, text = wording.verdict(plan, setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_chart(plan, setting, title),
        cards=wording.cards(plan, asked, serve_s, setting.units),
        tables=(wording.table(plan, setting.units),),
        notes=wording.notes(),
        source=wording.source(),
        extra={"good": plan.warm_up.within},
    )


def _chart(plan: SlowCookerPlan, setting: Setting, title: str) -> Chart:
    low_c, high_c = danger_band_c()
    course = plan.warm_up.course
    kind = "stay-good" if plan.warm_up.within else "stay"
    return chart(
        ChartSpec(
            curves=(Curve(kind=kind, points=course[:: max(1, len(course) // 150)], label=wording.curve_name()),),
            limits=(low_c, high_c),
            hot_c=high_c,
            cold_c=low_c,
            until_s=course[-1][0],
            low_c=-2.0,
            high_c=104.0,
            words=band_words(),
            degrees=lambda c: temp(c, setting.units, whole=True),
            clock=clock_word(None),
            title=title,
            desc=wording.chart_text(),
            height=420.0,
        )
    )
