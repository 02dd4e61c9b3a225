"""Template pieces used on every page."""

import uuid
from collections.abc import Iterable

from django import template
from django.middleware.csrf import get_token
from django.template import RequestContext
from django.template.base import Parser, Token, Variable
from django.templatetags.i18n import TranslateNode, do_translate
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import get_language
from django.utils.translation import gettext as _

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
def role_name(role: str) -> str:
    """What somebody is here, as a person reads it."""
    names = {
        "owner": _("owner"),
        "educator": _("educator"),
        "assistant": _("assistant, runs lessons"),
        "reader": _("reader of records"),
    }
    return names.get(role, role)


@register.filter
def capital(text: str) -> str:
    """The first letter large."""
    return phrases.capital(str(text))


@register.filter
def listed(names: Iterable[str]) -> str:
    """a, b and c."""
    return phrases.listed(names)


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


class FixedText(template.Node):
    """A text that a template says whoever asks: looked up once for each language, not at every drawing."""

    def __init__(self, node: TranslateNode) -> None:
        self.node = node
        self.known: dict[str | None, str] = {}

    def render(self, context: template.Context) -> str:
        """The text in the language of the moment."""
        language = get_language()
        if language not in self.known:
            self.known[language] = self.node.render(context)
        return self.known[language]


@register.tag
def translate(parser: Parser, token: Token) -> template.Node:
    """Django's own tag; a fixed text without a variable, a filter or a name to be kept under is remembered."""
    node = do_translate(parser, token)
    text = node.filter_expression
    plain = isinstance(text.var, Variable) and text.var.literal is not None and not text.filters
    return FixedText(node) if plain and not (node.asvar or node.noop or node.message_context) else node


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
