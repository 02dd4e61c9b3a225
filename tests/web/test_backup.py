"""bin/backup and bin/restore on a database of their own beside the real one."""

import json
import os
import subprocess
import tarfile
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO
from pathlib import Path
from typing import Any

import psycopg
import pytest
from django.conf import settings

ROOT = Path(settings.ROOT)
NAME = "bulwark_backup_try"
MADE = f'. "$(dirname "$0")/_env.sh" && use_database && scratch_database {NAME}'


def connected(name: str) -> psycopg.Connection[Any]:
    row = settings.DATABASES["default"]
    return psycopg.connect(
        host=row["HOST"], port=row["PORT"], dbname=name, user=row["USER"], password=row["PASSWORD"], autocommit=True
    )


def without_address() -> dict[str, str]:
    return {key: value for key, value in os.environ.items() if key != "DATABASE_URL"} | {"BULWARK_DB": NAME}


def run(command: str, *words: object) -> subprocess.CompletedProcess[str]:
    asked = [str(ROOT / "bin" / command), *(str(word) for word in words)]
    return subprocess.run(asked, env=without_address(), capture_output=True, text=True, timeout=180, check=False)


def dropped() -> None:
    with connected("postgres") as server:
        for name in (NAME, f"{NAME}_restored", f"{NAME}_before"):
            server.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


@pytest.fixture
def kept_in() -> Iterator[str]:
    """A database with the demo in it, whose lesson is under way."""
    if not (ROOT / ".local" / "pg.ready").exists() or "bulwark" not in os.environ.get("DATABASE_URL", ""):
        pytest.skip("this database is not the project's own cluster")
    dropped()
    subprocess.run(["bash", "-c", MADE, ROOT / "bin" / "test"], env=without_address(), check=True, capture_output=True)
    yield NAME
    dropped()


def says(kind: str) -> None:
    with connected(NAME) as database:
        bench = database.execute("SELECT min(id) FROM lessons_bench").fetchone()
        assert bench is not None
        database.execute(
            "INSERT INTO lessons_event (uuid, bench_id, seq, kind, data, happened_at, recorded_at, recorded_by,"
            " previous_hash, hash) VALUES (%s, %s, 1, %s, '{}', now(), now(), 'bench', '', '')",
            [uuid.uuid4(), bench[0], kind],
        )


def kinds() -> list[str]:
    with connected(NAME) as database:
        return [row[0] for row in database.execute("SELECT kind FROM lessons_event ORDER BY seq").fetchall()]


def of_another_version(whole: Path, to: Path) -> None:
    """The same backup, as a newer Bulwark would have written it."""
    with tarfile.open(whole) as old, tarfile.open(to, "w") as new:
        for member in old.getmembers():
            content = old.extractfile(member)
            assert content is not None
            data = content.read()
            if member.name == "told.json":
                told = json.loads(data)
                data = json.dumps({**told, "migrations": [*told["migrations"], "lessons.9999_tides"]}).encode()
                member.size = len(data)
            new.addfile(member, BytesIO(data))


def test_what_was_kept_comes_back_whole_and_nothing_else_does(kept_in: str, tmp_path: Path) -> None:
    says("called")
    whole, newer, broken = tmp_path / "whole.tar", tmp_path / "newer.tar", tmp_path / "broken.tar"
    kept = run("backup", whole)
    assert kept.returncode == 0, kept.stderr
    assert whole.stat().st_mode & 0o077 == 0
    assert run("backup", whole).returncode != 0, "a backup is never written over"
    of_another_version(whole, newer)
    broken.write_bytes(whole.read_bytes()[:2000])
    with connected(NAME) as database:
        database.execute("UPDATE people_organisation SET is_demo = false")
    says("answered")

    with ThreadPoolExecutor() as at_once:
        asked = {path.stem: at_once.submit(run, "restore", path) for path in (newer, broken, tmp_path / "none.tar")}
    refused = {name: row.result() for name, row in asked.items()}
    assert "of a newer Bulwark" in refused["newer"].stderr
    assert "is no backup of Bulwark" in refused["broken"].stderr
    assert "cannot be read" in refused["none"].stderr
    over = run("restore", whole)
    assert "say --replace" in over.stderr
    assert all(row.returncode != 0 for row in (*refused.values(), over))
    assert kinds() == ["called", "answered"]

    done = run("restore", whole, "--replace")
    assert done.returncode == 0, done.stderr
    assert kinds() == ["called"]
