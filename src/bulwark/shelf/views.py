"""What is kept: shelves, labels, notes for home; and what is brought."""

import base64
import json
from collections.abc import Callable
from functools import partial
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench import arriving
from bulwark.bench.selectors import joined_bench
from bulwark.devices import selectors as devices
from bulwark.devices.models import Instrument
from bulwark.devices.services import new_roll, paper_left
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import LessonError
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.people.forms import SaidForm
from bulwark.presentation.errors import NOT_TAKEN, error_sentence, why_not_taken
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.presentation.sheets import XLSX, csv_of, xlsx_of
from bulwark.shelf import exported, failing, index, labels, pages, selectors, services, stock, wording
from bulwark.shelf.forms import BroughtForm, FailureForm, KeepForm, LabelForm, PartForm, PowerForm, PutForm, ThawForm
from bulwark.shelf.models import PrintedLabel
from bulwark.shelf.stock import Item
from foodsafety.quantities import CoreError


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


def _here(item: Item, *, gone: bool = False) -> str:
    return reverse("shelf") if gone else f"{reverse('shelf')}?{urlencode({'item': item.key})}"


def _tried(request: ActorRequest, act: Callable[[], object]) -> bool:
    """Does something; where it is not taken, says why. True where it was."""
    try:
        act()
    except NOT_TAKEN as wrong:
        messages.error(request, why_not_taken(wrong))
    except LessonError as wrong:
        messages.error(request, lesson_refusal(wrong.code))
    else:
        return True
    return False


def _asked_item(request: ActorRequest, form: SaidForm) -> Item | None:
    """The part that a form is about; says what is wrong where there is none, or the form is wrong."""
    found = stock.found_item(request.actor, request.POST.get("key", "")[:160], timezone.now())
    if form.is_valid() and found is not None:
        return found
    messages.error(request, wording.no_such_item() if found is None else " ".join(form.first_errors().values()))
    return None


@login_required
@require_POST
def shelf_act(request: ActorRequest) -> HttpResponse:
    """One thing that is done with a part: moved, split, taken, heated again, thrown away."""
    form = PartForm(request.POST)
    found = _asked_item(request, form)
    if found is None:
        return redirect("shelf")
    kind, data = form.entry(found.part, found.food)
    _tried(request, lambda: services.enter(item=found, by=request.actor, kind=kind, data=data))
    left = stock.found_item(request.actor, found.key, timezone.now())
    return redirect(_here(found, gone=left is None))


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
    actor, place, store, silent = request.actor, asked["place"], asked["store"], None
    logger = devices.store_named(actor, place, store) if asked["hours"] is None else None
    if asked["hours"] is not None:
        rows = failing.failed_by_hours(actor, place, store, asked["hours"] * 3600, known=asked["known"])
    elif logger is not None:
        rows, silent = failing.failed_by_log(actor, place, store, logger)
    else:
        messages.error(request, wording.no_log())
        return redirect("shelf")
    if request.method == "POST":
        warm, known = [(row.item, row.warm_s) for row in rows], logger is not None or asked["known"]
        count = services.store_failed(warm=warm, by=actor, known=known)
        messages.success(request, wording.store_entered(count))
        return redirect(f"{reverse('shelf_work')}?{urlencode({'place': place, 'store': store})}")
    page = failing.failure_page(actor, asked, rows, logger)
    return render(request, "shelf/failure.html", {**page, "silent": silent, "cut": None})


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
    return render(request, "shelf/failure.html", {**page, "silent": None, "cut": cut})


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
                data = {"food": item.food, "part": item.part, "how": "discarded", "portions": None}
                _tried(request, partial(services.enter, item=item, by=request.actor, kind="part_gone", data=data))
        return redirect(request.get_full_path())
    return render(request, "shelf/work.html", pages.work_page(over, place, store))


@login_required
@require_POST
def shelf_keep(request: ActorRequest) -> HttpResponse:
    """Some of a part is kept for a lesson."""
    form = KeepForm(request.POST)
    found = _asked_item(request, form)
    if found is None:
        return redirect("shelf")
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=form.cleaned_data["lesson"])
    portions = form.cleaned_data["portions"]
    _tried(request, lambda: services.keep_for(item=found, lesson=lesson, portions=portions))
    return redirect(_here(found))


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
@require_GET
def shelf_note(request: ActorRequest) -> HttpResponse:
    """What goes home with a part: what it is, until when, how it is kept and heated. No child's name."""
    item = stock.found_item(request.actor, request.GET.get("item", "")[:160], timezone.now())
    if item is None:
        raise Http404
    return render(request, "shelf/note.html", pages.note_page(item, request.actor, request.GET))


@login_required
@require_POST
def shelf_labels(request: ActorRequest) -> HttpResponse:
    """A part's labels on a sheet, as a PDF, or on a printer; its log says that they were printed."""
    form = LabelForm(request.POST)
    found = _asked_item(request, form)
    if found is None:
        return redirect("shelf")
    asked, here = form.cleaned_data, _here(found)
    qr, copies = qr_svg(tablet_address(request, here)), asked["copies"]
    if asked["printer"]:
        return _print_on(request, found, qr, copies, asked["printer"])
    made: list[str] = []

    def act() -> None:
        made.append(labels.label_sheet(found, asked["sheet"], qr, copies=copies, start=asked["start"] or 1))
        data = {"food": found.food, "part": found.part, "count": copies}
        services.enter(item=found, by=request.actor, kind="part_labelled", data=data)

    if not _tried(request, act):
        return redirect(here)
    return HttpResponse(labels.sheet_pdf(made[0]), content_type="application/pdf")


def _print_on(request: ActorRequest, item: Item, qr: Any, copies: int, printer_id: int) -> HttpResponse:
    printer = next((row for row in devices.printers_for(request.actor) if row.pk == printer_id), None)
    if printer is None:
        raise Http404

    def act() -> None:
        pdf = labels.sheet_pdf(labels.label_roll(item, qr, copies=copies))
        services.print_on(printer=printer, item=item, by=request.actor, copies=copies, pdf=pdf)

    return redirect("tray", printer.pk) if _tried(request, act) else redirect(_here(item))


def _printer(request: ActorRequest, printer_id: int) -> Instrument:
    return get_object_or_404(devices.instruments_for(request.actor), pk=printer_id, kind="printer")


@login_required
@require_http_methods(["GET", "POST"])
def tray(request: ActorRequest, printer_id: int) -> HttpResponse:
    """The tray of a simulated printer: what it printed, and its roll."""
    printer = _printer(request, printer_id)
    if request.method == "POST":
        if printer.simulated:
            new_roll(printer=printer)
        return redirect("tray", printer.pk)
    rows = PrintedLabel.objects.filter(printer=printer).defer("pdf")
    return render(request, "shelf/tray.html", {"printer": printer, "rows": rows, "left": paper_left(printer)})


@login_required
@require_GET
def tray_label(request: ActorRequest, printer_id: int, label_id: int, kind: str) -> HttpResponse:
    """One label out of the tray, as it came: PDF, or its first page as a picture."""
    row = get_object_or_404(PrintedLabel, printer=_printer(request, printer_id), pk=label_id)
    pdf = bytes(row.pdf)
    if kind == "pdf":
        return HttpResponse(pdf, content_type="application/pdf")
    return HttpResponse(labels.picture_of(pdf), content_type="image/png")


@csrf_exempt
@require_POST
def printer_calls(request: ActorRequest) -> HttpResponse:
    """A real printer asks for what waits (docs/DEVICES.md)."""
    scheme, _space, key = request.headers.get("Authorization", "").partition(" ")
    try:
        if (count := int(request.META.get("CONTENT_LENGTH") or 0)) > arriving.MOST_ENTRY_BYTES:
            raise CoreError("data", "too_long", count=count, most=arriving.MOST_ENTRY_BYTES)
        body = json.loads(request.body)
        said = {"paper": body.get("paper"), "printed": list(body.get("printed") or ())}
        rows = services.printer_called(serial=str(body["device"]), key=key if scheme == "Device" else "", **said)
    except CoreError as wrong:
        return JsonResponse({"error": {"field": wrong.field, "message": error_sentence(wrong)}}, status=422)
    except PermissionError:
        message = "this serial and key do not belong together"
        return JsonResponse({"error": {"field": "device", "message": message}}, status=403)
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError, ValidationError):
        return JsonResponse({"error": {"field": "body", "message": "an object with device is needed"}}, status=400)
    labels_waiting = [
        {"id": row.pk, "copies": row.copies, "name": row.name, "pdf": base64.b64encode(row.pdf).decode()}
        for row in rows
    ]
    return JsonResponse({"labels": labels_waiting})


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
