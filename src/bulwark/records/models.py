"""Signatures under a record, and records that came from another installation."""

from django.db import models


class SignOff(models.Model):
    """An educator answers for a lesson's record as it stood: under which heads of its logs. It is added to and never
    changed: what is to be put right is said in a later one (``words``)."""

    lesson = models.ForeignKey("lessons.Lesson", on_delete=models.PROTECT, related_name="sign_offs")
    name = models.CharField(max_length=80)
    role = models.CharField(max_length=80)
    words = models.CharField(max_length=500, blank=True)
    # The SHA-256 over the heads of all its benches.
    head = models.CharField(max_length=64)
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return f"signature {self.pk}"


class BroughtRecord(models.Model):
    """A lesson's record from another installation, whole, as its file came: it is proven again each time it is read."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="+")
    # What makes two files the same lesson.
    key = models.TextField()
    title = models.CharField(max_length=160)
    held_at = models.DateTimeField()
    data = models.BinaryField()
    brought_at = models.DateTimeField(auto_now=True)
    brought_by = models.ForeignKey("people.User", on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["-held_at", "-pk"]
        constraints = [models.UniqueConstraint(fields=["organisation", "key"], name="one_record_per_lesson_file")]

    def __str__(self) -> str:
        return f"record {self.pk}"


class Retention(models.Model):
    """For how many months an organisation keeps names and words, by kind of record (keeping.KINDS), where somebody has
    said so."""

    organisation = models.OneToOneField("people.Organisation", on_delete=models.CASCADE, related_name="+")
    months_by_kind = models.JSONField(default=dict)

    def __str__(self) -> str:
        return f"retention {self.pk}"
