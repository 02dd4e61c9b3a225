"""Handing the front of a lesson over with one code, and taking it over."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.front import selectors, services, wording
from bulwark.front.models import StandIn
from bulwark.lessons import selectors as lessons
from bulwark.lessons import services as lesson_services
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.patience import told_later
from bulwark.presentation.qr import qr_svg, tablet_address
from foodsafety.quantities import CoreError


@login_required
@require_http_methods(["GET", "POST"])
def hand_over(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """A code for whoever takes over, and who has."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    if request.method == "POST":
        try:
            services.hand_over(lesson)
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
        except lesson_services.LessonError as wrong:
            messages.error(request, lesson_refusal(wrong.code))
        return redirect("hand_over", lesson_id)
    rows = [
        {"one": one, "qr": qr_svg(tablet_address(request, f"{reverse('front_join')}?code={one.code}"))}
        for one in selectors.of_lesson(lesson)
    ]
    join_url = tablet_address(request, reverse("front_join"))
    return render(request, "front/hand_over.html", {"lesson": lesson, "rows": rows, "join_url": join_url})


@login_required
@require_POST
def front_away(request: ActorRequest, lesson_id: int, number: int) -> HttpResponse:
    """Takes the front back."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    services.send_away(get_object_or_404(StandIn, lesson=lesson, number=number))
    return redirect("hand_over", lesson_id)


@never_cache
@require_http_methods(["GET", "POST"])
def front_join(request: ActorRequest) -> HttpResponse:
    """In with a code, once. A wrong one is answered later each time."""
    if request.method == "GET":
        return render(request, "front/join.html", {"code": request.GET.get("code", "")[:12], "error": ""})
    code = request.POST.get("code", "")[:12]
    found = selectors.with_code(code)
    if found is None or not services.take_over(found):
        tries = lesson_services.wrong_code(request.META.get("REMOTE_ADDR"))
        page = {"code": code, "error": wording.refusal("unknown")}
        return told_later(render(request, "front/join.html", page, status=404), tries)
    request.session.cycle_key()
    request.session[selectors.SESSION] = found.pk
    return redirect("wall", found.lesson_id)


@never_cache
@require_GET
def front(request: ActorRequest) -> HttpResponse:
    """What a stand-in finds besides the wall: the codes of the benches, and the end of the lesson."""
    if request.actor.kind != "stand_in":
        return render(request, "front/join.html", {"code": "", "error": wording.refusal("gone")}, status=403)
    lesson = get_object_or_404(lessons.lessons_with_benches(request.actor))
    return render(request, "front/front.html", {"lesson": lesson, "join_url": tablet_address(request, reverse("join"))})
