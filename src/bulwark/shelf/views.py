"""Labels for what is kept."""

from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench.selectors import joined_bench
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.shelf import selectors, services, wording
from bulwark.shelf.forms import BroughtForm


def _label(request: ActorRequest, bench: Any, food: str, back: str) -> HttpResponse:
    item = selectors.shelf_item(bench, food)
    if item is None:
        raise Http404
    code = lessons.profile_of(bench.lesson)
    link = tablet_address(request, reverse("label", args=[bench.pk, food]))
    return render(
        request,
        "shelf/label.html",
        {
            "item": item,
            "profile": code,
            "qr": qr_svg(link),
            "back": back,
            "lesson": bench.lesson,
            "categories": selectors.category_choices() if request.actor.kind == "educator" else (),
        },
    )


@login_required
@require_GET
def label(request: ActorRequest, bench_id: int, food: str) -> HttpResponse:
    """The label as the organisation sees it; its QR leads here."""
    bench = get_object_or_404(lessons.benches_for(request.actor), pk=bench_id)
    return _label(request, bench, food, reverse("bench_detail", args=[bench.pk]))


@require_GET
def bench_label(request: ActorRequest, food: str) -> HttpResponse:
    """The label at the bench."""
    bench = joined_bench(request)
    if bench is None:
        raise Http404
    return _label(request, bench, food, reverse("bench"))


def _lesson(request: ActorRequest, lesson_id: int) -> Any:
    return get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)


def _brought(request: ActorRequest, lesson: Any, form: BroughtForm | None = None, wrong: str = "") -> HttpResponse:
    usual = {"place": "fridge", "made_at": "", "category": "", "title": "", "out_min": "", "contains": ""}
    context = {
        "lesson": lesson,
        "rows": selectors.brought_to(lesson),
        "profile": lessons.profile_of(lesson),
        "typed": form.typed() if form else usual,
        "errors": form.first_errors() if form else {},
        "wrong": wrong,
        "categories": selectors.category_choices(),
        "places": list(wording.brought_places().items()),
    }
    return render(request, "shelf/brought.html", context, status=422 if form or wrong else 200)


@login_required
@require_http_methods(["GET", "POST"])
def brought(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What is brought to a lesson ready made, and until when it may be eaten."""
    lesson = _lesson(request, lesson_id)
    if request.method == "GET":
        return _brought(request, lesson)
    form = BroughtForm(request.POST, eaten_at=selectors.eaten_at(lesson))
    if not form.is_valid():
        return _brought(request, lesson, form)
    try:
        services.bring(lesson=lesson, **form.cleaned_data)
    except NOT_TAKEN as wrong:
        return _brought(request, lesson, form, why_not_taken(wrong))
    return redirect("brought", lesson.pk)


@login_required
@require_POST
def brought_not(request: ActorRequest, lesson_id: int, dish_id: int) -> HttpResponse:
    """A dish is not brought after all."""
    lesson = _lesson(request, lesson_id)
    try:
        services.do_not_bring(lesson=lesson, dish_id=dish_id)
    except NOT_TAKEN as wrong:
        return _brought(request, lesson, None, why_not_taken(wrong))
    return redirect("brought", lesson.pk)


@login_required
@require_GET
def brought_lines(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The same in lines, for pages that show a lesson."""
    lesson = _lesson(request, lesson_id)
    return render(request, "shelf/_brought.html", {"lesson": lesson, "rows": selectors.brought_to(lesson)})
