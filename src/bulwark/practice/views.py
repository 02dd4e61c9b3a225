"""Practice: rounds made and played from the front, on phones, and on paper."""

from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.http import urlencode
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.bench.selectors import device_actor, joined_bench
from bulwark.groups import selectors as groups
from bulwark.jobs.papers import ask_paper
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import wrong_code
from bulwark.people.actors import ActorRequest
from bulwark.practice import competence, forgetting, pages, reporting, selectors, services
from bulwark.practice.forms import AnswerForm, CertificateForm, HandsForm, KeepingForm, ReportForm, RoundForm
from bulwark.practice.models import Certificate, Round
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.patience import told_later
from bulwark.presentation.qr import qr_svg, tablet_address
from bulwark.presentation.sheets import XLSX, xlsx_of
from bulwark.recipes import selectors as recipes
from bulwark.records import keeping
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile


def _round(request: ActorRequest, round_id: int) -> Round:
    return get_object_or_404(selectors.rounds_for(request.actor), pk=round_id)


def _number(request: ActorRequest) -> int:
    text = request.GET.get("n", "")
    return int(text) if text.isdecimal() and len(text) < 4 else 0


@login_required
@require_http_methods(["GET", "POST"])
def practice(request: ActorRequest) -> HttpResponse:
    """The rounds made so far; a new one is made of a lesson or of a recipe."""
    if request.method == "GET":
        asked = {key: request.GET[key] for key in ("lesson", "recipe", "group", "kind") if key in request.GET}
        return render(request, "practice/practice.html", pages.practice_page(request.actor, asked))
    form = RoundForm(request.POST)
    valid = form.is_valid()
    typed = {**form.typed()}
    if not valid:
        page = {**pages.practice_page(request.actor, typed), "wrong": form.first_error()}
        return render(request, "practice/practice.html", page, status=422)
    try:
        found = _made(request, form)
    except CoreError as wrong:
        page = {**pages.practice_page(request.actor, typed), "wrong": error_sentence(wrong)}
        return render(request, "practice/practice.html", page, status=422)
    return redirect("round", found.pk)


def _made(request: ActorRequest, form: RoundForm) -> Round:
    data, actor = form.cleaned_data, request.actor
    lesson = group = None
    if data["lesson"]:
        lesson = get_object_or_404(lessons.lessons_for(actor).select_related("recipe", "group"), pk=data["lesson"])
        recipe, group = lesson.recipe, lesson.group
    elif data["recipe"]:
        recipe = get_object_or_404(recipes.recipes_for(actor).exclude(confirmed_at=None), pk=data["recipe"])
    else:
        raise CoreError("recipe", "none_given")
    if data["group"]:
        group = get_object_or_404(groups.groups_for(actor), pk=data["group"])
    return services.make_round(
        by=actor,
        recipe=recipe,
        lesson=lesson,
        group=group,
        kind=data["kind"],
        count=data["count"],
        level=data["level"],
        seed=data["seed"],
        only=data["only"],
    )


@login_required
@require_GET
def round_detail(request: ActorRequest, round_id: int) -> HttpResponse:
    """A round: its puzzles, how they were answered, and the code for phones."""
    found = _round(request, round_id)
    address = tablet_address(request, reverse("practice_code", args=[found.code]))
    page = {**pages.round_page(found, request.actor.unit), "address": address, "qr": qr_svg(address)}
    return render(request, "practice/round.html", page)


@login_required
@require_GET
def round_sheet(request: ActorRequest, round_id: int) -> HttpResponse:
    """A round as a workbook."""
    found = _round(request, round_id)
    data = xlsx_of(_("round"), pages.sheet_rows(found, request.actor.unit))
    response = HttpResponse(data, content_type=XLSX)
    response["Content-Disposition"] = f'attachment; filename="round-{found.pk}-{slugify(found.title)}.xlsx"'
    return response


@login_required
@never_cache
@require_GET
def round_play(request: ActorRequest, round_id: int) -> HttpResponse:
    """One puzzle, large enough for a group to read from the screen."""
    found = _round(request, round_id)
    page = pages.play_page(found, _number(request), request.actor.unit, tapped=request.GET.get("tapped", ""))
    page |= {"act": reverse("round_answer", args=[found.pk]), "front": True}
    return render(request, "practice/play.html", page)


@login_required
@require_POST
def round_answer(request: ActorRequest, round_id: int) -> HttpResponse:
    """The group's answer, tapped at the front."""
    found = _round(request, round_id)
    form = AnswerForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("round_play", round_id)
    number, choice = form.cleaned_data["number"], form.cleaned_data["choice"]
    try:
        services.answer(found=found, number=number, choice=choice, uuid=form.cleaned_data["uuid"])
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    return redirect(f"{reverse('round_play', args=[round_id])}?{urlencode({'n': number, 'tapped': choice})}")


@login_required
@require_POST
def round_hands(request: ActorRequest, round_id: int) -> HttpResponse:
    """How many hands were up for each answer."""
    found = _round(request, round_id)
    form = HandsForm(request.POST)
    if not form.is_valid() or form.cleaned_data["number"] >= len(found.puzzles):
        messages.error(request, form.first_error() or _("There is no such puzzle in this round."))
        return redirect("round_play", round_id)
    number = form.cleaned_data["number"]
    choices = [row["id"] for row in found.puzzles[number]["choices"]]
    base: UUID = form.cleaned_data["uuid"]
    try:
        for n, (choice, count) in enumerate(form.hands(choices).items()):
            uuid = UUID(int=(base.int + n) % 2**128)
            services.answer(found=found, number=number, choice=choice, uuid=uuid, count=count)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    key = next(row["id"] for row in found.puzzles[number]["choices"] if row["right"])
    return redirect(f"{reverse('round_play', args=[round_id])}?{urlencode({'n': number, 'tapped': key})}")


@login_required
@require_POST
def round_end(request: ActorRequest, round_id: int) -> HttpResponse:
    """The round is over."""
    services.end_round(_round(request, round_id))
    return redirect("round", round_id)


@login_required
@require_POST
def round_after(request: ActorRequest, round_id: int) -> HttpResponse:
    """The round that matches one before a lesson."""
    found = _round(request, round_id)
    return redirect("round", services.make_matching(by=request.actor, before=found).pk)


@login_required
@require_POST
def round_paper(request: ActorRequest, round_id: int) -> HttpResponse:
    """The puzzles on paper, with the answers on a sheet of their own."""
    found = _round(request, round_id)
    html = render_to_string("practice/paper.html", pages.paper_page(found, request.actor.unit), request=request)
    job_id = ask_paper(
        by=request.actor,
        title=_("Puzzles: %(title)s") % {"title": found.title},
        back=reverse("round", args=[found.pk]),
        html=html,
        sheet="bulwark/practice-print.css",
        file_name=f"puzzles-{found.pk}-{slugify(found.title)}.pdf",
    )
    return redirect("job", job_id)


# --- on a phone, with a code ------------------------------------------------------------------------------


def _asked_for(request: ActorRequest, code: str) -> Round | HttpResponse:
    """The round of a code; a wrong one is told so later each time."""
    found = selectors.round_with(code.strip().upper()[:12])
    if found is not None:
        return found
    page = render(request, "practice/join.html", {"code": code[:12], "wrong": bool(code)}, status=404)
    return told_later(page, wrong_code(request.META.get("REMOTE_ADDR")))


def _who(found: Round) -> str:
    return f"practice-{found.pk}"


def _answered(found: Round) -> str:
    return f"practice-{found.pk}-answered"


@require_http_methods(["GET", "POST"])
def practice_join(request: ActorRequest) -> HttpResponse:
    """The code, typed."""
    if request.method == "GET":
        return render(request, "practice/join.html", {"code": "", "wrong": False})
    found = _asked_for(request, request.POST.get("code", ""))
    return redirect("practice_code", found.code) if isinstance(found, Round) else found


@never_cache
@require_http_methods(["GET", "POST"])
def practice_code(request: ActorRequest, code: str) -> HttpResponse:
    """A round on a phone: first who answers, then one puzzle after the other."""
    found = _asked_for(request, code)
    if not isinstance(found, Round):
        return found
    names = selectors.learners_in(found)
    if request.method == "POST" and request.POST.get("who") in names:
        request.session[_who(found)] = request.POST["who"]
        return redirect("practice_code", found.code)
    bench = joined_bench(request) if device_actor(request).kind == "bench" else None
    at_bench = bench is not None and bench.lesson_id == found.lesson_id
    if request.GET.get("another") and at_bench:  # one tablet, one learner after another
        request.session.pop(_who(found), None)
        request.session.pop(_answered(found), None)
    who = request.session.get(_who(found), "")
    if names and who not in names:
        own = [row for row in names if bench and at_bench and row in lessons.learners_of(bench)]
        return render(request, "practice/who.html", {"round": found, "names": own or names})
    unit = rule_profile(found.profile).unit
    page = pages.play_page(found, _number(request), unit, tapped=request.GET.get("tapped", ""), learner=who)
    page |= {"act": reverse("practice_answer", args=[found.code]), "front": False, "at_bench": at_bench}
    return render(request, "practice/play.html", page)


@require_POST
def practice_answer(request: ActorRequest, code: str) -> HttpResponse:
    """An answer from a phone."""
    found = _asked_for(request, code)
    if not isinstance(found, Round):
        return found
    form = AnswerForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("practice_code", found.code)
    names, who = selectors.learners_in(found), request.session.get(_who(found), "")
    if names and who not in names:
        messages.error(request, _("Say who you are first, then answer again."))
        return redirect("practice_code", found.code)
    number, choice = form.cleaned_data["number"], form.cleaned_data["choice"]
    # Where nobody is named the phone stands for one: its first answer to a puzzle counts, as that of a learner does.
    answered = request.session.get(_answered(found), [])
    if number not in answered:
        try:
            services.answer(found=found, number=number, choice=choice, uuid=form.cleaned_data["uuid"], learner=who)
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
        else:
            if not names:
                request.session[_answered(found)] = [*answered, number]
    return redirect(f"{reverse('practice_code', args=[found.code])}?{urlencode({'n': number, 'tapped': choice})}")


@login_required
@require_GET
def hands(request: ActorRequest) -> HttpResponse:
    """A hand-wash practised against the clock, place by place."""
    return render(request, "practice/hands.html", pages.hands_page(request.actor))


# --- one learner ------------------------------------------------------------------------------------------


@login_required
@require_http_methods(["GET", "POST"])
def learner(request: ActorRequest, member_id: int) -> HttpResponse:
    """What one learner has shown; a certificate is made of it."""
    member = competence.member_for(request.actor, member_id)
    if request.method == "GET":
        return render(request, "practice/learner.html", competence.learner_page(member))
    form = CertificateForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("learner", member_id)
    chosen = dict.fromkeys(request.POST.getlist("what"), True)
    try:
        made = services.certify(by=request.actor, member=member, title=form.cleaned_data["title"], chosen=chosen)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("learner", member_id)
    return redirect("certificate", made.code)


@login_required
@require_POST
def certificate_back(request: ActorRequest, certificate_id: int) -> HttpResponse:
    """A certificate is taken back."""
    rows = Certificate.objects.filter(organisation_id=request.actor.organisation)
    found = get_object_or_404(rows, pk=certificate_id)
    services.take_back(found)
    return redirect("certificate", found.code)


@require_GET
def certificate(request: ActorRequest, code: str) -> HttpResponse:
    """Whoever has the code of a certificate sees that it was made, and no more than it says."""
    found = Certificate.objects.select_related("organisation").filter(code=code.strip().upper()[:20]).first()
    if found is None:
        page = render(request, "practice/no_certificate.html", {"code": code[:20]}, status=404)
        return told_later(page, wrong_code(request.META.get("REMOTE_ADDR")))
    own = request.actor.kind == "educator" and request.actor.organisation_id == found.organisation_id
    return render(request, "practice/certificate.html", {"row": found, "own": own, **_address(request, found)})


def _address(request: ActorRequest, found: Certificate) -> dict[str, object]:
    address = tablet_address(request, reverse("certificate", args=[found.code]))
    return {"address": address, "qr": qr_svg(address)}


@login_required
@require_POST
def certificate_paper(request: ActorRequest, certificate_id: int) -> HttpResponse:
    """A certificate on paper; a name is written by hand."""
    rows = Certificate.objects.filter(organisation_id=request.actor.organisation).select_related("organisation")
    found = get_object_or_404(rows, pk=certificate_id)
    page = {"row": found, **_address(request, found)}
    job_id = ask_paper(
        by=request.actor,
        title=_("Certificate"),
        back=reverse("certificate", args=[found.code]),
        html=render_to_string("practice/certificate_paper.html", page, request=request),
        sheet="bulwark/practice-print.css",
        file_name=f"certificate-{found.code.lower()}.pdf",
    )
    return redirect("job", job_id)


# --- a programme ------------------------------------------------------------------------------------------


@login_required
@require_GET
def report(request: ActorRequest) -> HttpResponse:
    """A programme over a term or a grant. What nobody has counted yet is counted while the page waits, a part at a
    time."""
    asked, wrong = reporting.this_term(), ""
    if request.GET:
        form = ReportForm(request.GET)
        if form.is_valid():
            asked = form.cleaned_data
        else:
            wrong = form.first_error()
    page = {**reporting.report_page(request.actor, asked), "wrong": wrong, "query": request.GET.urlencode()}
    if request.GET.get("sheet") == "xlsx" and not page["left"] and not wrong:
        response = HttpResponse(xlsx_of(_("programme"), reporting.sheet_rows(page)), content_type=XLSX)
        response["Content-Disposition"] = 'attachment; filename="programme.xlsx"'
        return response
    part = request.headers.get("HX-Target") == "report"
    return render(request, "practice/_report.html" if part else "practice/report.html", page)


# --- keeping and deleting ---------------------------------------------------------------------------------

# So many lessons are purged before the page tells how far it is.
_AT_ONCE = 20


@login_required
@require_http_methods(["GET", "POST"])
def names_kept(request: ActorRequest) -> HttpResponse:
    """For how long names are kept, what is older, and taking it out: a part at a time, told as it goes."""
    actor, wrong = request.actor, ""
    if request.method == "POST" and request.POST.get("do") == "months":
        form = KeepingForm(request.POST)
        if form.is_valid():
            keeping.choose(actor, form.cleaned_data)
            return redirect("names_kept")
        wrong = form.first_error()
    before = {kind: keeping.before(n) for kind, n in keeping.kept_by(actor.organisation).items()}
    old = forgetting.old_lessons(actor.organisation, before["lessons"])
    if request.method == "POST" and request.POST.get("do") == "forget":
        done = sum(forgetting.forget(lesson.pk, actor) for lesson in old[:_AT_ONCE])
        forgetting.forget_others(actor.organisation, before)
        told = _(
            "Names and words were taken out of %(n)s lessons, and of all else that was old; %(left)s lessons are left."
        )
        messages.success(request, told % {"n": done, "left": max(0, len(old) - _AT_ONCE)})
        return redirect("names_kept")
    page = pages.names_page(actor, before, request.POST if wrong else None)
    page |= {"wrong": wrong, "previews": [forgetting.preview(lesson) for lesson in old[: pages.MOST_SHOWN]]}
    return render(request, "practice/keeping.html", page, status=422 if wrong else 200)


@login_required
@require_GET
def learner_held(request: ActorRequest, member_id: int) -> HttpResponse:
    """Everything that is held of one learner, for whoever asks for it."""
    member = competence.member_for(request.actor, member_id)
    response = JsonResponse(competence.held_of(member), json_dumps_params={"indent": 1, "ensure_ascii": False})
    response["Content-Disposition"] = f'attachment; filename="learner-{member.pk}.json"'
    return response
