"""Shapes of what an educator sends; the core judges what they mean."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _

from bulwark.people.forms import SaidForm
from foodsafety.rules import profile_ids


class PlanForm(SaidForm):
    """Which rule profile, and whether its table of equivalent holds is accepted."""

    profile = forms.ChoiceField(choices=lambda: [(name, name) for name in profile_ids()])
    cook_equivalents = forms.BooleanField(required=False)


class EducatorEntryForm(SaidForm):
    """An entry from the educator's bench page."""

    id = forms.UUIDField(required=False)
    kind = forms.CharField(max_length=32)
    reason = forms.CharField(max_length=300, required=False, strip=True)
    control = forms.CharField(max_length=80, required=False)
    event = forms.CharField(max_length=64, required=False)
    food = forms.CharField(max_length=80, required=False)
    how = forms.CharField(max_length=20, required=False)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if data.get("kind") in ("voided", "waived") and not data.get("reason"):
            self.add_error("reason", _("Say why in a few words: the record keeps the reason."))
        return data

    def entry_data(self) -> dict[str, str]:
        """The fields that this kind of entry carries."""
        keys = ("reason", "control", "event", "food", "how")
        return {key: self.cleaned_data[key] for key in keys if self.cleaned_data.get(key)}


class JoinForm(SaidForm):
    """A bench's code as typed: case and stray spaces do not matter."""

    code = forms.CharField(min_length=6, max_length=12, strip=True)

    def clean_code(self) -> str:
        return "".join(self.cleaned_data["code"].split()).upper()
