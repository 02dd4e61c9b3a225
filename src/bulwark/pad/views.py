"""The assistant's pad: let in with a code, one tap a learner."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core import signing
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench import arriving, limits
from bulwark.lessons import selectors as lessons
from bulwark.lessons import services as lesson_services
from bulwark.lessons.wording import lesson_refusal
from bulwark.pad import pages, selectors, services, wording
from bulwark.pad.models import Assistant
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.patience import told_later
from bulwark.presentation.qr import qr_svg, tablet_address
from foodsafety.quantities import CoreError

# A device speaks for one assistant: counted beside the tablets, which have numbers above nought.
_SPEAKERS_FROM = -(10**9)


@login_required
@require_http_methods(["GET", "POST"])
def pads(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Who looks on at which benches: letting somebody in, and sending them away."""
    lesson = get_object_or_404(lessons.lessons_with_benches(request.actor), pk=lesson_id)
    benches = list(lesson.benches.all())
    if request.method == "POST":
        try:
            chosen = [bench for bench in benches if str(bench.pk) in request.POST.getlist("benches")]
            services.let_in(lesson=lesson, benches=chosen)
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
        return redirect("pads", lesson_id)
    rows = [
        {
            "one": one,
            "benches": selectors.names(one.benches.all()),
            "qr": qr_svg(tablet_address(request, f"{reverse('pad_join')}?code={one.code}")),
        }
        for one in selectors.assistants_of(lesson)
    ]
    context = {
        "lesson": lesson,
        "benches": benches,
        "rows": rows,
        "join_url": tablet_address(request, reverse("pad_join")),
    }
    return render(request, "pad/pads.html", context)


@login_required
@require_POST
def pad_away(request: ActorRequest, lesson_id: int, number: int) -> HttpResponse:
    """Sends an assistant away."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    services.send_away(get_object_or_404(Assistant, lesson=lesson, number=number))
    return redirect("pads", lesson_id)


@never_cache
@require_http_methods(["GET", "POST"])
def pad_join(request: ActorRequest) -> HttpResponse:
    """In with a code. A wrong one is answered later each time."""
    if request.method == "GET":
        return render(request, "pad/join.html", {"code": request.GET.get("code", "")[:12], "error": ""})
    code = request.POST.get("code", "")[:12]
    found = selectors.with_code(code)
    if found is None:
        tries = lesson_services.wrong_code(request.META.get("REMOTE_ADDR"))
        page = {"code": code, "error": wording.refusal("unknown")}
        return told_later(render(request, "pad/join.html", page, status=404), tries)
    response = redirect("pad")
    response.set_cookie(
        selectors.COOKIE,
        signing.dumps(found.pk, salt=selectors.SALT),
        max_age=selectors.COOKIE_AGE_S,
        httponly=True,
        samesite="Lax",
        secure=settings.BEHIND_TLS,
    )
    return response


def _gone(request: ActorRequest) -> HttpResponse:
    return render(request, "pad/join.html", {"code": "", "error": wording.refusal("gone")}, status=403)


@never_cache
@ensure_csrf_cookie
@require_GET
def pad(request: ActorRequest) -> HttpResponse:
    """What to look at now at each of their benches."""
    found = selectors.assistant_of(request)
    if found is None:
        return _gone(request)
    return render(
        request, "pad/pad.html", {**pages.pad_page(found), "now_ms": round(timezone.now().timestamp() * 1000)}
    )


@never_cache
@require_GET
def pad_screen(request: ActorRequest) -> HttpResponse:
    """The pad's moving part."""
    found = selectors.assistant_of(request)
    if found is None:
        return JsonResponse({"title": wording.refusal("gone")}, status=403)
    return render(request, "pad/_screen.html", pages.pad_page(found))


@require_POST
def pad_here(request: ActorRequest) -> HttpResponse:
    """The pad is there; it is told the time."""
    if selectors.assistant_of(request) is None:
        return JsonResponse({"title": wording.refusal("gone")}, status=403)
    return JsonResponse({"now": round(timezone.now().timestamp() * 1000)})


@require_POST
def pad_entries(request: ActorRequest) -> HttpResponse:
    """One thing seen. 200 recorded, 403 not (any more) at this bench, 422 a field is wrong and named."""
    found = selectors.assistant_of(request)
    if found is None:
        return JsonResponse({"title": wording.refusal("gone")}, status=403)
    if not limits.may_speak(_SPEAKERS_FROM - found.pk):
        return JsonResponse({"title": ""}, status=429)
    try:
        return JsonResponse(_take(request, found))
    except CoreError as wrong:
        return JsonResponse({"code": "field", "field": wrong.field, "message": error_sentence(wrong)}, status=422)
    except lesson_services.LessonError as wrong:
        return JsonResponse({"title": lesson_refusal(wrong.code)}, status=410)


def _take(request: ActorRequest, assistant: Assistant) -> dict[str, Any]:
    """Records what was seen. Raises CoreError for what is none of theirs to say."""
    if (count := int(request.META.get("CONTENT_LENGTH") or 0)) > arriving.MOST_ENTRY_BYTES:
        raise CoreError("data", "too_long", count=count, most=arriving.MOST_ENTRY_BYTES)
    entry = arriving.entry_from(arriving.json_body(request.body))
    named = str(entry.data.pop("bench", ""))
    bench = next((one for one in selectors.benches_of(assistant) if str(one.pk) == named), None)
    if bench is None:
        raise CoreError("bench", "not_your_bench")
    return arriving.record(entry, bench, selectors.actor_of(assistant))
