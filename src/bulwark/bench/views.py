"""The bench: joining, the screen, and the way its entries reach the log."""

from functools import cache
from typing import Any

from django.conf import settings
from django.core import signing
from django.http import HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone, translation
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench import arriving, drawings, limits, screens, wording
from bulwark.bench.arriving import Arrived
from bulwark.bench.selectors import COOKIE, COOKIE_AGE_S, SALT, device_actor, joined_bench
from bulwark.lessons import event_stream as lessons_live
from bulwark.lessons import selectors, services
from bulwark.lessons.forms import JoinForm
from bulwark.lessons.selectors import Bench
from bulwark.people.actors import Actor, ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.patience import told_later
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile


def _unit(request: ActorRequest, bench: Bench) -> str:
    """The tablet's choice of unit, or the profile's own."""
    chosen = request.COOKIES.get("bulwark_unit")
    if chosen in ("C", "F"):
        return chosen
    return rule_profile(bench.lesson.profile).unit


def _refused(request: ActorRequest, code: str, status: int) -> HttpResponse:
    title, text = wording.refusal(code)
    return render(request, "bench/refused.html", {"title": title, "text": text, "code": code}, status=status)


def _refusal(code: str) -> dict[str, Any]:
    title, text = wording.refusal(code)
    return {"code": code, "title": title, "text": text}


def _why_not(actor: Actor) -> tuple[str, int]:
    """Why a device has no bench to show: the plain reason."""
    if selectors.is_sent_away(actor):
        return "sent_away", 403
    bench = selectors.bench_known(actor.bench_id) if actor.bench_id else None
    if bench is None:
        return "not_joined", 403
    return ("closed", 410) if bench.lesson.closed_at else ("not_open", 409)


def _unknown(request: ActorRequest, code: str, status: int) -> HttpResponse:
    """The form again, with what was typed."""
    title, text = wording.refusal("unknown")
    return render(request, "bench/join.html", {"error": title, "text": text, "code": code[:12]}, status=status)


def _try_join(request: ActorRequest, code: str) -> HttpResponse:
    """In with the right code, always: a class sits behind one address. A wrong one is told so later each time."""
    bench = selectors.bench_with_code(code.strip().upper())
    if bench is None:
        return told_later(_unknown(request, code, 404), services.wrong_code(request.META.get("REMOTE_ADDR")))
    if bench.lesson.closed_at:
        return _refused(request, "closed", 410)
    if bench.lesson.opened_at is None:
        return _refused(request, "not_open", 409)
    return _joined(request, bench)


def _joined(request: ActorRequest, bench: Bench) -> HttpResponse:
    """On to the bench's screen, with the cookie that remembers which bench this tablet is at."""
    device = services.join_bench(bench, before=device_actor(request))
    response = redirect("bench")
    response.set_cookie(
        COOKIE,
        signing.dumps({"bench": bench.pk, "device": device.pk, "n": device.number}, salt=SALT),
        max_age=COOKIE_AGE_S,
        httponly=True,
        samesite="Lax",
        secure=settings.BEHIND_TLS,
    )
    return response


@never_cache
@require_http_methods(["GET", "POST"])
def join(request: ActorRequest) -> HttpResponse:
    """Joining with a code typed in."""
    if request.method == "GET":
        return render(request, "bench/join.html", {"code": ""})
    form = JoinForm(request.POST)
    if not form.is_valid():
        return _unknown(request, request.POST.get("code", ""), 422)
    return _try_join(request, form.cleaned_data["code"])


@never_cache
@require_GET
def join_code(request: ActorRequest, code: str) -> HttpResponse:
    """Joining by QR: one button. A look changes nothing, and says nothing of whether the code is right."""
    return render(request, "bench/join.html", {"code": code[:12], "scanned": True})


@require_POST
def leave(request: ActorRequest) -> HttpResponse:
    """Takes this device away from its bench."""
    services.leave_bench(device_actor(request))
    response = redirect("join")
    response.delete_cookie(COOKIE)
    return response


@never_cache
@ensure_csrf_cookie
@require_GET
def screen(request: ActorRequest) -> HttpResponse:
    """The bench's whole page."""
    actor = device_actor(request)
    bench = joined_bench(request)
    if bench is None:
        return _refused(request, *_why_not(actor))
    if request.GET.get("unit") in ("C", "F"):
        return _with_unit(request.GET["unit"])
    with _spelled_for(bench):
        context = screens.bench_screen(bench, unit=_unit(request, bench), asked=request.GET.get("panel"))
        context |= {"now_ms": round(timezone.now().timestamp() * 1000)}
        context |= {"stages": drawings.wash_ring(wording.wash_stages(context["scrub_s"]))}
        return render(request, "bench/screen.html", context)


def _with_unit(unit: str) -> HttpResponse:
    response = redirect("bench")
    response.set_cookie("bulwark_unit", unit, max_age=COOKIE_AGE_S, samesite="Lax")
    return response


def _spelled_for(bench: Bench) -> translation.override:
    """Words as the profile of the lesson spells them."""
    return translation.override(rule_profile(bench.lesson.profile).spelling)


@never_cache
@require_GET
def screen_fragment(request: ActorRequest) -> HttpResponse:
    """The bench's moving part."""
    actor = device_actor(request)
    bench = joined_bench(request)
    if bench is None:
        code, status = _why_not(actor)
        return JsonResponse(_refusal(code), status=status)
    with _spelled_for(bench):
        context = screens.bench_screen(bench, unit=_unit(request, bench), asked=request.GET.get("panel"))
        return render(request, "bench/_screen.html", context)


def _arrived(request: ActorRequest) -> Arrived:
    """An entry from JSON (the tablet's outbox) or from a plain form. Raises CoreError."""
    is_json = request.content_type == "application/json"
    return arriving.entry_from(arriving.json_body(request.body) if is_json else _form_body(request))


def _form_body(request: ActorRequest) -> dict[str, Any]:
    posted: dict[str, Any] = {**request.POST.dict()}
    lists, skip = {"checks", "tools", "foods", "by"}, {"id", "kind", "csrfmiddlewaretoken"}
    data = {k: request.POST.getlist(k) if k in lists else v for k, v in posted.items() if k not in skip}
    return {**posted, "data": data}


def _answer(request: ActorRequest, payload: dict[str, Any], status: int) -> HttpResponse:
    """JSON for the tablet; for a plain form the page again, with the message."""
    if request.content_type == "application/json":
        return JsonResponse(payload, status=status)
    if status == 200:
        return redirect("bench")
    title = payload.get("title") or payload.get("message") or ""
    return render(
        request, "bench/refused.html", {"title": title, "text": payload.get("text", ""), "code": "entry"}, status=status
    )


@require_POST
def entries(request: ActorRequest) -> HttpResponse:
    """One entry for the log. 200 recorded (or already there), 409 a question about the number,
    410 the lesson is over, 422 a field is wrong and named."""
    actor = device_actor(request)
    bench = selectors.open_bench(actor)
    if bench is None:
        return _not_taken(request, *_why_not(actor))
    if int(request.META.get("CONTENT_LENGTH") or 0) > arriving.MOST_ENTRY_BYTES:
        return _not_taken(request, "too_large", 413)
    if not limits.may_speak(limits.speaker(actor)):
        return _not_taken(request, "too_fast", 429)
    try:
        return _take(request, bench, actor)
    except CoreError as wrong:
        message = wording.field_text(error_sentence(wrong))
        return _answer(request, {"code": "field", "field": wrong.field, "message": message}, 422)
    except services.LessonError as wrong:
        return _not_taken(request, wrong.code, 403 if wrong.code == "sent_away" else 410)


def _not_taken(request: ActorRequest, code: str, status: int) -> HttpResponse:
    return _answer(request, _refusal(code), status)


def _take(request: ActorRequest, bench: Bench, actor: Actor) -> HttpResponse:
    """Records the entry, or asks about its number. Raises CoreError, LessonError."""
    entry = _arrived(request)
    question = arriving.question(entry, bench)
    if question:
        return _answer(request, {"code": "question", **question}, 409)
    return _answer(request, arriving.record(entry, bench, actor), 200)


@require_POST
def here(request: ActorRequest) -> HttpResponse:
    """A tablet says that it is there and how many entries wait on it; it is told the time, so that its own clock
    need not be right."""
    actor = device_actor(request)
    bench = selectors.open_bench(actor)
    if bench is None:
        return _not_taken(request, *_why_not(actor))
    try:
        waiting = arriving.json_body(request.body)["data"].get("waiting")
    except CoreError as wrong:
        return _answer(request, {"code": "field", "field": wrong.field, "message": error_sentence(wrong)}, 422)
    known = isinstance(waiting, int) and not isinstance(waiting, bool) and waiting >= 0
    if actor.device_id and not services.note_seen(actor.device_id, waiting=waiting if known else 0):
        return _not_taken(request, "sent_away", 403)
    return JsonResponse({"now": round(timezone.now().timestamp() * 1000)})


@cache
def _worker() -> str:
    return (settings.STATICFILES_DIRS[0] / "bulwark" / "worker.js").read_text(encoding="utf-8")


@require_GET
def worker(request: ActorRequest) -> HttpResponse:
    """What keeps the bench and the wall in a browser. Not among the static files, since it may keep only what lies
    under its own address, and is asked for anew."""
    return HttpResponse(_worker(), content_type="text/javascript", headers={"Cache-Control": "no-cache"})


@require_GET
def live(request: ActorRequest) -> HttpResponse:
    """Server-sent events of this bench."""
    bench = joined_bench(request)
    if bench is None:
        return HttpResponse(status=404)
    return lessons_live.stream_ticket(bench.lesson_id, bench.pk)
