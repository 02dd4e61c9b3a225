"""What other rooms' pages show of lessons."""

from django import template
from django.template import RequestContext
from django.template.loader import render_to_string
from django.utils.safestring import SafeString

from bulwark.lessons import pages
from bulwark.lessons.models import Lesson

register = template.Library()


@register.simple_tag(takes_context=True)
def lesson_form(context: RequestContext, recipe_id: int) -> SafeString:
    """The form that plans a lesson on a recipe, as it begins."""
    request = context["request"]
    form = {"recipe_id": recipe_id, "typed": pages.usual_lesson(request.actor), "wrong": {}}
    form |= pages.lesson_choices(request.actor)
    return render_to_string("lessons/_new_form.html", form, request=request)


@register.simple_tag
def open_questions(lesson: Lesson) -> list[str]:
    """What nobody has answered about a lesson's steps and could hide a hazard."""
    return pages.open_lines(lesson)
