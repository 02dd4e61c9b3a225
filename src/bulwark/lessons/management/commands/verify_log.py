"""Proves the logs: every entry's hash, its link to the one before, that none is missing at the end or whole, and
that what was judged is what was there when the lesson was opened."""

import json
from pathlib import Path
from typing import Any

from django.core.management import BaseCommand, CommandError

from bulwark.lessons.log import heads, prove


class Command(BaseCommand):
    """``manage.py verify_log [--bench ID] [--kept FILE] [--keep FILE]``; exit status 1 and a line for each break."""

    help = "Checks the hash chain of every bench, its head and its context."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--bench", type=int)
        parser.add_argument("--kept", type=Path, help="heads written before, which must still hold")
        parser.add_argument("--keep", type=Path, help="write the heads as they are now to this file")

    def handle(self, **options: Any) -> None:
        proof = prove(options["bench"], kept=_lines(options["kept"]))
        for bench_id, seq, why in proof.broken:
            self.stderr.write(f"bench {bench_id}, entry {seq}: {why}")
        if proof.broken:
            raise CommandError(f"{len(proof.broken)} breaks in {proof.checked} entries")
        self.stdout.write(f"{proof.checked} entries hold")
        if proof.old:
            self.stdout.write(f"{len(proof.old)} benches were opened before it was kept what they were judged by")
        if proof.other_rules:
            self.stdout.write(f"{len(proof.other_rules)} benches were judged by a rule profile that has changed since")
        if proof.foreign_seals:
            self.stdout.write(
                f"{proof.foreign_seals} seals are signed with another server's key: they prove nothing here"
            )
        if proof.purged:
            self.stdout.write(f"names and words were taken out of {proof.purged} entries, as a signed purge says")
        if proof.foreign_purges:
            self.stdout.write(f"{proof.foreign_purges} purges are signed with another server's key")
        if options["keep"]:
            options["keep"].write_text("".join(f"{line}\n" for line in heads()), encoding="utf-8")


def _lines(path: Path | None) -> list[dict[str, Any]]:
    """The heads of a kept file. Raises CommandError for a file that is none."""
    if path is None:
        return []
    try:
        rows = [json.loads(line) for line in path.read_text(encoding="utf-8").splitlines() if line.strip()]
    except (OSError, ValueError) as wrong:
        raise CommandError(f"{path} is no file of heads: {wrong}") from wrong
    if not all(isinstance(row, dict) and {"bench", "seq", "hash", "context"} <= row.keys() for row in rows):
        raise CommandError(f"{path} is no file of heads")
    return rows
