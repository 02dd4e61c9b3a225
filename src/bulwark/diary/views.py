"""Today, the week, courses, and the days of lessons."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.board import services as boards
from bulwark.diary import forms, pages, selectors, services
from bulwark.groups import selectors as groups
from bulwark.lessons import selectors as lessons
from bulwark.lessons import services as lesson_services
from bulwark.lessons import wording as lesson_wording
from bulwark.pack.selectors import Pack
from bulwark.people.actors import ActorRequest
from bulwark.presentation.back import back_or
from bulwark.presentation.errors import error_sentence
from foodsafety.quantities import CoreError


@login_required
@require_GET
def today(request: ActorRequest) -> HttpResponse:
    """What is to be done now, what comes by the clock, what the week practises."""
    return render(request, "diary/today.html", pages.today_page(request.actor))


@login_required
@require_GET
def week(request: ActorRequest) -> HttpResponse:
    """A week of lessons."""
    form = forms.WeekForm(request.GET)
    day = form.cleaned_data["of"] if form.is_valid() and form.cleaned_data["of"] else timezone.localdate()
    return render(request, "diary/week.html", pages.week_page(request.actor, day))


@login_required
@require_http_methods(["GET", "POST"])
def courses(request: ActorRequest) -> HttpResponse:
    """The organisation's courses; a new one."""
    found = selectors.courses_for(request.actor).prefetch_related("lessons")
    page = {"courses": found, "groups": list(groups.groups_for(request.actor))}
    if request.method == "GET":
        return render(request, "diary/courses.html", page)
    form = forms.CourseForm(request.POST)
    if not form.is_valid():
        return render(request, "diary/courses.html", {**page, "wrong": form.first_error()}, status=422)
    group = _group(request, form.cleaned_data["group_id"])
    course = services.make_course(by=request.actor, name=form.cleaned_data["name"], group=group)
    return redirect("course", course.pk)


def _group(request: ActorRequest, group_id: int | None) -> groups.Group | None:
    return groups.groups_for(request.actor).filter(pk=group_id).first() if group_id else None


@login_required
@require_http_methods(["GET", "POST"])
def course(request: ActorRequest, course_id: int) -> HttpResponse:
    """One course; a lesson added to it or taken out, or the course put away."""
    found = get_object_or_404(selectors.courses_for(request.actor), pk=course_id)
    if request.method == "POST":
        if "away" in request.POST:
            services.put_away(found)
            return redirect("courses")
        for do, change in (("add", found.lessons.add), ("out", found.lessons.remove)):
            text = request.POST.get(do, "")
            if text.isdecimal() and len(text) < 10:
                change(get_object_or_404(lessons.lessons_for(request.actor), pk=int(text)))
        return redirect("course", course_id)
    return render(request, "diary/course.html", pages.course_page(request.actor, found))


@login_required
@require_POST
def lesson_did(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Something that had to be done before a lesson is done; taken back on its plan board."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor).select_related("recipe"), pk=lesson_id)
    keys = {row.key for row in Pack(lesson).before()}
    key = request.POST.get("of", "")
    if key in keys:
        boards.change_plan(lesson=lesson, by=request.actor, do="did", of=key)
    return redirect("today")


@login_required
@require_POST
def lesson_again(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The same lesson at another time, for the same group or another."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor).select_related("recipe", "group"), pk=lesson_id)
    form = forms.WhenForm(request.POST)
    try:
        if not form.is_valid():
            raise form.wrong()
        group = _group(request, form.cleaned_data["group_id"])
        new = services.copy_lesson(lesson=lesson, starts_at=form.cleaned_data["starts_at"], group=group)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("lesson_detail", lesson_id)
    messages.success(request, _("A lesson more, with the recipe and the rules as they are now."))
    return redirect("lesson_detail", new.pk)


@login_required
@require_POST
def lesson_move(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """A lesson at another time."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor), pk=lesson_id)
    form = forms.WhenForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect(back_or(request, "today"))
    try:
        lesson_services.move_lesson(lesson=lesson, starts_at=form.cleaned_data["starts_at"])
        messages.success(request, _("Moved. Shopping and everything before it moves along."))
    except lesson_services.LessonError as wrong:
        messages.error(request, lesson_wording.lesson_refusal(wrong.code))
    return redirect("lesson_detail", lesson_id)


@login_required
@require_POST
def lesson_renew(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """A lesson that has not begun takes its recipe over as it is now."""
    lesson = get_object_or_404(lessons.lessons_for(request.actor).select_related("recipe"), pk=lesson_id)
    try:
        lesson_services.renew_lesson(lesson=lesson)
        messages.success(request, _("The lesson has the recipe as it is now."))
    except lesson_services.LessonError as wrong:
        messages.error(request, lesson_wording.lesson_refusal(wrong.code))
    return redirect("lesson_detail", lesson_id)
