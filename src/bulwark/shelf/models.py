"""Food that comes to a lesson ready made."""

from django.db import models


class BroughtDish(models.Model):
    """One done earlier: made before, with a clock of its own. Judged by what was said of it, each time anew."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=80)
    # What it keeps as, of the core's storage categories.
    category = models.CharField(max_length=60)
    made_at = models.DateTimeField()
    place = models.CharField(max_length=8)
    # How long it is out of the cold on its way here [min]; None where nobody has said.
    out_min = models.PositiveSmallIntegerField(null=True, blank=True)
    contains = models.CharField(max_length=120, blank=True)

    class Meta:
        ordering = ["made_at", "pk"]

    def __str__(self) -> str:
        return self.title
