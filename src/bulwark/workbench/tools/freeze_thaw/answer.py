"""In by when, out by when, then where."""

from bulwark.presentation.charts import Chart, ChartSpec, Curve, chart
from bulwark.presentation.phrases import clock_word, source_line
from bulwark.presentation.units import tidy_temp
from bulwark.workbench.answers import Answer
from bulwark.workbench.readings import asked_clock
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.freeze_thaw import wording
from foodsafety.cooling import FreezePlan, FrozenPiece, plan_freezing, plan_thawing
from foodsafety.rules import Profile


def _piece(asked: Asked) -> FrozenPiece:
    half = asked["thick"] / 2
    return FrozenPiece(
        shape=asked["shape"],
        size_m=(half, 2 * half, 3 * half) if asked["shape"] == "brick" else (half,),
        composition=asked["food"].composition,
        covers=(asked["wrap"],) if asked["wrap"] else (),
    )


def answer(asked: Asked, setting: Setting) -> Answer:
    """Freezing or thawing, planned back from when it must be ready."""
    profile, units = setting.rules(asked["code"]), setting.units
    freezing = asked["way"] == "freeze"
    plan = (plan_freezing if freezing else plan_thawing)(
        _piece(asked), profile, where=asked["where"], around_c=asked["around"], start_c=asked["start"]
    )
    state, title, text = wording.verdict(plan, asked["thick"], asked["where"], units)
    if plan.took_s is None:
        return Answer(state=state, title=title, text=text)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_chart(plan, plan.took_s, asked["around"], profile, setting, title),
        cards=wording.cards(plan, plan.took_s, asked["by"], asked_clock(asked, "by")),
        tables=(wording.table(plan, units),),
        notes=wording.notes(),
        source=source_line(profile, profile.hold["freezer" if freezing else "cold"].section),
        extra={"good": state != "breach"},
    )


def _chart(plan: FreezePlan, took_s: float, around_c: float, profile: Profile, setting: Setting, title: str) -> Chart:
    course, cold_c = plan.course, profile.hold["cold"].temperature.c
    middle = list(zip(course.times_s.tolist(), course.centre_c.tolist(), strict=True))
    skin = list(zip(course.times_s.tolist(), course.surface_c.tolist(), strict=True))
    every = max(1, len(middle) // 160)
    temps = [c for _s, c in middle]
    thinned = [*middle[::every], middle[-1]]
    return chart(
        ChartSpec(
            curves=(
                Curve(kind="way", points=skin[::every], label=wording.outside()),
                Curve(kind="actual-line", points=thinned, label=wording.middle(), end_text=wording.after(took_s)),
            ),
            limits=(-18.0, 0.0, cold_c, around_c),
            cold_c=cold_c,
            until_s=float(course.times_s[-1]) * 1.12,
            low_c=min(min(temps), around_c) - 3,
            high_c=max(max(temps), around_c, 6) + 3,
            words=wording.band_words(),
            degrees=lambda c: tidy_temp(c, setting.units),
            clock=clock_word(None),
            title=title,
            desc=wording.chart_text(),
            height=420.0,
        )
    )
