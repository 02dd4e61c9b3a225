"""The kitchen's house rules, equipment and prices, and the rules of the schools side by side."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
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
        form = forms.KitchenForm(request.POST)
        try:
            if not form.is_valid():
                raise form.wrong()
            data = form.cleaned_data
            services.set_kitchen(
                by=request.actor,
                profile_id=data["profile"],
                locale=data["locale"],
                house=form.house(),
                benches=data["benches"],
                currency=data["currency"],
            )
        except CoreError as wrong:
            messages.error(request, error_sentence(wrong))
            return render(request, "kitchens/kitchen.html", pages.kitchen_page(request.actor.organisation), status=422)
        messages.success(request, _("Kept. New lessons follow these rules; lessons already planned keep theirs."))
        return redirect("kitchen")
    return render(request, "kitchens/kitchen.html", pages.kitchen_page(request.actor.organisation))


@login_required
@require_POST
def equipment(request: ActorRequest) -> HttpResponse:
    """Counts what there is."""
    counts: dict[str, int | None] = {}
    for key, text in request.POST.items():
        if key.startswith("n-"):
            plain = str(text).strip()
            if plain and (not plain.isdecimal() or len(plain) > 3):
                messages.error(request, _("%(what)s: a whole number up to 999 is needed.") % {"what": key[2:]})
                return redirect("kitchen")
            counts[key[2:60]] = int(plain) if plain else None
    services.set_equipment(by=request.actor, counts=counts)
    return redirect("kitchen")


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
    kitchen_row = selectors.kitchen_of(request.actor.organisation)
    context["currency"] = kitchen_row.currency
    context["freezer"] = rule_profile(kitchen_row.profile).hold["freezer"]
    return render(request, "kitchens/_bulk.html", context, status=422 if context["error"] else 200)
