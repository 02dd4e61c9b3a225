"""What of the workbench is kept: sheets attached to a lesson."""

from django.db import models


class Sheet(models.Model):
    """A tool's question as somebody asked it, attached to a lesson. Its answer is worked out anew
    whenever it is looked at, with the rules as they are then."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.CASCADE, related_name="sheets")
    tool = models.CharField(max_length=20)
    query = models.TextField(max_length=20_000)
    title = models.CharField(max_length=160)
    made_by = models.ForeignKey("people.User", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.title
