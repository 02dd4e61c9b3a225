"""A lesson's pack: what to buy, what to print, dates."""

import uuid

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.board import services as boards
from bulwark.jobs.papers import ask_paper
from bulwark.lessons import selectors as lessons
from bulwark.lessons import wording as lesson_wording
from bulwark.lessons.services import LessonError
from bulwark.pack import cards, pages, selectors, services, wording
from bulwark.pack.field import Field
from bulwark.pack.forms import PackForm, TalkingForm
from bulwark.people.actors import ActorRequest, front_required
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.sheets import XLSX, csv_of, xlsx_of
from foodsafety.quantities import CoreError


def _pack(request: ActorRequest, lesson_id: int) -> selectors.Pack:
    rows = lessons.lessons_for(request.actor).select_related("recipe", "group", "kitchen")
    return selectors.Pack(get_object_or_404(rows, pk=lesson_id))


def _way(request: ActorRequest) -> tuple[int, bool]:
    form = PackForm(request.POST if request.method == "POST" else request.GET)
    if not form.is_valid():
        return 0, False
    return form.cleaned_data["way"] or 0, form.cleaned_data["paper"] == "letter"


@login_required
@require_GET
def pack(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What to buy, what to print, what to do before."""
    way_min, letter = _way(request)
    page = pages.pack_page(_pack(request, lesson_id), way_min, request.actor)
    return render(request, "pack/pack.html", {**page, "letter": letter})


@login_required
@require_POST
def pack_have(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Something is there already and need not be bought, or must be after all."""
    found = _pack(request, lesson_id)
    kinds = {row.kind or row.name.lower() for row in found.shopping.rows}
    kind = request.POST.get("of", "")
    if kind in kinds:
        do = "not_have" if request.POST.get("do") == "not_have" else "have"
        boards.change_plan(lesson=found.lesson, by=request.actor, do=do, of=kind)
    way_min, _letter = _way(request)
    return redirect(f"{reverse('pack', args=[lesson_id])}?way={way_min}#buy-{slugify(kind)}")


@login_required
@require_POST
def pack_field(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """How warm it will be, and for how long they are away from the fridge."""
    found = _pack(request, lesson_id)
    try:
        for do in ("ambient", "away"):
            value = request.POST.get(do, "").replace("\0", "")[:20]
            boards.change_plan(lesson=found.lesson, by=request.actor, do=do, value=value)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    return redirect("pack", lesson_id)


@login_required
@require_POST
def pack_paper(request: ActorRequest, lesson_id: int, part: str) -> HttpResponse:
    """One paper of the pack, or all of them."""
    if part not in (*wording.PARTS, "all"):
        raise Http404
    way_min, letter = _way(request)
    found = _pack(request, lesson_id)
    parts = Field(found).parts() if part == "all" else [part]
    page = pages.paper(found, parts, letter=letter, way_min=way_min)
    name = wording.part_name(part)
    job_id = ask_paper(
        by=request.actor,
        title=_("%(name)s: %(lesson)s") % {"name": name, "lesson": found.lesson.title},
        back=reverse("pack", args=[lesson_id]),
        html=render_to_string("pack/paper.html", page, request=request),
        sheet="bulwark/pack.css",
        file_name=f"{part}-{lesson_id}-{slugify(found.lesson.title)}.pdf",
    )
    return redirect("job", job_id)


@login_required
@require_GET
def shopping_sheet(request: ActorRequest, lesson_id: int, kind: str) -> HttpResponse:
    """The shopping list as CSV or XLSX."""
    found = _pack(request, lesson_id)
    rows = pages.shopping_rows(found)
    name = f"shopping-{lesson_id}-{slugify(found.lesson.title)}.{kind}"
    if kind == "csv":
        answer = HttpResponse(csv_of(rows), content_type="text/csv; charset=utf-8")
    else:
        answer = HttpResponse(xlsx_of(_("Shopping"), rows), content_type=XLSX)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@login_required
@require_GET
def calendar(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The lesson and its dates for a calendar."""
    found = _pack(request, lesson_id)
    answer = HttpResponse(pages.ics(pages.calendar(found)), content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="lesson-{lesson_id}.ics"'
    return answer


@login_required
@require_http_methods(["GET", "POST"])
def talking(request: ActorRequest) -> HttpResponse:
    """What is said while hands are free."""
    if request.method == "POST":
        form = TalkingForm(request.POST)
        if not form.is_valid():
            page = {"lines": form.typed()["lines"], "wrong": form.first_error()}
            return render(request, "pack/talking.html", page, status=422)
        services.keep_talking(by=request.actor, lines=form.cleaned_data["lines"])
        messages.success(request, _("Kept: the next run sheet has them."))
        return redirect("talking")
    return render(request, "pack/talking.html", {"lines": selectors.talking_of(request.actor.organisation)})


def _sent_id(request: ActorRequest) -> uuid.UUID:
    """What the form calls this card, so that one sent twice is one; a new one where it calls it nothing."""
    try:
        return uuid.UUID(request.POST.get("card", ""))
    except ValueError:
        return uuid.uuid4()


@front_required
@require_http_methods(["GET", "POST"])
def bench_card(request: ActorRequest, bench_id: int) -> HttpResponse:
    """A bench's card on paper, typed in afterwards in one pass."""
    bench = get_object_or_404(lessons.benches_for(request.actor), pk=bench_id)
    if bench.lesson.opened_at is None:
        messages.error(request, lesson_wording.lesson_refusal("not_open"))
        return redirect("bench_detail", bench_id)
    found, data, many, wrong = selectors.Pack(bench.lesson), request.POST.dict(), dict(request.POST.lists()), ""
    card = _sent_id(request)
    unit = lessons.profile_of(bench.lesson).unit  # as the card was printed, whatever the screen shows elsewhere
    if request.method == "POST":
        try:
            entries = cards.entries_of(found, bench, data, many, unit)
            made = services.type_in_card(bench=bench, by=request.actor, card=card, entries=entries)
            messages.success(request, wording.card_entered(made))
            return redirect("bench_detail", bench_id)
        except CoreError as not_taken:
            wrong = wording.card_wrong(not_taken.field, error_sentence(not_taken))
        except LessonError as closed:
            wrong = lesson_wording.lesson_refusal(closed.code)
    context = {**cards.card_page(found, bench, data, many, unit), "wrong": wrong, "card": card}
    return render(request, "pack/card.html", context, status=422 if wrong else 200)
