"""What is asked about a danger that a sentence of a recipe speaks of, in words."""

from collections.abc import Mapping

from django.utils.functional import Promise
from django.utils.translation import gettext_lazy as _

# By danger: what is asked, and why.
_ASKED: Mapping[str, tuple[Promise, Promise]] = {
    "tasting": (_("Does anybody eat of it raw?"), _("It speaks of tasting what has not been cooked.")),
    "left_raw": (_("Is it cooked through?"), _("It says that it stays raw or pink.")),
    "used_again": (
        _("What becomes of what raw food lay in?"),
        _("It is raw until it has boiled, and so is what it lay in until that is washed."),
    ),
    "left_out": (
        _("How long does it stand in the warm?"),
        _("Two hours in all is the most that most rule profiles allow out of the cold, unless it is kept hot."),
    ),
    "not_always": (
        _("Is it cooked every time?"),
        _("It says that it is cooked only if somebody has the time, or wants to."),
    ),
    "warmed": (
        _("Is it hot all through?"),
        _("What was cooked before is to steam hot all through, not only to be warm."),
    ),
    "at_risk": (
        _("Is all that they eat cooked through?"),
        _("It is for people whom food makes ill more easily, and most rule profiles ask more of their food."),
    ),
    "kept_long": (
        _("Is it kept for so long?"),
        _("No rule profile allows most cooked food more than four days in the fridge."),
    ),
}


def title(danger: str) -> str:
    """What is asked of a person."""
    return str(_ASKED[danger][0])


def note(danger: str) -> str:
    """Why it is asked."""
    return str(_ASKED[danger][1])
