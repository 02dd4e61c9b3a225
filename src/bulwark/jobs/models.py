"""A piece of long work, as whoever asked for it sees it."""

import uuid

from django.db import models


class Job(models.Model):
    """What one person asked for, how far it is, and what came of it. It is seen by that person alone
    and kept for a day."""

    WAITING, UNDER_WAY, DONE, STOPPED, FAILED = "waiting", "under_way", "done", "stopped", "failed"
    STATES = ((WAITING, WAITING), (UNDER_WAY, UNDER_WAY), (DONE, DONE), (STOPPED, STOPPED), (FAILED, FAILED))

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    asked_by = models.ForeignKey("people.User", on_delete=models.CASCADE, related_name="jobs")
    title = models.CharField(max_length=200)
    # Where the person came from, and goes back to.
    back = models.CharField(max_length=200)
    state = models.CharField(max_length=9, choices=STATES, default=WAITING)
    # So many pages set, or rows read.
    count = models.PositiveIntegerField(default=0)
    wanted = models.BooleanField(default=True)
    asked_at = models.DateTimeField(auto_now_add=True)
    # When the worker last said anything.
    told_at = models.DateTimeField(null=True)
    # What the work needs: a few words, and the bytes it is done on.
    about = models.JSONField(default=dict)
    taken = models.BinaryField(default=b"")
    made = models.BinaryField(default=b"")
    file_name = models.CharField(max_length=200, blank=True)
    # What came of it, or why nothing did, in words.
    says = models.TextField(blank=True)

    class Meta:
        ordering = ["-asked_at"]

    def __str__(self) -> str:
        return self.title
