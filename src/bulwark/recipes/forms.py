"""Shapes of what an educator sends about recipes; the core judges what they mean."""

from typing import Any

from django import forms

from bulwark.people.forms import SaidForm
from foodsafety.foods import LOCALES, allergen_sets
from foodsafety.recipes import MOST_BYTES, VERBS, Document


def _list(text: str) -> list[str]:
    return [part.strip() for part in text.replace("\n", ",").split(",") if part.strip()]


class BringForm(SaidForm):
    """A recipe as text or as a file."""

    text = forms.CharField(required=False, strip=False, max_length=MOST_BYTES)
    file = forms.FileField(required=False, max_length=200, allow_empty_file=True)
    locale = forms.ChoiceField(choices=[(name, name) for name in LOCALES])


class WordsForm(SaidForm):
    """A recipe's words in the editor."""

    title = forms.CharField(max_length=160)
    summary = forms.CharField(required=False, max_length=4000)
    serves = forms.IntegerField(required=False, min_value=1, max_value=9999)
    ingredients = forms.CharField(required=False, max_length=60_000)
    instructions = forms.CharField(required=False, max_length=200_000)
    notes = forms.CharField(required=False, max_length=40_000)

    def document(self) -> Document:
        """The words as a document."""
        data = self.cleaned_data

        def rows(name: str) -> tuple[str, ...]:
            return tuple(row.strip() for row in data[name].splitlines() if row.strip())

        serves = data["serves"]
        return Document(
            title=data["title"],
            summary=data["summary"],
            serves=serves,
            servings_text=f"Serves {serves}" if serves else "",
            ingredients=rows("ingredients"),
            instructions=rows("instructions"),
            notes=rows("notes"),
        )


class LineForm(SaidForm):
    """What a person says of an ingredient line."""

    low = forms.FloatField(required=False, min_value=0)
    high = forms.FloatField(required=False, min_value=0)
    unit = forms.CharField(required=False, max_length=20)
    food = forms.CharField(required=False, max_length=120)
    kind = forms.CharField(required=False, max_length=80)
    allergens = forms.MultipleChoiceField(
        required=False,
        choices=lambda: [(tag, tag) for tag in sorted({t for row in allergen_sets().values() for t in row.members})],
    )
    remember = forms.BooleanField(required=False)

    def values(self) -> dict[str, Any]:
        """The correction."""
        data = self.cleaned_data
        low = data["low"]
        high = data["high"] if data["high"] is not None else low
        return {
            "low": low,
            "high": high,
            "unit": data["unit"] or None,
            "food": data["food"] or None,
            "kind": data["kind"] or None,
            "allergens": data["allergens"],
        }


class StepForm(SaidForm):
    """One step as the editor sends it."""

    title = forms.CharField(required=False, max_length=80)
    detail = forms.CharField(required=False, max_length=600)
    do = forms.ChoiceField(choices=[(name, name) for name in sorted(VERBS)])
    foods = forms.CharField(required=False, max_length=1000)
    tools = forms.CharField(required=False, max_length=400)
    hands = forms.BooleanField(required=False)
    makes = forms.CharField(required=False, max_length=80)
    minutes = forms.FloatField(required=False, min_value=0, max_value=10_000)
    waiting_min = forms.FloatField(required=False, min_value=0, max_value=10_000)
    oven_c = forms.FloatField(required=False, min_value=0, max_value=320)
    core_c = forms.FloatField(required=False, min_value=0, max_value=110)
    level = forms.CharField(required=False, max_length=20)
    cue = forms.CharField(required=False, max_length=120)

    def fields_for(self, person: str) -> dict[str, Any]:
        """The step's fields in the core's form."""
        data = dict(self.cleaned_data)
        data["foods"], data["tools"] = _list(data["foods"]), _list(data["tools"])
        data["hands"] = [person] if data["hands"] else []
        data["makes"] = data["makes"] or None
        for key in ("minutes", "waiting_min"):
            data[key] = data[key] or 0.0
        return data


class AmountsForm(SaidForm):
    """What to scale to."""

    by = forms.ChoiceField(choices=[("servings", ""), ("people", ""), ("have", "")])
    servings = forms.FloatField(required=False, min_value=0.01, max_value=100_000)
    people = forms.FloatField(required=False, min_value=0.01, max_value=100_000)
    each = forms.FloatField(required=False, min_value=0.01, max_value=100)
    line = forms.IntegerField(required=False, min_value=0)
    have = forms.FloatField(required=False, min_value=0.0001, max_value=1e6)
    have_unit = forms.CharField(required=False, max_length=12)
    pieces = forms.FloatField(required=False, min_value=0.01, max_value=100_000)
    fits = forms.IntegerField(required=False, min_value=1, max_value=10_000)


class EatersForm(SaidForm):
    """Who eats."""

    count = forms.IntegerField(required=False, min_value=1, max_value=9999)
    pregnant = forms.IntegerField(required=False, min_value=0, max_value=999)
    under_5 = forms.IntegerField(required=False, min_value=0, max_value=999)
    under_1 = forms.IntegerField(required=False, min_value=0, max_value=999)
    over_65 = forms.IntegerField(required=False, min_value=0, max_value=999)
    weakened = forms.IntegerField(required=False, min_value=0, max_value=999)
    allergens = forms.MultipleChoiceField(
        required=False,
        choices=lambda: [(tag, tag) for tag in sorted({t for row in allergen_sets().values() for t in row.members})],
    )

    def eaters(self) -> dict[str, Any]:
        """As the recipe keeps them."""
        data = self.cleaned_data
        groups = ("pregnant", "under_5", "under_1", "over_65", "weakened")
        return {
            "count": data["count"],
            "groups": {name: data[name] for name in groups if data[name]},
            "allergens": data["allergens"],
        }
