"""What is kept: the shelves, stores that failed, stock gone through, recalls."""

from functools import partial
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench import arriving
from bulwark.devices import selectors as devices
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import LessonError
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.sheets import XLSX, csv_of, xlsx_of
from bulwark.shelf import exported, failing, index, pages, selectors, services, stock, wording
from bulwark.shelf.forms import FailureForm, PartForm, PowerForm, ThawForm
from bulwark.shelf.stock import Item
from bulwark.shelf.views.asked import asked_item, here, tried
from foodsafety.quantities import CoreError


@login_required
@require_GET
def shelf(request: ActorRequest) -> HttpResponse:
    """What is kept, store by store, and what is first to use; one item is open, or something is looked for."""
    asked = request.GET
    key, word, store = asked.get("item", "")[:160], asked.get("q", "")[:60], asked.get("store", "")[:60]
    page = pages.shelf_page(request.actor, key=key, word=word, store=store, whole="all" in asked)
    if page["open"] and "needed" in asked:
        page["open"] |= _thaw(request, page["open"]["item"])
    return render(request, "shelf/shelf.html", {**page, "store": store})


def _thaw(request: ActorRequest, item: Item) -> dict[str, Any]:
    """When a frozen part goes into the fridge, so that it is thawed when it is needed."""
    form = ThawForm(request.GET)
    if not form.is_valid():
        return {"thaw_wrong": " ".join(form.first_errors().values())}
    needed, thick_cm = form.cleaned_data["needed"], form.cleaned_data["thick"]
    return {"thaw": pages.thaw_says(item, needed, thick_cm), "thick_cm": thick_cm, "needed": request.GET["needed"]}


@login_required
@require_POST
def shelf_act(request: ActorRequest) -> HttpResponse:
    """One thing that is done with a part: moved, split, taken, heated again, thrown away."""
    form = PartForm(request.POST)
    found = asked_item(request, form)
    if found is None:
        return redirect("shelf")
    kind, data = form.entry(found.part, found.food)
    tried(request, lambda: services.enter(item=found, by=request.actor, kind=kind, data=data))
    left = stock.found_item(request.actor, found.key, timezone.now())
    return redirect(here(found, gone=left is None))


@login_required
@require_http_methods(["GET", "POST"])
def shelf_failure(request: ActorRequest) -> HttpResponse:
    """A store was too warm: what that means for each thing in it, by its own log or by what somebody says; first to be
    seen, then entered for all, then worked through."""
    form = FailureForm(request.POST if request.method == "POST" else request.GET)
    if not form.is_valid():
        messages.error(request, " ".join(form.first_errors().values()))
        return redirect("shelf")
    asked = form.cleaned_data
    actor, place, store = request.actor, asked["place"], asked["store"]
    logger = devices.store_named(actor, place, store) if asked["hours"] is None else None
    if asked["hours"] is not None:
        rows = failing.failed_by_hours(actor, place, store, asked["hours"] * 3600, known=asked["known"])
    elif logger is not None:
        rows = failing.failed_by_log(actor, place, store, logger)
    else:
        messages.error(request, wording.no_log())
        return redirect("shelf")
    if request.method == "POST":
        count = services.store_failed(warm=[(row.item, row.warm_s, row.known) for row in rows], by=actor)
        messages.success(request, wording.store_entered(count))
        return redirect(f"{reverse('shelf_work')}?{urlencode({'place': place, 'store': store})}")
    page = failing.failure_page(actor, asked, rows, logger)
    return render(request, "shelf/failure.html", {**page, "cut": None})


@login_required
@require_GET
def shelf_power(request: ActorRequest) -> HttpResponse:
    """A power cut, before it is over: until when a store stays cold, and what then."""
    form = PowerForm(request.GET)
    if not form.is_valid():
        messages.error(request, " ".join(form.first_errors().values()))
        return redirect("shelf")
    asked = form.cleaned_data
    rows, cold_until, section = failing.failed_in_cut(
        request.actor,
        asked["place"],
        asked["store"],
        since=asked["since"],
        opens=asked["opens"],
        filled=asked["filled"],
        shut=asked["shut"],
    )
    page = failing.failure_page(request.actor, {**asked, "hours": None, "known": False}, rows, None)
    cut = {"cold_until": cold_until, "section": section, **asked}
    return render(request, "shelf/failure.html", {**page, "cut": cut})


@login_required
@require_http_methods(["GET", "POST"])
def shelf_work(request: ActorRequest) -> HttpResponse:
    """What is over in a store, to be worked through: each is ticked once it is thrown away."""
    place, store = request.GET.get("place", "fridge")[:10], request.GET.get("store", "")[:40]
    over = [row for row in index.items_of(request.actor, place=place, store=store) if row.standing == "over"]
    if request.method == "POST":
        ticked = set(request.POST.getlist("key"))
        for item in over:
            if item.key in ticked:
                data = {
                    "food": item.food,
                    "part": item.part,
                    "how": "discarded",
                    "portions": None,
                    "why": "store_failed",
                }
                tried(request, partial(services.enter, item=item, by=request.actor, kind="part_gone", data=data))
        return redirect(request.get_full_path())
    return render(request, "shelf/work.html", pages.work_page(over, place, store))


@ensure_csrf_cookie
@login_required
@require_GET
def take_stock(request: ActorRequest) -> HttpResponse:
    """A shelf gone through with a phone: what is there, what is not; with a network or without."""
    return render(request, "shelf/count.html", pages.count_page(request.actor))


@login_required
@require_POST
def take_stock_here(request: ActorRequest) -> HttpResponse:
    """The phone is there; it is told the time."""
    return JsonResponse({"now": round(timezone.now().timestamp() * 1000)})


@login_required
@require_POST
def take_stock_entry(request: ActorRequest) -> HttpResponse:
    """One part seen, or not there. 200 recorded, 410 gone since, 422 a field is wrong and named."""
    try:
        if (count := int(request.META.get("CONTENT_LENGTH") or 0)) > arriving.MOST_ENTRY_BYTES:
            raise CoreError("data", "too_long", count=count, most=arriving.MOST_ENTRY_BYTES)
        entry = arriving.entry_from(arriving.json_body(request.body))
        found = stock.found_item(request.actor, str(entry.data.get("key", ""))[:160], timezone.now())
        if found is None:
            return JsonResponse({"title": wording.no_such_item()}, status=410)
        at = lessons.really_at(claimed=entry.claimed, sent=entry.sent)
        kind, data = services.counted(found, entry.kind, entry.data.get("portions"))
        services.enter(item=found, by=request.actor, kind=kind, data=data, event_id=entry.id, at=at)
    except CoreError as wrong:
        return JsonResponse({"code": "field", "field": wrong.field, "message": error_sentence(wrong)}, status=422)
    except LessonError as wrong:
        return JsonResponse({"title": lesson_refusal(wrong.code)}, status=410)
    return JsonResponse({"code": "recorded"})


@login_required
@require_http_methods(["GET", "POST"])
def recall(request: ActorRequest) -> HttpResponse:
    """Which lessons used something, who has what was made of it: for real, or as a drill against the clock."""
    actor, word = request.actor, (request.POST.get("q") or request.GET.get("q", ""))[:60].strip()
    if request.method == "POST":
        running = selectors.drill_running(actor)
        if running is None and word:
            services.begin_drill(organisation_id=actor.organisation, word=word)
        elif running is not None:
            found = stock.traced(actor, running.word)
            services.end_drill(drill=running, benches=len(found), parts=sum(len(row.parts) for row in found))
        return redirect(f"{reverse('recall')}?{urlencode({'q': word or (running.word if running else '')})}")
    return render(request, "shelf/recall.html", pages.recall_page(actor, word))


@login_required
@require_GET
def shelf_export(request: ActorRequest, kind: str) -> HttpResponse:
    """Everything that is kept, for other programs."""
    items = index.items_of(request.actor)
    if kind == "jsonl":
        answer = HttpResponse(exported.json_lines(items), content_type="application/jsonl; charset=utf-8")
    elif kind == "csv":
        answer = HttpResponse(csv_of(exported.sheet_rows(items)), content_type="text/csv; charset=utf-8")
    else:
        answer = HttpResponse(xlsx_of("shelf", exported.sheet_rows(items)), content_type=XLSX)
    answer["Content-Disposition"] = f'attachment; filename="shelf.{kind}"'
    return answer
