"""Rehearses the demo lesson with simulated crews."""

import time
import urllib.error
import urllib.request
from typing import Any

from django.core.management import BaseCommand, CommandError
from django.db import OperationalError

from bulwark.demo.hostel import demo_lesson
from bulwark.lessons import rehearsal, services
from bulwark.lessons.crews import PACE


class Command(BaseCommand):
    """``manage.py rehearse [--wait-for ADDRESS]``: waits for the server, then plays."""

    help = "Plays the demo lesson at 30 times the speed."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--wait-for", default="")

    def handle(self, **options: Any) -> None:
        lesson = demo_lesson()
        if lesson is None:
            raise CommandError("there is no demo lesson: run bin/start --reset-demo")
        if options["wait_for"]:
            self._wait(options["wait_for"])
        rehearsed = rehearsal.copy_for_rehearsal(lesson)
        services.open_lesson(lesson=rehearsed, rehearsal_pace=PACE)
        self.stdout.write(f"Rehearsing: open the wall at {options['wait_for']}lessons/{rehearsed.pk}/wall/")
        try:
            made = rehearsal.play(rehearsed)
        except OperationalError:
            raise CommandError("the database went away: the rehearsal ends here") from None
        self.stdout.write(f"Rehearsal over, {made} entries")

    def _wait(self, address: str) -> None:
        if not address.startswith(("http://127.0.0.1", "http://localhost")):
            raise CommandError("--wait-for is for an address on this machine")
        for _ in range(60):
            try:
                urllib.request.urlopen(address, timeout=2)  # noqa: S310 - checked above
            except (urllib.error.URLError, OSError):
                time.sleep(0.5)
            else:
                return
