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

    help = "Takes names and words out of what is old; the chains of lessons stay proven."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--before", type=_day, help="a day in place of what each organisation has chosen")
        parser.add_argument("--yes", action="store_true", help="do it, and do not only say what would go")

    def handle(self, **options: Any) -> None:
        day, latest = options["before"], timezone.localdate() - LATE_WITHIN
        if day and day > latest:
            # What a tablet of that lesson still holds may come in until then, with its names.
            raise CommandError(f"nothing goes that ended after {latest:%Y-%m-%d}: entries of it may still arrive")
        for organisation in forgetting.organisations():
            before = {kind: day or keeping.before(n) for kind, n in keeping.kept_by(organisation).items()}
            found, lessons = (
                {kind: len(rows) for kind, rows in forgetting.older(organisation, before).items()},
                forgetting.old_lessons(organisation, before["lessons"]),
            )
            entries = sum(forgetting.preview(lesson).entries for lesson in lessons)
            if options["yes"]:
                found["lessons"] = sum(forgetting.forget(lesson.pk, _PROGRAM) for lesson in lessons)
                forgetting.forget_others(organisation, before)
            # No name of anybody, and no title of a lesson, is printed: this goes into a machine's log.
            said = "taken out of" if options["yes"] else "would go from"
            self.stdout.write(
                f"organisation {organisation}: names {said} {found['lessons']} lessons ({entries} entries),"
                f" {found['answers']} rounds, {found['hurts']} hurts, {found['certificates']} certificates"
                f" and {found['brought']} records from elsewhere"
            )


def _day(text: str) -> dt.date:
    return dt.date.fromisoformat(text)
