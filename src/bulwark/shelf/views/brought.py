"""What is put away at a bench, kept for a lesson, and brought to one."""

from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench.selectors import joined_bench
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import LessonError
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken
from bulwark.shelf import pages, selectors, services, stock, wording
from bulwark.shelf.forms import BroughtForm, KeepForm, PutForm
from bulwark.shelf.importing import COLUMNS, MOST_BYTES, Rows, read_rows, text_of
from bulwark.shelf.views.asked import asked_item, here, tried


@login_required
@require_POST
def shelf_keep(request: ActorRequest) -> HttpResponse:
    """Some of a part is kept for a lesson."""
    form = KeepForm(request.POST)
    found = asked_item(request, form)
    if found is None:
        return redirect("shelf")
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=form.cleaned_data["lesson"])
    portions = form.cleaned_data["portions"]
    tried(request, lambda: services.keep_for(item=found, lesson=lesson, portions=portions))
    return redirect(here(found))


@require_http_methods(["GET", "POST"])
def bench_put(request: ActorRequest, food: str) -> HttpResponse:
    """Where and in what a bench has put a food: asked once, in large buttons."""
    bench = joined_bench(request)
    if bench is None:
        raise Http404
    form, wrong = PutForm(request.POST), ""
    if request.method == "POST":
        wrong = " ".join(form.first_errors().values()) if not form.is_valid() else ""
        try:
            if not wrong:
                services.put(bench=bench, food=food, by=request.actor, said=form.cleaned_data)
                return redirect("bench")
        except NOT_TAKEN as why:
            wrong = why_not_taken(why)
        except LessonError as why:
            wrong = lesson_refusal(why.code)
    page = {**pages.put_page(bench, food), "wrong": wrong}
    if request.method == "POST":
        page["said"] = form.typed()
    return render(request, "shelf/put.html", page, status=422 if wrong else 200)


@login_required
@require_http_methods(["GET", "POST"])
def bring_in(request: ActorRequest) -> HttpResponse:
    """Food that comes onto the shelf without a lesson, from a file or a few rows: all of it right, or none is taken."""
    typed, wrong, rows = request.POST.get("rows", "")[:MOST_BYTES], "", None
    if request.method == "POST":
        try:
            upload = request.FILES.get("file")
            typed = text_of(upload.name or "", upload.read(MOST_BYTES + 1)) if upload else typed
            rows = read_rows(typed)
            if rows.right and not rows.wrong:
                return _brought_in(request, rows)
        except NOT_TAKEN as why:
            wrong = why_not_taken(why)
    page = {
        "typed": typed,
        "wrong": wrong,
        "rows": rows,
        "columns": COLUMNS,
        "categories": selectors.category_choices(),
    }
    return render(request, "shelf/bring_in.html", page, status=422 if request.method == "POST" else 200)


def _brought_in(request: ActorRequest, rows: Rows) -> HttpResponse:
    actor = request.actor
    decided = kitchens.decided_by(actor.organisation)
    count = services.bring_in(rows=rows.right, by=actor, profile_id=decided.profile, organisation=decided.organisation)
    messages.success(request, wording.brought_in_count(count))
    return redirect("shelf")


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
        "as_foods": sorted(lessons.plan_for(lesson).process.foods),
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
@require_POST
def brought_taken(request: ActorRequest, lesson_id: int, dish_id: int) -> HttpResponse:
    """A lesson takes what was kept for it off the shelf."""
    lesson = _lesson(request, lesson_id)
    dish = get_object_or_404(selectors.off_the_shelf(lesson), pk=dish_id, taken_at=None)
    item = stock.found_item(request.actor, f"{dish.bench_id}-{dish.part}-{dish.food}", timezone.now())
    if item is None:
        return _brought(request, lesson, None, wording.not_there())
    try:
        services.take(dish=dish, item=item, by=request.actor, as_food=request.POST.get("as_food", "")[:80])
    except NOT_TAKEN as wrong:
        return _brought(request, lesson, None, why_not_taken(wrong))
    except LessonError as wrong:
        return _brought(request, lesson, None, lesson_refusal(wrong.code))
    return redirect("brought", lesson.pk)


@login_required
@require_GET
def brought_lines(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The same in lines, for pages that show a lesson."""
    lesson = _lesson(request, lesson_id)
    return render(request, "shelf/_brought.html", {"lesson": lesson, "rows": selectors.brought_to(lesson)})
