"""What may be known of long work."""

import datetime as dt

from django.db.models import QuerySet
from django.utils import timezone

from bulwark.jobs.models import Job
from bulwark.people.actors import Actor

# Work that nobody has begun, or that has said nothing, for so long is not being done.
SILENT = dt.timedelta(seconds=30)


def jobs_for(actor: Actor) -> QuerySet[Job]:
    """What the asker has asked for, without the bytes."""
    if actor.kind != "educator":
        return Job.objects.none()
    return Job.objects.filter(asked_by_id=actor.user).defer("taken", "made")


def unattended(job: Job) -> bool:
    """True for work that waits or should be under way and of which nothing has been heard for long."""
    heard = job.told_at or job.asked_at
    return job.state in (Job.WAITING, Job.UNDER_WAY) and timezone.now() - heard > SILENT
