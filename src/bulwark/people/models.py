"""Organisations and the people who sign in for them."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Organisation(models.Model):
    """Who owns recipes, lessons and records. Retired ones are kept: their logs are."""

    name = models.CharField(max_length=120)
    retired_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """An adult with an account. Learners have none."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, null=True, related_name="users")
    language = models.CharField(max_length=8, default="en-gb")
    unit = models.CharField(max_length=1, default="C", choices=[("C", "°C"), ("F", "°F")])
