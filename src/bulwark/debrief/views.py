"""The debrief: a lesson replayed, what to teach next, and the same on paper."""

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from bulwark.debrief import pages
from bulwark.jobs.papers import ask_paper
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import set_teach_next
from bulwark.people.actors import ActorRequest


def _lesson(request: ActorRequest, lesson_id: int) -> lessons.Lesson:
    rows = lessons.lessons_for(request.actor).select_related("recipe", "group", "kitchen")
    return get_object_or_404(rows, pk=lesson_id)


def _asked(request: ActorRequest) -> dict[str, int | None]:
    """The bench and the moment that are asked for; what is no number is not asked."""
    found = {}
    for name in ("bench", "at"):
        text = request.GET.get(name, "")
        found[name] = int(text) if text.isdecimal() and len(text) < 10 else None
    return found


@login_required
@require_GET
def debrief(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The lesson replayed, at the moment where it began."""
    lesson = _lesson(request, lesson_id)
    return render(request, "debrief/debrief.html", pages.debrief_page(lesson, request.actor.unit, **_asked(request)))


@login_required
@require_GET
def debrief_moment(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """One bench at one moment, while the time line is drawn along."""
    lesson = _lesson(request, lesson_id)
    return render(request, "debrief/_moment.html", pages.moment_page(lesson, request.actor.unit, **_asked(request)))


@login_required
@require_POST
def debrief_teach(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Marks what is to be taught next: it stands at the group's next lesson."""
    lesson = _lesson(request, lesson_id)
    set_teach_next(lesson=lesson, rules=request.POST.getlist("rule"))
    return redirect("debrief", lesson_id)


@login_required
@require_POST
def debrief_pdf(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """One page for the class and one for each bench, on paper."""
    lesson = _lesson(request, lesson_id)
    job_id = ask_paper(
        by=request.actor,
        title=_("Debrief: %(lesson)s") % {"lesson": lesson.title},
        back=reverse("debrief", args=[lesson.pk]),
        html=render_to_string("debrief/print.html", pages.sheets_page(lesson, request.actor.unit), request=request),
        sheet="bulwark/print.css",
        file_name=f"debrief-{lesson.pk}-{slugify(lesson.title)}.pdf",
    )
    return redirect("job", job_id)
