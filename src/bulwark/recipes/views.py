"""Recipes: bringing one in, reading it through, its steps, amounts, eaters, variants and cost."""

import json
from collections.abc import Callable, Mapping
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.jobs.papers import ask_paper
from bulwark.kitchens import selectors as kitchens
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from bulwark.recipes import forms, menus, pages, selectors, services
from bulwark.recipes.adapters import to_document
from bulwark.recipes.models import Recipe
from foodsafety.quantities import CoreError
from foodsafety.recipes import MOST_BYTES, PERSON, best_text, decoded_text, read_document, to_json_ld, to_markdown

MOST_FILES = 40


def _own(request: ActorRequest, recipe_id: int) -> Recipe:
    return get_object_or_404(selectors.recipes_for(request.actor), pk=recipe_id)


def _context_of(request: ActorRequest, recipe_id: int) -> pages.RecipeContext:
    return pages.RecipeContext(_own(request, recipe_id), request.actor)


def _page_number(request: ActorRequest) -> int:
    text = request.GET.get("page", "1")
    return min(10_000, max(1, int(text))) if text.isdecimal() and len(text) < 6 else 1


@login_required
@require_GET
def recipe_list(request: ActorRequest) -> HttpResponse:
    """The organisation's recipes, searched by any name of any food in them."""
    words = request.GET.get("q", "").replace("\x00", "")
    page = _page_number(request)
    archived = request.GET.get("archived") == "1"
    rows, more = selectors.recipe_page(request.actor, words, page, archived=archived)
    context = {"rows": rows, "more": more, "page": page, "words": words.strip()[:100], "archived": archived}
    context["put_away"] = selectors.archived_count(request.actor)
    fragment = request.headers.get("HX-Target") == "recipes"
    return render(request, "recipes/_list.html" if fragment else "recipes/list.html", context)


@login_required
@require_http_methods(["GET", "POST"])
def recipe_bring(request: ActorRequest) -> HttpResponse:
    """Brings a recipe in: pasted, from a file, or written here."""
    locale = kitchens.decided_by(request.actor.organisation).locale
    if request.method == "GET":
        return render(request, "recipes/bring.html", pages.bring_page(locale=locale))
    form = forms.BringForm(request.POST, request.FILES)
    text = request.POST.get("text", "")[:1_000_001]
    upload = request.FILES.get("file")
    data = upload.read(1_000_001) if upload else b""
    try:
        if not form.is_valid():
            raise form.wrong()
        locale = form.cleaned_data["locale"]
        read = read_document(decoded_text(data) if upload else text)
        recipe = services.add_recipe(by=request.actor, document=read, locale=locale)
    except CoreError as wrong:
        kept = best_text(data) if upload else text
        context = pages.bring_page(locale=locale, text=kept[:1_000_000], error=error_sentence(wrong))
        return render(request, "recipes/bring.html", context, status=422)
    # Running text has no list, or no method, that a form could find: a person says which is which.
    if recipe.ingredients and not read.ingredients:
        messages.warning(
            request, _("No list of ingredients was found: these are the foods that the words name. Check them.")
        )
    given = read.extension.get("process")
    stored = isinstance(given, Mapping) and given.get("steps") == recipe.process["steps"]
    whole = stored or (recipe.ingredients and read.instructions)
    return redirect("recipe_steps" if whole else "recipe_rewrite", recipe.pk)


@login_required
@require_POST
def recipe_folder(request: ActorRequest) -> HttpResponse:
    """Brings in a folder of files, or one file of it: a row for each says what needs an answer."""
    locale = request.POST.get("locale", "") or kitchens.decided_by(request.actor.organisation).locale
    rows = [_brought(request, upload, locale) for upload in request.FILES.getlist("files")[:MOST_FILES]]
    if request.htmx:
        return render(request, "recipes/_waiting_rows.html", {"rows": rows})
    for row in rows:
        if row["error"]:
            messages.error(request, f"{row['file']}: {row['error']}")
    found = [row["recipe"].pk for row in rows if row["recipe"]]
    if not found:
        messages.error(request, _("No recipe was brought in: choose a folder with recipes as text."))
        return redirect("recipe_bring")
    return redirect(f"{reverse('recipes_waiting')}?ids={','.join(str(pk) for pk in found)}")


def _brought(request: ActorRequest, upload: Any, locale: str) -> dict[str, Any]:
    """One file of a folder as a recipe, or why it is none."""
    try:
        form = forms.BringForm({"locale": locale})
        if not form.is_valid():
            raise form.wrong()
        read = read_document(decoded_text(upload.read(MOST_BYTES + 1)))
        recipe = services.add_recipe(by=request.actor, document=read, locale=form.cleaned_data["locale"])
    except CoreError as wrong:
        return {"file": upload.name, "recipe": None, "error": error_sentence(wrong)}
    return {**pages.waiting_row(recipe, request.actor), "file": upload.name}


@login_required
@require_GET
def recipes_waiting(request: ActorRequest) -> HttpResponse:
    """The recipes that nobody has confirmed, or some just brought in, with what each needs."""
    ids = [int(text) for text in request.GET.get("ids", "").split(",")[:MOST_FILES] if text.isdecimal()]
    rows = [pages.waiting_row(recipe, request.actor) for recipe in selectors.waiting(request.actor, ids)]
    return render(request, "recipes/waiting.html", {"rows": rows})


@login_required
@require_POST
def recipe_archive(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Puts a recipe away, or takes it out again."""
    recipe = _own(request, recipe_id)
    services.set_archived(recipe=recipe, archived=recipe.archived_at is None)
    said = _("Put away: it stands at the end of the list of recipes.") if recipe.archived_at else _("Taken out again.")
    messages.success(request, said)
    return redirect("recipe_detail", recipe_id)


@login_required
@require_POST
def recipe_menu(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """A menu of this recipe and others, to be read and confirmed."""
    ids = [int(text) for text in request.POST.getlist("with") if text.isdecimal() and len(text) < 10]
    found = {row.pk: row for row in selectors.recipes_for(request.actor).filter(pk__in=ids)}
    others = [found[pk] for pk in dict.fromkeys(ids) if pk in found]
    try:
        menu = menus.make_menu(recipes=[_own(request, recipe_id), *others], by=request.actor)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("recipe_detail", recipe_id)
    messages.success(request, _("The dishes stand together: read the steps once, then confirm them."))
    return redirect("recipe_steps", menu.pk)


@login_required
@require_POST
def recipe_copy(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """A copy to change."""
    new = services.copy_recipe(recipe=_own(request, recipe_id), by=request.actor)
    messages.success(request, _("Copied. Its steps are unconfirmed until you read them."))
    return redirect("recipe_steps", new.pk)


@login_required
@require_GET
def recipe_changes(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """A recipe beside another: what is different in the steps."""
    ours = _context_of(request, recipe_id)
    other = _own(request, _number(request.GET.get("other")) or ours.recipe.base_id or recipe_id)
    return render(request, "recipes/changes.html", pages.changes_page(ours, other))


@login_required
@require_http_methods(["GET", "POST"])
def recipe_write(request: ActorRequest, recipe_id: int | None = None) -> HttpResponse:
    """Writes a recipe, or changes the words of one."""
    recipe = _own(request, recipe_id) if recipe_id else None
    if request.method == "GET":
        return render(request, "recipes/write.html", pages.write_page(recipe))
    form = forms.WordsForm(request.POST)
    if not form.is_valid():
        wrong = {name: str(errors[0]) for name, errors in form.errors.items()}
        context = pages.write_page(recipe, typed=request.POST.dict(), wrong=wrong)
        return render(request, "recipes/write.html", context, status=422)
    document = form.document()
    if recipe:
        services.rewrite(recipe=recipe, document=document, by=request.actor)
    else:
        locale = kitchens.decided_by(request.actor.organisation).locale
        recipe = services.add_recipe(by=request.actor, document=document, locale=locale)
    return redirect("recipe_steps", recipe.pk)


@login_required
@require_GET
def recipe_detail(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The read-through: everything an educator looks for before a lesson, on one page."""
    ours = _context_of(request, recipe_id)
    asked = request.GET.get("benches", "")
    benches = min(40, max(1, int(asked))) if asked.isdecimal() and len(asked) < 4 else ours.kitchen.benches
    wrong = pages.checked_process(ours.recipe)
    if wrong:
        messages.error(request, wrong)
        return redirect("recipe_rewrite", recipe_id)
    return render(request, "recipes/detail.html", pages.read_page(ours, benches))


@login_required
@require_GET
def recipe_lines(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The list of a recipe: a part of the reading screen."""
    recipe = _own(request, recipe_id)
    return redirect(reverse("recipe_steps", args=[recipe.pk]) + "#list")


@login_required
@require_GET
def recipe_steps(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The reading screen: the text as it came on the steps read from it, and what is asked."""
    ours = _context_of(request, recipe_id)
    wrong = pages.checked_process(ours.recipe)
    if wrong:
        messages.error(request, wrong)
        return redirect("recipe_rewrite", recipe_id)
    return render(request, "recipes/steps.html", {**pages.reading_page(ours), "error": "", "focus": ""})


@login_required
@require_POST
def recipe_line(request: ActorRequest, recipe_id: int, line: int) -> HttpResponse:
    """Corrects one line of the list."""
    recipe = _own(request, recipe_id)
    if not 0 <= line < len(recipe.ingredients):
        return render(request, "404.html", status=404)
    return _edited(request, recipe, f"line-{line}", lambda: _corrected(request, recipe, line))


def _corrected(request: ActorRequest, recipe: Recipe, line: int) -> Recipe:
    form = forms.LineForm(request.POST)
    if not form.is_valid():
        raise form.wrong()
    return services.correct_line(
        recipe=recipe, line=line, values=form.values(), by=request.actor, remember=form.cleaned_data["remember"]
    )


@login_required
@require_POST
def recipe_edit(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """One edit of the steps, or one answer to a question about them."""
    recipe = _own(request, recipe_id)
    what, step_id = request.POST.get("what", ""), request.POST.get("step", "")
    line = _number(request.POST.get("line"))
    if what == "line" and line is not None:
        return _edited(request, recipe, "questions", lambda: _corrected(request, recipe, line))

    def edit() -> Recipe:
        fields = _edit_fields(request, what)
        seen = request.POST.get("seen", "")
        return services.edit_steps(
            recipe=recipe, what=what, step_id=step_id, fields=fields, by=request.actor, seen=seen
        )

    return _edited(request, recipe, f"step-{step_id}" if step_id else "questions", edit)


def _edited(request: ActorRequest, recipe: Recipe, focus: str, edit: Callable[[], Recipe]) -> HttpResponse:
    """The screen after an edit, or as it was with the reason why not."""
    error, status = "", 200
    meanwhile = pages.meanwhile(recipe, request.actor, request.POST.get("seen", ""))
    try:
        recipe = edit()
    except CoreError as wrong:
        error, status = " ".join((error_sentence(wrong), *meanwhile)), 422
    if not request.htmx:
        if error:
            messages.error(request, error)
        return redirect(reverse("recipe_steps", args=[recipe.pk]) + f"#{focus}")
    context = pages.reading_page(pages.RecipeContext(recipe, request.actor))
    return render(
        request,
        "recipes/_reading.html",
        {**context, "error": error, "focus": focus, "meanwhile": meanwhile},
        status=status,
    )


def _edit_fields(request: ActorRequest, what: str) -> dict[str, Any]:
    if what == "order":
        return {"ids": request.POST.get("ids", "").split(",")}
    if what == "add":
        step = {"do": "wash_hands", "foods": [], "tools": [], "hands": [PERSON], "title": _("Wash your hands")}
        return {"step": step | {"detail": _("Wash your hands."), "minutes": 1}}
    if what == "blank":
        step = {"do": "touch", "foods": [], "tools": [], "hands": [PERSON], "title": _("A new step")}
        return {"step": step | {"detail": "", "guesses": ["step"]}}
    if what == "accept":
        return {
            "key": request.POST.get("key", "")[:2000],
            "how": request.POST.get("how", ""),
            "reason": request.POST.get("reason", "")[:200],
        }
    if what in ("way", "cooked"):
        return {"carrier": request.POST.get("carrier", ""), "how": request.POST.get("how", "")}
    if what == "kind":
        return {"food": request.POST.get("food", ""), "kind": request.POST.get("kind", "")}
    if what == "eaten":
        return {"foods": request.POST.getlist("eaten"), "title": _("Serve")}
    if what in ("aside", "make"):
        return {"text": request.POST.get("text", "")[:2000]}
    if what in ("place", "fate"):
        foods, steps = request.POST.getlist("food"), request.POST.getlist("into")
        return {"places": dict(zip(foods[:300], steps[:300], strict=False)), "title": _("Serve")}
    if what == "change":
        form = forms.StepForm(request.POST)
        if not form.is_valid():
            raise form.wrong()
        return form.fields_for(PERSON)
    return {}


@login_required
@require_POST
def recipe_confirm(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Confirms the steps."""
    recipe = _own(request, recipe_id)
    try:
        services.confirm(recipe=recipe, by=request.actor, version=request.POST.get("version", ""))
    except CoreError as wrong:
        messages.error(request, _("Not confirmed. %(why)s") % {"why": error_sentence(wrong)})
        return redirect("recipe_steps", recipe_id)
    return redirect("recipe_detail", recipe_id)


@login_required
@require_GET
def recipe_amounts(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The recipe scaled."""
    ours = _context_of(request, recipe_id)
    form = forms.AmountsForm(request.GET) if request.GET.get("by") else None
    error, status, data = "", 200, {}
    if form is not None:
        data = form.cleaned_data if form.is_valid() else {}
        error = "" if form.is_valid() else form.first_error()
    try:
        context = pages.amounts_page(ours, data)
    except CoreError as wrong:
        error, context = error_sentence(wrong), pages.amounts_page(ours, {})
    status = 422 if error else 200
    typed = {name: request.GET.get(name, "") for name in forms.AmountsForm.base_fields}
    template = "recipes/_amounts.html" if request.htmx else "recipes/amounts.html"
    lines = [(i, item) for i, item in enumerate(ours.items) if item.food and item.measured]
    return render(request, template, {**context, "error": error, "typed": typed, "lines": lines}, status=status)


@login_required
@require_http_methods(["GET", "POST"])
def recipe_eaters(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Who eats, what they may not have, and what a swap would change."""
    recipe = _own(request, recipe_id)
    if request.method == "POST":
        form = forms.EatersForm(request.POST)
        if form.is_valid():
            services.set_eaters(recipe=recipe, eaters=form.eaters())
        else:
            messages.error(request, form.first_error())
        return redirect("recipe_eaters", recipe_id)
    ours = pages.RecipeContext(recipe, request.actor)
    line, swap_id = _number(request.GET.get("line")), request.GET.get("swap")
    difference = None
    if line is not None and swap_id is not None:
        try:
            other = services.swapped(recipe, line=line, swap_id=swap_id, known=ours.known)
            difference = pages.difference(ours, pages.RecipeContext(other, request.actor))
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
    thickness = None
    old, new, minutes = (_decimal(request.GET.get(name)) for name in ("old", "new", "time"))
    if old and new and minutes:
        thickness = pages.thickness(old, new, minutes)
    typed = {name: request.GET.get(name, "") for name in ("old", "new", "time")}
    context = pages.eaters_page(ours, line, swap_id, difference)
    return render(request, "recipes/eaters.html", {**context, "thickness": thickness, "typed": typed})


def _number(text: str | None) -> int | None:
    return int(text) if text and text.isdecimal() and len(text) < 6 else None


def _decimal(text: str | None) -> float | None:
    try:
        value = float(text or "")
    except ValueError:
        return None
    return value if 0 < value < 1e5 else None


@login_required
@require_POST
def recipe_swap(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Keeps a swap as a recipe of its own."""
    recipe = _own(request, recipe_id)
    try:
        line = _number(request.POST.get("line"))
        if line is None:
            raise CoreError("line", "line_not_chosen")
        new = services.keep_swapped(recipe=recipe, line=line, swap_id=request.POST.get("swap", ""), by=request.actor)
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
        return redirect("recipe_eaters", recipe_id)
    messages.success(request, _("Kept as a recipe of its own. Its steps are unconfirmed until you read them."))
    return redirect("recipe_steps", new.pk)


@login_required
@require_http_methods(["GET", "POST"])
def recipe_variants(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """Variants on this recipe as a base."""
    recipe = _own(request, recipe_id)
    if request.method == "POST":
        names, whos = request.POST.getlist("name"), request.POST.getlist("who")
        blocks = request.POST.getlist("lines")
        rows = [
            {"name": name, "who": who, "lines": [row.strip() for row in lines.splitlines() if row.strip()]}
            for name, who, lines in zip(names, whos, blocks, strict=False)
            if name.strip() or lines.strip()
        ]
        services.set_variants(recipe=recipe, variants=rows)
        return redirect("recipe_variants", recipe_id)
    return render(request, "recipes/variants.html", pages.variants_page(pages.RecipeContext(recipe, request.actor)))


@login_required
@require_GET
def recipe_cost(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """What it costs."""
    return render(request, "recipes/cost.html", pages.cost_page(_context_of(request, recipe_id)))


@login_required
@require_GET
def recipe_json(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The recipe as JSON-LD, process included."""
    recipe = _own(request, recipe_id)
    text = json.dumps(to_json_ld(to_document(recipe)), ensure_ascii=False, indent=1)
    return _download(text.encode(), "application/ld+json", recipe, "json")


@login_required
@require_GET
def recipe_markdown(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The recipe as Markdown."""
    recipe = _own(request, recipe_id)
    return _download(to_markdown(to_document(recipe)).encode(), "text/markdown; charset=utf-8", recipe, "md")


@login_required
@require_POST
def recipe_pdf(request: ActorRequest, recipe_id: int) -> HttpResponse:
    """The read-through on paper, set beside the server."""
    ours = _context_of(request, recipe_id)
    job_id = ask_paper(
        by=request.actor,
        title=ours.recipe.title,
        back=reverse("recipe_detail", args=[recipe_id]),
        html=render_to_string("recipes/print.html", pages.read_page(ours, ours.kitchen.benches), request=request),
        file_name=f"{_file_name(ours.recipe)}.pdf",
    )
    return redirect("job", job_id)


def _file_name(recipe: Recipe) -> str:
    return slugify(recipe.title) or f"recipe-{recipe.pk}"


def _download(body: bytes, kind: str, recipe: Recipe, ending: str) -> HttpResponse:
    response = HttpResponse(body, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{_file_name(recipe)}.{ending}"'
    return response
