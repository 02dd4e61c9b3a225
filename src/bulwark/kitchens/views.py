"""The kitchen's house rules, equipment and prices, and the rules of the schools side by side."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.kitchens import forms, pages, selectors, services
from bulwark.people.actors import ActorRequest
from bulwark.presentation.back import back_or
from bulwark.presentation.errors import error_sentence
from foodsafety.quantities import CoreError
from foodsafety.review import bulk_saving
from foodsafety.rules import rule_profile


@login_required
@require_http_methods(["GET", "POST"])
def kitchen(request: ActorRequest) -> HttpResponse:
    """House rules and equipment."""
    if request.method == "POST":
        form = forms.HouseRulesForm(request.POST)
        try:
            if not form.is_valid():
                raise form.wrong()
            data = form.cleaned_data
            services.set_house_rules(
                by=request.actor,
                profile_id=data["profile"],
                locale=data["locale"],
                house=form.house(),
                currency=data["currency"],
            )
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
            return render(request, "kitchens/kitchen.html", pages.kitchen_page(request.actor.organisation), status=422)
        messages.success(request, _("Kept. New lessons follow these rules; lessons already planned keep theirs."))
        return redirect("kitchen")
    return render(request, "kitchens/kitchen.html", pages.kitchen_page(request.actor.organisation))


@login_required
@require_http_methods(["GET", "POST"])
@transaction.atomic
def kitchens(request: ActorRequest) -> HttpResponse:
    """What there is in each kitchen, in one table; a kitchen copied or put away."""
    organisation = request.actor.organisation
    if request.method == "GET":
        return render(request, "kitchens/kitchens.html", pages.kitchens_page(organisation))
    rooms = {str(room.pk): room for room in selectors.kitchens_of(organisation)}
    try:
        form = forms.KitchensForm(request.POST, list(rooms.values()))
        for room, said in form.rooms():
            services.set_room(kitchen=room, name=said.pop("name"), said=said)
            services.set_equipment(by=request.actor, kitchen=room, counts=form.counts(room))
        copied, away = rooms.get(request.POST.get("copy", "")), rooms.get(request.POST.get("away", ""))
        if copied:
            name = _("%(name)s, copy") % {"name": copied.name[:70]}
            services.copy_kitchen(by=request.actor, kitchen=copied, name=name)
        elif away and len(rooms) > 1:
            services.put_away(away)
        elif "begin" in request.POST:
            services.main_kitchen(request.actor)
    except CoreError as wrong:
        page = pages.kitchens_page(organisation, {name: str(value) for name, value in request.POST.items()})
        return render(request, "kitchens/kitchens.html", {**page, "wrong": error_sentence(wrong)}, status=422)
    messages.success(request, _("Kept. Plans that are not cooked yet count with it."))
    return redirect("kitchens")


@login_required
@require_GET
def rules(request: ActorRequest) -> HttpResponse:
    """The schools side by side."""
    words = request.GET.get("food", "").replace("\x00", "").strip()[:60]
    return render(request, "kitchens/rules.html", pages.rules_page(request.actor.organisation, words))


@login_required
@require_POST
def limit(request: ActorRequest) -> HttpResponse:
    """Sets a limit of this kitchen's own, or takes one back."""
    form = forms.LimitForm(request.POST)
    try:
        if not form.is_valid():
            raise form.wrong()
        data = form.cleaned_data
        if data["value"] is None and not data["back"]:
            raise CoreError("value", "figure_needed")
        services.set_limit(
            by=request.actor,
            base=data["base"],
            path=data["path"],
            value=None if data["back"] else data["value"],
            signed=data["signed"],
            reason=data["reason"],
        )
    except CoreError as wrong:
        messages.error(request, _("Not set. %(why)s") % {"why": error_sentence(wrong)})
    return redirect("rules")


@login_required
@require_POST
def price(request: ActorRequest) -> HttpResponse:
    """Records a price."""
    form = forms.PriceForm(request.POST)
    try:
        if not form.is_valid():
            raise form.wrong()
        data = form.cleaned_data
        services.set_price(by=request.actor, kind=data["kind"], amount=data["amount"], per=data["per"])
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    return redirect(back_or(request, "kitchen"))


@login_required
@require_GET
def bulk(request: ActorRequest) -> HttpResponse:
    """Whether a large pack pays, within what the freezer keeps."""
    form = forms.BulkForm(request.GET)
    context: dict[str, object] = {"error": "", "found": None, "price": None}
    try:
        if not form.is_valid():
            raise form.wrong()
        data = form.cleaned_data
        known = selectors.prices_of(request.actor.organisation).get(data["kind"])
        if known is None:
            raise CoreError("kind", "usual_price_first")
        context["price"] = known
        context["found"] = bulk_saving(
            known, pack=data["pack"], pack_price=data["pack_price"], used_per_month=data["used_per_month"]
        )
    except CoreError as wrong:
        context["error"] = error_sentence(wrong)
    decided = selectors.decided_by(request.actor.organisation)
    context["currency"] = decided.currency
    context["freezer"] = rule_profile(decided.profile).hold["freezer"]
    return render(request, "kitchens/_bulk.html", context, status=422 if context["error"] else 200)
