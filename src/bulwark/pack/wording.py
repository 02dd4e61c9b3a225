"""The pack in words."""

from __future__ import annotations

from collections.abc import Sequence

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.presentation.phrases import capital, duration, listed
from foodsafety.cooling import FieldWater
from foodsafety.review import ToBuy

# What can be printed alone, in the order in which it lies in the whole pack.
PARTS = ("run-sheet", "cards", "kit", "shopping", "poster", "labels", "boxes")


def part_name(part: str) -> str:
    """A paper of the pack."""
    return {
        "run-sheet": _("Run sheet"),
        "cards": _("Bench cards"),
        "kit": _("Prep table and kit bags"),
        "shopping": _("Shopping list"),
        "poster": _("Hand-washing poster"),
        "labels": _("Labels for what is kept"),
        "boxes": _("Packing list by box"),
        "all": _("The whole pack"),
    }[part]


def section(name: str) -> str:
    """A section of a shop."""
    return {
        "other": _("Ask for it"),
        "produce": _("Fruit and vegetables"),
        "bread": _("Bread"),
        "dry": _("Dry goods and spices"),
        "tins": _("Tins, oil and sauces"),
        "chilled": _("Chilled: into the cool bag"),
        "frozen": _("Frozen: into the cool bag"),
        "raw": _("Raw meat and fish: last, and in a bag of their own"),
    }[name]


def quantity(amount: float, unit: str) -> str:
    """Grams, millilitres or pieces as a person reads them; never less than is meant."""
    if unit == "each":
        return f"{amount:g}"
    if amount >= 1000:
        return f"{-(-amount // 10) / 100:g} {'kg' if unit == 'g' else 'l'}"
    return f"{-(-amount // 1):g} {unit}"


def to_buy(row: ToBuy) -> str:
    """How much is bought."""
    if row.amount is None:
        return _("see the recipe: %(lines)s") % {"lines": "; ".join(row.lines)}
    if not row.packs:
        return quantity(row.amount, row.unit)
    return _("%(n)d × %(pack)s") % {"n": row.packs, "pack": quantity(row.pack, row.unit)}


def way_home(minutes: int, limit: str) -> str:
    """What the way home asks for."""
    if not minutes:
        return ""
    return _(
        "Cold things last, home first: %(minutes)d min of the way count towards the %(limit)s that they may be out of "
        "the cold. Raw meat and fish in a bag of their own, with nothing beneath it that is eaten as it is."
    ) % {"minutes": minutes, "limit": limit}


def ice_needed(minutes: int) -> str:
    """A way so long that a bag alone does not do."""
    return _("%(minutes)d min is long: take cool bags and frozen packs, and look at the thermometer on arrival.") % {
        "minutes": minutes
    }


def talking_points() -> str:
    """What is said while hands are free, before anybody has written their own: what it is about, and the words."""
    return "\n".join(
        [
            _("wash_hands: Soap loosens what sticks to skin, and the water carries it away. That takes its seconds."),
            _("chill: Cold does not kill bacteria, it makes them slow. In the fridge food only waits longer."),
            _("freeze: Freezing stops bacteria and keeps them alive: thawed they go on where they were."),
            _("heat: The middle is the last to get hot. That is why the probe goes where the food is thickest."),
            _("marinate: What is left of a marinade is thrown away or boiled: raw juice is in it."),
            _("rest: Meat that rests goes on cooking inside; for some limits that time counts."),
            _("raw_poultry: Poultry is not rinsed: drops would carry what is on it all around the sink."),
            _("raw_meat: Mince has the outside of the meat mixed into its middle, so its middle must be cooked too."),
            _("raw_egg: An egg can carry salmonella inside a whole, clean shell."),
            _("raw_flour: Flour is raw: it grew in a field. Dough is not for tasting."),
            _("unwashed_produce: Salad is eaten as it is: washing is the only step between field and plate."),
            _("serve: Whatever is left goes into the fridge in shallow boxes, and gets its date at once."),
        ]
    )


def reminder(kind: str, what: str) -> str:
    """A date in the calendar."""
    return {
        "lesson": _("Lesson: %(what)s"),
        "shop": _("Shopping for %(what)s"),
        "thaw": _("Out of the freezer, into the fridge: %(what)s"),
        "ready": _("Make one before: %(what)s"),
        "marinade_in": _("Into the marinade, then into the fridge: %(what)s"),
        "marinade_out": _("Out of the marinade; what is left of it is raw: %(what)s"),
        "slow_cooker_on": _("Slow cooker on: %(what)s"),
        "soak": _("Put it to soak: %(what)s"),
        "soak_out": _("Drain what has soaked: %(what)s"),
        "ahead": _("Prepare: %(what)s"),
        "water": _("Put it on, and stay with it: %(what)s"),
        "preheat": _("Switch it on: %(what)s"),
        "begin": _("Begin: %(what)s"),
        "end": _("Look at it: %(what)s"),
    }[kind] % {"what": what}


def thaw_why(hours: int) -> str:
    """How the time to thaw was worked out."""
    return _(
        "In the fridge it may take %(hours)d h, worked out for one round lump of its weight in a fridge at its limit. "
        "Smaller pieces are sooner; it stays in the fridge until it is needed."
    ) % {"hours": hours}


def thaw_why_unknown(hours: int) -> str:
    """Of a dish of which nobody has said how heavy it is."""
    return _(
        "Nobody has said how heavy it is: in the fridge, %(hours)d h before. Not what is eaten frozen, or heated "
        "straight from the freezer."
    ) % {"hours": hours}


# --- where there is no tap -------------------------------------------------------------------------------------------


def box(name: str) -> str:
    """A box in the order of loading."""
    return {
        "waste": _("Waste and end of day"),
        "wash_up": _("Washing up"),
        "kit": _("Kit bags"),
        "dry": _("Dry goods and produce"),
        "raw": _("Cold box: raw only"),
        "unknown": _("Not known what it is"),
        "ready": _("Cold box: eaten as it is"),
        "hands": _("Hands first: out of the car before anything else"),
    }[name]


def waste_lines() -> list[str]:
    """What goes home again."""
    return [
        _("bin bags, two kinds of waste apart"),
        _("a lidded bucket for waste water"),
        _("a sheet and shade"),
    ]


def wash_up_lines(benches: int) -> list[str]:
    """Washing up without a sink."""
    return [
        ngettext("%(n)d washing bowl and %(n)d for rinsing", "%(n)d washing bowls and %(n)d for rinsing", benches)
        % {"n": benches},
        _("detergent, sanitiser with its label, dish towels"),
    ]


def kit_bags(benches: int) -> str:
    """One bag for each bench."""
    return ngettext("%(n)d kit bag, as the prep list has it", "%(n)d kit bags, as the prep list has them", benches) % {
        "n": benches
    }


def ask_what() -> str:
    """What to do with food that nobody knows."""
    return _("Pack it cold and by itself, and say on the recipe's page what it is.")


def times(benches: int, text: str) -> str:
    """A line for all benches."""
    return f"{benches} × {text}" if benches > 1 else text


def nothing() -> str:
    """An empty box."""
    return _("nothing of this lesson")


def ice(name: str, cold_kg: float, food_kg: float, *, boxes: int = 1) -> str:
    """A cold box with its packs, or several alike; ``cold_kg`` is for one of them, and packs are rounded up."""
    told = {"box": name, "n": boxes, "cold": f"{-(-cold_kg * 2 // 1) / 2:g}", "food": f"{food_kg:.1f}"}
    if boxes == 1:
        return _("%(box)s with %(cold)s kg of frozen packs for %(food)s kg of food, a thermometer in it") % told
    return (
        _(
            "%(n)d alike, each: %(box)s with %(cold)s kg of frozen packs; %(food)s kg of food shared out evenly, a "
            "thermometer in every one"
        )
        % told
    )


def ice_unknown(*, weighed: bool) -> str:
    """Why nobody can say how much ice."""
    if weighed:
        return _("How much ice: say below how warm it will be, and for how long you are away.")
    return _("How much ice cannot be said: some of it has no weight in the recipe.")


def ice_none() -> str:
    """Colder outside than inside."""
    return _("No ice is needed in this cold; the thermometer in the box decides.")


def no_box(food_kg: float) -> str:
    """More than several of the largest box take."""
    return _("%(food)s kg and its packs are more than all our boxes take: bring them in two trips, or a cold van.") % {
        "food": f"{food_kg:.1f}"
    }


def how_warm() -> str:
    """What nobody has said."""
    return _("Nobody has said how warm it will be: in great heat food may be out for half as long.")


def short_clock(value: float, unit: str, limit_s: float) -> str:
    """The clock of a hot day."""
    return _("Above %(t)s food may be out for %(time)s only: the plan keeps to it.") % {
        "t": f"{value:g} °{unit}",
        "time": duration(limit_s),
    }


def hand_station(water: FieldWater, people: int, washes: int, *, produce_known: bool) -> list[str]:
    """What washes hands where there is no tap."""
    return [
        _("%(l)s l of water for hands: %(people)d people, %(n)d washes each, with a quarter to spare")
        % {"l": _litres(water.hands_l), "people": people, "n": washes},
        _("%(l)s l for produce") % {"l": _litres(water.produce_l)}
        if produce_known
        else _("water for produce: how much cannot be said, some of it has no weight"),
        _("%(l)s l for washing up") % {"l": _litres(water.kit_l)},
        _("containers with a tap, so that water runs over hands; a bowl under each"),
        _("soap, single-use towels, a bag for them"),
        _("wipes for surfaces and for mud: they take the place of no hand-wash"),
        _("probe thermometer and its wipes, first aid, drinking water apart"),
    ]


def _litres(litres: float) -> str:
    return f"{-(-litres // 1):g}"


def hands_between() -> str:
    """A wash of hands that the recipe does not say, on a bench's card."""
    return _("Wash hands again, everybody")


def all_ready() -> str:
    """The first row of a bench's card."""
    return _("Ready: all five ticked")


def fridge_reads() -> str:
    """A reading of the fridge, on a bench's card."""
    return _("The fridge reads")


def hands_on_arrival() -> str:
    """The first wash, on a bench's card."""
    return _("Hands on arrival")


def became_of(food: str) -> str:
    """The question of what became of a food, on a bench's card."""
    return _("What became of the %(food)s") % {"food": food}


def what_became() -> tuple[tuple[str, str], ...]:
    """What may have become of a food."""
    return (
        ("fridge", _("into the fridge")),
        ("freezer", _("into the freezer")),
        ("eaten", _("all eaten")),
        ("discarded", _("thrown away")),
    )


def counted(scrub_s: float) -> str:
    """That a tick on a card says how long the scrub was."""
    return _("Scrubbed for %(s)g s or more, counted.") % {"s": scrub_s}


def counted_wash(what: str, scrub_s: float) -> str:
    """A wash on a bench's card: its tick says that it was counted to the end."""
    return _("%(what)s (scrubbed for %(s)g s or more, counted)") % {"what": what, "s": scrub_s}


def kit_between(kit: Sequence[str]) -> str:
    """Kit to be cleaned that the recipe does not say, on a bench's card."""
    return _("Clean and sanitise: %(kit)s") % {"kit": listed(kit)}


def middle_of(food: str) -> str:
    """A reading of the middle of a food, on a bench's card."""
    return _("In the middle of the %(food)s, each piece") % {"food": food}


def reads_cold(food: str) -> str:
    """A reading of what was chilled, on a bench's card."""
    return _("%(food)s reads, cold") % {"food": capital(food)}


def card_entered(count: int) -> str:
    """That a card is in the log."""
    return ngettext("%(n)d entry typed in.", "%(n)d entries typed in, in the order of the card.", count) % {"n": count}


def card_wrong(row: str, why: str) -> str:
    """What is wrong with a row of a card."""
    return why if row == "card" else f"{row}: {why}"
