"""The cook check: typed readings of every piece against the limit."""

from collections.abc import Sequence

from bulwark.presentation.charts import Chart, ChartSpec, Curve, chart
from bulwark.presentation.phrases import source_line
from bulwark.presentation.units import temp
from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.cook_check import wording
from foodsafety.cooking import CookCheck, Probing, check_cook, limit_for, organism_kills
from foodsafety.measuring import minutes_seconds, typed_probings
from foodsafety.quantities import CoreError
from foodsafety.rules import CookLimit, Profile

_LIMIT_WITHOUT_ONE_C = 70.0


def _limit(asked: Asked, profile: Profile) -> CookLimit:
    method = asked["method"]
    found = limit_for([asked["food"]], profile, microwave=method == "microwave", reheat=method == "reheat")
    if found is None:
        raise CoreError("food", "no_cooking_limit", name=asked["food"].name)
    return found


def _off_heat_s(asked: Asked) -> float | None:
    text = asked["off"].strip()
    found = minutes_seconds(text) if text else None
    if text and found is None:
        raise CoreError("off", "not_minutes_seconds", value=text[:20])
    return found


def answer(asked: Asked, setting: Setting) -> Answer:
    """The verdict on a cook."""
    profile, units = setting.rules(asked["code"]), setting.units
    limit = _limit(asked, profile)
    error_c = asked["error"] * (5 / 9 if units.temps == "F" else 1.0)
    found = check_cook(
        typed_probings(asked["readings"]),
        limit,
        profile,
        pieces_needed=asked["pieces"],
        unit=units.temps,
        error_c=error_c,
        off_heat_s=_off_heat_s(asked),
    )
    state, title, text = wording.verdict(found, limit, units)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_chart(found, limit, setting, title),
        cards=wording.cards(found.verdict, limit, profile, units),
        tables=(
            wording.piece_table(found.trusted, limit, units),
            wording.kill_table(organism_kills(found.trusted, profile), units),
        ),
        notes=wording.notes(found, asked["seen"], error_c, profile),
        source=source_line(profile, limit.section),
        extra={"good": state == "good"},
    )


def _curves(probings: Sequence[Probing], first_s: float, setting: Setting) -> tuple[Curve, ...]:
    found = []
    for piece in dict.fromkeys(p.piece for p in probings):
        mine = [(p.at_s - first_s, p.core_c) for p in probings if p.piece == piece]
        found.append(Curve(kind="actual", points=mine, label=wording.curve_name(piece, mine[-1][1], setting.units)))
    return tuple(found)


def _chart(found: CookCheck, limit: CookLimit, setting: Setting, title: str) -> Chart:
    probings = found.trusted
    target = limit.main.temperature.c if limit.main else _LIMIT_WITHOUT_ONE_C
    first_s = min(p.at_s for p in probings)
    return chart(
        ChartSpec(
            curves=_curves(probings, first_s, setting),
            limits=(target,),
            hot_c=target,
            until_s=max(120.0, (found.now_s - first_s) * 1.15),
            low_c=min(min(p.core_c for p in probings) - 4, target - 12),
            high_c=max(max(p.core_c for p in probings) + 4, target + 8),
            words=wording.band_words(),
            degrees=lambda c: temp(c, setting.units),
            quiet=True,
            clock=lambda s: wording.minutes_seconds(s + first_s),
            title=title,
            desc=wording.chart_text(),
            height=420.0,
        )
    )
