"""Signing in, who works here, and the pages for when something is refused."""

from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login, update_session_auth_hash
from django.contrib.auth import views as auth_views
from django.contrib.auth.decorators import login_required
from django.contrib.auth.password_validation import password_validators_help_texts
from django.db.models import Sum
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST

from bulwark.people import services
from bulwark.people.actors import ActorRequest
from bulwark.people.forms import ForgottenForm, InviteForm, PasswordForm, PersonForm, SessionForm, SignInForm
from bulwark.people.models import User
from bulwark.people.roles import ROLES
from bulwark.people.tasks import mail_invitation, mail_link
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.patience import told_later
from foodsafety.quantities import CoreError

BACKEND = "django.contrib.auth.backends.ModelBackend"


class SignIn(auth_views.LoginView):
    """The sign-in page. Tries at one account are ended by axes; tries at many from one address are answered later
    and later."""

    template_name = "people/sign_in.html"
    authentication_form = SignInForm
    redirect_authenticated_user = True

    def form_valid(self, form: Any) -> HttpResponse:
        response = super().form_valid(form)
        organisation = form.get_user().organisation
        if organisation is not None:
            self.request.session.set_expiry(organisation.session_hours * 3600)
        return response

    def form_invalid(self, form: Any) -> HttpResponse:
        address = self.request.META.get("REMOTE_ADDR")
        rows = AccessAttempt.objects.filter(ip_address=address)
        tries = rows.aggregate(tries=Sum("failures_since_start"))["tries"] or 0
        return told_later(super().form_invalid(form), tries - services.FREE_SIGN_INS)


class SignOut(auth_views.LogoutView):
    """Signs out by POST."""


@login_required
def empty(request: ActorRequest) -> HttpResponse:
    """Nothing, for who is signed in: what a page costs before it does anything (see bin/bench)."""
    return HttpResponse(status=204)


def csrf_failure(request: ActorRequest, reason: str = "") -> HttpResponse:
    """The page was open too long, or came from elsewhere."""
    return render(request, "403.html", {"stale": True}, status=403)


# --- one's own account -----------------------------------------------------------------------------------------------


@never_cache
@login_required
@require_http_methods(["GET", "POST"])
def account(request: ActorRequest) -> HttpResponse:
    """One's own password."""
    user = User.objects.get(pk=request.actor.user)
    form = PasswordForm(request.POST or None, user=user, old=True)
    if request.method == "POST" and form.is_valid():
        services.choose_password(user=user, password=form.cleaned_data["password"])
        update_session_auth_hash(request, user)
        messages.success(request, _("Your password is changed. Every other browser is signed out."))
        return redirect("account")
    context = {"form": form, "user": user, "help": password_validators_help_texts()}
    return render(request, "people/account.html", context, status=422 if form.errors else 200)


@login_required
@require_POST
def account_everywhere(request: ActorRequest) -> HttpResponse:
    """Ends every session of one's own account but this one."""
    user = User.objects.get(pk=request.actor.user)
    services.sign_out_everywhere(user=user)
    update_session_auth_hash(request, user)
    messages.success(request, _("Every other browser is signed out."))
    return redirect("account")


@never_cache
@require_http_methods(["GET", "POST"])
def welcome(request: ActorRequest, token: str) -> HttpResponse:
    """Where a link leads: somebody chooses a password and is in. A look uses nothing up."""
    found = services.welcome_with(token)
    if found is None:
        return render(request, "people/welcome.html", {"form": None}, status=404)
    form = PasswordForm(request.POST or None, user=found.user or User(username=found.email, email=found.email))
    if request.method == "POST" and form.is_valid():
        try:
            user = services.accept(welcome=found, password=form.cleaned_data["password"])
        except CoreError:
            return render(request, "people/welcome.html", {"form": None}, status=404)
        login(request, user, backend=BACKEND)
        request.session.set_expiry(found.organisation.session_hours * 3600)
        return redirect("today")
    context = {"form": form, "welcome": found, "help": password_validators_help_texts()}
    return render(request, "people/welcome.html", context, status=422 if form.errors else 200)


@never_cache
@require_http_methods(["GET", "POST"])
def forgotten(request: ActorRequest) -> HttpResponse:
    """Asks for a link to choose a new password. What it says is the same whether there is such an account or not."""
    context = {"sends_mail": settings.SENDS_MAIL}
    if request.method == "POST" and settings.SENDS_MAIL:
        form = ForgottenForm(request.POST)
        if not form.is_valid():
            return render(request, "people/forgotten.html", context, status=422)
        context["asked"] = form.cleaned_data["email"]
        mail_link(email=form.cleaned_data["email"], address=_address(request))
    return render(request, "people/forgotten.html", context)


# --- who works here --------------------------------------------------------------------------------------------------


@never_cache
@login_required
@require_http_methods(["GET", "POST"])
def people(request: ActorRequest) -> HttpResponse:
    """Everybody with an account, and how long a browser stays signed in."""
    return _people(request)


def _people(
    request: ActorRequest,
    *,
    link: str = "",
    whose: str = "",
    mailed: bool = False,
    form: Any = None,
    status: int = 200,
) -> HttpResponse:
    organisation = services.home_of(User.objects.select_related("organisation").get(pk=request.actor.user))
    if request.method == "POST" and form is None and not link:
        hours = SessionForm(request.POST)
        if hours.is_valid():
            services.set_session_hours(organisation=organisation, hours=hours.cleaned_data["session_hours"])
            return redirect("people")
        messages.error(request, hours.first_error())
    rows = User.objects.filter(organisation_id=request.actor.organisation).order_by("-is_active", "username")
    context = {
        "rows": rows,
        "roles": ROLES,
        "organisation": organisation,
        "link": link,
        "whose": whose,
        "mailed": mailed,
    }
    return render(request, "people/people.html", {**context, "form": form or InviteForm()}, status=status)


def _address(request: ActorRequest) -> str:
    return request.build_absolute_uri("/").rstrip("/")


def _link(request: ActorRequest, token: str) -> str:
    return _address(request) + reverse("welcome", args=[token])


@login_required
@require_POST
def invite(request: ActorRequest) -> HttpResponse:
    """A link for a new colleague, shown once."""
    form = InviteForm(request.POST)
    if not form.is_valid():
        return _people(request, form=form, status=422)
    organisation = services.home_of(User.objects.select_related("organisation").get(pk=request.actor.user))
    try:
        token = services.invite(organisation=organisation, **form.cleaned_data)
    except CoreError as wrong:
        form.add_error(None, error_sentence(wrong))
        return _people(request, form=form, status=422)
    link, email = _link(request, token), form.cleaned_data["email"]
    return _people(request, link=link, whose=email, mailed=mail_invitation(email=email, link=link))


@login_required
@require_POST
def person(request: ActorRequest, user_id: int) -> HttpResponse:
    """What becomes of an account: its role, a link for a new password, signed out everywhere, no longer active."""
    user = get_object_or_404(User, pk=user_id, organisation_id=request.actor.organisation)
    form = PersonForm(request.POST)
    if not form.is_valid():
        messages.error(request, form.first_error())
        return redirect("people")
    what = form.cleaned_data["what"]
    try:
        if what == "link":
            return _people(request, link=_link(request, services.password_link(user=user)), whose=user.username)
        if what == "everywhere":
            services.sign_out_everywhere(user=user)
        elif what == "role":
            services.change_person(user=user, role=form.cleaned_data["role"])
        else:
            services.change_person(user=user, is_active=what == "active")
    except CoreError as wrong:
        messages.error(request, error_sentence(wrong))
    return redirect("people")
