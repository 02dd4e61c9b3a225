"""Keeps what simulated cold stores read, beside the server: a look at a page writes nothing."""

import time
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections

from bulwark.devices import services


class Command(BaseCommand):
    """Goes round the stores, again and again until it is ended, or once."""

    help = "Keeps what simulated cold stores read."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """``--every`` [s] between two rounds; ``--once`` for one."""
        parser.add_argument("--every", type=float, default=60.0, help="seconds between two rounds")
        parser.add_argument("--once", action="store_true", help="one round, then end")

    def handle(self, *args: Any, **options: Any) -> None:
        """One round after another; while the database is away, it waits for the next."""
        while True:
            try:
                services.keep_stores()
            except DatabaseError as away:
                if options["once"]:
                    raise
                self.stderr.write(f"The stores wait for the database: {type(away).__name__}")
            if options["once"]:
                return
            close_old_connections()  # one that broke is made anew
            time.sleep(max(1.0, options["every"]))
