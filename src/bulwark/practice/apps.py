"""Practice counts a lesson when it ends, so that a term of them is reported at once."""

from typing import Any

from django.apps import AppConfig


class PracticeConfig(AppConfig):
    """The room, and what it hears."""

    name = "bulwark.practice"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Listens for lessons that end."""
        from bulwark.lessons.signals import lesson_ended
        from bulwark.practice.programme import count

        def ended(sender: Any, **sent: Any) -> None:
            if not sender.rehearsal and not sender.stock:
                count([sender])

        lesson_ended.connect(ended, weak=False, dispatch_uid="programme")
