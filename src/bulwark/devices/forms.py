"""What is typed about an instrument."""

from __future__ import annotations

from typing import Literal

from django import forms

from bulwark.people.forms import SaidForm
from foodsafety.quantities import c_from_f


class CheckForm(SaidForm):
    """What a thermometer showed in ice slush and in boiling water, in the unit that is read here."""

    ice = forms.FloatField(required=False)
    boil = forms.FloatField(required=False)

    def shown_c(self, name: str, unit: Literal["C", "F"]) -> float | None:
        """A field in Celsius; None where nothing was typed."""
        value: float | None = self.cleaned_data[name]
        return None if value is None else c_from_f(value) if unit == "F" else value
