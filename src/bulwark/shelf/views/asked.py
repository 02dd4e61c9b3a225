"""What every page of the shelf asks: which part, and whether it was taken."""

from collections.abc import Callable
from urllib.parse import urlencode

from django.contrib import messages
from django.urls import reverse
from django.utils import timezone

from bulwark.lessons.services import LessonError
from bulwark.lessons.wording import lesson_refusal
from bulwark.people.actors import ActorRequest
from bulwark.people.forms import SaidForm
from bulwark.presentation.errors import NOT_TAKEN, why_not_taken
from bulwark.shelf import stock, wording
from bulwark.shelf.stock import Item


def here(item: Item, *, gone: bool = False) -> str:
    return reverse("shelf") if gone else f"{reverse('shelf')}?{urlencode({'item': item.key})}"


def tried(request: ActorRequest, act: Callable[[], object]) -> bool:
    """Does something; where it is not taken, says why. True where it was."""
    try:
        act()
    except NOT_TAKEN as wrong:
        messages.error(request, why_not_taken(wrong))
    except LessonError as wrong:
        messages.error(request, lesson_refusal(wrong.code))
    else:
        return True
    return False


def asked_item(request: ActorRequest, form: SaidForm) -> Item | None:
    """The part that a form is about; says what is wrong where there is none, or the form is wrong."""
    found = stock.found_item(request.actor, request.POST.get("key", "")[:160], timezone.now())
    if form.is_valid() and found is not None:
        return found
    messages.error(request, wording.no_such_item() if found is None else " ".join(form.first_errors().values()))
    return None
