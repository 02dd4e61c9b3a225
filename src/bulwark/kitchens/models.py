"""What an organisation's kitchen has decided, owns, pays and has been asked about."""

from django.db import models


class HouseRules(models.Model):
    """What an organisation has decided for all its kitchens: the base rule profile, house rules and measures."""

    organisation = models.OneToOneField("people.Organisation", on_delete=models.CASCADE, related_name="house_rules")
    profile = models.CharField(max_length=40, default="us-home")
    locale = models.CharField(max_length=8, default="en-GB")
    house = models.JSONField(default=dict, blank=True)
    currency = models.CharField(max_length=3, default="GBP")

    def __str__(self) -> str:
        return f"house rules of {self.organisation}"


class Kitchen(models.Model):
    """A room to cook in. What nobody has counted or said is not in it, or None: never none, never enough."""

    TAP = (("yes", "yes"), ("no", "no"), ("", "not said"))

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="kitchens")
    name = models.CharField(max_length=80, default="Kitchen")
    position = models.PositiveSmallIntegerField(default=0)
    # How many there are, by kind of tool or heat source; what nobody counted is not in it.
    equipment = models.JSONField(default=dict, blank=True)
    benches = models.PositiveSmallIntegerField(default=4)
    # Shelves of each oven, in the order in which they stand; hob rings by size; boards by what they are for here.
    oven_shelves = models.JSONField(default=list, blank=True)
    rings = models.JSONField(default=dict, blank=True)
    boards = models.JSONField(default=dict, blank=True)
    # The youngest that may use a knife, a hob, an oven, a blade, hot oil here; of the rest the planner has its own.
    ages = models.JSONField(default=dict, blank=True)
    fridge_l = models.PositiveIntegerField(null=True, blank=True)
    freezer_l = models.PositiveIntegerField(null=True, blank=True)
    altitude_m = models.IntegerField(null=True, blank=True)
    tap = models.CharField(max_length=3, choices=TAP, blank=True)
    archived_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["position", "pk"]

    def __str__(self) -> str:
        return self.name


class LocalLimit(models.Model):
    """One limit set over the base profile, signed, dated and reasoned. Rows are never changed: a
    later one counts, and one without a value goes back to the base."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.PROTECT, related_name="local_limits")
    base = models.CharField(max_length=40)
    path = models.CharField(max_length=80)
    value = models.FloatField(null=True)
    reason = models.CharField(max_length=300)
    signed = models.CharField(max_length=80)
    by = models.ForeignKey("people.User", on_delete=models.PROTECT, related_name="+")
    on = models.DateField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.base} {self.path}"


class Price(models.Model):
    """What a food cost on a day. The latest counts; the others are the history."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="prices")
    kind = models.CharField(max_length=60)
    amount = models.DecimalField(max_digits=9, decimal_places=2)
    per = models.CharField(max_length=4)
    on = models.DateField()

    class Meta:
        ordering = ["kind", "-on", "-pk"]

    def __str__(self) -> str:
        return f"{self.kind} per {self.per}"


class KnownFood(models.Model):
    """A food nobody listed, asked about once: which kind it is like, and what it brings besides."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="known_foods")
    words = models.CharField(max_length=80)
    kind = models.CharField(max_length=60)
    allergens = models.JSONField(default=list, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["organisation", "words"], name="one_answer_per_food")]

    def __str__(self) -> str:
        return self.words
