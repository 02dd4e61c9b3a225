"""Proves the log: every entry's hash, its link to the one before, and that none is missing."""

from typing import Any

from django.core.management import BaseCommand, CommandError

from bulwark.lessons.log import broken_links


class Command(BaseCommand):
    """``manage.py verify_log [--bench ID]``; exit status 1 and a line for each break."""

    help = "Checks the hash chain of every bench."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--bench", type=int)

    def handle(self, **options: Any) -> None:
        checked, broken = broken_links(options["bench"])
        for bench_id, seq, why in broken:
            self.stderr.write(f"bench {bench_id}, entry {seq}: {why}")
        if broken:
            raise CommandError(f"{len(broken)} of {checked} entries do not hold")
        self.stdout.write(f"{checked} entries hold")
