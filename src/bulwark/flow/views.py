"""The flow map: what touched what, and the ways to mend it."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST
from weasyprint import HTML

from bulwark.flow import pages, services
from bulwark.flow.forms import asked_of
from bulwark.recipes import selectors as recipes
from foodsafety.quantities import CoreError


def _sheet(request: HttpRequest, recipe_id: int) -> pages.Sheet:
    recipe = get_object_or_404(recipes.recipes_for(request.actor), pk=recipe_id)
    query = request.POST if request.method == "POST" else request.GET
    return pages.Sheet(recipe, request.actor, asked_of(query))


@login_required
@require_GET
def recipe_flow(request: HttpRequest, recipe_id: int) -> HttpResponse:
    """The map of a recipe, as written or in an order somebody tries."""
    try:
        sheet = _sheet(request, recipe_id)
    except CoreError as wrong:
        messages.error(request, str(wrong))
        return redirect("recipe_steps", recipe_id)
    if request.headers.get("HX-Target") == "flow":
        return render(request, "flow/_flow.html", pages.map_page(sheet))
    context = pages.map_page(sheet)
    ways = pages.ways_page(sheet) if "ways" in request.GET else None
    return render(request, "flow/recipe.html", {**context, "ways_now": ways})


@login_required
@require_GET
def flow_ways(request: HttpRequest, recipe_id: int) -> HttpResponse:
    """The best order and the smallest mends, fetched after the map: they take longer."""
    return render(request, "flow/_ways.html", pages.ways_page(_sheet(request, recipe_id)))


@login_required
@require_POST
def flow_apply(request: HttpRequest, recipe_id: int) -> HttpResponse:
    """Puts a way to mend in place."""
    try:
        services.use_way(sheet=_sheet(request, recipe_id), kind=request.POST.get("way", "")[:20])
    except CoreError as wrong:
        messages.error(request, str(wrong))
    else:
        messages.success(
            request, _("Done. The steps are unconfirmed until somebody reads them; undo is on the steps page.")
        )
    return redirect("recipe_flow", recipe_id)


@login_required
@require_GET
def flow_svg(request: HttpRequest, recipe_id: int) -> HttpResponse:
    """The map as a drawing by itself."""
    sheet = _sheet(request, recipe_id)
    text = render_to_string("flow/svg/file.svg", pages.map_page(sheet))
    return _download(text.encode(), "image/svg+xml", sheet, "svg")


@login_required
@require_GET
def flow_pdf(request: HttpRequest, recipe_id: int) -> HttpResponse:
    """The map on one sheet of paper, A4 or Letter as the kitchen's country has it."""
    sheet = _sheet(request, recipe_id)
    paper = "letter" if request.GET.get("paper") == "letter" else "A4"
    page = render_to_string("flow/print.html", {**pages.map_page(sheet), "paper": paper}, request=request)
    return _download(HTML(string=page).write_pdf(), "application/pdf", sheet, "pdf")


def _download(body: bytes, kind: str, sheet: pages.Sheet, ending: str) -> HttpResponse:
    response = HttpResponse(body, content_type=kind)
    name = slugify(sheet.recipe.title) or f"recipe-{sheet.recipe.pk}"
    response["Content-Disposition"] = f'attachment; filename="{name}-flow.{ending}"'
    return response
