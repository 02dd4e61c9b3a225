"""The workbench: every tool by itself, by a link, and with a lesson."""

from collections.abc import Callable
from typing import Any
from urllib.parse import parse_qsl

from asgiref.sync import sync_to_async
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core import signing
from django.db import close_old_connections, connections
from django.http import Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ANONYMOUS, ActorRequest
from bulwark.presentation import long_work
from bulwark.presentation.errors import error_sentence
from bulwark.workbench import pages, selectors, services
from bulwark.workbench.tool import Tool
from bulwark.workbench.tools import TOOLS
from foodsafety.quantities import CoreError


def _tool(slug: str) -> Tool:
    if slug not in TOOLS:
        raise Http404(slug)
    return TOOLS[slug]


@login_required
@require_GET
def workbench(request: ActorRequest) -> HttpResponse:
    """Every tool."""
    return render(request, "workbench/index.html", {"tools": TOOLS.values()})


@login_required
@require_GET
def tool(request: ActorRequest, slug: str) -> HttpResponse:
    """One tool; its answer alone where htmx asks for it."""
    found = _tool(slug)
    context = pages.tool_page(found, request.GET, request.actor)
    if request.headers.get("HX-Target") == "wb-result":
        # 200 also where a field is wrong: what was typed stays, the answer says what is missing.
        return render(request, "workbench/_live.html", context)
    return render(request, "workbench/tool.html", context | pages.attach_page(request.actor))


@require_GET
def shared(request: ActorRequest, token: str) -> HttpResponse:
    """A question somebody shared, answered for anybody who has the link. It can be read, not asked
    anew: only who signs in works with the tools."""
    try:
        found, query = pages.shared(token)
    except (signing.BadSignature, KeyError, TypeError, AttributeError):
        raise Http404("link") from None
    return render(request, "workbench/shared.html", pages.tool_page(found, query, ANONYMOUS, bare=True))


async def log_live(request: ActorRequest) -> HttpResponse | StreamingHttpResponse:
    """A logger's file of any length: how many rows are read as server-sent events, then the answer.
    The file is read line by line; closing the page stops it."""
    if request.method != "POST":
        return HttpResponse(status=405)
    if request.actor.kind != "educator":
        return HttpResponse(status=403)
    upload, kind, code = await sync_to_async(_uploaded)(request)

    def work(progress: Callable[[int], None], cancelled: Callable[[], bool]) -> str:
        try:
            context = pages.file_answer(upload, kind, code, request.actor, progress, cancelled)
            return render_to_string("workbench/_file_answer.html", context, request=request)
        finally:
            connections.close_all()  # this thread is not a request's: nobody else gives them back

    return long_work.stream_response(work)


def _uploaded(request: ActorRequest) -> tuple[Any, str, str]:
    try:
        return request.FILES.get("log"), request.POST.get("kind", ""), request.POST.get("code", "")
    finally:
        close_old_connections()  # the reading is long, and needs none


@login_required
@require_POST
def attach(request: ActorRequest, slug: str) -> HttpResponse:
    """Keeps a question with a lesson."""
    found = _tool(slug)
    lesson_id = request.POST.get("lesson", "")
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id if lesson_id.isdecimal() else 0)
    query = request.POST.get("query", "")[: pages.MOST_QUERY]
    page = pages.tool_page(found, dict(parse_qsl(query)), request.actor)
    if page["answer"] is None:
        messages.error(request, _("There is no answer to attach yet: put right what is marked."))
        return redirect(f"/workbench/{slug}/?{query}")
    try:
        title = pages.answer_title(found, page["answer"])
        services.attach(by=request.actor, lesson_id=lesson.pk, tool=slug, query=page["link"], title=title)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect(f"/workbench/{slug}/?{query}")
    messages.success(request, _("Attached to %(lesson)s.") % {"lesson": lesson.title})
    return redirect("lesson_detail", lesson.pk)


@login_required
@require_GET
def lesson_sheets(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The sheets attached to a lesson."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    context = {"lesson": lesson, "sheets": selectors.sheets_of(request.actor, lesson_id)}
    if request.htmx:
        return render(request, "workbench/_sheets.html", context)
    return render(request, "workbench/sheets.html", context)


@login_required
@require_POST
def sheet_detach(request: ActorRequest, lesson_id: int, sheet_id: int) -> HttpResponse:
    """Takes a sheet off a lesson."""
    services.detach(sheet=get_object_or_404(selectors.sheets_of(request.actor, lesson_id), pk=sheet_id))
    messages.success(request, _("Taken off. The link to it still works."))
    return redirect("lesson_detail", lesson_id)
