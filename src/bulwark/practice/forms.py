"""What is asked of a new round, and what comes with an answer."""

from django import forms

from bulwark.people.forms import SaidForm
from bulwark.practice.models import Round
from bulwark.practice.services import MOST_HANDS, MOST_PUZZLES
from bulwark.records.keeping import FEWEST_MONTHS, MOST_MONTHS
from foodsafety.practice import KINDS, LEVELS


class RoundForm(SaidForm):
    """A round: of which lesson or recipe, for whom, what for, how many and how hard."""

    lesson = forms.IntegerField(required=False, min_value=1)
    recipe = forms.IntegerField(required=False, min_value=1)
    group = forms.IntegerField(required=False, min_value=1)
    kind = forms.ChoiceField(choices=[(name, name) for name in (Round.PRACTICE, Round.REVIEW, Round.BEFORE)])
    count = forms.IntegerField(min_value=1, max_value=MOST_PUZZLES)
    level = forms.TypedChoiceField(choices=[(n, n) for n in LEVELS], coerce=int)
    only = forms.ChoiceField(required=False, choices=[("", ""), *((name, name) for name in KINDS)])
    seed = forms.IntegerField(required=False, min_value=0, max_value=10_000_000)


class AnswerForm(SaidForm):
    """One answer."""

    number = forms.IntegerField(min_value=0, max_value=MOST_PUZZLES)
    choice = forms.CharField(max_length=200)
    uuid = forms.UUIDField()
    learner = forms.CharField(required=False, max_length=24)


class HandsForm(SaidForm):
    """How many hands were up for each answer."""

    number = forms.IntegerField(min_value=0, max_value=MOST_PUZZLES)
    uuid = forms.UUIDField()

    def hands(self, choices: list[str]) -> dict[str, int]:
        """The count for each choice; what is no number is nobody."""
        found = {}
        for n, name in enumerate(choices):
            text = str(self.data.get(f"hands-{n}", "")).strip()
            if text.isdecimal() and len(text) < 4 and 0 < int(text) <= MOST_HANDS:
                found[name] = int(text)
        return found


class CertificateForm(SaidForm):
    """What a certificate is called, and what it says."""

    title = forms.CharField(max_length=120)


class ReportForm(SaidForm):
    """Over which time, for which group, and by what it is parted."""

    since = forms.DateField()
    until = forms.DateField()
    group = forms.IntegerField(required=False, min_value=1)
    by = forms.ChoiceField(choices=[("group", "group"), ("place", "place")])


class KeepingForm(SaidForm):
    """For how many months names are kept, in each kind of record."""

    lessons = answers = hurts = certificates = brought = forms.IntegerField(
        min_value=FEWEST_MONTHS, max_value=MOST_MONTHS
    )
