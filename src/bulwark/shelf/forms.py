"""What is said of a dish that is brought ready made."""

import datetime as dt
from typing import Any

from django import forms
from django.utils.translation import gettext as _

from bulwark.lessons.forms import WhenField
from bulwark.people.forms import SaidForm
from bulwark.shelf import wording
from foodsafety.shelf import storage_category_ids

# Nothing is cooked on the way for longer than a day.
MOST_OUT_MIN = 24 * 60


class BroughtForm(SaidForm):
    """A dish: what it is, when it was made, where it is kept and for how long it is out of the cold."""

    title = forms.CharField(max_length=80)
    category = forms.ChoiceField()
    made_at = WhenField()
    place = forms.ChoiceField()
    out_min = forms.IntegerField(required=False, min_value=0, max_value=MOST_OUT_MIN)
    contains = forms.CharField(max_length=120, required=False)

    def __init__(self, *args: Any, eaten_at: dt.datetime, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.eaten_at = eaten_at
        self.fields["category"].choices = [(name, wording.category(name)) for name in storage_category_ids()]  # type: ignore[attr-defined]
        self.fields["place"].choices = list(wording.brought_places().items())  # type: ignore[attr-defined]

    def clean_made_at(self) -> dt.datetime:
        made_at: dt.datetime = self.cleaned_data["made_at"]
        if made_at > self.eaten_at:
            raise forms.ValidationError(_("It is made after it would be eaten."))
        return made_at
