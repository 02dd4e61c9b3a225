"""What was changed last, and what somebody else has changed while a person was looking at older steps."""

from itertools import takewhile

from django.utils.translation import gettext as _

from bulwark.people.actors import Actor
from bulwark.recipes import wording
from bulwark.recipes.adapters import steps_version, version_of
from bulwark.recipes.models import ProcessEdit, Recipe


def last_edit(recipe: Recipe, actor: Actor) -> str:
    """The edit that "undo" takes back, and whose it was if it was another's; "" where there is none."""
    last = recipe.edits.select_related("by").first()
    return _told(last, actor) if last else ""


def meanwhile(recipe: Recipe, actor: Actor, seen: str) -> list[str]:
    """The edits, oldest first, since the version of the steps that somebody has ``seen``; none where nobody
    says which that was, or it is too long ago to know."""
    if not seen or seen == steps_version(recipe):
        return []
    edits = list(recipe.edits.select_related("by"))
    newer = list(takewhile(lambda edit: version_of(edit.before) != seen, edits))
    unseen = edits[: len(newer) + 1]
    if not unseen or len(newer) == len(edits):
        return [_("The steps have changed since you saw them.")]
    told = "; ".join(_told(edit, actor) for edit in reversed(unseen))
    return [_("Changed since you saw the steps: %(edits)s.") % {"edits": told}]


def _told(edit: ProcessEdit, actor: Actor) -> str:
    done = wording.edit_done(edit.what)
    if edit.by is None or edit.by_id == actor.user_id:
        return done
    return _("%(done)s, by %(who)s") % {"done": done, "who": edit.by.first_name or edit.by.username}
