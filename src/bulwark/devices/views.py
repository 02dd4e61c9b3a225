"""Probes and loggers over the protocol that real ones speak (docs/DEVICES.md), and their pages."""

import csv
import datetime as dt
import json
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.exceptions import ValidationError
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from bulwark.bench.selectors import joined_bench
from bulwark.devices import pages, selectors, services, tasks, wording
from bulwark.devices.forms import CheckForm
from bulwark.kitchens.selectors import kitchen_of
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from foodsafety.quantities import CoreError

MOST_BODY = 2 * 1024 * 1024


def _error(field: str, message: str, status: int) -> JsonResponse:
    return JsonResponse({"error": {"field": field, "message": message}}, status=status)


@never_cache
@require_GET
def probe_reading(request: ActorRequest) -> JsonResponse:
    """What the bench's probe shows in one piece of a food now."""
    bench = joined_bench(request)
    if bench is None:
        return _error("bench", "not joined to an open bench", 403)
    food, piece = request.GET.get("food", ""), request.GET.get("piece", "1")
    since = request.GET.get("in", "600")
    in_food_s = float(since) if since.replace(".", "", 1).isdecimal() and len(since) < 9 else 600.0
    reading = selectors.simulated_reading(bench, food, piece[:8], in_food_s=in_food_s)
    if reading is None:
        return _error("food", "nothing on the heat has that name", 404)
    if reading["celsius"] is None:
        return _error("battery_percent", "the probe's battery is flat: use another one", 503)
    return JsonResponse(reading)


@csrf_exempt
@require_POST
def take_in(request: ActorRequest) -> JsonResponse:
    """Readings from a logger: its serial and key, and what it has read."""
    if len(request.body) > MOST_BODY:
        return _error("readings", f"more than {MOST_BODY} bytes", 413)
    try:
        serial, readings = _sent_readings(request)
    except (ValueError, KeyError, TypeError, RecursionError):
        return _error("body", "an object with device and a list of readings is needed", 400)
    scheme, _space, key = request.headers.get("Authorization", "").partition(" ")
    try:
        count = services.take_in(serial=serial, key=key if scheme == "Device" else "", readings=readings)
    except CoreError as wrong:
        return _error(wrong.field, error_sentence(wrong), 422)
    except (PermissionError, ValueError, ValidationError):  # a serial that is no UUID is no device either
        return _error("device", "this serial and key do not belong together", 403)
    return JsonResponse({"kept": count})


def _sent_readings(request: ActorRequest) -> tuple[str, list[Any]]:
    data: Any = json.loads(request.body)
    readings = data["readings"]
    if not isinstance(readings, list):
        raise TypeError
    return str(data["device"]), readings


@login_required
@require_GET
def cold(request: ActorRequest) -> HttpResponse:
    """Fridges and freezers over the last day."""
    template = "devices/_cold.html" if request.headers.get("HX-Target") == "cold" else "devices/cold.html"
    return render(request, template, pages.cold_page(request.actor))


@login_required
@require_GET
def alarms(request: ActorRequest) -> HttpResponse:
    """The stores somebody must see to; nothing where there are none."""
    return render(request, "devices/_alarms.html", {"alarms": pages.alarms(request.actor)})


@login_required
@require_POST
def probe_check(request: ActorRequest, instrument_id: int) -> HttpResponse:
    """A probe held against ice slush and boiling water."""
    row = get_object_or_404(selectors.instruments_for(request.actor).filter(kind="probe"), pk=instrument_id)
    form, unit = CheckForm(request.POST), request.actor.unit
    if not form.is_valid():
        return render(
            request,
            "devices/cold.html",
            pages.cold_page(request.actor, wrong=form.first_error(), typed={row.pk: request.POST.dict()}),
            status=422,
        )
    try:
        altitude_m = kitchen_of(request.actor.organisation).altitude_m
        found = services.check(
            instrument=row,
            by=request.actor,
            ice_shows_c=form.shown_c("ice", unit),
            boil_shows_c=form.shown_c("boil", unit),
            altitude_m=altitude_m,
        )
    except CoreError as wrong:
        page = pages.cold_page(request.actor, wrong=error_sentence(wrong), typed={row.pk: request.POST.dict()})
        return render(request, "devices/cold.html", page, status=422)
    messages.success(request, f"{row.name}: {wording.checked(found.standing)}")
    return redirect("cold")


@login_required
@require_POST
def store_change(request: ActorRequest, instrument_id: int) -> HttpResponse:
    """A fault or a pace for a simulated store."""
    row = get_object_or_404(selectors.stores_for(request.actor), pk=instrument_id)
    pace, what = request.POST.get("pace", ""), request.POST.get("what", "")
    try:
        if pace:
            services.set_pace(instrument=row, pace=int(pace) if pace.isdecimal() and len(pace) < 6 else 0)
        else:
            services.disturb(instrument=row, what=what)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    return redirect("cold")


@login_required
@require_POST
def instrument_add(request: ActorRequest) -> HttpResponse:
    """A new instrument; a real one is told its key once."""
    kind, name = request.POST.get("kind", ""), request.POST.get("name", "")
    try:
        row, key = services.add_for(
            by=request.actor, kind=kind, name=name, simulated=request.POST.get("real", "") != "yes"
        )
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("cold")
    if key:
        text = _("%(name)s: device %(serial)s, key %(key)s. The key is not shown again.")
        messages.success(request, text % {"name": row.name, "serial": row.serial, "key": key})
    else:
        messages.success(request, _("%(name)s is there.") % {"name": row.name})
    return redirect("cold")


@login_required
@require_GET
def store_csv(request: ActorRequest, instrument_id: int) -> HttpResponse:
    """A store's readings as CSV, in order, with their zone."""
    row = get_object_or_404(selectors.stores_for(request.actor), pk=instrument_id)
    response = HttpResponse(content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{slugify(row.name) or "store"}.csv"'
    writer = csv.writer(response)
    writer.writerow(["time", "temperature C"])
    fresh = selectors.ran_on(row)
    since = selectors.own_time(row) - dt.timedelta(days=31)
    writer.writerows((at.isoformat(), f"{c:g}") for at, c in selectors.readings_since(row, since, fresh))
    return response


@login_required
@require_POST
def store_bring(request: ActorRequest, instrument_id: int) -> HttpResponse:
    """A logger's CSV brought into a store's own readings, beside the server: it may have a million lines."""
    row = get_object_or_404(selectors.stores_for(request.actor), pk=instrument_id)
    upload = request.FILES.get("log")
    if upload is None:
        messages.error(request, error_sentence(CoreError("log", "no_log_file")))
        return redirect("cold")
    title = _("A log for %(store)s") % {"store": row.name}
    return redirect("job", tasks.ask_bring(by=request.actor, instrument=row, title=title, log=upload.read()))


@login_required
@require_GET
def keep(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """A lesson's clocks: what must stay cold, what must stay hot, and for how long yet."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    template = "devices/_keep.html" if request.headers.get("HX-Target") == "keep" else "devices/keep.html"
    return render(request, template, pages.keep_page(lesson, request.actor))
