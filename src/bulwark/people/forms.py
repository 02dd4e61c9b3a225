"""The sign-in form, and what every form of ours can say."""

from typing import Any

from django import forms
from django.contrib.auth.forms import AuthenticationForm

from foodsafety.quantities import CoreError


class SaidForm(forms.Form):
    """A form that can say in one line what is wrong with it."""

    def first_error(self) -> str:
        """The first thing that is wrong, with its field."""
        field, errors = next(iter(self.errors.items()))
        return f"{field}: {errors[0]}"

    def first_errors(self) -> dict[str, str]:
        """The first thing that is wrong with each field."""
        return {name: str(errors[0]) for name, errors in self.errors.items()}

    def typed(self) -> dict[str, str]:
        """What a person typed, every field of it, to be shown again."""
        return {name: str(self.data.get(name, "")) for name in self.base_fields}

    def wrong(self) -> CoreError:
        """The same as the core's own error, so that both are answered alike."""
        field, errors = next(iter(self.errors.items()))
        return CoreError(field, "said", text=str(errors[0]))


class SignInForm(AuthenticationForm):
    """Django's own, with fields that say what they are to password managers and large fingers."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs["class"] = "input"
