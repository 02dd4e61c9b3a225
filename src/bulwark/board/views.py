"""The plan board of a lesson."""

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from bulwark.board import pages, selectors
from bulwark.board.forms import BoardForm
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest

SHOW_MIN = 5


def _board(request: ActorRequest, lesson_id: int) -> tuple[selectors.Board, BoardForm]:
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    form = BoardForm(request.GET)
    show = form.cleaned_data["show"] if form.is_valid() else None
    return selectors.Board(lesson, SHOW_MIN if show is None else show), form


@login_required
@require_GET
def board(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Minute by minute, bench by bench: does the lesson fit?"""
    found, form = _board(request, lesson_id)
    context = {**pages.board_page(found), "wrong": form.first_errors().get("show", "")}
    return render(request, "board/board.html", context, status=422 if form.errors else 200)


@login_required
@require_GET
def board_ways(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What would end it sooner, fetched after the board: each way is planned anew."""
    return render(request, "board/_ways.html", pages.ways_page(_board(request, lesson_id)[0]))
