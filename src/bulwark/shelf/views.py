"""What is kept: shelves, labels, notes for home; and what is brought."""

from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench.selectors import joined_bench
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import LessonError
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.presentation.sheets import XLSX, csv_of, xlsx_of
from bulwark.shelf import exported, labels, pages, selectors, services, stock, wording
from bulwark.shelf.forms import BroughtForm, FailureForm, LabelForm, PartForm


def _label(request: ActorRequest, bench: Any, food: str, back: str) -> HttpResponse:
    part = request.GET.get("part", "")[:3]
    item = selectors.shelf_item(bench, food, part)
    if item is None:
        raise Http404
    code = lessons.profile_of(bench.lesson)
    link = tablet_address(request, reverse("label", args=[bench.pk, food]) + (f"?part={part}" if part else ""))
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


@login_required
@require_GET
def shelf(request: ActorRequest) -> HttpResponse:
    """What is kept, store by store, and what is first to use; one item is open, or something is looked for."""
    key, word = request.GET.get("item", "")[:160], request.GET.get("q", "")[:60]
    return render(request, "shelf/shelf.html", pages.shelf_page(request.actor, key=key, word=word))


@login_required
@require_POST
def shelf_act(request: ActorRequest) -> HttpResponse:
    """One thing that is done with a part: moved, split, taken, heated again, thrown away."""
    form = PartForm(request.POST)
    found = stock.found_item(request.actor, request.POST.get("key", "")[:160], timezone.now())
    if not form.is_valid() or found is None:
        messages.error(request, wording.no_such_item() if found is None else " ".join(form.first_errors().values()))
        return redirect("shelf")
    kind, data = form.entry(found.part, found.food)
    try:
        services.enter(item=found, by=request.actor, kind=kind, data=data)
    except NOT_TAKEN as wrong:
        messages.error(request, why_not_taken(wrong))
    except LessonError as wrong:
        messages.error(request, lesson_refusal(wrong.code))
    left = stock.found_item(request.actor, found.key, timezone.now())
    return redirect(f"{reverse('shelf')}?{urlencode({'item': found.key})}" if left else reverse("shelf"))


@login_required
@require_http_methods(["GET", "POST"])
def shelf_failure(request: ActorRequest) -> HttpResponse:
    """A store was too warm: what that means for each thing in it, first to be seen, then entered for all."""
    form = FailureForm(request.POST if request.method == "POST" else request.GET)
    if not form.is_valid():
        messages.error(request, " ".join(form.first_errors().values()))
        return redirect("shelf")
    asked = form.cleaned_data
    if request.method == "POST":
        items = stock.in_store(request.actor, asked["place"], asked["store"])
        warm_s = asked["hours"] * 3600
        count = services.store_failed(items=items, by=request.actor, warm_s=warm_s, known=asked["known"])
        messages.success(request, wording.store_entered(count))
        return redirect("shelf")
    page = pages.failure_page(request.actor, asked["place"], asked["store"], asked["hours"], known=asked["known"])
    return render(request, "shelf/failure.html", page)


@login_required
@require_GET
def shelf_note(request: ActorRequest) -> HttpResponse:
    """What goes home with a part: what it is, until when, how it is kept and heated. No child's name."""
    item = stock.found_item(request.actor, request.GET.get("item", "")[:160], timezone.now())
    if item is None:
        raise Http404
    return render(request, "shelf/note.html", pages.note_page(item))


@login_required
@require_POST
def shelf_labels(request: ActorRequest) -> HttpResponse:
    """A part's labels on a sheet, as a PDF; its log says that they were printed."""
    form = LabelForm(request.POST)
    found = stock.found_item(request.actor, request.POST.get("key", "")[:160], timezone.now())
    if not form.is_valid() or found is None:
        messages.error(request, wording.no_such_item() if found is None else " ".join(form.first_errors().values()))
        return redirect("shelf")
    asked, here = form.cleaned_data, f"{reverse('shelf')}?{urlencode({'item': found.key})}"
    qr = qr_svg(tablet_address(request, here))
    try:
        made = labels.label_sheet(found, asked["sheet"], qr, copies=asked["copies"], start=asked["start"] or 1)
        data = {"food": found.food, "part": found.part, "count": asked["copies"]}
        services.enter(item=found, by=request.actor, kind="part_labelled", data=data)
    except NOT_TAKEN as wrong:
        messages.error(request, why_not_taken(wrong))
        return redirect(here)
    except LessonError as wrong:
        messages.error(request, lesson_refusal(wrong.code))
        return redirect(here)
    return HttpResponse(labels.sheet_pdf(made), content_type="application/pdf")


@login_required
@require_GET
def shelf_export(request: ActorRequest, kind: str) -> HttpResponse:
    """Everything that is kept, for other programs."""
    items = stock.items_of(request.actor)
    if kind == "jsonl":
        answer = HttpResponse(exported.json_lines(items), content_type="application/jsonl; charset=utf-8")
    elif kind == "csv":
        answer = HttpResponse(csv_of(exported.sheet_rows(items)), content_type="text/csv; charset=utf-8")
    else:
        answer = HttpResponse(xlsx_of("shelf", exported.sheet_rows(items)), content_type=XLSX)
    answer["Content-Disposition"] = f'attachment; filename="shelf.{kind}"'
    return answer


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
