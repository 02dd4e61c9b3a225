"""The flow map: what touched what, and the ways to mend it."""

from typing import Any

from asgiref.sync import sync_to_async
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db import close_old_connections, connections
from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from bulwark.flow import pages, selectors, services
from bulwark.flow.forms import asked_of, plan_of, plan_text
from bulwark.jobs.papers import ask_paper
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ActorRequest, front_required
from bulwark.presentation import long_work
from bulwark.presentation.errors import NOT_TAKEN, error_sentence, why_not_taken
from bulwark.recipes import selectors as recipes
from foodsafety.ordering import SearchProgress, ShouldStop
from foodsafety.quantities import CoreError


def _sheet(request: ActorRequest, recipe_id: int) -> selectors.Sheet:
    recipe = get_object_or_404(recipes.recipes_for(request.actor), pk=recipe_id)
    # What is asked stands in the address, or in the form of whoever makes something of it.
    return selectors.Sheet(recipe, request.actor, asked_of({**request.GET.dict(), **request.POST.dict()}))


def _page(request: ActorRequest, part: str, context: dict[str, Any]) -> HttpResponse:
    """A map: its part alone where htmx asks for it, else with the page around it."""
    if request.headers.get("HX-Target") == "flow":
        return render(request, part, context)
    return render(request, "flow/page.html", {**context, "part": part})


@login_required
@require_GET
def recipe_flow(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The map of a recipe, as written or in an order somebody tries."""
    beside = request.GET.get("beside", "")
    if beside.isdecimal() and len(beside) < 10:
        return redirect("flow_pair", recipe_id, int(beside))
    try:
        sheet = _sheet(request, recipe_id)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("recipe_steps", recipe_id)
    now = "ways" in request.GET
    context = {**pages.recipe_page(sheet), **(pages.ways_page(sheet) if now else {}), "ways_now": now}
    return _page(request, "flow/_flow.html", context)


@login_required
@require_GET
def flow_ways(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The best order and the smallest mends, fetched after the map: they take longer."""
    return render(request, "flow/_ways.html", pages.ways_page(_sheet(request, recipe_id)))


async def flow_live(request: ActorRequest, recipe_id: int) -> StreamingHttpResponse | HttpResponse:
    """A long look for the best order, as server-sent events; closing them cancels it."""

    def sheet() -> selectors.Sheet | None:
        try:
            if recipes.recipes_for(request.actor).filter(pk=recipe_id).exists():
                return _sheet(request, recipe_id)
            return None
        finally:
            close_old_connections()  # the look is long, and needs none

    found = await sync_to_async(sheet)()
    if found is None:
        return HttpResponse(status=404)

    def look(progress: SearchProgress, cancelled: ShouldStop) -> str:
        try:
            context = pages.long_look(found, long_work.LONG_S, progress, cancelled)
            plan = plan_text(context["plan"]) if context["plan"] else ""
            return render_to_string("flow/_long.html", {**context, "plan": plan}, request=request)
        except NOT_TAKEN as wrong:
            return render_to_string("flow/_long.html", {"wrong": why_not_taken(wrong)}, request=request)
        finally:
            connections.close_all()  # this thread is not a request's: nobody else gives them back

    return long_work.stream_response(look)


@login_required
@require_POST
def flow_apply(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Puts a way to mend in place."""
    way = request.POST.get("way", "")[:20]
    try:
        sheet = _sheet(request, recipe_id)
        if way == "first":
            services.put_right(recipe=sheet.recipe, actor=request.actor)
        elif way == "allergen":
            portion, allergen = request.POST.get("portion", ""), request.POST.get("allergen", "")
            services.use_allergen_run(sheet=sheet, portion=portion, allergen=allergen)
        else:
            plan = plan_of(request.POST["plan"], sheet.process) if request.POST.get("plan") else None
            services.use_way(sheet=sheet, kind=way, plan=plan)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    else:
        messages.success(
            request, _("Done. The steps are unconfirmed until somebody reads them; undo is on the reading page.")
        )
    return redirect("recipe_steps" if request.POST.get("next") == "steps" else "recipe_flow", recipe_id)


@login_required
@require_GET
def flow_allergens(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Whether one portion can be kept free of an allergen with these tools, and how."""
    sheet = _sheet(request, recipe_id)
    portion, allergen = request.GET.get("portion", "")[:200], request.GET.get("allergen", "")[:80]
    try:
        context = pages.allergen_page(sheet, portion, allergen)
    except CoreError as wrong:
        blank = {"recipe": sheet.recipe, "sheet": sheet, "way": None, "why": [], "error": error_sentence(wrong)}
        context, status = {**blank, "portion": portion, "allergen": allergen, "allergen_name": ""}, 422
    else:
        context, status = {**context, "error": ""}, 200
    template = "flow/_allergens.html" if request.htmx else "flow/allergens.html"
    return render(request, template, context, status=status)


@login_required
@require_GET
def flow_svg(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """A recipe's map as a drawing by itself."""
    return _svg(_sheet(request, recipe_id))


@login_required
@require_POST
def flow_pdf(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """A recipe's map on one sheet of paper."""
    return _pdf(request, _sheet(request, recipe_id), reverse("recipe_flow", args=[recipe_id]))


def _pair(request: ActorRequest, recipe_id: int, other_id: int) -> tuple[Any, Any, selectors.PairLook]:
    mine = recipes.recipes_for(request.actor)
    recipe, other = get_object_or_404(mine, pk=recipe_id), get_object_or_404(mine, pk=other_id)
    return recipe, other, selectors.PairLook(recipe, other, request.actor, asked_of(request.GET))


@login_required
@require_GET
def flow_pair(request: ActorRequest, recipe_id: int, other_id: int) -> HttpResponse:
    """Two recipes at two benches, and what passes between them by what they share."""
    try:
        recipe, other, look = _pair(request, recipe_id, other_id)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("recipe_flow", recipe_id)
    return _page(request, "flow/_pair.html", pages.pair_page(look, recipe, other))


@login_required
@require_GET
def flow_pair_svg(request: ActorRequest, recipe_id: int, other_id: int) -> HttpResponse:
    """The same as a drawing by itself."""
    return _svg(_pair(request, recipe_id, other_id)[2])


@login_required
@require_POST
def flow_pair_pdf(request: ActorRequest, recipe_id: int, other_id: int) -> HttpResponse:
    """The same on one sheet of paper."""
    back = reverse("flow_pair", args=[recipe_id, other_id])
    return _pdf(request, _pair(request, recipe_id, other_id)[2], back)


def _bench(request: ActorRequest, bench_id: int) -> tuple[Any, selectors.BenchLook]:
    bench = get_object_or_404(lessons.benches_for(request.actor), pk=bench_id)
    return bench, selectors.BenchLook(bench, request.actor, asked_of(request.GET))


@front_required
@require_GET
def bench_flow(request: ActorRequest, bench_id: int) -> HttpResponse:
    """What a bench really did, drawn from its log."""
    try:
        bench, look = _bench(request, bench_id)
    except CoreError as wrong:
        messages.info(request, error_sentence(wrong))
        return redirect("bench_detail", bench_id)
    return _page(request, "flow/_bench.html", pages.bench_page(look, bench))


@login_required
@require_GET
def bench_flow_svg(request: ActorRequest, bench_id: int) -> HttpResponse:
    """A bench's map as a drawing by itself."""
    return _svg(_bench(request, bench_id)[1])


@login_required
@require_POST
def bench_flow_pdf(request: ActorRequest, bench_id: int) -> HttpResponse:
    """A bench's map on one sheet of paper."""
    return _pdf(request, _bench(request, bench_id)[1], reverse("bench_flow", args=[bench_id]))


def _svg(look: selectors.Look) -> HttpResponse:
    text = render_to_string("flow/svg/file.svg", pages.map_page(look))
    response = HttpResponse(text, content_type="image/svg+xml")
    response["Content-Disposition"] = f'attachment; filename="{_file_name(look, "svg")}"'
    return response


def _pdf(request: ActorRequest, look: selectors.Look, back: str) -> HttpResponse:
    """A map set beside the server: one of hundreds of entries takes seconds."""
    paper = "letter" if request.GET.get("paper") == "letter" else "A4"
    job_id = ask_paper(
        by=request.actor,
        title=_("Flow map: %(name)s") % {"name": look.name},
        back=back,
        html=render_to_string("flow/print.html", {**pages.map_page(look), "paper": paper}, request=request),
        file_name=_file_name(look, "pdf"),
    )
    return redirect("job", job_id)


def _file_name(look: selectors.Look, ending: str) -> str:
    return f"{slugify(look.name) or 'flow'}-flow.{ending}"
