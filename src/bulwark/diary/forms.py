"""Shapes of what is sent about courses and the days of lessons."""

import datetime as dt

from django import forms
from django.utils.translation import gettext as _

from bulwark.lessons.forms import FIRST_YEAR, LAST_YEAR, WhenField
from bulwark.people.forms import SaidForm


class CourseForm(SaidForm):
    """A course's name and the group it is for."""

    name = forms.CharField(max_length=80)
    group_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)


class WhenForm(SaidForm):
    """Another time for a lesson, and another group."""

    starts_at = WhenField()
    group_id = forms.IntegerField(required=False, min_value=1, max_value=2**31)


class WeekForm(SaidForm):
    """A day of the week that is asked for."""

    of = forms.DateField(required=False)

    def clean_of(self) -> dt.date | None:
        day: dt.date | None = self.cleaned_data["of"]
        if day is not None and not FIRST_YEAR <= day.year <= LAST_YEAR:
            raise forms.ValidationError(_("A year from 2000 to 2100 is needed."))
        return day
