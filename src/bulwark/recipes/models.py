"""Recipes as an organisation keeps them."""

from django.db import models


class Recipe(models.Model):
    """A recipe and its process. The process is in the core's own input form, with a title and a
    detail on each step for people to read."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.PROTECT, related_name="recipes")
    title = models.CharField(max_length=160)
    summary = models.TextField(blank=True)
    serves = models.PositiveSmallIntegerField(default=4)
    ingredients = models.JSONField(default=list)
    pieces = models.JSONField(default=dict)
    process = models.JSONField()
    confirmed_at = models.DateTimeField(null=True, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.title
