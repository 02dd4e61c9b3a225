"""Template pieces used on every page."""

import uuid

from django import template
from django.middleware.csrf import get_token
from django.template import RequestContext
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe

from bulwark.presentation import phrases

register = template.Library()


@register.simple_tag
def caution() -> str:
    """The caution line."""
    return phrases.caution()


@register.simple_tag
def entry_id() -> str:
    """A fresh id for a form's entry: sent twice, it is still one entry."""
    return str(uuid.uuid4())


@register.simple_tag
def icon(name: str, size: int = 18, title: str = "") -> SafeString:
    """One of our own symbols; decorative, since a word always stands beside it."""
    if not name.replace("-", "").isalnum():
        raise ValueError(f"no icon is called {name!r}")
    return mark_safe(  # noqa: S308 - both values are checked: a name of letters and a number
        f'<svg class="bw-icon" width="{int(size)}" height="{int(size)}" aria-hidden="true" focusable="false">'
        f'<use href="#i-{name}"/></svg>'
    )


@register.filter
def capital(text: str) -> str:
    """The first letter large."""
    return phrases.capital(str(text))


@register.filter
def duration(seconds: float) -> str:
    """A length of time in words."""
    return phrases.duration(float(seconds))


@register.filter
def countdown(seconds: float) -> str:
    """m:ss."""
    return phrases.countdown(float(seconds))


@register.filter
def words(text: str) -> list[str]:
    """A list written in a template."""
    return text.split()


@register.filter
def plain(value: object) -> str:
    """A number for a field: no noise, no separators; nothing for nothing."""
    return f"{value:g}" if isinstance(value, (int, float)) else str(value or "")


@register.simple_tag(takes_context=True)
def csrf_token(context: RequestContext) -> SafeString:
    """The hidden token of a form, also inside an include with ``only``.

    Django's own tag reads a variable that such an include does not hand on, and then writes nothing, so
    that the form is refused; the request itself is always there.
    """
    request = getattr(context, "request", None)
    if request is None:
        raise ValueError("a form that posts was drawn without its request: use render(), not render_to_string()")
    return format_html('<input type="hidden" name="csrfmiddlewaretoken" value="{}">', get_token(request))
