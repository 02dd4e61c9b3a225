"""Settings for tests: plain static files, a quick hasher, no throttle left over between tests."""

from collections.abc import Iterator
from unittest.mock import patch

import pytest
from django.db.backends.postgresql.operations import DatabaseOperations
from hypothesis import settings as hypothesis_settings

# A slow shared machine is not a bug; what is too slow is measured by bin/bench.
hypothesis_settings.register_profile("shared", deadline=None)
hypothesis_settings.load_profile("shared")


@pytest.fixture(scope="session", autouse=True)
def _flush_past_the_guard() -> Iterator[None]:
    """Tests that commit are emptied by TRUNCATE, which the log refuses: the guard is lifted for
    that one statement and stands again before the next test."""
    plain = DatabaseOperations.execute_sql_flush

    def flush(self: DatabaseOperations, statements: list[str]) -> None:
        guard = "ALTER TABLE lessons_event {} TRIGGER USER"
        plain(self, [guard.format("DISABLE"), *statements, guard.format("ENABLE")])

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
