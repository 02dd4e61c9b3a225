"""Shapes of what an educator sends; the core judges what they mean."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _

from bulwark.groups.rosters import bench_lines, twice_seated
from bulwark.groups.wording import at_two_benches
from bulwark.lessons import wording
from bulwark.lessons.crews import PACES, Crewed, Rehearsal
from bulwark.lessons.models import Bench
from bulwark.people.forms import ManyWords, SaidForm
from foodsafety.lesson import CREWS, PLANTED
from foodsafety.rules import profile_ids

FIRST_YEAR, LAST_YEAR = 2000, 2100


class PlanForm(SaidForm):
    """Which rule profile, and whether its table of equivalent holds is accepted."""

    profile = forms.ChoiceField(choices=lambda: [(name, name) for name in profile_ids()])
    cook_equivalents = forms.BooleanField(required=False)


class WhenField(forms.DateTimeField):
    """When a lesson begins: in a year that a calendar can be asked for."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(input_formats=["%Y-%m-%dT%H:%M", "%Y-%m-%d %H:%M"], **kwargs)

    def clean(self, value: Any) -> Any:
        found = super().clean(value)
        if found is not None and not FIRST_YEAR <= found.year <= LAST_YEAR:
            raise forms.ValidationError(_("A year from 2000 to 2100 is needed."))
        return found


class LessonForm(SaidForm):
    """A lesson on a recipe."""

    starts_at = WhenField()
    length_min = forms.IntegerField(min_value=10, max_value=900)
    place = forms.CharField(required=False, max_length=120)
    kitchen_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)
    group_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)
    benches = forms.CharField(max_length=2000)

    def clean_benches(self) -> dict[str, list[str]]:
        """Lines of "Gannet: SD, RO"."""
        found = bench_lines(self.cleaned_data["benches"])
        for name, learners in found.items():
            if len(name) > 40 or any(len(person) > 24 for person in learners):
                raise forms.ValidationError(_("Bench names up to 40 letters, initials or nicknames up to 24."))
            if not learners:
                raise forms.ValidationError(
                    _("Bench %(name)s has nobody: write initials after a colon.") % {"name": name}
                )
        if not found:
            raise forms.ValidationError(_("Write at least one bench, as \u201cGannet: SD, RO\u201d."))
        if twice := twice_seated(found):
            raise forms.ValidationError([at_two_benches(name, rows) for name, rows in twice.items()])
        return found


class EducatorEntryForm(SaidForm):
    """An entry from the educator's bench page."""

    id = forms.UUIDField(required=False)
    kind = forms.CharField(max_length=32, required=False)
    # A button that says who did the step, or whose hands were washed, says what kind of entry it is too.
    done_by = forms.CharField(max_length=24, required=False)
    washed = forms.CharField(max_length=24, required=False)
    reason = forms.CharField(max_length=300, required=False, strip=True)
    control = forms.CharField(max_length=80, required=False)
    event = forms.CharField(max_length=64, required=False)
    food = forms.CharField(max_length=80, required=False)
    how = forms.CharField(max_length=20, required=False)
    category = forms.CharField(max_length=40, required=False)
    name = forms.CharField(max_length=60, required=False)
    piece = forms.CharField(max_length=20, required=False)
    value = forms.FloatField(required=False)
    timer = forms.CharField(max_length=40, required=False)
    step = forms.CharField(max_length=80, required=False)
    learner = forms.CharField(max_length=24, required=False)
    by = forms.CharField(max_length=24, required=False)
    scrub_s = forms.FloatField(required=False)
    minutes = forms.FloatField(required=False)
    unit = forms.ChoiceField(choices=[(name, name) for name in ("C", "F", "g", "pieces", "unweighed")], required=False)
    tools = ManyWords(required=False)
    confirmed = forms.BooleanField(required=False)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if data.get("done_by"):
            data |= {"kind": "step_done", "by": data["done_by"]}
        elif data.get("washed"):
            data |= {"kind": "hands_washed", "learner": data["washed"]}
        if not data.get("kind"):
            self.add_error("kind", _("Say what happened."))
        if data.get("kind") in ("voided", "waived", "decided") and not data.get("reason"):
            self.add_error("reason", _("Say why in a few words: the record keeps the reason."))
        return data

    def entry_data(self) -> dict[str, Any]:
        """The fields that this kind of entry carries."""
        keys = ("reason", "control", "event", "food", "name", "how", "category", "piece", "unit", "confirmed")
        found = (
            (key, self.cleaned_data.get(key)) for key in (*keys, "timer", "step", "learner", "by", "scrub_s", "minutes")
        )
        data: dict[str, Any] = {key: value for key, value in found if value}
        if tools := self.cleaned_data.get("tools"):
            data["tools"] = tools.splitlines()
        value = self.cleaned_data.get("value")
        return data if value is None else {**data, "value": value}


class RehearseForm(SaidForm):
    """How a lesson is rehearsed; a slip, a crew and a minute for each bench, named by its number."""

    pace = forms.TypedChoiceField(choices=[(n, n) for n in PACES], coerce=int)
    seed = forms.IntegerField(min_value=1, max_value=9999)

    def __init__(self, *args: Any, lesson: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.benches = list(lesson.benches.all())
        for bench in self.benches:
            self.fields[f"slip-{bench.pk}"] = forms.ChoiceField(
                choices=[("", ""), *((name, name) for name in PLANTED)], required=False
            )
            self.fields[f"crew-{bench.pk}"] = forms.ChoiceField(choices=[(name, name) for name in CREWS])
            self.fields[f"min-{bench.pk}"] = forms.IntegerField(min_value=0, max_value=600, required=False)

    def asked(self) -> Rehearsal:
        """What was asked for."""
        data = self.cleaned_data
        rows = {
            bench.name: Crewed(
                crew=data[f"crew-{bench.pk}"],
                slip=data[f"slip-{bench.pk}"],
                from_min=float(data[f"min-{bench.pk}"] or 0),
            )
            for bench in self.benches
        }
        return Rehearsal(seed=data["seed"], benches=rows)


class HurtForm(SaidForm):
    """That somebody was hurt: who, how, and what was done."""

    bench = forms.ModelChoiceField(Bench.objects.none())
    who = forms.CharField(max_length=24, strip=True)
    what = forms.ChoiceField(choices=lambda: list(wording.hurt_kinds().items()))
    care = forms.MultipleChoiceField(choices=lambda: list(wording.hurt_care().items()), required=False)
    thrown = forms.CharField(max_length=80, required=False)
    words = forms.CharField(max_length=300, required=False, strip=True)

    def __init__(self, *args: Any, lesson: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["bench"].queryset = lesson.benches.all()  # type: ignore[attr-defined]


class JoinForm(SaidForm):
    """A bench's code as typed: case and stray spaces do not matter."""

    code = forms.CharField(min_length=6, max_length=12, strip=True)

    def clean_code(self) -> str:
        return "".join(self.cleaned_data["code"].split()).upper()
