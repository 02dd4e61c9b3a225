"""What has been decided about a lesson's plan, change by change."""

from django.db import models


class PlanChange(models.Model):
    """One change of a lesson's plan and all that was decided after it. Rows are never changed: the last one counts,
    and what is taken back is a row of its own, so that nobody's change is lost. When names leave an old lesson they
    leave its changes too."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="plan_changes")
    number = models.PositiveIntegerField()
    # What was done to what: "put", "1.griddle", 35.
    do = models.CharField(max_length=12)
    of = models.CharField(max_length=120, blank=True)
    value = models.CharField(max_length=120, blank=True)
    choices = models.JSONField()
    # The row whose choices come back when this one is taken back; None for the plan as it is at first.
    before = models.PositiveIntegerField(null=True, blank=True)
    by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["lesson", "number"]
        constraints = [models.UniqueConstraint(fields=["lesson", "number"], name="one_change_per_place_in_a_plan")]

    def __str__(self) -> str:
        return f"{self.do} {self.of}"
