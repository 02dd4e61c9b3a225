"""What is said of a dish that is brought ready made."""

import datetime as dt
from typing import Any

from django import forms
from django.utils.translation import gettext as _

from bulwark.lessons.forms import WhenField
from bulwark.people.forms import SaidForm
from bulwark.shelf import wording
from bulwark.shelf.labels import MOST_COPIES, SHEETS
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


class PartForm(SaidForm):
    """One thing that is done with a part of a kept food."""

    DOS = ("count", "move", "split", "take", "heat", "warm", "shorten", "box", "read", "sign")

    key = forms.CharField(max_length=160)
    do = forms.ChoiceField(choices=[(name, name) for name in DOS])
    place = forms.CharField(max_length=10, required=False)
    store = forms.CharField(max_length=40, required=False)
    how = forms.CharField(max_length=12, required=False)
    portions = forms.IntegerField(required=False, min_value=1, max_value=500)
    why = forms.CharField(max_length=16, required=False)
    grams = forms.FloatField(required=False, min_value=1, max_value=100_000)
    value = forms.FloatField(required=False)
    unit = forms.ChoiceField(required=False, choices=[("C", "C"), ("F", "F")])
    hours = forms.FloatField(required=False, min_value=0, max_value=9600)
    known = forms.BooleanField(required=False)
    unknown = forms.BooleanField(required=False)
    until = WhenField(required=False)
    container = forms.CharField(max_length=20, required=False)
    count = forms.IntegerField(required=False, min_value=1, max_value=500)
    litres = forms.FloatField(required=False, min_value=0.01, max_value=500)
    wrap = forms.CharField(max_length=8, required=False)
    signer = forms.CharField(max_length=80, required=False)
    reason = forms.CharField(max_length=300, required=False)

    def entry(self, part: str, food: str) -> tuple[str, dict[str, Any]]:
        """The kind of entry, and its fields."""
        data, base = self.cleaned_data, {"food": food, "part": part}
        core_c = _celsius(data["value"], data["unit"])
        kinds: dict[str, tuple[str, dict[str, Any]]] = {
            "count": ("part_counted", {"portions": data["portions"], "store": data["store"]}),
            "move": ("part_moved", {"place": data["place"], "store": data["store"]}),
            "split": ("part_split", {"portions": data["portions"]}),
            "take": ("part_gone", {name: data[name] for name in ("how", "portions", "why", "grams")}),
            "heat": ("part_reheated", {"core_c": core_c}),
            "warm": (
                "part_warm",
                {"warm_s": _seconds(data["hours"]), "known": data["known"], "unknown": data["unknown"]},
            ),
            "shorten": ("part_shortened", {"until_s": data["until"].timestamp() if data["until"] else None}),
            "box": ("part_boxed", {name: data[name] for name in ("container", "count", "litres", "wrap")}),
            "read": ("part_read", {"core_c": core_c}),
            "sign": ("part_signed", {"signer": data["signer"], "reason": data["reason"]}),
        }
        kind, fields = kinds[data["do"]]
        return kind, {**base, **fields}


class PutForm(SaidForm):
    """Where and in what a bench has put a food: all of it may be left unsaid."""

    store = forms.CharField(max_length=40, required=False)
    portions = forms.IntegerField(required=False, min_value=1, max_value=500)
    container = forms.CharField(max_length=20, required=False)
    count = forms.IntegerField(required=False, min_value=1, max_value=500)
    litres = forms.FloatField(required=False, min_value=0.01, max_value=500)
    wrap = forms.CharField(max_length=8, required=False)


class KeepForm(SaidForm):
    """Some of a part is kept for a lesson."""

    key = forms.CharField(max_length=160)
    lesson = forms.IntegerField(min_value=1)
    portions = forms.IntegerField(required=False, min_value=1, max_value=500)


class ThawForm(SaidForm):
    """When a frozen part is needed thawed, and how thick it is."""

    item = forms.CharField(max_length=160)
    needed = WhenField()
    thick = forms.FloatField(min_value=0.2, max_value=40)


class PowerForm(SaidForm):
    """A power cut: since when, until when, and whether the store stays shut."""

    place = forms.ChoiceField(choices=[(name, name) for name in ("fridge", "freezer")])
    store = forms.CharField(max_length=40, required=False)
    since = WhenField()
    opens = WhenField()
    filled = forms.ChoiceField(choices=[(name, name) for name in ("unknown", "full", "half")])
    shut = forms.BooleanField(required=False)

    def clean(self) -> dict[str, Any]:
        data: dict[str, Any] = super().clean() or {}
        since, opens = data.get("since"), data.get("opens")
        if since and opens and opens <= since:
            self.add_error("opens", _("It is opened before the power went."))
        return data


def _seconds(hours: float | None) -> float | None:
    """None where nobody has said how long: that is not no time."""
    return None if hours is None else hours * 3600


def _celsius(value: float | None, unit: str) -> float | None:
    return value if value is None or unit != "F" else (value - 32) * 5 / 9


class FailureForm(SaidForm):
    """A store that was too warm for so many hours, or of which nobody knows."""

    place = forms.ChoiceField(choices=[(name, name) for name in ("fridge", "freezer")])
    store = forms.CharField(max_length=40, required=False)
    hours = forms.FloatField(min_value=0, max_value=240, required=False)
    known = forms.BooleanField(required=False)


class LabelForm(SaidForm):
    """A sheet of labels for one part: how many, and from which place of a sheet that was begun."""

    key = forms.CharField(max_length=160)
    sheet = forms.ChoiceField(choices=[(name, name) for name in SHEETS], required=False)
    printer = forms.IntegerField(required=False, min_value=1, max_value=2**31)
    copies = forms.IntegerField(min_value=1, max_value=MOST_COPIES)
    start = forms.IntegerField(min_value=1, max_value=max(row.count for row in SHEETS.values()), required=False)

    def clean(self) -> dict[str, Any]:
        data: dict[str, Any] = super().clean() or {}
        if not data.get("sheet") and not data.get("printer") and "sheet" not in self.errors:
            self.add_error("sheet", _("On which sheet, or on which printer?"))
        return data
