"""Time out over several trips, by the clock chosen, with the growth budget beside it."""

from bulwark.presentation.charts import Chart, ChartSpec, Curve, band_words, chart
from bulwark.presentation.phrases import clock_word, source_line
from bulwark.presentation.units import tidy_temp
from bulwark.workbench.answers import Answer
from bulwark.workbench.readings import doubt_sentences, read_typed
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.clocks import wording
from foodsafety.cooling import judge_trips
from foodsafety.measuring import TemperatureLog
from foodsafety.rules import Profile

_USUAL_GUIDE_C = 21.0


def answer(asked: Asked, setting: Setting) -> Answer:
    """Back into the cold, use it now, or throw it away."""
    typed, log = read_typed(asked["readings"], setting.units.temps)
    profile = setting.rules(asked["code"])
    found = judge_trips(
        log.series,
        log.kept,
        profile,
        school=asked["school"],
        ambient_c=asked["ambient"],
        made_from=asked["made_from"] or None,
    )
    state, title, text = wording.verdict(found)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_chart(log, typed.clock_s, profile, setting, title),
        cards=wording.cards(found, profile, setting.units),
        meters=wording.meters(found.budgets),
        tables=(wording.table(found.budgets),),
        notes=(*doubt_sentences(log), *wording.notes(found, asked["ambient"])),
        source=f"{source_line(profile, found.ruled.section)} {wording.growth_source()}",
        extra={"good": state == "good"},
    )


def _chart(log: TemperatureLog, first_s: float | None, profile: Profile, setting: Setting, title: str) -> Chart:
    cold, hot = profile.hold["cold"].temperature, profile.hold["hot"].temperature
    temps = [c for _s, c in log.series]
    believed = set(log.series)
    return chart(
        ChartSpec(
            curves=(Curve(kind="actual", points=log.series),),
            limits=(cold.c, hot.c, _USUAL_GUIDE_C),
            hot_c=hot.c,
            cold_c=cold.c,
            until_s=max(log.series[-1][0] * 1.05, 600.0),
            low_c=min(cold.c - 5, min(temps) - 1),
            high_c=max(max(temps) + 6, 30.0),
            doubted=tuple(row for row in log.kept if row not in believed),
            words=band_words(),
            degrees=lambda c: tidy_temp(c, setting.units),
            clock=clock_word(first_s),
            title=title,
            desc=wording.chart_text(),
            height=380.0,
        )
    )
