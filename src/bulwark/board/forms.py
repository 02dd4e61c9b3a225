"""What can be asked of the plan board."""

from django import forms

from bulwark.people.forms import SaidForm


class BoardForm(SaidForm):
    """How long is shown first [min]."""

    show = forms.IntegerField(min_value=0, max_value=60, required=False)
