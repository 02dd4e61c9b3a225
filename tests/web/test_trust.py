"""The encrypted door: who may be believed, and how a tablet comes to trust it."""

import http.client
import threading
from collections.abc import Iterator
from typing import Any

import pytest
from django.test import Client

from bulwark.trust_door import CERTIFICATE, Door

PRINT = ":".join(f"{n:02X}" for n in range(32))


def test_it_stands_at_an_address_of_the_newer_kind_too() -> None:
    served = Door("::1", 0, b"a certificate", "https://[::1]:8000")
    served.server_close()
    assert served.server_address[0] == "::1"


@pytest.fixture
def door() -> Iterator[Door]:
    served = Door("127.0.0.1", 0, b"a certificate", "https://127.0.0.1:8000")
    thread = threading.Thread(target=served.serve_forever, args=(0.05,), daemon=True)
    thread.start()
    yield served
    served.shutdown()
    served.server_close()


def ask(door: Door, method: str, path: str, body: bytes | None = None) -> tuple[int, dict[str, str], bytes]:
    line = http.client.HTTPConnection("127.0.0.1", door.server_address[1], timeout=5)
    line.request(method, path, body)
    answer = line.getresponse()
    found = answer.status, {name.lower(): text for name, text in answer.getheaders()}, answer.read()
    line.close()
    return found


def test_the_plain_door_hands_out_the_certificate(door: Door) -> None:
    status, head, body = ask(door, "GET", CERTIFICATE)
    assert (status, head["content-type"], body) == (200, "application/x-x509-ca-cert", b"a certificate")


def test_its_page_leads_to_the_certificate_and_on(door: Door) -> None:
    status, _head, body = ask(door, "GET", "/")
    assert status == 200
    assert f'href="{CERTIFICATE}"'.encode() in body
    assert b'href="https://127.0.0.1:8000"' in body


@pytest.mark.parametrize("path", ["/lessons/1/", "//elsewhere.example/", "/..%2f..%2fetc/passwd", "/ca.key"])
def test_everything_else_leads_to_the_encrypted_door_and_nowhere_else(door: Door, path: str) -> None:
    status, head, body = ask(door, "GET", path)
    assert (status, head["location"], body) == (307, "https://127.0.0.1:8000/", b"")


def test_it_takes_nothing(door: Door) -> None:
    assert ask(door, "POST", "/", b"initials=AK")[0] == 501


def test_the_page_at_the_front_shows_the_fingerprint(db: None, settings: Any) -> None:
    settings.CA_FINGERPRINT, settings.TRUST_ADDRESS = PRINT, "http://192.0.2.7:8001/"
    page = Client().get("/trust/").content.decode()
    assert "http://192.0.2.7:8001/" in page
    assert all(block in page for block in ("00 01 02 03", "1C 1D 1E 1F"))


def test_without_an_authority_there_is_no_such_page(db: None) -> None:
    assert Client().get("/trust/").status_code == 404
