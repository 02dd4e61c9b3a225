"""The second process, beside the server: it does long work, keeps what simulated cold stores read, and lets go of
what is old. A look at a page writes nothing."""

import threading
import time
from argparse import ArgumentParser
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections

from bulwark.devices import services
from bulwark.jobs import services as jobs

# Long work is begun so soon after it was asked for.
LOOKS_EVERY_S = 0.2
AGAIN_AFTER_S = 2.0


class Command(BaseCommand):
    """Goes round the stores again and again, and does what waits, until it is ended; or both once."""

    help = "Does long work and keeps what simulated cold stores read, beside the server."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: ArgumentParser) -> None:
        """``--every`` [s] between two rounds; ``--once`` for one, and for the work that waits now."""
        parser.add_argument("--every", type=float, default=60.0, help="seconds between two rounds")
        parser.add_argument("--once", action="store_true", help="one round, the work that waits, then end")

    def handle(self, *args: Any, **options: Any) -> None:
        """While the database is away, both wait for it."""
        if options["once"]:
            self._round()
            call_command("db_worker", batch=True, interval=0, startup_delay=False, reload=False, verbosity=0)
            return
        threading.Thread(target=self._rounds, args=(max(1.0, options["every"]),), daemon=True).start()
        while True:
            self._safely(self._work)
            time.sleep(AGAIN_AFTER_S)

    def _work(self) -> None:
        call_command("db_worker", interval=LOOKS_EVERY_S, startup_delay=False, reload=False, verbosity=0)

    def _round(self) -> None:
        services.keep_stores()
        jobs.forget_old()

    def _rounds(self, every_s: float) -> None:
        while True:
            self._safely(self._round)
            time.sleep(every_s)

    def _safely(self, do: Any) -> None:
        try:
            do()
        except DatabaseError as away:
            self.stderr.write(f"The second process waits for the database: {type(away).__name__}")
        finally:
            close_old_connections()  # one that broke is made anew
