"""Recipes as an organisation keeps them."""

from django.conf import settings
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVectorField
from django.db import models

from foodsafety.foods import Locale, locale_from


class Recipe(models.Model):
    """A recipe: its words as they came, what was corrected, and the process they describe.

    ``ingredients`` are lines as written; ``corrections`` what a person said of them, by line.
    ``process`` is in the core's own input form, with a title and a detail on each step for people
    to read. Until ``confirmed_at`` it is only a proposal.
    """

    organisation = models.ForeignKey("people.Organisation", on_delete=models.PROTECT, related_name="recipes")
    title = models.CharField(max_length=160)
    summary = models.TextField(blank=True)
    serves = models.PositiveSmallIntegerField(null=True, blank=True, default=4)
    servings_text = models.CharField(max_length=80, blank=True)
    locale = models.CharField(max_length=8, default="en-GB")
    ingredients = models.JSONField(default=list)
    corrections = models.JSONField(default=dict, blank=True)
    instructions = models.JSONField(default=list, blank=True)
    notes = models.JSONField(default=list, blank=True)
    extra = models.JSONField(default=dict, blank=True)
    # Every line that came in and what it was taken for, to be read beside what was understood.
    source = models.JSONField(default=list, blank=True)
    pieces = models.JSONField(default=dict, blank=True)
    variants = models.JSONField(default=list, blank=True)
    eaters = models.JSONField(default=dict, blank=True)
    process = models.JSONField()
    # The recipes a menu was put together from, by their numbers.
    dishes = models.JSONField(default=list, blank=True)
    base = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, blank=True, related_name="descendants")
    confirmed_at = models.DateTimeField(null=True, blank=True)
    confirmed_by = models.ForeignKey("people.User", on_delete=models.PROTECT, null=True, blank=True, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    # Put away: it stands in no list, and lessons that were made of it keep it.
    archived_at = models.DateTimeField(null=True, blank=True)
    # Title, summary and every name of every food in it: "shrimp" finds prawns.
    search = SearchVectorField(null=True)

    class Meta:
        indexes = [
            # Recipes are read a thousand times for each time one is written.
            GinIndex(fields=["search"], name="recipe_words", fastupdate=False),
            models.Index(fields=["organisation", "title", "id"], name="recipe_in_order"),
            models.Index(
                fields=["organisation"], name="recipe_put_away", condition=models.Q(archived_at__isnull=False)
            ),
        ]

    def __str__(self) -> str:
        return self.title

    @property
    def measures(self) -> Locale:
        """The place whose spoons, cups and names the recipe uses."""
        return locale_from(self.locale)


class SearchWord(models.Model):
    """A word that some recipe of an organisation can be found by: what a slip is put right to."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="+")
    word = models.CharField(max_length=40)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["organisation", "word"], name="one_search_word")]
        indexes = [GinIndex(fields=["word"], name="search_word_trigrams", opclasses=["gin_trgm_ops"], fastupdate=False)]

    def __str__(self) -> str:
        return self.word


class ProcessEdit(models.Model):
    """The process as it was before an edit, so that the edit can be undone."""

    recipe = models.ForeignKey(Recipe, on_delete=models.CASCADE, related_name="edits")
    before = models.JSONField()
    what = models.CharField(max_length=20)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.what} of {self.recipe_id}"
