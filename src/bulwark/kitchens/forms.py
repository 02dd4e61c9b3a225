"""Shapes of what an educator sends about the kitchen; the core judges what they mean."""

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from django import forms

from bulwark.kitchens.models import Kitchen
from bulwark.kitchens.services import NUMBERS
from bulwark.people.forms import SaidForm
from foodsafety.foods import LOCALES
from foodsafety.quantities import CoreError
from foodsafety.review import PRICE_UNITS
from foodsafety.rules import HOUSE_CHOICES, LONGEST_SCRUB_S, profile_ids

CURRENCIES = ("GBP", "EUR", "USD", "CAD", "AUD", "NZD")


class HouseRulesForm(SaidForm):
    """Base profile, measures and house rules."""

    profile = forms.ChoiceField(choices=lambda: [(name, name) for name in profile_ids()])
    locale = forms.ChoiceField(choices=[(name, name) for name in LOCALES])
    currency = forms.ChoiceField(choices=[(name, name) for name in CURRENCIES])
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


_PAIR = re.compile(r"^(\d{1,2})\s+(.{1,40})$")


class KitchensForm:
    """The table of all kitchens: a cell is "k3-benches" or, for a count, "k3-n-oven". Raises CoreError naming the
    cell that cannot be read."""

    def __init__(self, data: Mapping[str, Any], rooms: Sequence[Kitchen]) -> None:
        self._rooms = {room.pk: room for room in rooms}
        self._cells: dict[int, dict[str, str]] = {room.pk: {} for room in rooms}
        for key, text in data.items():
            pk, _sep, field = key.removeprefix("k").partition("-")
            if key.startswith("k") and pk.isdecimal() and int(pk) in self._cells:
                self._cells[int(pk)][field[:80]] = str(text).replace("\0", "").strip()

    def rooms(self) -> Iterator[tuple[Kitchen, dict[str, Any]]]:
        """Each kitchen that was in the table, with what was said of it."""
        for pk, cells in self._cells.items():
            if "name" not in cells:
                continue
            said: dict[str, Any] = {"name": cells["name"]}
            for field in NUMBERS:
                said[field] = self._number(cells.get(field, ""), field)
            shelves = [part for part in cells.get("oven_shelves", "").replace(",", " ").split() if part]
            said["oven_shelves"] = [self._number(part, "oven_shelves") for part in shelves]
            said["rings"] = self._by_name(cells.get("rings", ""), "rings")
            said["boards"] = self._by_name(cells.get("boards", ""), "boards")
            said["ages"] = self._by_name(cells.get("ages", ""), "ages")
            said["tap"] = cells.get("tap", "") if cells.get("tap", "") in dict(Kitchen.TAP) else ""
            yield self._rooms[pk], said

    def counts(self, room: Kitchen) -> dict[str, int | None]:
        """How many of each kind; None for an empty box."""
        rows = {key[2:]: text for key, text in self._cells[room.pk].items() if key.startswith("n-")}
        return {kind: self._number(text, kind) for kind, text in rows.items()}

    def _number(self, text: str, field: str) -> int | None:
        if not text:
            return None
        if not text.removeprefix("-").isdecimal() or len(text) > 5:
            raise CoreError(field, "not_a_number", value=text[:20])
        return int(text)

    def _by_name(self, text: str, field: str) -> dict[str, int]:
        found = {}
        for part in (part.strip() for part in text.split(",") if part.strip()):
            pair = _PAIR.match(part)
            if pair is None:
                raise CoreError(field, "not_a_count_of", value=part[:40])
            found[pair[2].strip()] = int(pair[1])
        return found


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
