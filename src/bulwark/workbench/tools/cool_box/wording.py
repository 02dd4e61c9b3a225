"""What the cool box says."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import span
from bulwark.presentation.units import Units, limit, shown, temp
from bulwark.workbench.answers import Card, Table, Verdict
from foodsafety.cooling import BoxPlan, BoxTrip, FieldWater
from foodsafety.rules import Profile


def _amount(plan: BoxPlan, units: Units) -> str:
    return shown(plan.need.cold_kg, "mass", units, up=True, places=1)


def verdict(plan: BoxPlan, trip: BoxTrip, profile: Profile, units: Units) -> Verdict:
    """What to take, or why it is no use."""
    keep = {"limit": limit(profile.hold["cold"].temperature, units)}
    too_long = plan.standing == "out_too_long"
    if profile.hold["cold"].temperature.passed_by(trip.food_c):
        title = _("Chill the food first: a box keeps cold, it does not make cold")
        text = _("It goes in at %(t)s; the limit is %(limit)s.") % (keep | {"t": temp(trip.food_c, units)})
        found = Verdict("breach", title, text)
    elif not plan.need.fits:
        text = _("Food and ice need %(need)s; the box has %(room)s. Take a second one.") % {
            "need": shown(plan.need.room_needed_l, "volume", units, up=True),
            "room": shown(plan.need.room_l, "volume", units),
        }
        found = Verdict("due", _("Too much for one box"), text)
    else:
        title = _("Take %(amount)s of %(cold)s for %(t)s") % {
            "amount": _amount(plan, units),
            "cold": trip.ice["name"],
            "t": span(trip.hours * 3600),
        }
        text = _("Three tenths spare are in it. Measure in the box: at most %(limit)s.") % keep
        found = Verdict("ahead", title, text)
    return Verdict("breach", _("Too long out already: throw it away"), found.text) if too_long else found


def cards(plan: BoxPlan, trip: BoxTrip, water: FieldWater, out_s: float, units: Units) -> tuple[Card, ...]:
    """Eat within, why two boxes, and the water."""
    return (_eat(plan, trip, out_s, units), _two_boxes(), _water(water, units))


def _eat(plan: BoxPlan, trip: BoxTrip, out_s: float, units: Units) -> Card:
    eat = plan.eat
    if eat.standing == "over":
        text = _("Throw it away: it was out for %(t)s, the limit is %(l)s.") % {
            "t": span(eat.total_s),
            "l": span(eat.limit.limit_s),
        }
    else:
        text = _("Once out of the box, in %(a)s. %(out)s are spent already.") % {
            "a": temp(trip.ambient_c, units),
            "out": span(out_s),
        }
    return Card(
        kind="do",
        title=_("Eat within"),
        big=span(eat.remaining_s // 60 * 60),  # a deadline is never rounded up
        big_label=_("out of the box"),
        text=text,
    )


def _two_boxes() -> Card:
    return Card(
        title=_("Two boxes"),
        text=_(
            "Raw meat and fish in one, ready-to-eat food and drinks in another: the second is the one that is opened. "
            "Raw below, everything in closed boxes, a thermometer on top."
        ),
    )


def _water(water: FieldWater, units: Units) -> Card:
    return Card(
        title=_("Water to carry"),
        big=shown(water.total_l, "volume", units, up=True),
        big_label=_("no tap"),
        facts=(
            (_("Hands"), shown(water.hands_l, "volume", units, up=True)),
            (_("Produce"), shown(water.produce_l, "volume", units, up=True)),
            (_("Kit"), shown(water.kit_l, "volume", units, up=True)),
        ),
        text=_("With a tap on the can, soap, paper towels. Gel is no hand-wash."),
    )


def table(plan: BoxPlan, trip: BoxTrip) -> Table:
    """Where the warmth comes from."""
    return Table(
        title=_("Where the warmth comes from"),
        heads=(_("From"), _("kJ")),
        rows=(
            (_("Walls and lid"), f"{plan.need.walls_kj:.0f}"),
            (_("%(n)d openings") % {"n": trip.openings}, f"{plan.need.openings_kj:.0f}"),
            (_("Warm food"), f"{plan.need.food_kj:.0f}"),
        ),
    )


def without_ice() -> str:
    """The curve of a box with nothing cold in it."""
    return _("without ice")


def with_cold(plan: BoxPlan, units: Units) -> str:
    """The curve of a box with what it needs."""
    return _("with %(a)s") % {"a": _amount(plan, units)}


def home_again(after_s: float) -> str:
    """The wall at the end of the trip."""
    return _("home again, %(t)s") % {"t": span(after_s)}


def chart_text() -> str:
    """What the drawing shows."""
    return _("Temperature in the box over time, with and without ice.")
