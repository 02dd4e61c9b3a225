"""The fields a tool's form is made of. Every field knows its measure; what is typed is kept as it was typed."""

from collections.abc import Mapping
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.units import Units, from_si, shown, to_si, unit_name
from foodsafety.foods import FoodKind, match_food
from foodsafety.quantities import question_cold, question_core
from foodsafety.rules import profile_ids, rule_profile

MOST_TEXT = 20_000


class Measured(forms.FloatField):
    """A number with a unit. Bounds and the first value are in the core's unit; ``slip`` says which
    question is asked of a temperature before it is believed."""

    def __init__(
        self,
        measure: str,
        label: Any,
        *,
        low: float,
        high: float,
        first: float | None = None,
        slip: str = "",
        whole: bool = False,
        required: bool = True,
        above: bool = False,
    ) -> None:
        super().__init__(label=label, required=required, widget=forms.TextInput(attrs={"inputmode": "decimal"}))
        self.measure, self.low, self.high, self.first = measure, low, high, first
        self.slip, self.whole, self.above = slip, whole, above
        self.units = Units()

    @property
    def unit(self) -> str:
        """What stands behind the number."""
        return unit_name(self.measure, self.units)

    def written(self, value: float) -> str:
        """A value of the core's as it would be typed."""
        return f"{round(from_si(value, self.measure, self.units), 2):g}"

    def to_python(self, value: Any) -> float | None:  # type: ignore[override]  # the stubs: a float is an integer field
        """The number typed; a decimal comma is one."""
        text = str(value or "").strip().replace(",", ".").replace("\u2212", "-")
        return super().to_python(text)

    def clean(self, value: Any) -> Any:
        """The value in the core's unit, checked. Raises ValidationError naming what was allowed."""
        number = super().clean(value)
        if number is None:
            return None
        self._question(number)
        found = to_si(number, self.measure, self.units)
        outside = not self.low <= found <= self.high or (self.above and found <= self.low)
        if outside:
            low = shown(self.low, self.measure, self.units)
            high = shown(self.high, self.measure, self.units)
            words = _("more than %(low)s, up to %(high)s") if self.above else _("from %(low)s to %(high)s")
            raise ValidationError(
                _("%(value)s is outside what can be: %(words)s.")
                % {"value": f"{number:g} {self.unit}".strip(), "words": words % {"low": low, "high": high}}
            )
        if self.whole and found != int(found):
            raise ValidationError(_("A whole number is needed."))
        return int(found) if self.whole else found

    def _question(self, number: float) -> None:
        if not self.slip:
            return
        question = (question_core if self.slip == "core" else question_cold)(number, self.units.temps)
        other = "F" if self.units.temps == "C" else "C"
        if question in ("looks_fahrenheit", "looks_celsius"):
            raise ValidationError(
                _("%(value)s °%(unit)s? That makes sense only as °%(other)s. Change the unit above, or the number.")
                % {"value": f"{number:g}", "unit": self.units.temps, "other": other},
                code="slip",
            )


def _food(words: str) -> FoodKind:
    found = match_food(words)
    if found is None:
        raise ValidationError(_("Nothing here is called that. Name the main food: beef stew, rice, broth."))
    return found.kind


class FoodField(forms.CharField):
    """A food by its name."""

    def __init__(self, first: str) -> None:
        super().__init__(label=_l("Food"), max_length=80)
        self.first = first

    def clean(self, value: Any) -> FoodKind:
        """The food kind. Raises ValidationError for one nobody knows."""
        return _food(super().clean(value))


class Choice(forms.ChoiceField):
    """One of a few, with the first value."""

    def __init__(self, label: Any, choices: Any, first: str, *, required: bool = True) -> None:
        super().__init__(label=label, choices=choices, required=required)
        self.first = first


class Words(forms.CharField):
    """Free text with a first value: readings, times."""

    def __init__(self, label: Any, first: str = "", *, rows: int = 0, required: bool = False, hint: Any = "") -> None:
        widget = forms.Textarea(attrs={"rows": rows}) if rows else forms.TextInput()
        super().__init__(label=label, required=required, max_length=MOST_TEXT, widget=widget, help_text=hint)
        self.first = first


class Tick(forms.BooleanField):
    """A yes or no."""

    def __init__(self, label: Any) -> None:
        super().__init__(label=label, required=False)
        self.first = ""


def profile_choices() -> list[tuple[str, str]]:
    """Every rule profile by id and name."""
    return [(name, rule_profile(name).name) for name in profile_ids()]


class ToolForm(forms.Form):
    """A tool's questions. Unasked, it is filled with its first values, so that there is always an
    answer to look at."""

    use_required_attribute = False

    def __init__(self, query: Mapping[str, str], units: Units, starts: Mapping[str, str]) -> None:
        fields = self.base_fields
        asked = any(name in query for name in fields)
        for field in fields.values():
            if isinstance(field, Measured):
                field.units = units
        first = {name: starts.get(name) or _first(field) for name, field in fields.items()}
        data = {name: str(query.get(name, "" if asked else first[name])) for name in fields}
        # A link that leaves out a choice means the usual one; a tick left out is no.
        for name, field in fields.items():
            if asked and name not in query and isinstance(field, Choice):
                data[name] = first[name]
        super().__init__(data={name: value for name, value in data.items() if value or name in query})
        for field in self.fields.values():
            if isinstance(field, Measured):
                field.units = units
        self.units = units

    def typed(self) -> dict[str, str]:
        """What was typed, as a query says it."""
        return {name: str(value) for name, value in self.data.items() if value not in ("", None)}

    def in_units(self, units: Units) -> dict[str, str]:
        """The same question with its numbers in other units."""
        found = self.typed()
        for name, field in self.fields.items():
            if isinstance(field, Measured) and name in found:
                try:
                    number = field.to_python(found[name])
                except ValidationError:
                    continue
                if number is not None:
                    si = to_si(number, field.measure, self.units)
                    found[name] = f"{round(from_si(si, field.measure, units), 2):g}"
        return found


def _first(field: forms.Field) -> str:
    first = getattr(field, "first", None)
    if first is None:
        return ""
    return field.written(first) if isinstance(field, Measured) else str(first)


READINGS_HINT = _l("One on each line: minutes or clock time, then the temperature.")
