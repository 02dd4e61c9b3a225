"""Names and words taken out of what is old, as each organisation has chosen: for a machine that does it by itself."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.core.management import BaseCommand, CommandError
from django.utils import timezone

from bulwark.lessons.selectors import LATE_WITHIN
from bulwark.people.actors import Actor
from bulwark.practice import forgetting
from bulwark.records import keeping

_PROGRAM = Actor(kind="program")


class Command(BaseCommand):
    """``manage.py purge [--before DATE] [--yes]`` says what would go; with ``--yes`` it goes. Of each organisation goes
    what is older than it has chosen, or all that ended before a day."""

    help = "Takes names and words out of old lessons and rounds; their chains stay proven."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--before", type=_day, help="a day in place of what each organisation has chosen")
        parser.add_argument("--yes", action="store_true", help="do it, and do not only say what would go")

    def handle(self, **options: Any) -> None:
        day, latest = options["before"], timezone.localdate() - LATE_WITHIN
        if day and day > latest:
            # What a tablet of that lesson still holds may come in until then, with its names.
            raise CommandError(f"nothing goes that ended after {latest:%Y-%m-%d}: entries of it may still arrive")
        for organisation in forgetting.organisations():
            kept = keeping.kept_by(organisation)
            lessons = forgetting.old_lessons(organisation, day or keeping.before(kept.lessons))
            rounds_before = day or keeping.before(kept.answers)
            rounds = forgetting.old_rounds(organisation, rounds_before).count()
            entries = sum(forgetting.preview(lesson).entries for lesson in lessons)
            if options["yes"]:
                lessons = [lesson for lesson in lessons if forgetting.forget(lesson.pk, _PROGRAM)]
                rounds = forgetting.forget_rounds(organisation, rounds_before)
            # No name of anybody, and no title of a lesson, is printed: this goes into a machine's log.
            said = "taken out of" if options["yes"] else "would go from"
            self.stdout.write(
                f"organisation {organisation}: names {said} {len(lessons)} lessons ({entries} entries)"
                f" and {rounds} rounds"
            )


def _day(text: str) -> dt.date:
    return dt.date.fromisoformat(text)
