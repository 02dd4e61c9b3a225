"""Asking for long work, doing it with news of how far it is, and stopping it."""

import datetime as dt
import time
from collections.abc import Callable, Mapping
from uuid import UUID

from django.utils import timezone
from django_tasks.base import Task
from django_tasks_db.models import DBTaskResult

from bulwark.jobs.models import Job
from bulwark.people.actors import Actor
from bulwark.presentation.errors import error_sentence
from foodsafety.quantities import CoreError

# What was made is kept so long; then whoever wants it asks again.
KEPT = dt.timedelta(days=1)
# News is written, and the wish to stop looked for, at most so often.
NEWS_EVERY_S = 0.3

Progress = Callable[[int], None]


class StopWork(Exception):  # noqa: N818 - no error: somebody wished it
    """Nobody wants the work any more."""


def ask(
    *,
    by: Actor,
    title: str,
    back: str,
    task: Task[[str], None],
    taken: bytes,
    about: Mapping[str, object] | None = None,
    file_name: str = "",
) -> UUID:
    """Puts work into the queue: ``task`` is called with the job's id in the second process. Raises
    LookupError for anybody who is not signed in."""
    job = Job.objects.create(
        asked_by_id=by.user,
        title=title[:200],
        back=back[:200],
        about=dict(about or {}),
        taken=taken,
        file_name=file_name[:200],
    )
    # Both are rows of one database: within a transaction they come together.
    task.enqueue(str(job.pk))
    return job.pk


def stop(job: Job) -> None:
    """Nobody wants it: what waits is not begun, what is under way ends at the next page or row."""
    Job.objects.filter(pk=job.pk, state__in=(Job.WAITING, Job.UNDER_WAY)).update(wanted=False)
    Job.objects.filter(pk=job.pk, state=Job.WAITING).update(state=Job.STOPPED, taken=b"")


def work(job_id: str, doing: Callable[[Job, Progress], None]) -> None:
    """Does one piece of work that still waits. ``doing`` gets the job, and what to call with how far it is: that raises
    ``StopWork`` when nobody wants it any more. How it ended is kept, with the reason in words where that is a
    CoreError; any other error goes on to the queue, which tells it to the operator."""
    if not Job.objects.filter(pk=job_id, state=Job.WAITING).update(state=Job.UNDER_WAY, told_at=timezone.now()):
        return
    job = Job.objects.get(pk=job_id)
    last = time.monotonic()

    def progress(count: int) -> None:
        nonlocal last
        job.count = count
        if time.monotonic() - last < NEWS_EVERY_S:
            return
        last = time.monotonic()
        news = {"count": count, "says": job.says, "told_at": timezone.now()}
        if not Job.objects.filter(pk=job_id, wanted=True).update(**news):
            raise StopWork

    job.state = Job.FAILED
    try:
        doing(job, progress)
    except StopWork:
        job.state = Job.STOPPED
    except CoreError as wrong:
        job.says = error_sentence(wrong)
    else:
        job.state = Job.DONE
    finally:
        job.taken, job.told_at = b"", timezone.now()
        job.save(update_fields=["state", "count", "taken", "told_at", "made", "says"])


def forget_old() -> int:
    """Lets go of what is older than a day; how many pieces of work that was."""
    since = timezone.now() - KEPT
    DBTaskResult.objects.filter(enqueued_at__lt=since).delete()
    return Job.objects.filter(asked_at__lt=since).delete()[0]
