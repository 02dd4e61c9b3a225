"""The chill planner: will it be cold in time, and what would make it so."""

from functools import lru_cache

from bulwark.presentation.phrases import clock_word, source_line
from bulwark.workbench.answers import Answer, Table
from bulwark.workbench.readings import doubt_sentences, read_typed
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.chill_planner import cards, tables, wording
from bulwark.workbench.tools.chill_planner.curves import outlook_chart
from foodsafety.cooling import (
    ChillBatch,
    ChillWay,
    SolidShape,
    chill_outlook,
    container,
    greatest_size,
    left_to_cool,
    planning_profile,
    stages_of,
)
from foodsafety.heat import ConstantProperties, environment
from foodsafety.rules import Profile, rule_profile

# What lies on a pot with its lid on.
_LID = ("plastic_lid", "air_gap_30mm")
_PLACES_C = (("blast", -2.0), ("ice_bath", 0.5))


def _as_it_is(asked: Asked, batch: ChillBatch) -> ChillWay:
    covers = _LID if asked["lid"] else ()
    box = container(asked["box"])
    return left_to_cool(batch, box, where=asked["where"], around_c=asked["around"], covers=covers)


def answer(asked: Asked, setting: Setting) -> Answer:
    """A batch as it stands, and every other way."""
    typed, log = read_typed(asked["readings"], setting.units.temps)
    rules = setting.rules(asked["code"])
    profile = planning_profile(rules)
    batch = ChillBatch(litres=asked["litres"], composition=asked["food"].composition, texture=asked["texture"])
    look = chill_outlook(batch, log, profile, _as_it_is(asked, batch), owned=setting.owned)
    clock, units = clock_word(typed.clock_s), setting.units
    state, title, text = wording.verdict(look, clock, units)
    side = () if look.measured.verdict == "pass" else cards.way_cards(look, clock, units)
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=outlook_chart(look, log, clock, units, title),
        cards=(*side, cards.tag(asked["food"].name, asked["litres"], rules, look.measured, units)),
        tables=(
            tables.ways_table(look.plans, clock, units),
            tables.stage_table(look.final, clock, units),
            _greatest_table(batch, asked["around"], profile, setting),
        ),
        notes=(*doubt_sentences(log), *wording.notes(rules, look)),
        source=source_line(rules, rules.cooling.section),
        extra={"good": state in ("good", "ahead")},
    )


@lru_cache(maxsize=512)
def _greatest(
    shape: SolidShape, food: ConstantProperties, h: float, around_c: float, start_c: float, code: str
) -> float | None:
    """The same for every amount, so it is not worked out anew at each key. A kitchen cannot change
    cooling stages: the shipped profile's are its own."""
    return greatest_size(shape, food, h=h, around_c=around_c, start_c=start_c, profile=rule_profile(code))


def _greatest_table(batch: ChillBatch, around_c: float, profile: Profile, setting: Setting) -> Table:
    """The greatest size that passes here when it begins hot, by shape and place."""
    stages = stages_of(profile)
    hot_c, last_c = stages[0].start.c, min(stage.end.c for stage in stages)
    places = [(name, c) for name, c in (("fridge", around_c), *_PLACES_C) if c < last_c]
    sizes = {
        shape: [_greatest(shape, batch.food, environment(name).low_h, c, hot_c, profile.id) for name, c in places]
        for shape in tables.SHAPES
    }
    return tables.greatest_table(sizes, [name for name, _c in places], hot_c, setting.units)
