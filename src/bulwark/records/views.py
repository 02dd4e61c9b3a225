"""The record as a page, CSV and PDF."""

import datetime as dt
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from bulwark.jobs.papers import ask_paper
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.records import selectors
from bulwark.shelf.selectors import brought_to


def _lesson(request: ActorRequest, lesson_id: int) -> Any:
    return get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)


def _tag(request: ActorRequest, lesson_id: int) -> str:
    return lessons.wall_tag(request.actor, lesson_id) or ""


@login_required
@require_GET
def record(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Everything that happened, bench by bench."""
    lesson = _lesson(request, lesson_id)
    return render(request, "records/record.html", selectors.lesson_record(lesson, _tag(request, lesson_id)))


# So far back waste is added up.
WASTE_BACK = dt.timedelta(days=365)


@login_required
@require_GET
def waste(request: ActorRequest) -> HttpResponse:
    """What was thrown away, by month and reason, and what it cost."""
    rows = selectors.waste_by_month(request.actor, timezone.now() - WASTE_BACK)
    currency = kitchens.decided_by(request.actor.organisation).currency
    return render(request, "records/waste.html", {"rows": rows, "currency": currency})


@login_required
@require_GET
def record_fragment(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The record's moving part; nothing (204) while it is as the screen has it."""
    lesson = _lesson(request, lesson_id)
    tag = _tag(request, lesson_id)
    if request.GET.get("seen") == tag:
        return HttpResponse(status=204)
    return render(request, "records/_record.html", selectors.lesson_record(lesson, tag))


@login_required
@require_GET
def record_csv(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The log as CSV."""
    lesson = _lesson(request, lesson_id)
    response = HttpResponse(selectors.record_rows(lesson), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="record-{lesson.pk}-{slugify(lesson.title)}.csv"'
    return response


@login_required
@require_POST
def record_pdf(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The record on paper, set beside the server: twenty benches take seconds."""
    lesson = _lesson(request, lesson_id)
    context = {**selectors.lesson_record(lesson), "brought": brought_to(lesson), "printed_at": timezone.now()}
    job_id = ask_paper(
        by=request.actor,
        title=_("Record: %(lesson)s") % {"lesson": lesson.title},
        back=reverse("record", args=[lesson.pk]),
        html=render_to_string("records/print.html", context, request=request),
        sheet="bulwark/print.css",
        file_name=f"record-{lesson.pk}-{slugify(lesson.title)}.pdf",
    )
    return redirect("job", job_id)
