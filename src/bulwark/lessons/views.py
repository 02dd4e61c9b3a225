"""Today, the safety plan, running a lesson, the wall."""

import datetime as dt
import uuid
from urllib.parse import urlencode

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.groups import selectors as groups
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import entering, event_stream, forms, pages, rehearsal, selectors, services, wording
from bulwark.lessons.readings import READINGS, question_reading
from bulwark.people import services as people_services
from bulwark.people.actors import ActorRequest, front_required
from bulwark.people.roles import reads_hurts
from bulwark.presentation import phrases
from bulwark.presentation.back import back_or
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.recipes import selectors as recipes
from foodsafety.quantities import CoreError
from foodsafety.rules import profile_ids


@login_required
@require_GET
def plan(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The safety plan, under the lesson's profile or, to compare, another."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    asked = request.GET.get("profile", lesson.profile)
    if asked not in profile_ids():
        asked = lesson.profile
    return render(request, "lessons/plan.html", pages.plan_page(lesson, asked, request.actor.unit))


@login_required
@require_GET
def lesson_changes(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """What of the recipe has changed since the lesson was made."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    recipe = get_object_or_404(recipes.recipes_for(request.actor), pk=lesson.recipe_id)
    rows = pages.changed_since(lesson, recipe.process, request.actor.unit)
    return render(request, "lessons/changes.html", {"lesson": lesson, "recipe": recipe, "rows": rows})


@login_required
@require_POST
def lesson_new(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Plans a lesson on a recipe, under the kitchen's profile, limits and house rules."""
    recipe = get_object_or_404(recipes.recipes_for(request.actor), pk=recipe_id)
    form = forms.LessonForm(request.POST)
    if not form.is_valid():
        context = {"recipe": recipe, "typed": form.typed(), "wrong": form.first_errors()}
        context |= pages.lesson_choices(request.actor)
        return render(request, "lessons/new.html", context, status=422)
    data = {**form.cleaned_data}
    kitchen_id, group_id = data.pop("kitchen_id"), data.pop("group_id")
    lesson = services.create_lesson(
        recipe=recipe,
        kitchen=next((one for one in kitchens.kitchens_of(request.actor.organisation) if one.pk == kitchen_id), None),
        group=groups.groups_for(request.actor).filter(pk=group_id).first() if group_id else None,
        **data,
        **kitchens.lesson_rules(recipe.organisation_id),
    )
    return redirect("plan", lesson.pk)


@login_required
@require_POST
def plan_profile(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Chooses the profile and the kitchen's choice on equivalent holds."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    form = forms.PlanForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("plan", lesson_id)
    try:
        limits = kitchens.local_changes(lesson.organisation_id, form.cleaned_data["profile"])
        services.set_profile(lesson=lesson, profile_id=form.cleaned_data["profile"], local_limits=limits)
        services.set_house(lesson=lesson, cook_equivalents=form.cleaned_data["cook_equivalents"])
    except services.LessonError as wrong:
        messages.error(request, wording.lesson_refusal(wrong.code))
    return redirect("plan", lesson_id)


@login_required
@require_GET
def lesson_detail(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Starting a lesson and letting benches in."""
    lesson = get_object_or_404(selectors.lessons_with_benches(request.actor), pk=lesson_id)
    steps = recipes.steps_of(request.actor, lesson.recipe_id)
    devices = selectors.devices_of(lesson)
    halves = list(pages.kept_lines(lesson))
    benches = [
        {
            "bench": bench,
            "qr": qr_svg(tablet_address(request, reverse("join_code", args=[bench.join_code]))),
            "devices": [pages.device_line(one, heard) for one, heard in devices if one.bench_id == bench.pk],
        }
        for bench in lesson.benches.all()
    ]
    return render(
        request,
        "lessons/detail.html",
        {
            "lesson": lesson,
            "benches": benches,
            "profile": selectors.profile_of(lesson),
            "join_url": tablet_address(request, reverse("join")),
            "kit": pages.kit_to_share(lesson),
            "own_certificate": bool(settings.CA_FINGERPRINT),
            "changed": len(pages.changed_since(lesson, steps, request.actor.unit)),
            "asked": pages.open_lines(lesson),
            "moved_on": pages.group_moved_on(lesson),
            "halves": halves,
            "half_wrong": not all(good for _text, good in halves),
            "other_half": lesson.first_half or selectors.second_half(lesson),
            "to_teach": pages.to_teach_now(lesson),
            "week_later": lesson.starts_at + dt.timedelta(days=7),
            "groups": list(groups.groups_for(request.actor)),
            "may_reopen": lesson.closed_at and timezone.now() - lesson.closed_at < services.REOPEN_WITHIN,
        },
    )


@login_required
@require_http_methods(["GET", "POST"])
def lesson_rehearse(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """How a lesson is rehearsed: at which speed, with which crews, and which slips from when on."""
    lesson = get_object_or_404(selectors.lessons_with_benches(request.actor), pk=lesson_id)
    if request.method == "GET":
        return render(request, "lessons/rehearse.html", pages.rehearse_page(lesson))
    form = forms.RehearseForm(request.POST, lesson=lesson)
    names = rehearsal.no_place_for(lesson, form.asked()) if form.is_valid() else []
    wrong = wording.no_place_for_slip(names) if names else "" if form.is_valid() else form.first_error()
    if wrong:
        context = {**pages.rehearse_page(lesson), "error": wrong, "seed": request.POST.get("seed", "")[:8]}
        return render(request, "lessons/rehearse.html", context, status=422)
    rehearsed = rehearsal.start(lesson=lesson, pace=form.cleaned_data["pace"], asked=form.asked())
    return redirect("wall", rehearsed.pk)


@login_required
@require_POST
def lesson_shared(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Which kit the benches share."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    known = {name for name, _shared in pages.kit_to_share(lesson)}
    services.set_shared(lesson=lesson, kit=[name for name in request.POST.getlist("kit") if name in known])
    return redirect("lesson_detail", lesson_id)


@login_required
@require_POST
def lesson_hold(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Holds a rehearsal, or lets it go on."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    rehearsal.hold(lesson, on=request.POST.get("on") == "1")
    return redirect("wall", lesson_id)


@login_required
@require_POST
def lesson_open(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Starts the lesson, or rehearses it."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    try:
        if "rehearse" in request.POST:
            rehearsed = rehearsal.start(lesson=lesson)
            return redirect("wall", rehearsed.pk)
        services.open_lesson(lesson=lesson)
    except services.LessonError as wrong:
        messages.error(request, wording.lesson_refusal(wrong.code))
    return redirect("lesson_detail", lesson_id)


@front_required
@require_POST
def lesson_close(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Ends the lesson; asks first where something may still come from a bench."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    doubts = [] if "sure" in request.POST or lesson.closed_at else pages.devices_in_doubt(lesson)
    if doubts:
        return render(request, "lessons/end.html", {"lesson": lesson, "doubts": doubts})
    try:
        services.close_lesson(lesson=lesson)
    except services.LessonError as wrong:
        messages.error(request, wording.lesson_refusal(wrong.code))
        return _home(request, lesson_id)
    return _home(request, lesson_id) if request.actor.kind == "stand_in" else redirect("record", lesson_id)


def _home(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The page of a lesson; a stand-in has one of their own."""
    return redirect("front") if request.actor.kind == "stand_in" else redirect("lesson_detail", lesson_id)


@login_required
@require_POST
def lesson_reopen(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Takes up a lesson that ended by mistake, for a reason that every bench's log keeps."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    try:
        services.reopen_lesson(lesson=lesson, by=request.actor, reason=request.POST.get("reason", ""))
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    except services.LessonError as wrong:
        messages.error(request, wording.lesson_refusal(wrong.code))
    return redirect("lesson_detail", lesson_id)


@login_required
@require_POST
def bench_code(request: ActorRequest, bench_id: int) -> HttpResponse:
    """A new code for a bench: the old one lets nobody in any more."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    services.renew_code(bench)
    return redirect("lesson_detail", bench.lesson_id)


@front_required
@require_POST
def bench_paper(request: ActorRequest, bench_id: int) -> HttpResponse:
    """A bench works on paper, or does not any more."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    services.set_on_paper(bench=bench, on_paper=request.POST.get("on") == "1")
    return redirect("bench_detail", bench_id)


@login_required
@require_POST
def device_away(request: ActorRequest, device_id: int) -> HttpResponse:
    """Sends a device away from its bench."""
    device = get_object_or_404(selectors.devices_for(request.actor), pk=device_id)
    services.send_away(device)
    return redirect("lesson_detail", device.bench.lesson_id)


def _tag(request: ActorRequest, lesson_id: int) -> str:
    tag = selectors.wall_tag(request.actor, lesson_id)
    if tag is None:
        raise Http404
    return tag


def _at_work(request: ActorRequest, lesson_id: int) -> selectors.Lesson:
    lesson = selectors.lesson_at_work(request.actor, lesson_id)
    if lesson is None:
        raise Http404
    return lesson


@front_required
@require_GET
@never_cache
def wall_page(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The wall, for the front of the room."""
    tag = _tag(request, lesson_id)
    lesson = _at_work(request, lesson_id)
    context = pages.wall_context(lesson, request.actor.unit, tag=tag)
    return render(request, "lessons/wall.html", {"lesson": lesson, "why_paused": wording.why_paused(), **context})


@front_required
@require_GET
def wall_fragment(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """The wall's moving part; nothing at all (204) while it is as the screen has it."""
    tag = _tag(request, lesson_id)
    if request.GET.get("seen") == tag or request.headers.get("If-None-Match") == f'"{tag}"':
        return HttpResponse(status=204)
    lesson = _at_work(request, lesson_id)
    context = {"lesson": lesson, **pages.wall_context(lesson, request.actor.unit, tag=tag)}
    response = render(request, "lessons/_wall.html", context)
    response["ETag"] = f'"{tag}"'
    response["Cache-Control"] = "no-cache"
    return response


@require_GET
def wall_live(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Server-sent events of the whole lesson."""
    if not selectors.lessons_for(request.actor).filter(pk=lesson_id).exists():
        return HttpResponse(status=404)
    return event_stream.stream_ticket(lesson_id)


@front_required
@require_GET
def bench_detail(request: ActorRequest, bench_id: int) -> HttpResponse:
    """One bench as the educator sees it: its bricks, its breaches, its log."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    typed = {name: request.GET.get(name, "")[:80] for name in ("food", "kind", "piece", "value", "unit")}
    context = {**pages.bench_page(bench, request.actor.unit), "typed": typed}
    if typed["unit"] in ("C", "F"):
        context["unit"] = typed["unit"]
    return render(request, "lessons/bench_detail.html", context)


@front_required
@require_POST
def bench_entry(request: ActorRequest, bench_id: int) -> HttpResponse:
    """An entry the educator makes for a bench: void, waive, answer, corrective action."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    form = forms.EducatorEntryForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("bench_detail", bench_id)
    kind, data = form.cleaned_data["kind"], form.entry_data()
    try:
        if kind in READINGS and question_reading(kind, data):
            typed = {name: request.POST.get(name, "")[:80] for name in ("food", "kind", "piece", "value", "unit")}
            messages.error(request, wording.reading_in_doubt(typed["value"], typed["unit"]))
            return redirect(reverse("bench_detail", args=[bench_id]) + f"?{urlencode(typed)}")
        services.record_event(
            bench=bench,
            by=request.actor,
            kind=kind,
            data=data,
            event_id=form.cleaned_data["id"] or uuid.uuid4(),
            at=selectors.lesson_now(bench.lesson),
        )
    except CoreError as wrong:
        messages.error(request, _("Not recorded. %(why)s") % {"why": error_sentence(wrong)})
    except services.LessonError as wrong:
        messages.error(request, _("Not recorded. %(why)s") % {"why": wording.lesson_refusal(wrong.code)})
    return redirect(back_or(request, reverse("bench_detail", args=[bench_id])))


@front_required
@require_POST
def bench_people(request: ActorRequest, bench_id: int) -> HttpResponse:
    """Somebody comes late, leaves, or goes to another bench."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    who, to = request.POST.get("who", "").strip()[:24], request.POST.get("to", "")
    try:
        if to == "here":
            services.come_to(bench=bench, learner=who, by=request.actor)
            if warned := pages.may_not_eat(bench, who):
                messages.warning(request, warned)
        elif to == "away":
            services.go_from(bench=bench, learner=who, by=request.actor)
        else:
            rows = selectors.benches_for(request.actor).filter(lesson_id=bench.lesson_id)
            other = get_object_or_404(rows, pk=int(to) if to.isdecimal() and len(to) < 10 else 0)
            services.move_to(bench=bench, to=other, learner=who, by=request.actor)
            if warned := pages.may_not_eat(other, who):
                messages.warning(request, warned)
    except CoreError as wrong:
        messages.error(request, _("Not recorded. %(why)s") % {"why": error_sentence(wrong)})
    except services.LessonError as wrong:
        messages.error(request, _("Not recorded. %(why)s") % {"why": wording.lesson_refusal(wrong.code)})
    return redirect("bench_detail", bench_id)


@front_required
@require_http_methods(["GET", "POST"])
def bench_enter(request: ActorRequest, bench_id: int) -> HttpResponse:
    """Any entry for a bench, of any moment of its lesson: what an assistant saw, or what a tablet could not send."""
    bench = get_object_or_404(selectors.benches_for(request.actor), pk=bench_id)
    if bench.lesson.opened_at is None:
        messages.error(request, wording.lesson_refusal("not_open"))
        return redirect("bench_detail", bench_id)
    sent = request.POST if request.method == "POST" else request.GET
    kind, wrong = sent.get("kind", "")[:32], ""
    asked = entering.asked_for(bench, kind) if kind else []
    if request.method == "POST":
        try:
            data, in_doubt = entering.entry_of(kind, asked, request.POST, dict(request.POST.lists()))
            if not in_doubt:
                at = entering.happened(bench, request.POST.get("at", ""))
                services.record_event(bench=bench, by=request.actor, kind=kind, data=data, event_id=uuid.uuid4(), at=at)
                return redirect("bench_detail", bench_id)
            wrong = wording.reading_in_doubt(request.POST.get("value", "")[:80], request.POST.get("unit", "")[:80])
        except CoreError as found:
            wrong = error_sentence(found)
    context = {"bench": bench, "lesson": bench.lesson, "kinds": entering.kinds(), "kind": kind}
    rows = [(field, sent.get(field.name, "")) for field in asked]
    chosen = {value for _, values in sent.lists() for value in values}
    typed = {"rows": rows, "at": sent.get("at", ""), "wrong": wrong, "chosen": chosen}
    return render(request, "lessons/enter.html", {**context, **typed}, status=422 if wrong else 200)


@front_required
@require_POST
def lesson_pause(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Everybody stops, or goes on: with one tap, at every bench."""
    lesson = get_object_or_404(selectors.lessons_for(request.actor), pk=lesson_id)
    try:
        if "resume" in request.POST:
            services.resume_lesson(lesson=lesson, by=request.actor)
        else:
            services.pause_lesson(lesson=lesson, by=request.actor, why=request.POST.get("why", "")[:20])
    except services.LessonError as wrong:
        messages.error(request, wording.lesson_refusal(wrong.code))
    except CoreError as wrong:
        messages.error(request, _("Not recorded. %(why)s") % {"why": error_sentence(wrong)})
    return redirect("wall", lesson_id)


@front_required
@require_http_methods(["GET", "POST"])
def hurts(request: ActorRequest, lesson_id: int) -> HttpResponse:
    """Cuts, burns and falls of a lesson: a record of its own. Whoever helps writes in it, educators read it."""
    lesson = get_object_or_404(selectors.lessons_with_benches(request.actor), pk=lesson_id)
    if lesson.opened_at is None:
        raise Http404
    form = forms.HurtForm(request.POST or None, lesson=lesson)
    wrong = ""
    if request.method == "POST" and form.is_valid():
        try:
            said = form.cleaned_data
            services.record_hurt(by=request.actor, food=said.pop("thrown"), **said)
            messages.success(request, wording.first_aid(said["what"]))
            return redirect("hurts", lesson_id)
        except CoreError as found:
            wrong = error_sentence(found)
        except services.LessonError as found:
            wrong = wording.lesson_refusal(found.code)
    elif request.method == "POST":
        wrong = form.first_error()
    context = {
        **pages.hurts_page(lesson, reads=reads_hurts(request.actor.role)),
        "typed": {name: request.POST.get(name, "") for name in ("bench", "who", "what", "thrown", "words")},
        "cared": request.POST.getlist("care"),
        "wrong": wrong,
    }
    return render(request, "lessons/hurts.html", context, status=422 if wrong else 200)


@login_required
@require_POST
def set_unit(request: ActorRequest) -> HttpResponse:
    """Celsius or Fahrenheit, for this person."""
    unit = "F" if request.POST.get("unit") == "F" else "C"
    people_services.set_unit(user_id=request.actor.user, unit=unit)
    return redirect(back_or(request, "today"))


def not_found(request: ActorRequest, exception: Exception | None = None) -> HttpResponse:
    """Nothing here, or not yours: the same page for both."""
    return render(request, "404.html", {"caution": phrases.caution()}, status=404)
