"""What each tool is asked. Every field knows its measure; what is typed is kept as it was typed."""

from collections.abc import Mapping
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.units import Units, from_si, shown, to_si, unit_name
from foodsafety.cooking import crock_sizes_l
from foodsafety.cooling import cold_packs, containers, cool_boxes
from foodsafety.foods import FoodKind, match_food
from foodsafety.measuring import probed_foods
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

    def to_python(self, value: Any) -> float | None:
        """The number typed; a decimal comma is one."""
        text = str(value or "").strip().replace(",", ".").replace("\u2212", "-")
        return super().to_python(text)  # type: ignore[no-any-return]

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

    def __init__(self, label: Any, choices: Any, first: str) -> None:
        super().__init__(label=label, choices=choices)
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


def _profiles() -> list[tuple[str, str]]:
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


def _named(pairs: Mapping[str, Any]) -> list[tuple[str, str]]:
    return [(key, row["name"]) for key, row in pairs.items()]


READINGS_HINT = _l("One on each line: minutes or clock time, then the temperature.")
_COLD_PLACES = [
    ("fridge", _l("fridge")),
    ("fan_fridge", _l("fan fridge")),
    ("blast", _l("blast chiller")),
    ("room", _l("left out")),
]
_TEXTURES = [("thick", _l("thick: stew, rice, mash")), ("thin", _l("thin: broth, sauce"))]


def _boxes() -> list[tuple[str, str]]:
    return [(row.id, row.name) for row in containers().values()]


class ChillForm(ToolForm):
    """The chill planner."""

    food = FoodField("vegetable soup")
    litres = Measured("volume", _l("Amount"), low=0.05, high=200, first=8, above=True)
    texture = Choice(_l("It is"), _TEXTURES, "thick")
    box = Choice(_l("Stands in"), _boxes, "pot_10l")
    where = Choice(_l("Where"), _COLD_PLACES, "fridge")
    around = Measured("temp", _l("Air there"), low=-40, high=40, first=4, slip="cold")
    lid = Tick(_l("Lid on"))
    readings = Words(_l("Core readings"), "0 60\n20 57\n40 54.5\n50 53", rows=4, required=True, hint=READINGS_HINT)
    code = Choice(_l("Rules"), _profiles, "us-foodservice")


class CookForm(ToolForm):
    """The cook check."""

    food = FoodField("turkey mince")
    method = Choice(
        _l("Cooked"),
        [("hot", _l("on or in the heat")), ("microwave", _l("in a microwave")), ("reheat", _l("heated again"))],
        "hot",
    )
    pieces = Measured("count", _l("Pieces to probe"), low=1, high=20, first=3, whole=True)
    error = Measured("count", _l("Probe error ±"), low=0, high=10, first=0.5)
    readings = Words(
        _l("Core readings"),
        "1 4:00 58\n2 4:20 61\n3 4:40 57.5\n3 7:30 73.2\n1 8:00 75.1\n2 8:10 75.8\n3 9:10 76.4",
        rows=5,
        required=True,
        hint=_l("One on each line: piece, minutes:seconds, temperature."),
    )
    off = Words(_l("Off the heat at"), "")
    seen = Words(_l("Also seen"), "")
    code = Choice(_l("Rules"), _profiles, "us-home")


class FreezeForm(ToolForm):
    """The freeze and thaw planner."""

    way = Choice(_l("Plan"), [("freeze", _l("freeze it")), ("thaw", _l("thaw it"))], "thaw")
    food = FoodField("turkey mince")
    shape = Choice(
        _l("Shape"),
        [
            ("slab", _l("flat: bag, fillet, tray")),
            ("cylinder", _l("roll or log")),
            ("sphere", _l("ball")),
            ("brick", _l("block")),
        ],
        "slab",
    )
    thick = Measured("length", _l("Thickness"), low=0.002, high=0.4, first=0.04, above=True)
    where = Choice(
        _l("Where"),
        [
            ("fridge", _l("fridge")),
            ("fan_fridge", _l("fan fridge")),
            ("tap_water", _l("cold running water")),
            ("room", _l("on the counter")),
            ("freezer", _l("freezer")),
            ("fan_freezer", _l("fan freezer")),
        ],
        "fridge",
    )
    around = Measured("temp", _l("Temperature there"), low=-45, high=40, first=4, slip="cold")
    start = Measured("temp", _l("Food begins at"), low=-40, high=80, first=-18, slip="cold")
    wrap = Choice(
        _l("Wrapped in"),
        [
            ("", _l("nothing")),
            ("film", _l("film or bag")),
            ("plastic_lid", _l("plastic box")),
            ("air_gap_10mm", _l("box with air in it")),
        ],
        "film",
    )
    by = Words(_l("Ready by (clock)"), "09:30")
    code = Choice(_l("Rules"), _profiles, "us-home")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["wrap"].required = False


class SlowForm(ToolForm):
    """The slow cooker."""

    size = Choice(_l("Cooker"), [(f"{size:g}", f"{size:g} l") for size in crock_sizes_l()], "5")
    volume = Measured("volume", _l("Food in it"), low=0.1, high=10, first=3)
    start = Measured("temp", _l("Food begins at"), low=-40, high=90, first=6, slip="cold")
    setting = Choice(
        _l("Setting"), [("low", _l("low")), ("high", _l("high")), ("high_first", _l("high for 1 h, then low"))], "low"
    )
    simmer = Measured("minutes", _l("On the hob it takes"), low=60, high=36_000, first=7200)
    liquid = Measured("millilitres", _l("Liquid on the hob"), low=0, high=20_000, first=900)
    lifts = Measured("count", _l("Lid lifted"), low=0, high=20, first=1, whole=True)
    room = Measured("temp", _l("Room"), low=0, high=40, first=19, slip="cold")
    serve = Words(_l("Serve at (clock)"), "18:30")


class BoxForm(ToolForm):
    """The cool box, and cooking where no tap is."""

    box = Choice(_l("Box"), lambda: _named(cool_boxes()), "hard_25l")
    cold = Choice(_l("Kept cold by"), lambda: _named(cold_packs()), "ice")
    ambient = Measured("temp", _l("Hottest outside"), low=-20, high=50, first=27)
    hours = Measured("hours", _l("For"), low=600, high=4 * 86400, first=5 * 3600)
    food_kg = Measured("mass", _l("Food in it"), low=0, high=60, first=5)
    food_c = Measured("temp", _l("Food goes in at"), low=-25, high=60, first=4, slip="cold")
    openings = Measured("count", _l("Opened"), low=0, high=300, first=10, whole=True)
    out = Measured("minutes", _l("Already out"), low=0, high=43_200, first=900)
    people = Measured("count", _l("People"), low=1, high=300, first=12, whole=True)
    washes = Measured("count", _l("Hand-washes each"), low=1, high=30, first=4, whole=True)
    produce = Measured("mass", _l("Produce to rinse"), low=0, high=200, first=2)
    code = Choice(_l("Rules"), _profiles, "us-home")


class ProbeForm(ToolForm):
    """The thermometer bench."""

    ice = Measured("temp", _l("Shows in ice slush"), low=-30, high=60, first=0.4, required=False)
    boil = Measured("temp", _l("Shows in boiling water"), low=50, high=140, first=99.1, required=False)
    altitude = Measured("altitude", _l("Altitude"), low=-430, high=6000, first=20)
    food = Choice(_l("To be probed"), [(name, name.replace("_", " ")) for name in probed_foods()], "patty")
    thick = Measured("length", _l("Thickness"), low=0.003, high=0.5, first=0.025)
    wide = Measured("length", _l("Width"), low=0.01, high=1.0, first=0.09)


class GrowthForm(ToolForm):
    """Time out of temperature, over several trips, and the growth budget."""

    readings = Words(
        _l("Food temperatures"), "0 4\n15 12\n40 22\n70 24\n90 9\n130 4", rows=6, required=True, hint=READINGS_HINT
    )
    ambient = Measured("temp", _l("Hottest around it"), low=-10, high=50, first=24, required=False)
    school = Choice(
        _l("Clock"),
        [("rules", _l("as the rules say")), ("2_4", _l("2 and 4 hours")), ("4_6", _l("4 and 6 hours"))],
        "rules",
    )
    code = Choice(_l("Rules"), _profiles, "us-home")


class SanitiserForm(ToolForm):
    """Sanitiser."""

    litres = Measured("volume", _l("Water"), low=0.05, high=500, first=5, above=True)
    ppm = Measured("ppm", _l("Strength"), low=1, high=5000, first=100)
    percent = Measured("percent", _l("Bleach has"), low=0.1, high=20, first=5)


class HandsForm(ToolForm):
    """The queue at the basins."""

    people = Measured("count", _l("People"), low=1, high=300, first=16, whole=True)
    basins = Measured("count", _l("Basins"), low=1, high=40, first=3, whole=True)
    scrub = Measured("seconds", _l("Scrubbing"), low=5, high=120, first=20)
    around = Measured("seconds", _l("Wetting, rinsing, drying"), low=5, high=300, first=25)


class PortionForm(ToolForm):
    """Part of a can, and portions."""

    needed = Measured("grams", _l("Recipe needs"), low=0, high=100_000, first=600)
    can = Measured("grams", _l("One can holds"), low=1, high=20_000, first=240)
    batch = Measured("grams", _l("Batch made"), low=1, high=1_000_000, first=4200)
    portion = Measured("grams", _l("One portion"), low=1, high=20_000, first=350)
    people = Measured("count", _l("People"), low=1, high=5000, first=30, whole=True)


class LogForm(ToolForm):
    """A temperature log, looked over and judged."""

    kind = Choice(
        _l("It is a log of"),
        [("cooling", _l("food that cools")), ("fridge", _l("a fridge")), ("freezer", _l("a freezer"))],
        "cooling",
    )
    log = Words(
        _l("Log as CSV"),
        "minutes,core C\n0,62\n30,48.5\n60,36\n90,27.5\n91,67\n120,20.8\n180,12.5\n240,8\n300,5.6\n330,4.8",
        rows=7,
        required=True,
        hint=_l("With a heading that names a time and a temperature."),
    )
    code = Choice(_l("Rules"), _profiles, "us-foodservice")
