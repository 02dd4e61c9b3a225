"""Adults who take over the front of a lesson, without an account."""

from django.db import models


class StandIn(models.Model):
    """Somebody to whom the front of one lesson was handed over with a code, by a number: nobody says who it is."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="+")
    number = models.PositiveSmallIntegerField()
    code = models.CharField(max_length=8, unique=True)
    made_at = models.DateTimeField(auto_now_add=True)
    # When somebody came in with the code: it lets in one device and no second.
    used_at = models.DateTimeField(null=True, blank=True)
    sent_away_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["lesson", "number"], name="one_stand_in_per_number")]

    def __str__(self) -> str:
        return f"stand-in {self.number}"
