"""Shapes of what is sent about a group."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _

from bulwark.people.forms import SaidForm
from foodsafety.review import eater_groups

MOST_SHEET = 1_000_000


class GroupForm(SaidForm):
    """A group's name, its lines or a sheet of them, its roles and its rules; ``keep`` where it was looked at."""

    name = forms.CharField(max_length=80)
    lines = forms.CharField(required=False, max_length=200_000, strip=False)
    sheet = forms.FileField(required=False)
    roles = forms.CharField(required=False, max_length=4000)
    rules = forms.CharField(required=False, max_length=8000)
    keep = forms.BooleanField(required=False)

    def __init__(self, *args: object, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        for name in eater_groups():
            self.fields[f"n-{name}"] = forms.IntegerField(required=False, min_value=0, max_value=300)

    def clean_sheet(self) -> Any:
        """A sheet that can be a group: no larger than a megabyte."""
        sheet = self.cleaned_data["sheet"]
        if sheet and sheet.size > MOST_SHEET:
            raise forms.ValidationError(_("This sheet is larger than a megabyte: it is no group of learners."))
        return sheet

    def eaters(self) -> dict[str, int]:
        """How many of whom a dish may harm."""
        return {name: self.cleaned_data[f"n-{name}"] or 0 for name in eater_groups()}
