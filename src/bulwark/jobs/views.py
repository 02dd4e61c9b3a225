"""A piece of long work: how far it is, how to stop it, and what came of it."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from bulwark.jobs import selectors, services
from bulwark.jobs.models import Job
from bulwark.people.actors import ActorRequest


def _job(request: ActorRequest, job_id: UUID) -> Job:
    return get_object_or_404(selectors.jobs_for(request.actor), pk=job_id)


@login_required
@require_GET
def job(request: ActorRequest, job_id: UUID) -> HttpResponse:
    """How far it is; its part alone where htmx asks for it. A paper that is ready opens by itself for whoever
    has waited for it."""
    found = _job(request, job_id)
    context = {"job": found, "unattended": selectors.unattended(found)}
    if request.headers.get("HX-Target") != "job":
        return render(request, "jobs/job.html", context)
    response = render(request, "jobs/_job.html", context)
    if found.state == Job.DONE and found.file_name:
        response["HX-Redirect"] = reverse("job_file", args=[job_id])
    return response


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
