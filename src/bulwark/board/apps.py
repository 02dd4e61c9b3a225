"""The plan board keeps the plan of a lesson that begins, so that the wall can be held against it."""

from typing import Any

from django.apps import AppConfig


class BoardConfig(AppConfig):
    """The room, and what it hears."""

    name = "bulwark.board"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Listens for lessons that begin."""
        from bulwark.board.services import keep_plan
        from bulwark.lessons.signals import lesson_begun

        def begun(sender: Any, **sent: Any) -> None:
            keep_plan(sender)

        lesson_begun.connect(begun, weak=False, dispatch_uid="plan board")
