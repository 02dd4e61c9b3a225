"""Papers set beside the server."""

from uuid import UUID

from django_tasks import task

from bulwark.jobs import services
from bulwark.jobs.models import Job
from bulwark.people.actors import Actor
from bulwark.presentation.paper import pdf_of


def ask_paper(*, by: Actor, title: str, back: str, html: str, sheet: str = "", file_name: str) -> UUID:
    """Asks for a page to be set on paper with a style sheet of ours; the job's id."""
    return services.ask(
        by=by,
        title=title,
        back=back,
        task=set_paper,
        taken=html.encode(),
        about={"sheet": sheet},
        file_name=file_name,
    )


@task
def set_paper(job_id: str) -> None:
    """Sets one paper, page by page."""
    services.work(job_id, _set)


def _set(job: Job, progress: services.Progress) -> None:
    job.made = pdf_of(bytes(job.taken).decode(), sheet=job.about["sheet"], progress=progress)
