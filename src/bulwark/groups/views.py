"""Groups: the list, one group, and a group split into benches."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bulwark.groups import pages, rosters, selectors, services
from bulwark.groups.forms import MOST_SHEET, GroupForm
from bulwark.people.actors import ActorRequest
from bulwark.presentation.errors import error_sentence
from foodsafety.quantities import CoreError


@login_required
@require_GET
def groups(request: ActorRequest) -> HttpResponse:
    """The organisation's groups."""
    return render(request, "groups/list.html", {"groups": selectors.groups_for(request.actor)})


@login_required
@require_http_methods(["GET", "POST"])
def group(request: ActorRequest, group_id: int | None = None) -> HttpResponse:
    """One group, or a new one: read first, every doubt beside its line, and kept when somebody has looked at it."""
    found = None
    if group_id is not None:
        found = get_object_or_404(selectors.groups_for(request.actor), pk=group_id)
    if request.method == "GET":
        return render(request, "groups/group.html", pages.group_page(found))
    form = GroupForm(request.POST, request.FILES)
    valid = form.is_valid()
    numbers = {name: str(value) for name, value in request.POST.items() if name.startswith("n-")}
    typed: dict[str, str] = {**form.typed(), **numbers}
    sheet = request.FILES.get("sheet")
    if sheet and (sheet.size or 0) <= MOST_SHEET:
        typed["lines"] = rosters.as_text(sheet.read()).replace("\0", "")
    roster = rosters.read_roster(typed["lines"])
    page = {**pages.group_page(found, typed), "read": pages.read_page(roster, typed["rules"])}
    if not valid:
        return render(request, "groups/group.html", {**page, "wrong": form.first_error()}, status=422)
    data = form.cleaned_data
    if not data["keep"] or sheet:
        return render(request, "groups/group.html", page)
    try:
        kept = services.keep_group(
            by=request.actor,
            group=found,
            name=data["name"],
            roster=roster,
            roles=rosters.read_roles(data["roles"]),
            rules=data["rules"],
            eaters=form.eaters(),
        )
    except CoreError as wrong:
        return render(request, "groups/group.html", {**page, "wrong": error_sentence(wrong)}, status=422)
    messages.success(request, _("%(name)s is kept.") % {"name": kept.name})
    return redirect("groups")


@login_required
@require_POST
def group_away(request: ActorRequest, group_id: int) -> HttpResponse:
    """Takes a group from the lists."""
    services.put_away(get_object_or_404(selectors.groups_for(request.actor), pk=group_id))
    return redirect("groups")


@login_required
@require_POST
def group_split(request: ActorRequest) -> HttpResponse:
    """A group split fairly into the benches of the lesson's form, which it fills."""
    return render(request, "groups/_split.html", pages.split_page(request.actor, request.POST))


@login_required
@require_POST
def group_check(request: ActorRequest) -> HttpResponse:
    """Whether benches that somebody has changed keep the group's rules."""
    return render(request, "groups/_checked.html", pages.check_page(request.actor, request.POST))
