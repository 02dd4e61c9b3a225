"""Brings the database up to date and loads the demo: one start of Django for ``bin/start``."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import BaseCommand, call_command
from django.db import connection

from bulwark.demo import hostel, instruments

GRANTS = settings.ROOT / "src" / "bulwark" / "lessons" / "grants.sql"


class Command(BaseCommand):
    """``manage.py prepare [--reset-demo] --password-file FILE``."""

    help = "Migrates, gathers static files where they changed, loads the demo where it is missing."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--reset-demo", action="store_true")
        parser.add_argument("--password-file", type=Path, required=True)

    def handle(self, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        with connection.cursor() as cursor:
            cursor.execute(GRANTS.read_text(encoding="utf-8"))
        self._gather_static()
        call_command("owner", from_environment=True, stdout=self.stdout)
        password = options["password_file"].read_text(encoding="utf-8").strip()
        hostel.load(password=password, reset=options["reset_demo"])
        educator = hostel.demo_educator()
        if educator is not None and instruments.wanted(educator):
            instruments.load(educator)

    def _gather_static(self) -> None:
        manifest = Path(settings.STATIC_ROOT) / "staticfiles.json"
        newest = max(path.stat().st_mtime for folder in settings.STATICFILES_DIRS for path in Path(folder).rglob("*"))
        if not manifest.is_file() or manifest.stat().st_mtime < newest:
            call_command("collectstatic", verbosity=0, interactive=False)
