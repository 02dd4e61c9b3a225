"""What an organisation says while hands are free."""

from django.db import models


class TalkingPoints(models.Model):
    """An organisation's own talking points, as it wrote them: "chill: why cold food waits cold", a line each."""

    organisation = models.OneToOneField("people.Organisation", on_delete=models.CASCADE, related_name="talking_points")
    lines = models.TextField(blank=True)

    def __str__(self) -> str:
        return f"talking points of {self.organisation_id}"
