"""Shapes of what is sent about courses and the days of lessons."""

from django import forms

from bulwark.people.forms import SaidForm

_WHEN = ["%Y-%m-%dT%H:%M", "%Y-%m-%d %H:%M"]


class CourseForm(SaidForm):
    """A course's name and the group it is for."""

    name = forms.CharField(max_length=80)
    group_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)


class WhenForm(SaidForm):
    """Another time for a lesson, and another group."""

    starts_at = forms.DateTimeField(input_formats=_WHEN)
    group_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)


class WeekForm(SaidForm):
    """A day of the week that is asked for."""

    of = forms.DateField(required=False)
