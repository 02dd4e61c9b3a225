"""Adults who look on at some benches, without an account."""

from django.db import models


class Assistant(models.Model):
    """Somebody who was let in with a code for some benches of one lesson, by a number: nobody says who it is."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="+")
    number = models.PositiveSmallIntegerField()
    code = models.CharField(max_length=8, unique=True)
    benches = models.ManyToManyField("lessons.Bench", related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    sent_away_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["lesson", "number"], name="one_assistant_per_number")]

    def __str__(self) -> str:
        return f"assistant {self.number}"
