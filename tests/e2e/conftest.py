"""A real server on a free port, and Chromium to use it."""

import os
import socket
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from django.db import connection
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from bulwark.lessons import selectors
from tests.browser import launched

# Playwright's own loop runs on this thread, which Django would otherwise take for an async view.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
# Of a machine that is busy with something else nothing is known; a screen that never comes fails all the same.
PATIENCE_MS = 30_000
expect.set_options(timeout=PATIENCE_MS)
AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text(encoding="utf-8")


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = launched(playwright)
        yield browser
        browser.close()


@pytest.fixture(scope="session", autouse=True)
def _nobody_stays(django_db_setup: None, django_db_blocker: Any) -> Iterator[None]:
    """Threads of the servers that keep a connection give it back at the end, so that the database can go."""
    yield
    with django_db_blocker.unblock(), connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
            " WHERE datname = current_database() AND pid <> pg_backend_pid()"
        )


@pytest.fixture
def address(transactional_db: None, settings: Any) -> Iterator[str]:
    """Where the server answers, on the test database."""
    settings.WHITENOISE_USE_FINDERS = settings.WHITENOISE_AUTOREFRESH = True
    settings.ALLOWED_HOSTS = ["127.0.0.1"]
    from bulwark.asgi import Application

    selectors._snapshots.clear()
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    config = uvicorn.Config(Application(), host="127.0.0.1", port=port, log_level="error", lifespan="off")
    config.timeout_graceful_shutdown = 1
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(timeout=10)


@pytest.fixture
def open_context(chromium: Browser) -> Iterator[Callable[..., BrowserContext]]:
    """A browser of its own: cookies, storage, network. Script errors fail the test."""
    contexts: list[BrowserContext] = []
    errors: list[str] = []

    def make(width: int = 1280, height: int = 800, **more: Any) -> BrowserContext:
        context = chromium.new_context(viewport={"width": width, "height": height}, **more)
        context.on("weberror", lambda error: errors.append(str(error.error)))
        context.set_default_timeout(PATIENCE_MS)
        contexts.append(context)
        return context

    yield make
    for context in contexts:
        context.close()
    assert errors == []


def axe(page: Page) -> list[str]:
    """What axe finds serious or critical on a page, a line each."""
    page.evaluate(AXE)
    found = page.evaluate("async () => (await axe.run(document, {resultTypes: ['violations']})).violations")
    return [
        f"{row['id']}: {row['help']}: {[node['html'][:120] for node in row['nodes'][:3]]}"
        for row in found
        if row["impact"] in ("serious", "critical")
    ]
