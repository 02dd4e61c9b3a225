"""What is said with a signature, and a record's file."""

from django import forms

from bulwark.people.forms import SaidForm


class SignForm(SaidForm):
    """Who answers for a record, as what, and what is to be put right in it."""

    name = forms.CharField(max_length=80)
    role = forms.CharField(max_length=80)
    words = forms.CharField(max_length=500, required=False)


class BringForm(SaidForm):
    """A lesson's file."""

    file = forms.FileField()
