"""Who is asking: an educator with an account, whoever stands in for one, a bench with a joined device, an assistant
with a code, or nobody."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import wraps
from typing import Any, Literal

from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponse
from django_htmx.middleware import HtmxDetails

from bulwark.people.roles import Role


@dataclass(frozen=True, slots=True, kw_only=True)
class Actor:
    """Who a request comes from; selectors decide what it may see."""

    kind: Literal["educator", "stand_in", "bench", "assistant", "program", "anonymous"]
    user_id: int | None = None
    organisation_id: int | None = None
    bench_id: int | None = None
    # The one lesson of a stand-in.
    lesson_id: int | None = None
    # The device at that bench, and its number there; the number of an assistant or a stand-in.
    device_id: int | None = None
    device: int | None = None
    role: Role = "reader"
    unit: Literal["C", "F"] = "C"
    language: str = "en-gb"

    @property
    def organisation(self) -> int:
        """The organisation of an educator, or of the lesson of a stand-in. Raises LookupError for anybody else: what
        is theirs alone must never be asked for without one."""
        if self.organisation_id is None:
            raise LookupError("nobody is signed in")
        return self.organisation_id

    @property
    def user(self) -> int:
        """The account of an educator. Raises LookupError for anybody else."""
        if self.user_id is None:
            raise LookupError("nobody is signed in")
        return self.user_id

    @property
    def at_front(self) -> bool:
        """True for whoever runs a lesson from the front."""
        return self.kind in ("educator", "stand_in")

    @property
    def label(self) -> str:
        """How the log names this actor; never a person's name."""
        if self.kind == "educator":
            return f"educator:{self.user_id}"
        return f"{self.kind}:{self.device}" if self.device else self.kind


ANONYMOUS = Actor(kind="anonymous")


def bench_actor(bench_id: int, device_id: int | None = None, device: int | None = None) -> Actor:
    """The actor of a device that has joined a bench."""
    return Actor(kind="bench", bench_id=bench_id, device_id=device_id, device=device)


class ActorRequest(HttpRequest):
    """A request as every view gets it: the middleware says who asks, and whether htmx does."""

    actor: Actor
    htmx: HtmxDetails


def front_required(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A page of whoever runs a lesson from the front; anybody else signs in."""

    @wraps(view)
    def asked(request: ActorRequest, *args: Any, **named: Any) -> HttpResponse:
        if request.actor.at_front:
            return view(request, *args, **named)
        return redirect_to_login(request.get_full_path())

    return asked
