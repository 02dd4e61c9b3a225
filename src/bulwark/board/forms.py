"""What can be asked of the plan board."""

import re
from collections.abc import Sequence

from django import forms
from django.utils.translation import gettext as _

from bulwark.people.forms import SaidForm

MOST_PINS = 40
MOST_MIN = 7 * 24 * 60
_PIN = re.compile(r"^(.{1,120})@(\d{1,5})$")


class BoardForm(SaidForm):
    """How long is shown first [min], which brick is picked, and when it is to begin [min]."""

    show = forms.IntegerField(min_value=0, max_value=60, required=False)
    pick = forms.CharField(max_length=120, required=False)
    at = forms.IntegerField(min_value=0, max_value=MOST_MIN, required=False)


def pins_of(rows: Sequence[str], tasks: Sequence[str]) -> tuple[dict[str, int], list[str]]:
    """Bricks that somebody has put somewhere ("1.griddle@35": from the 35th minute), and what of it could not be
    read, in words."""
    found: dict[str, int] = {}
    wrong = []
    for row in rows[:MOST_PINS]:
        pin = _PIN.match(row)
        if pin is None or pin[1] not in tasks or int(pin[2]) > MOST_MIN:
            wrong.append(_("“%(pin)s” is no brick of this board.") % {"pin": row[:60]})
        else:
            found[pin[1]] = int(pin[2])
    return found, wrong
