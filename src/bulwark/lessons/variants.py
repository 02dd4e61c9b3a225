"""What some learners make instead of the rest, and what each filling needs before it may go in."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from bulwark.lessons.adapters import to_profile
from bulwark.lessons.models import Lesson
from bulwark.presentation.phrases import cook_text
from foodsafety.foods import food_kind
from foodsafety.recipes import Ingredient, read_ingredient
from foodsafety.rules import Profile


@dataclass(frozen=True, slots=True, kw_only=True)
class Variant:
    """One variant: its name, whose it is, and its foods, each with what comes first."""

    name: str
    who: str
    foods: tuple[str, ...]

    def of(self, learners: tuple[str, ...]) -> bool:
        """True if one of these learners makes it, or nobody is named."""
        return not self.who.strip() or any(name.strip() in learners for name in self.who.replace(";", ",").split(","))


def variants_of(lesson: Lesson, unit: str) -> tuple[Variant, ...]:
    """The variants of a lesson, in words."""
    profile = to_profile(lesson)
    return tuple(
        Variant(
            name=row["name"],
            who=row["who"],
            foods=tuple(_words(read_ingredient(line, lesson.recipe.measures), profile, unit) for line in row["lines"]),
        )
        for row in lesson.variants
    )


def _words(item: Ingredient, profile: Profile, unit: str) -> str:
    """A filling and what it needs first; an unknown food is never ready."""
    name = item.food or item.text
    if item.kind is None:
        return _("%(food)s: nobody knows this food, ask first") % {"food": name}
    kind = food_kind(item.kind)
    if kind.ready == "cook":
        limit = profile.cook.get(kind.cook_class or "")
        text = cook_text(limit, unit) if limit else ""
        return _("%(food)s: cook it first %(limit)s") % {"food": name, "limit": text}
    if kind.ready == "rinse":
        return _("%(food)s: wash it first") % {"food": name}
    return name
