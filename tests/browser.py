"""The one browser that the browser tests, the pictures, the walk and the bench are driven with."""

import os

from playwright.sync_api import Browser, Playwright

_ARGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update"]


def launched(playwright: Playwright) -> Browser:
    """Chromium, the one that ``bin/_env.sh`` found or installed."""
    path = os.environ.get("BULWARK_CHROMIUM") or "/usr/bin/chromium-headless-shell"
    return playwright.chromium.launch(executable_path=path, args=_ARGS)
