"""The plan board of a lesson."""

from collections.abc import Callable, Mapping
from urllib.parse import urlencode

from asgiref.sync import sync_to_async
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db import close_old_connections, connections
from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from bulwark.board import pages, selectors, services
from bulwark.board.choices import TAKE_BACK, USUAL_MIN
from bulwark.board.forms import BoardForm, CatchUpForm, ChangeForm, WaysForm
from bulwark.lessons import selectors as lessons
from bulwark.lessons import wording as lesson_wording
from bulwark.lessons.services import LessonError
from bulwark.people.actors import Actor, ActorRequest, front_required
from bulwark.presentation import long_work
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken
from foodsafety.quantities import CoreError

# A long look takes so long at most, and as long again for the reasons why it does not fit.
LONG_S = 20.0


def _lesson(request: ActorRequest, lesson_id: int) -> lessons.Lesson:
    rows = lessons.lessons_for(request.actor).select_related("recipe", "group", "kitchen")
    return get_object_or_404(rows, pk=lesson_id)


@login_required
@require_GET
def board(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Minute by minute, bench by bench: does the lesson fit?"""
    return _page(request, _lesson(request, lesson_id))


def _page(request: ActorRequest, lesson: lessons.Lesson, wrong: str = "") -> HttpResponse:
    form = BoardForm(request.GET)
    picked = form.cleaned_data.get("pick", "") if form.is_valid() else ""
    seen = form.cleaned_data.get("seen") if form.is_valid() else None
    found = selectors.board_of(lesson)
    context = {
        **pages.board_page(found, picked),
        **pages.changes_page(found, by=request.actor, seen=seen),
        "wrong": wrong,
    }
    return render(request, "board/board.html", context, status=422 if wrong else 200)


@login_required
@require_POST
def board_change(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """One change of the plan: a brick put somewhere, one more of something, a way out taken, the last one taken
    back. It is made to what stands now; what others did since the page was sent is told."""
    lesson = _lesson(request, lesson_id)
    form = ChangeForm(request.POST)
    if not form.is_valid():
        return _page(request, lesson, " ".join(form.first_errors().values()))
    data = form.cleaned_data
    try:
        _change(lesson, request.actor, data)
    except NOT_TAKEN as wrong:
        return _page(request, lesson, why_not_taken(wrong))
    asked = {"pick": data["pick"]} if data["pick"] else {}
    if data["seen"] is not None:
        asked["seen"] = str(data["seen"])
    return redirect(
        f"{reverse('board', args=[lesson_id])}?{urlencode(asked)}" if asked else reverse("board", args=[lesson_id])
    )


def _change(lesson: lessons.Lesson, by: Actor, data: Mapping[str, str]) -> None:
    """Raises CoreError for what is no change of this lesson's plan."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    if data["do"] == TAKE_BACK:
        services.take_back(lesson=lesson, by=by)
    elif data["do"] == "at_once":
        services.set_at_once(lesson=lesson, by=by, minutes={name: data[name] for name in USUAL_MIN})
    else:
        board = selectors.board_of(lesson)
        value = pages.dishes_ticked(board, data["dish"]) if data["do"] == "share" else data["value"]
        pages.check_change(board, data["do"], data["of"], value)
        services.change_plan(lesson=lesson, by=by, do=data["do"], of=data["of"], value=value)


async def board_live(request: ActorRequest, lesson_id: int) -> StreamingHttpResponse | HttpResponse:
    """A long look for a shorter plan, as server-sent events: minutes that are proven, then the board. Closing them
    cancels it."""

    def asked() -> selectors.Board | None:
        try:
            lesson = lessons.lessons_for(request.actor).filter(pk=lesson_id).first()
            return None if lesson is None else selectors.board_of(lesson)
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
@require_GET
def board_ways(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What would end it sooner, fetched after the board: each way is planned anew, a second's worth at a time."""
    form = WaysForm(request.GET)
    said = form.cleaned_data if form.is_valid() else {}
    found = selectors.board_of(_lesson(request, lesson_id))
    already, asked = (said.get(name) or 0 for name in ("already", "asked"))
    page = pages.ways_page(found, already=already, asked=asked, stop=bool(said.get("stop")))
    return render(request, "board/_ways.html", page)


def _bench(request: ActorRequest, bench_id: int) -> lessons.Bench:
    return get_object_or_404(lessons.benches_for(request.actor), pk=bench_id)


@front_required
@require_GET
def ways_back(request: ActorRequest, bench_id: int) -> HttpResponse:
    """What would help a bench that has fallen behind, fetched after its page: each way is solved from what is done."""
    bench = _bench(request, bench_id)
    try:
        return render(request, "board/_ways_back.html", pages.ways_back_page(bench))
    except NOT_TAKEN as wrong:
        return render(request, "board/_ways_back.html", {"bench": bench, "wrong": why_not_taken(wrong)})


@front_required
@require_POST
def way_back_taken(request: ActorRequest, bench_id: int) -> HttpResponse:
    """One of them, taken: the bench sees it, and the plan goes on from there."""
    bench = _bench(request, bench_id)
    form = CatchUpForm(request.POST)
    if not form.is_valid():
        messages.error(request, " ".join(form.first_errors().values()))
        return redirect("bench_detail", bench_id)
    data = form.cleaned_data
    come_from = lessons.benches_for(request.actor).filter(lesson_id=bench.lesson_id, name=data["bench"]).first()
    try:
        services.take_way_back(bench=bench, by=request.actor, do=data["do"], of=data["of"], come_from=come_from)
        return redirect("wall", bench.lesson_id)
    except NOT_TAKEN as wrong:
        messages.error(request, why_not_taken(wrong))
    except LessonError as wrong:
        messages.error(request, lesson_wording.lesson_refusal(wrong.code))
    return redirect("bench_detail", bench_id)
