"""Settings for tests: plain static files, a quick hasher, no throttle left over between tests."""

import os
import re
from collections.abc import Iterator
from typing import Any
from unittest.mock import patch

import pytest
from django.db import transaction
from django.db.backends.postgresql.operations import DatabaseOperations
from hypothesis import settings as hypothesis_settings
from psycopg.sql import SQL, Identifier, Literal

from tests.sixth_profile import sixth

__all__ = ["sixth"]

# A slow shared machine is not a bug; what is too slow is measured by bin/bench. The same cases each time, so that
# a change is judged by what it changes; BULWARK_DRAW=new draws others, as bin/fuzz does.
hypothesis_settings.register_profile("shared", deadline=None, derandomize=os.environ.get("BULWARK_DRAW") != "new")
hypothesis_settings.load_profile("shared")


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix: None) -> None:
    """A database of its own for each run of the planted faults, which go side by side."""
    from django.conf import settings

    suffix = os.environ.get("PYTEST_DB_SUFFIX")
    if suffix:
        database = settings.DATABASES["default"]
        database.setdefault("TEST", {})["NAME"] = f"test_{database['NAME']}{suffix}"


@pytest.fixture(scope="session", autouse=True)
def _flush_past_the_guard() -> Iterator[None]:
    """Tests that commit are emptied past the log's guard, which is lifted for that one transaction. Only what has
    rows is emptied, row by row: to truncate every table makes a file for each, which takes seconds."""

    def flush(self: DatabaseOperations, statements: list[str]) -> None:
        tables = [name for said in statements for name in re.findall(r'"(\w+)"', said)]
        with transaction.atomic(using=self.connection.alias), self.connection.cursor() as cursor:
            first = SQL("(SELECT {} FROM {} LIMIT 1)")
            looks = [first.format(Literal(name), Identifier(name)) for name in tables]
            cursor.execute(SQL(" UNION ALL ").join(looks))
            filled = [name for (name,) in cursor.fetchall()]
            cursor.execute("ALTER TABLE lessons_event DISABLE TRIGGER USER")
            for name in filled:
                cursor.execute(SQL("DELETE FROM {}").format(Identifier(name)))
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute("ALTER TABLE lessons_event ENABLE TRIGGER USER")

    with patch.object(DatabaseOperations, "execute_sql_flush", flush):
        yield


@pytest.fixture(autouse=True)
def _plain_settings(settings):
    settings.STORAGES = {
        **settings.STORAGES,
        "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
    }
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    settings.SECURE_SSL_REDIRECT = False
    settings.WHITENOISE_AUTOREFRESH = True
    # Long work is done while it is asked for: what the second process does with it is tested by itself.
    settings.TASKS = {"default": {"BACKEND": "django_tasks.backends.immediate.ImmediateBackend"}}


_SCORES: list[str] = []


@pytest.fixture
def score():
    """Keeps a score of the run, printed at its end: name, right, of how many, and what is wrong."""

    def keep(name: str, right: int, of: int, wrong: list[str]) -> None:
        _SCORES.append(f"{name}: {right} of {of} right ({100 * right / of:.1f} %)")
        _SCORES.extend(f"    wrong: {line}" for line in wrong)

    return keep


# A file is one process's: the longest begin first, or one of them works alone at the end.
_LONGEST = ("test_backup", "test_wild_recipes", "test_reading", "test_keys", "test_board", "test_forecast")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def turn(item: pytest.Item) -> int:
        return _LONGEST.index(item.path.stem) if item.path.stem in _LONGEST else len(_LONGEST)

    items.sort(key=turn)


def pytest_sessionfinish(session: pytest.Session) -> None:
    output = getattr(session.config, "workeroutput", None)
    if output is not None:
        output["scores"] = _SCORES


@pytest.hookimpl(optionalhook=True)
def pytest_testnodedown(node: Any) -> None:
    """What a worker process has scored."""
    _SCORES.extend(getattr(node, "workeroutput", {}).get("scores", []))


def pytest_terminal_summary(terminalreporter) -> None:
    if _SCORES:
        terminalreporter.section("scores")
        for line in _SCORES:
            terminalreporter.write_line(line)
