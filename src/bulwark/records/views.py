"""The record as a page, CSV and PDF."""

import datetime as dt
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.jobs.papers import ask_paper
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.sheets import XLSX, xlsx_of
from bulwark.records import brought, selectors, services
from bulwark.records.forms import BringForm, SignForm
from bulwark.shelf.selectors import brought_to
from foodsafety.quantities import CoreError


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
@require_GET
def record_sheet(request: ActorRequest, lesson_id: int, kind: str) -> HttpResponse:
    """The log as a workbook, or as JSON Lines in the very words that were hashed."""
    lesson = _lesson(request, lesson_id)
    if kind == "xlsx":
        response = HttpResponse(xlsx_of(_("record"), selectors.record_sheet(lesson)), content_type=XLSX)
    else:
        response = HttpResponse(selectors.record_lines(lesson), content_type="application/jsonl; charset=utf-8")
    name = f"record-{lesson.pk}-{slugify(lesson.title)}.{kind}"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
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


@login_required
@require_GET
def record_zip(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The whole lesson as a file that another installation reads back."""
    lesson = _lesson(request, lesson_id)
    response = HttpResponse(services.lesson_zip(lesson), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="lesson-{lesson.pk}-{slugify(lesson.title)}.zip"'
    return response


@login_required
@require_POST
def record_sign(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Somebody answers for the record, or says on top of it what is to be put right."""
    lesson, form = _lesson(request, lesson_id), SignForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("record", lesson_id)
    try:
        services.sign_off(lesson=lesson, by=request.actor, **form.cleaned_data)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    else:
        messages.success(request, _("Signed."))
    return redirect("record", lesson_id)


@login_required
@require_http_methods(["GET", "POST"])
def records_brought(request: ActorRequest) -> HttpResponse:
    """Records from other installations; a file is proven before it is taken."""
    wrong = ""
    if request.method == "POST":
        form = BringForm(request.POST, request.FILES)
        if not form.is_valid():
            wrong = form.first_error()
        else:
            try:
                data = form.cleaned_data["file"].read()
                brought.read_through(data)
                row, new = services.bring(by=request.actor, data=data)
            except CoreError as found:
                wrong = error_sentence(found)
            else:
                messages.success(request, _("It is here now.") if new else _("It was here already, as far or further."))
                return redirect("record_brought", row.pk)
    page = {"rows": brought.brought_for(request.actor).defer("data"), "wrong": wrong}
    return render(request, "records/brought.html", page, status=422 if wrong else 200)


@login_required
@require_GET
def record_brought(request: ActorRequest, record_id: int) -> HttpResponse:
    """One of them, proven anew."""
    row = get_object_or_404(brought.brought_for(request.actor), pk=record_id)
    try:
        page = brought.brought_page(row)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("records_brought")
    return render(request, "records/brought_record.html", page)
