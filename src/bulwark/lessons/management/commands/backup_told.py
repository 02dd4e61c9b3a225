"""What a backup says of itself, and whether it may be put back here."""

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import BaseCommand, CommandError, call_command
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

from bulwark.lessons.models import Lesson


class Command(BaseCommand):
    """``manage.py backup_told`` prints it; ``--check FILE [--replace]`` brings the database here up to date, and stops
    with words where the backup may not be put back."""

    help = "What a backup says of itself."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--check", type=Path)
        parser.add_argument("--replace", action="store_true")

    def handle(self, **options: Any) -> None:
        if options["check"] is None:
            told = {"bulwark": settings.VERSION, "migrations": _migrations(), "made_at": timezone.now().isoformat()}
            self.stdout.write(json.dumps(told))
            return
        call_command("migrate", verbosity=0, interactive=False)
        self._check(options["check"])
        real = Lesson.objects.filter(organisation__is_demo=False).count()
        if real and not options["replace"]:
            raise CommandError(f"{real} lessons are here that are not the demo's: say --replace to write over them")

    def _check(self, path: Path) -> None:
        try:
            told = json.loads(path.read_text(encoding="utf-8"))
            version, migrations = told["bulwark"], set(told["migrations"])
        except (OSError, ValueError, TypeError, KeyError) as wrong:
            raise CommandError("this is no backup of Bulwark") from wrong
        newer = sorted(migrations - set(_migrations()))
        if newer:
            raise CommandError(
                f"the backup is of a newer Bulwark ({version}, with {newer[0]}); this is {settings.VERSION}. "
                "Fetch that version, then restore."
            )
        if version.split(".")[0] != settings.VERSION.split(".")[0]:
            raise CommandError(
                f"the backup is of Bulwark {version}, this is {settings.VERSION}: fetch that version first"
            )


def _migrations() -> list[str]:
    rows = MigrationRecorder.Migration.objects.order_by("app", "name").values_list("app", "name")
    return [f"{app}.{name}" for app, name in rows]
