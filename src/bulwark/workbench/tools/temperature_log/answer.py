"""A log pasted or brought as a file, looked over and judged as what it is said to be."""

from bulwark.presentation.phrases import Clock, clock_word, source_line
from bulwark.workbench.answers import Answer
from bulwark.workbench.readings import doubt_sentences
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.temperature_log import wording
from bulwark.workbench.tools.temperature_log.curves import log_chart, stage_walls, thinned
from foodsafety.cooling import StoreKind, check_cooling, judge_store
from foodsafety.measuring import CsvLog, TemperatureLog, log_of_csv, read_log_csv
from foodsafety.rules import Profile


def answer(asked: Asked, setting: Setting) -> Answer:
    """A log pasted as CSV."""
    sheet = read_log_csv(asked["log"].splitlines())
    return answer_for(sheet, asked["kind"], setting.rules(asked["code"]), setting)


def answer_for(sheet: CsvLog, kind: str, profile: Profile, setting: Setting) -> Answer:
    """A log that has been read; a file of any length comes in here."""
    unit = sheet.unit or setting.units.temps
    read = log_of_csv(sheet, unit)
    notes = (*doubt_sentences(read.log), *wording.unit_notes(sheet, unit))
    if read.question:
        return wording.which_unit(unit, notes)
    if not read.log.series:
        return wording.nothing_to_judge(notes)
    if kind == "cooling":
        return _cooling_log(read.log, clock_word(read.first_s), profile, setting, notes)
    store: StoreKind = "freezer" if kind == "freezer" else "fridge"
    return _store_log(read.log, store, clock_word(read.first_s), profile, setting, notes)


def _cooling_log(
    log: TemperatureLog, clock: Clock, profile: Profile, setting: Setting, notes: tuple[str, ...]
) -> Answer:
    found = check_cooling(log, profile)
    state, title, text = wording.cooling_verdict(found, clock, setting.units)
    stages = [row.stage for row in found.verdict.stages]
    limits = (*(stage.end for stage in stages), *(stage.start for stage in stages[:1]))
    drawn = log_chart(
        log,
        setting.units,
        title=title,
        clock=clock,
        limits=limits or (profile.hold["cold"].temperature,),
        walls=stage_walls(found.verdict),
    )
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=drawn,
        tables=(wording.reading_table(thinned(log.series), clock, setting.units),),
        notes=notes,
        source=source_line(profile, profile.cooling.section),
        extra={"good": state == "good"},
    )


def _store_log(
    log: TemperatureLog, kind: StoreKind, clock: Clock, profile: Profile, setting: Setting, notes: tuple[str, ...]
) -> Answer:
    found = judge_store(log.kept, profile, kind=kind, now_s=log.kept[-1][0])
    limit = profile.hold["freezer" if kind == "freezer" else "cold"].temperature
    state, title, text = wording.store_verdict(found, limit, setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=log_chart(log, setting.units, title=title, clock=clock, limits=(limit,)),
        cards=wording.store_cards(found),
        notes=notes,
        source=source_line(profile, found.section),
        extra={"good": state == "good"},
    )
