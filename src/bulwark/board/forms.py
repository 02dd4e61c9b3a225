"""What can be asked of the plan board."""

from django import forms

from bulwark.people.forms import ManyWords, SaidForm


class BoardForm(SaidForm):
    """Which brick is picked, and up to which change somebody had seen the plan."""

    pick = forms.CharField(max_length=120, required=False)
    seen = forms.IntegerField(min_value=0, required=False)


class ChangeForm(BoardForm):
    """One change: what is done ("put") to what ("1.griddle") and with which value ("35")."""

    do = forms.CharField(max_length=12)
    of = forms.CharField(max_length=120, required=False)
    value = forms.CharField(max_length=120, required=False)
    # The dishes of a bench (``do`` is "share").
    dish = ManyWords(required=False)
    # How long all do something at once [min], asked together (``do`` is "at_once").
    review = forms.CharField(max_length=4, required=False)
    show = forms.CharField(max_length=4, required=False)
    eat = forms.CharField(max_length=4, required=False)


class CatchUpForm(SaidForm):
    """One way back for a bench that is behind its plan: what is done, with whom or what, and from which bench."""

    do = forms.CharField(max_length=12)
    of = forms.CharField(max_length=60, required=False)
    bench = forms.CharField(max_length=40, required=False)


class WaysForm(SaidForm):
    """How many ways out were tried the time before, how often was asked, and whether somebody has seen enough."""

    already = forms.IntegerField(required=False, min_value=0, max_value=10_000)
    asked = forms.IntegerField(required=False, min_value=0, max_value=10_000)
    stop = forms.BooleanField(required=False)
