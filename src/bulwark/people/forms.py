"""The sign-in form."""

from django.contrib.auth.forms import AuthenticationForm


class SignInForm(AuthenticationForm):
    """Django's own, with fields that say what they are to password managers and large fingers."""

    def __init__(self, *args: object, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs["class"] = "input"
