"""Courses of lessons."""

from django.db import models


class Course(models.Model):
    """A term, a club, a row of evenings: its lessons stand in the order of their dates."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="courses")
    name = models.CharField(max_length=80)
    group = models.ForeignKey("groups.Group", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    lessons = models.ManyToManyField("lessons.Lesson", related_name="courses", blank=True)
    archived_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name
