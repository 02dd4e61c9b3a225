"""The plan board of a lesson."""

from collections.abc import Callable
from urllib.parse import urlencode

from asgiref.sync import sync_to_async
from django.contrib.auth.decorators import login_required
from django.db import close_old_connections, connections
from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from bulwark.board import pages, selectors
from bulwark.board.forms import BoardForm, pins_of
from bulwark.jobs.papers import ask_paper
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation import long_work
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken

SHOW_MIN = 5
# A long look takes so long at most, and as long again for the reasons why it does not fit.
LONG_S = 20.0


def _board(request: ActorRequest, lesson_id: int) -> tuple[selectors.Board, BoardForm, list[str]]:
    """What is asked, and what of it could not be read."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    form = BoardForm(request.GET)
    show = form.cleaned_data.get("show") if form.is_valid() else None
    show_min = SHOW_MIN if show is None else show
    free = selectors.Board(lesson, show_min)
    rows = request.GET.getlist("pin")
    pins, wrong = pins_of(rows, list(free.whole.parts)) if rows else ({}, [])
    wrong += form.first_errors().values()
    return (selectors.Board(lesson, show_min, pins) if pins else free), form, wrong


@login_required
@require_GET
def board(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Minute by minute, bench by bench: does the lesson fit? Where a brick is put stands in the address: going back
    takes it back."""
    found, form, wrong = _board(request, lesson_id)
    picked = form.cleaned_data.get("pick", "")
    if "put" in request.GET and not wrong and picked in found.whole.parts:
        pins = dict(found.room.pins)
        pins.pop(picked, None)
        if request.GET["put"] == "here" and form.cleaned_data["at"] is not None:
            pins[picked] = form.cleaned_data["at"]
        query = [("show", found.room.show_min), *(("pin", f"{name}@{at}") for name, at in pins.items())]
        return redirect(f"{reverse('board', args=[lesson_id])}?{urlencode([*query, ('pick', picked)])}")
    context = {**pages.board_page(found, picked), "wrong": wrong}
    return render(request, "board/board.html", context, status=422 if wrong else 200)


async def board_live(request: ActorRequest, lesson_id: int) -> StreamingHttpResponse | HttpResponse:
    """A long look for a shorter plan, as server-sent events: minutes that are proven, then the board. Closing them
    cancels it."""

    def asked() -> selectors.Board | None:
        try:
            if not lessons.lessons_for(request.actor).filter(pk=lesson_id).exists():
                return None
            return _board(request, lesson_id)[0]
        finally:
            close_old_connections()  # the look is long, and needs none

    found = await sync_to_async(asked)()
    if found is None:
        return HttpResponse(status=404)

    def look(progress: Callable[[int], None], cancelled: Callable[[], bool]) -> str:
        try:
            found.look_longer(LONG_S, lambda _best, bound_s: progress(bound_s // 60), cancelled)
            return render_to_string("board/_found.html", pages.board_page(found), request=request)
        except NOT_TAKEN as wrong:
            return render_to_string("board/_found.html", {"headline": why_not_taken(wrong)}, request=request)
        finally:
            connections.close_all()  # this thread is not a request's: nobody else gives them back

    return long_work.stream_response(look)


@login_required
@require_POST
def run_sheet(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The plan minute by minute on paper."""
    found, _form, wrong = _board(request, lesson_id)
    if wrong:
        return redirect("board", lesson_id)
    lesson = found.lesson
    job_id = ask_paper(
        by=request.actor,
        title=_("Run sheet: %(lesson)s") % {"lesson": lesson.title},
        back=reverse("board", args=[lesson_id]),
        html=render_to_string("board/run_sheet.html", pages.run_sheet(found), request=request),
        sheet="bulwark/print.css",
        file_name=f"run-sheet-{lesson.pk}-{slugify(lesson.title)}.pdf",
    )
    return redirect("job", job_id)


@login_required
@require_POST
def group_split(request: ActorRequest) -> HttpResponse:
    """A group split fairly into the benches of the lesson's form, which it fills."""
    return render(request, "board/_split.html", pages.split_page(request.POST))


@login_required
@require_GET
def board_ways(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What would end it sooner, fetched after the board: each way is planned anew."""
    return render(request, "board/_ways.html", pages.ways_page(_board(request, lesson_id)[0]))
