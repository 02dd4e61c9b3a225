"""What the sanitiser says."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import span
from bulwark.presentation.units import Units, shown, temp
from bulwark.workbench.answers import Card, Verdict
from foodsafety.hygiene import Dilution, sanitiser_limits

_TEASPOON_ML = 4.93


def verdict(found: Dilution, litres: float, units: Units) -> Verdict:
    """Good, too weak or too strong."""
    limits = sanitiser_limits()
    if found.standing == "weak":
        text = _("At least %(p)g ppm for surfaces that touch food.") % {"p": limits.least_ppm}
        return Verdict("breach", _("Too weak to sanitise"), text)
    if found.standing == "strong":
        text = _("At most %(p)g ppm without rinsing.") % {"p": limits.most_ppm}
        return Verdict("due", _("Too strong for food surfaces"), text)
    amount = shown(found.product_ml, "millilitres", units, places=1)
    title = _("%(ml)s of bleach into %(l)s of water") % {"ml": amount, "l": shown(litres, "volume", units)}
    return Verdict("good", title, _("Clean first, then sanitise, then leave it to dry in the air."))


def cards(found: Dilution, units: Units) -> tuple[Card, ...]:
    """How much, how long, or hot water instead."""
    limits = sanitiser_limits()
    return (
        Card(
            kind="do",
            title=_("Measure"),
            big=shown(found.product_ml, "millilitres", units, places=1),
            big_label=_("bleach"),
            text=_("About %(n).1f teaspoons. Measure it, do not pour by eye; check with a test strip.")
            % {"n": found.product_ml / _TEASPOON_ML},
        ),
        Card(
            title=_("Leave it on"),
            big=span(limits.contact_s),
            big_label=_("at least"),
            text=_("Wet all the time, water at about %(c)s. The product's own label rules.")
            % {"c": temp(limits.water_c, units)},
        ),
        Card(
            title=_("Or hot water"),
            big=temp(limits.hot_water_c, units),
            big_label=span(limits.hot_water_s),
            text=_("Under water for the whole time, on a rack."),
        ),
    )


def notes() -> tuple[str, ...]:
    """What it must never be mixed with."""
    return (
        _(
            "Never mix it with acids, vinegar, ammonia or another cleaner. Unscented bleach only; make it new each "
            "day. It takes no allergen away: washing does."
        ),
    )


def source() -> str:
    """Where the figures are from."""
    return _("50 to 100 ppm chlorine, 10 s: Food Code 4-501.114; the product label decides.")
