"""The sign-in form, and what every form of ours can say."""

from typing import Any

from django import forms
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext as _

from bulwark.people.models import User
from bulwark.people.roles import ROLES
from foodsafety.quantities import CoreError


class ManyWords(forms.CharField):
    """Any number of words of one name, one in a line."""

    widget = forms.MultipleHiddenInput

    def to_python(self, value: Any) -> str:
        """The words that were sent, in lines; what has a line of its own in it is none."""
        return "\n".join(str(word)[:200] for word in value or () if str(word).strip() and "\n" not in str(word))


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


class InviteForm(SaidForm):
    """A new colleague."""

    email = forms.EmailField(max_length=150)
    role = forms.ChoiceField(choices=lambda: [(name, name) for name in ROLES])

    def clean_email(self) -> str:
        """In small letters: nobody remembers which were large when they sign in."""
        return str(self.cleaned_data["email"]).lower()


class ForgottenForm(SaidForm):
    """Whose password was forgotten."""

    email = forms.EmailField(max_length=150)


class PersonForm(SaidForm):
    """What is to become of an account."""

    what = forms.ChoiceField(choices=[(name, name) for name in ("link", "everywhere", "role", "active", "away")])
    role = forms.CharField(max_length=12, required=False)


class SessionForm(SaidForm):
    """How long a browser stays signed in."""

    session_hours = forms.IntegerField(min_value=1, max_value=24 * 14)


class PasswordForm(SaidForm):
    """A new password, twice; with the ``old`` one where somebody changes their own."""

    old = forms.CharField(max_length=200, strip=False)
    password = forms.CharField(max_length=200, strip=False)
    again = forms.CharField(max_length=200, strip=False)

    def __init__(self, *args: Any, user: User, old: bool = False, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.user = user
        if not old:
            del self.fields["old"]

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if "old" in self.fields and not self.user.check_password(data.get("old", "")):
            self.add_error("old", _("That is not your password now."))
        if data.get("password") != data.get("again"):
            self.add_error("again", _("The two are not the same."))
        if data.get("password"):
            try:
                validate_password(data["password"], self.user)
            except forms.ValidationError as wrong:
                self.add_error("password", wrong)
        return data


class SignInForm(AuthenticationForm):
    """Django's own, with fields that say what they are to password managers and large fingers."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs["class"] = "input"
