"""What can be asked of a pack."""

from django import forms

from bulwark.people.forms import SaidForm


class PackForm(SaidForm):
    """On which paper, and how long the way home is [min]."""

    paper = forms.ChoiceField(choices=[("a4", "A4"), ("letter", "Letter")], required=False)
    way = forms.IntegerField(min_value=0, max_value=600, required=False)


class TalkingForm(SaidForm):
    """Talking points, a line each."""

    lines = forms.CharField(max_length=8000, required=False)
