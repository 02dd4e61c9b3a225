"""The pack in words."""

from __future__ import annotations

from django.utils.translation import gettext as _

from foodsafety.review import ToBuy

# What can be printed alone, in the order in which it lies in the whole pack.
PARTS = ("run-sheet", "cards", "kit", "shopping", "poster", "labels")


def part_name(part: str) -> str:
    """A paper of the pack."""
    return {
        "run-sheet": _("Run sheet"),
        "cards": _("Bench cards"),
        "kit": _("Prep table and kit bags"),
        "shopping": _("Shopping list"),
        "poster": _("Hand-washing poster"),
        "labels": _("Labels for what is kept"),
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
        "the cold. Raw meat and fish in a bag of their own, below nothing that is eaten as it is."
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
        "ahead": _("Prepare: %(what)s"),
        "preheat": _("Switch the oven on: %(what)s"),
        "begin": _("Begin: %(what)s"),
        "end": _("Look at it: %(what)s"),
    }[kind] % {"what": what}


def thaw_why(hours: int) -> str:
    """How the time to thaw was worked out."""
    return _(
        "In the fridge it may take %(hours)d h, worked out for one round lump of its weight in a fridge at its limit. "
        "Smaller pieces are sooner; it stays in the fridge until it is needed."
    ) % {"hours": hours}
