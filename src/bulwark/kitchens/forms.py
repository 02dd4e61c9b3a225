"""Shapes of what an educator sends about the kitchen; the core judges what they mean."""

from typing import Any

from django import forms

from bulwark.people.forms import SaidForm
from foodsafety.foods import LOCALES
from foodsafety.review import PRICE_UNITS
from foodsafety.rules import HOUSE_CHOICES, LONGEST_SCRUB_S, profile_ids

CURRENCIES = ("GBP", "EUR", "USD", "CAD", "AUD", "NZD")


class KitchenForm(SaidForm):
    """Base profile, measures and house rules."""

    profile = forms.ChoiceField(choices=lambda: [(name, name) for name in profile_ids()])
    locale = forms.ChoiceField(choices=[(name, name) for name in LOCALES])
    currency = forms.ChoiceField(choices=[(name, name) for name in CURRENCIES])
    benches = forms.IntegerField(min_value=1, max_value=40)
    scrub_s = forms.FloatField(required=False, min_value=0, max_value=LONGEST_SCRUB_S)
    cook_equivalents = forms.BooleanField(required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for key, allowed in HOUSE_CHOICES.items():
            if key not in ("cook_equivalents", "arrive"):
                needed = key != "unwashed_contact"  # younger than the form: left out it stays as it is
                self.fields[key] = forms.ChoiceField(choices=[(value, value) for value in allowed], required=needed)

    def house(self) -> dict[str, Any]:
        """The house rules in the core's form."""
        data = self.cleaned_data
        chosen = {key: data[key] for key in HOUSE_CHOICES if data.get(key) not in (None, "")}
        return {**chosen, "scrub_s": data["scrub_s"] or 0.0}


class LimitForm(SaidForm):
    """A local limit; no value takes it back to the base."""

    base = forms.ChoiceField(choices=lambda: [(name, name) for name in profile_ids()])
    path = forms.CharField(max_length=80)
    value = forms.FloatField(required=False)
    back = forms.BooleanField(required=False)
    signed = forms.CharField(max_length=80)
    reason = forms.CharField(max_length=300)


class PriceForm(SaidForm):
    """A price."""

    kind = forms.CharField(max_length=80)
    amount = forms.DecimalField(min_value=0, max_digits=9, decimal_places=2)
    per = forms.ChoiceField(choices=[(name, name) for name in PRICE_UNITS])


class BulkForm(SaidForm):
    """A large pack beside the usual price."""

    kind = forms.CharField(max_length=80)
    pack = forms.FloatField(min_value=0.001, max_value=100_000)
    pack_price = forms.DecimalField(min_value=0, max_digits=9, decimal_places=2)
    used_per_month = forms.FloatField(min_value=0, max_value=100_000)
