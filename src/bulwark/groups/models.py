"""Groups of learners, by initials or nicknames and nothing else that names them."""

from django.db import models


class Group(models.Model):
    """A class, a course, a family evening. ``roles``: what they are called here, each with its duties. ``rules``: who
    must or must not be together, as it was written. ``eaters``: how many of whom a dish may harm, never who."""

    organisation = models.ForeignKey("people.Organisation", on_delete=models.CASCADE, related_name="groups")
    name = models.CharField(max_length=80)
    roles = models.JSONField(default=list, blank=True)
    rules = models.TextField(blank=True)
    eaters = models.JSONField(default=dict, blank=True)
    archived_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["name", "pk"]
        constraints = [models.UniqueConstraint(fields=["organisation", "name"], name="one_group_per_name")]

    def __str__(self) -> str:
        return f"group {self.pk}"


class Member(models.Model):
    """Somebody in a group. ``shown``: skills of the core, and other words as they were written."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="members")
    initials = models.CharField(max_length=24)
    age = models.CharField(max_length=20, blank=True)
    allergies = models.JSONField(default=list, blank=True)
    needs = models.CharField(max_length=120, blank=True)
    eats = models.BooleanField(default=True)
    shown = models.JSONField(default=list, blank=True)
    position = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [models.UniqueConstraint(fields=["group", "initials"], name="one_member_per_initials")]

    def __str__(self) -> str:
        return f"member {self.pk}"
