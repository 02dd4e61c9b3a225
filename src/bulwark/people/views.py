"""Signing in, and the pages for when something is refused."""

from django.contrib.auth import views as auth_views
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import render

from bulwark.people.actors import ActorRequest
from bulwark.people.forms import SignInForm


class SignIn(auth_views.LoginView):
    """The sign-in page; tries are throttled by axes."""

    template_name = "people/sign_in.html"
    authentication_form = SignInForm
    redirect_authenticated_user = True


class SignOut(auth_views.LogoutView):
    """Signs out by POST."""


@login_required
def empty(request: ActorRequest) -> HttpResponse:
    """Nothing, for who is signed in: what a page costs before it does anything (see bin/bench)."""
    return HttpResponse(status=204)


def csrf_failure(request: ActorRequest, reason: str = "") -> HttpResponse:
    """The page was open too long, or came from elsewhere."""
    return render(request, "403.html", {"stale": True}, status=403)
