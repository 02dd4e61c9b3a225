"""The core's command line: ``python -m foodsafety TOPIC < in.json > out.json``.

Bad input: exit status 2 and one JSON error naming the field, on standard output for the
program that reads it and on standard error for the person who redirected it.
"""

from __future__ import annotations

import datetime as dt
import json
import math
import sys
from collections.abc import Callable, Mapping
from typing import Any, Literal, NoReturn

from foodsafety.contamination import Cleared, Finding, analyse, rule_source, severity
from foodsafety.cooking import CREDIT_FLOOR_C, Kinetics, lethality_of
from foodsafety.cooling import judge_cooling
from foodsafety.foods import AllergenSet, allergen_tag, allergens_for, locale_from, soil_tag
from foodsafety.heat import (
    LONGEST_S,
    SIZES,
    Body,
    ConstantProperties,
    FoodProperties,
    Surroundings,
    composition_from,
    conduct,
)
from foodsafety.ordering import best_order, washes_as_written
from foodsafety.quantities import CoreError, finite, positive, tidy_readings
from foodsafety.recipes import Ingredient, Process, process_from, read_ingredient
from foodsafety.rules import House, Profile, house_from, rule_profile
from foodsafety.shelf import use_by

MOST_INPUT_BYTES = 64 * 1024 * 1024


def _object(data: object) -> Mapping[str, Any]:
    if not isinstance(data, Mapping):
        raise CoreError("input", "a JSON object is needed")
    return data


def _profile(data: Mapping[str, Any]) -> Profile:
    code = data.get("code")
    if not isinstance(code, str):
        raise CoreError("code", "the id of a rule profile is needed")
    return rule_profile(code)


def run_lethality(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``lethality``."""
    rows = data.get("readings")
    if not isinstance(rows, list):
        raise CoreError("readings", "a list of [seconds, Celsius] is needed")
    death = Kinetics(
        t_ref_c=finite(data.get("t_ref_c"), "t_ref_c", low=-273.15, high=1000),
        d_ref_s=finite(data.get("d_ref_s"), "d_ref_s"),
        z_c=finite(data.get("z_c"), "z_c"),
    )
    floor = data.get("floor_c")
    floor_c = CREDIT_FLOOR_C if floor is None else finite(floor, "floor_c", low=-273.15, high=1000)
    gap = data.get("longest_gap_s")
    gap_s = math.inf if gap is None else positive(gap, "longest_gap_s")
    found = lethality_of(tidy_readings(rows, counts="lower"), death, floor_c=floor_c, longest_gap_s=gap_s)
    return {"log_reduction": found.log_reduction, "seconds_above_floor": found.seconds_above_floor}


def _spelled(data: Mapping[str, Any]) -> dict[str, str]:
    """Soils as the input spells them, so that the answer speaks the asker's language."""
    words: dict[str, str] = {}
    for row in _object(data.get("foods") or {}).values():
        for word in row.get("soils") or () if isinstance(row, Mapping) else ():
            words[soil_tag(str(word))] = str(word)
    for names in (data.get("free_of") or {}).values():
        for word in names:
            words.setdefault(allergen_tag(str(word)), str(word))
    return words


def _finding(finding: Finding, words: Mapping[str, str], code: str) -> dict[str, Any]:
    return {
        "rule": finding.rule,
        "step": finding.step,
        "soil": words.get(finding.soil, finding.soil),
        "food": finding.food,
        "path": list(finding.path),
        "severity": severity(finding),
        "source": rule_source(finding.rule, code),
    }


def _cleared(row: Cleared, words: Mapping[str, str]) -> dict[str, Any]:
    soil_name = words.get(row.soil, row.soil)
    return {"soil": soil_name, "food": row.food, "step": row.step, "by": row.by, "path": list(row.path)}


def _best(process: Process, house: House) -> dict[str, Any]:
    best = best_order(process, house)
    return {
        "order": list(best.order),
        "washes": best.washes,
        "proven": best.proven,
        "bound": best.bound,
        "wash_before": [{"step": step, "carriers": list(names)} for step, names in best.wash_before],
    }


def run_analyse(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``analyse``."""
    process = process_from(data)
    code = _profile(data).id if data.get("code") is not None else "us-foodservice"
    house = house_from(_object(data.get("house") or {}))
    words = _spelled(data)
    found = analyse(process, house)
    return {
        "findings": [_finding(finding, words, code) for finding in found.findings],
        "cleared": [_cleared(row, words) for row in found.cleared],
        "washes": washes_as_written(process, house).washes,
        "best": _best(process, house),
    }


def _moment(value: object, field: str) -> tuple[dt.datetime, Literal["number", "date", "datetime"]]:
    """A moment given as ISO 8601 or as seconds since 1970."""
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        seconds = finite(value, field, low=-6e10, high=2e11)
        return dt.datetime(1970, 1, 1, tzinfo=dt.UTC) + dt.timedelta(seconds=seconds), "number"
    if not isinstance(value, str):
        raise CoreError(field, "an ISO 8601 date and time is needed")
    try:
        moment = dt.datetime.fromisoformat(value)
    except ValueError:
        raise CoreError(field, f"{value!r} is not an ISO 8601 date and time") from None
    return moment, ("date" if len(value.strip()) == 10 else "datetime")


def _written(moment: dt.datetime, form: Literal["number", "date", "datetime"]) -> str | float:
    if form == "number":
        return moment.timestamp()
    return moment.date().isoformat() if form == "date" else moment.isoformat()


def run_store(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``store``."""
    code = _profile(data)
    name = data.get("category")
    if not isinstance(name, str):
        raise CoreError("category", "the name of a storage category is needed")
    if data.get("place") not in ("fridge", "freezer"):
        raise CoreError("place", f"{data.get('place')!r} is not fridge or freezer")
    made_at, form = _moment(data.get("made_at"), "made_at")
    thawed_at = None
    if data.get("thawed_at") is not None:
        thawed_at, _ = _moment(data["thawed_at"], "thawed_at")
        if (thawed_at.tzinfo is None) != (made_at.tzinfo is None):
            raise CoreError("thawed_at", "give both times with a zone, or both without")
    out_minutes = finite(data.get("out_minutes") or 0, "out_minutes", low=0, high=1e7)
    try:
        found = use_by(name, code, made_at=made_at, place=data["place"], out_s=out_minutes * 60, thawed_at=thawed_at)
    except (OverflowError, ValueError) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("made_at", "the date is out of range") from None
    why = [
        {
            k: v
            for k, v in (("rule", r.rule), ("low", r.low), ("high", r.high), ("unit", r.unit), ("section", r.section))
            if v not in (None, "")
        }
        for r in found.why
    ]
    return {"use_by": _written(found.use_by, form) if found.use_by else None, "why": [_line(row) for row in why]}


def _line(row: Mapping[str, Any]) -> str:
    """A reason as one line of fields: rule, figures, section."""
    figures = "-".join(f"{row[key]:g}" for key in ("low", "high") if key in row)
    return " ".join(
        filter(None, (row["rule"], figures, row.get("unit", ""), f"[{row['section']}]" if "section" in row else ""))
    )


MOST_LINES = 20_000


def run_parse(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``parse``."""
    locale = locale_from(data.get("locale"))
    lines = data.get("lines")
    if not isinstance(lines, list):
        raise CoreError("lines", "a list of ingredient lines is needed")
    if len(lines) > MOST_LINES:
        raise CoreError("lines", f"{len(lines)} lines; at most {MOST_LINES} are read at once")
    for i, line in enumerate(lines):
        if not isinstance(line, str):
            raise CoreError(f"lines[{i}]", f"a text is needed, not {line!r}")
    named = allergens_for(locale=locale)
    return {"items": [_item(read_ingredient(line, locale), named) for line in lines]}


def _item(item: Ingredient, named: AllergenSet) -> dict[str, Any]:
    return {
        "text": item.text,
        "low": item.low,
        "high": item.high,
        "unit": item.unit,
        "food": item.food,
        "preparation": item.preparation,
        "note": item.note,
        "kind": item.kind,
        "allergens": list(named.named(item.allergens)),
        "alternatives": list(item.alternatives),
        "doubts": list(item.doubts),
    }


def _number_list(value: object, field: str) -> tuple[float, ...]:
    rows = value if isinstance(value, list) else [value]
    return tuple(finite(row, f"{field}[{i}]") for i, row in enumerate(rows))


def _surroundings(value: object) -> Surroundings:
    if not isinstance(value, list):
        return Surroundings(((0.0, finite(value, "ambient_c", low=-273.15, high=1500)),))
    points = []
    for i, row in enumerate(value):
        if not isinstance(row, list) or len(row) != 2:
            raise CoreError(f"ambient_c[{i}]", "a pair [seconds, Celsius] is needed")
        at_c = finite(row[1], f"ambient_c[{i}][1]", low=-273.15, high=1500)
        points.append((finite(row[0], f"ambient_c[{i}][0]", low=-1e9, high=1e9), at_c))
    if not points:
        raise CoreError("ambient_c", "at least one point is needed")
    return Surroundings(tuple(sorted(points, key=lambda row: row[0])))


def _food(data: Mapping[str, Any]) -> ConstantProperties | FoodProperties:
    food, freezing = _object(data.get("food") or {}), data.get("freezing")
    if "composition" in food:
        t_f_c = None if freezing is None else finite(_object(freezing).get("t_f_c"), "freezing.t_f_c")
        return FoodProperties(composition_from(food["composition"]), t_f_c)
    if freezing is not None:
        raise CoreError("food.composition", "freezing needs the composition: how much water there is to freeze")
    return ConstantProperties(**{name: finite(food.get(name), f"food.{name}") for name in ("k", "rho", "cp")})


def run_conduct(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``conduct``."""
    shape = data.get("shape")
    if shape not in SIZES:
        raise CoreError("shape", f"{shape!r} is not one of {', '.join(SIZES)}")
    body = Body(shape=shape, size_m=_number_list(data.get("size_m"), "size_m"), h=finite(data.get("h"), "h"))
    until = data.get("until_s")
    target = data.get("until_centre_c")
    course = conduct(
        body,
        _food(data),
        t0_c=finite(data.get("t0_c"), "t0_c", low=-60, high=160),
        around=_surroundings(data.get("ambient_c")),
        until_s=None if until is None else finite(until, "until_s", high=LONGEST_S),
        until_centre_c=None if target is None else finite(target, "until_centre_c", low=-60, high=160),
    )
    return {
        "times_s": course.times_s.tolist(),
        "centre_c": course.centre_c.tolist(),
        "mean_c": course.mean_c.tolist(),
        "surface_c": course.surface_c.tolist(),
        "reached_s": course.reached_s,
    }


def run_cooling(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``cooling``."""
    code = _profile(data)
    rows = data.get("readings")
    if not isinstance(rows, list):
        raise CoreError("readings", "a list of [seconds, Celsius] is needed")
    around = data.get("ambient_c")
    around_c = None if around is None else finite(around, "ambient_c", low=-60, high=60)
    found = judge_cooling(tidy_readings(rows, counts="higher"), code, around_c=around_c)
    answer: dict[str, Any] = {
        "verdict": found.verdict,
        "failed_stage": found.failed_stage,
        "crossings_s": {str(round(limit_c)): at_s for limit_c, at_s in found.crossings_s.items()},
        "start_s": found.start_s,
        "section": found.section,
    }
    if found.forecast_s is not None:
        answer["forecast_s"] = found.forecast_s
    if found.forecasts:
        answer["forecasts"] = {
            str(round(limit_c)): {"at_s": one.at_s, "early_s": one.early_s, "late_s": one.late_s}
            for limit_c, one in found.forecasts.items()
        }
    if found.gaps:
        answer["gaps"] = [list(gap) for gap in found.gaps]
    return answer


TOPICS: Mapping[str, Callable[[Mapping[str, Any]], dict[str, Any]]] = {
    "lethality": run_lethality,
    "analyse": run_analyse,
    "store": run_store,
    "conduct": run_conduct,
    "cooling": run_cooling,
    "parse": run_parse,
}


def _refuse_constant(name: str) -> NoReturn:
    raise CoreError("input", f"{name} is not a number in JSON")


def main(argv: list[str] | None = None) -> int:
    """Run one topic on standard input; the exit status."""
    words = sys.argv[1:] if argv is None else argv
    try:
        if len(words) != 1 or words[0] not in TOPICS:
            raise CoreError("topic", f"say one of {', '.join(TOPICS)}")
        raw = sys.stdin.buffer.read(MOST_INPUT_BYTES + 1)
        if len(raw) > MOST_INPUT_BYTES:
            raise CoreError("input", f"more than {MOST_INPUT_BYTES} bytes")
        try:
            data = json.loads(raw.decode("utf-8"), parse_constant=_refuse_constant)
        except UnicodeDecodeError:
            raise CoreError("input", "not UTF-8 text") from None
        except RecursionError:
            raise CoreError("input", "nested too deeply") from None
        except json.JSONDecodeError as wrong:
            raise CoreError("input", f"not JSON at line {wrong.lineno}: {wrong.msg}") from None
        answer = TOPICS[words[0]](_object(data))
    except CoreError as wrong:
        line = json.dumps({"error": {"field": wrong.field, "message": wrong.message}})
        print(line)
        print(line, file=sys.stderr)
        return 2
    json.dump(answer, sys.stdout)
    print()
    return 0
