"""What an organisation's kitchen has decided, owns, pays and has been asked about."""

from django.db import models


class Kitchen(models.Model):
    """An organisation's kitchen: the base rule profile, house rules, equipment and measures."""

    organisation = models.OneToOneField("people.Organisation", on_delete=models.CASCADE, related_name="kitchen")
    profile = models.CharField(max_length=40, default="us-home")
    locale = models.CharField(max_length=8, default="en-GB")
    house = models.JSONField(default=dict, blank=True)
    # How many there are, by kind of tool or heat source; what nobody counted is not in it.
    equipment = models.JSONField(default=dict, blank=True)
    benches = models.PositiveSmallIntegerField(default=4)
    currency = models.CharField(max_length=3, default="GBP")

    def __str__(self) -> str:
        return f"kitchen of {self.organisation}"


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
