"""Labels, on sheets and off printers, and notes for home."""

import base64
import json
from functools import partial
from typing import Any
from urllib.parse import urlencode

from django.contrib.auth.decorators import login_required
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench import arriving
from bulwark.bench.selectors import joined_bench
from bulwark.devices import selectors as devices
from bulwark.devices.models import Instrument
from bulwark.devices.services import new_roll, paper_left
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.shelf import labels, pages, selectors, services, stock, wording
from bulwark.shelf.forms import LabelForm
from bulwark.shelf.models import PrintedLabel
from bulwark.shelf.stock import Item
from bulwark.shelf.views.asked import asked_item, here, tried
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
def shelf_note(request: ActorRequest) -> HttpResponse:
    """What goes home with a part: what it is, until when, how it is kept and heated. No child's name."""
    item = stock.found_item(request.actor, request.GET.get("item", "")[:160], timezone.now())
    if item is None:
        raise Http404
    return render(request, "shelf/note.html", pages.note_page(item, request.actor, request.GET))


@login_required
@require_http_methods(["GET", "POST"])
def note_words(request: ActorRequest) -> HttpResponse:
    """The sentences of a note for home in a family's language."""
    asked = request.POST if request.method == "POST" else request.GET
    language = " ".join(asked.get("language", "")[:80].split())
    page = pages.words_page(request.actor, language, {})
    wrong = ""
    if request.method == "POST":
        said = {row["id"]: request.POST.get(row["id"], "").strip()[:400] for row in page["rows"]}
        lacking = [
            wording.words_without(row["english"], lack)
            for row in page["rows"]
            if said[row["id"]] and (lack := wording.words_lack(said[row["id"]], row["english"]))
        ]
        wrong = "" if language else wording.language_unnamed()
        wrong = wrong or " ".join(lacking)
        organisation = request.actor.organisation
        if not wrong and tried(
            request, partial(services.say_words, organisation_id=organisation, language=language, words=said)
        ):
            return redirect(f"{reverse('note_words')}?{urlencode({'language': language})}")
        page = pages.words_page(request.actor, language, said)
    return render(request, "shelf/words.html", {**page, "wrong": wrong}, status=422 if wrong else 200)


@login_required
@require_POST
def shelf_labels(request: ActorRequest) -> HttpResponse:
    """A part's labels on a sheet, as a PDF, or on a printer; its log says that they were printed."""
    form = LabelForm(request.POST)
    found = asked_item(request, form)
    if found is None:
        return redirect("shelf")
    asked, there = form.cleaned_data, here(found)
    qr, copies = qr_svg(tablet_address(request, there)), asked["copies"]
    if asked["printer"]:
        return _print_on(request, found, qr, copies, asked["printer"])
    made: list[str] = []

    def act() -> None:
        made.append(labels.label_sheet(found, asked["sheet"], qr, copies=copies, start=asked["start"] or 1))
        data = {"food": found.food, "part": found.part, "count": copies}
        services.enter(item=found, by=request.actor, kind="part_labelled", data=data)

    if not tried(request, act):
        return redirect(there)
    return HttpResponse(labels.sheet_pdf(made[0]), content_type="application/pdf")


def _print_on(request: ActorRequest, item: Item, qr: Any, copies: int, printer_id: int) -> HttpResponse:
    printer = next((row for row in devices.printers_for(request.actor) if row.pk == printer_id), None)
    if printer is None:
        raise Http404

    def act() -> None:
        pdf = labels.sheet_pdf(labels.label_roll(item, qr, copies=copies))
        services.print_on(printer=printer, item=item, by=request.actor, copies=copies, pdf=pdf)

    return redirect("tray", printer.pk) if tried(request, act) else redirect(here(item))


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
