"""Organisations, the people who sign in for them, and the links that let somebody in."""

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils.crypto import salted_hmac


class Organisation(models.Model):
    """Who owns recipes, lessons and records. Retired ones are kept: their logs are."""

    name = models.CharField(max_length=120)
    retired_at = models.DateTimeField(null=True, blank=True)
    # The made-up hostel: real work in it is warned of.
    is_demo = models.BooleanField(default=False)
    # After so long without a sign-in a browser is asked for the password again.
    session_hours = models.PositiveSmallIntegerField(default=12)

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """An adult with an account. Learners have none."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, null=True, related_name="users")
    language = models.CharField(max_length=8, default="en-gb")
    unit = models.CharField(max_length=1, default="C", choices=[("C", "°C"), ("F", "°F")])
    role = models.CharField(max_length=12, default="educator")
    # Sessions begun before this are over.
    signed_out_at = models.DateTimeField(null=True, blank=True)

    def get_session_auth_hash(self) -> str:
        """As Django's own, and another after signing out everywhere."""
        before = self.signed_out_at.isoformat() if self.signed_out_at else ""
        return salted_hmac("bulwark.session", f"{self.password}{before}", algorithm="sha256").hexdigest()


class Welcome(models.Model):
    """A link that lets somebody choose a password: a new colleague, or one who has forgotten theirs. Only its hash
    is kept; it works once, and not for ever."""

    organisation = models.ForeignKey(Organisation, on_delete=models.CASCADE, related_name="welcomes")
    user = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="welcomes")
    email = models.EmailField(max_length=150)
    role = models.CharField(max_length=12)
    token_hash = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return f"welcome {self.pk}"
