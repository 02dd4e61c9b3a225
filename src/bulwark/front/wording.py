"""Sentences about whoever stands in at the front."""

from django.utils.translation import gettext as _


def refusal(why: str) -> str:
    """Why a code does not open the front."""
    return {
        "unknown": _("No lesson that runs is handed over with that code, or it has been used. Ask for a new one."),
        "gone": _("You do not stand in at a lesson any more. Type a code to take over the front of one."),
    }[why]
