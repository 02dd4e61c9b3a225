"""A piece of long work: how far it is, how to stop it, and what came of it."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_POST

from bulwark.jobs import selectors, services
from bulwark.jobs.models import Job
from bulwark.people.actors import ActorRequest


def _job(request: ActorRequest, job_id: UUID) -> Job:
    return get_object_or_404(selectors.jobs_for(request.actor), pk=job_id)


@login_required
@require_GET
def job(request: ActorRequest, job_id: UUID) -> HttpResponse:
    """How far it is; its part alone where htmx asks for it. A paper that is ready is taken by itself for
    whoever has waited for it."""
    found = _job(request, job_id)
    waited = request.headers.get("HX-Target") == "job"
    context = {"job": found, "unattended": selectors.unattended(found), "waited": waited}
    return render(request, "jobs/_job.html" if waited else "jobs/job.html", context)


@login_required
@require_POST
def job_stop(request: ActorRequest, job_id: UUID) -> HttpResponse:
    """Nobody wants it any more."""
    services.stop(_job(request, job_id))
    return redirect("job", job_id)


@login_required
@require_GET
def job_file(request: ActorRequest, job_id: UUID) -> HttpResponse:
    """The paper."""
    found = _job(request, job_id)
    if found.state != Job.DONE or not found.file_name:
        raise Http404("not made")
    response = HttpResponse(bytes(found.made), content_type="application/pdf")
    response["Content-Disposition"] = f'attachment; filename="{found.file_name}"'
    return response
