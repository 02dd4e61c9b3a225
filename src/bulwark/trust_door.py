"""A plain door beside the encrypted one: it hands tablets the certificate of this installation's own authority, and
shows everybody else to the encrypted address. Nothing that is secret goes through it, and it reads no body."""

import html
import socket
import sys
from http import HTTPStatus
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

CERTIFICATE = "/bulwark-ca.crt"
IDLE_S = 10
_PAGE = """<!doctype html><html lang="en-gb"><head><meta charset="utf-8"><title>Trust Bulwark</title>
<meta name="viewport" content="width=device-width, initial-scale=1">
<style>body{{font:1.25rem/1.5 sans-serif;max-width:36rem;margin:0 auto;padding:1.5rem}}
body{{color:#10262d;background:#fffefa}}
a.b{{display:flex;align-items:center;justify-content:center;margin:1rem 0;min-height:4rem;
background:#10262d;color:#fffefa;
border-radius:.5rem;text-decoration:none}}li{{margin:.75rem 0}}</style></head><body>
<h1>Once for this device</h1><ol>
<li>Fetch the certificate of the Bulwark in this room.<a class="b" href="{certificate}">Fetch the certificate</a></li>
<li>Open it, or look in the device's settings under security for &ldquo;install a certificate&rdquo;, and trust it as an
authority for web sites. Before you do, compare the fingerprint that the device shows with the one on the educator's
screen: if one sign differs, stop.</li>
<li><a class="b" href="{address}">Open Bulwark</a></li></ol>
<p>To take it back, remove the certificate in the same place.</p></body></html>"""


class Door(ThreadingHTTPServer):
    """Serves the certificate at ``CERTIFICATE``, a page that says what to do with it, and the way to ``address``."""

    daemon_threads = True

    def __init__(self, host: str, port: int, certificate: bytes, address: str) -> None:
        if ":" in host:
            self.address_family = socket.AF_INET6
        super().__init__((host, port), _Answers)
        self.certificate = certificate
        # No fingerprint stands here: who changed the certificate on its way would change that too.
        self.page = _PAGE.format(certificate=CERTIFICATE, address=html.escape(address)).encode()
        self.address = address


class _Answers(BaseHTTPRequestHandler):
    timeout = IDLE_S
    server: Door

    def do_GET(self) -> None:
        if self.path == CERTIFICATE:
            self._send(HTTPStatus.OK, self.server.certificate, "application/x-x509-ca-cert")
        elif self.path == "/":
            self._send(HTTPStatus.OK, self.server.page, "text/html; charset=utf-8")
        else:  # wherever it was going, it begins at the encrypted door: no address is made of what was asked
            self._send(HTTPStatus.TEMPORARY_REDIRECT, b"", "text/plain", location=f"{self.server.address}/")

    def _send(self, status: HTTPStatus, body: bytes, kind: str, location: str = "") -> None:
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(body)))
        self.send_header("Cache-Control", "no-store")
        self.send_header("X-Content-Type-Options", "nosniff")
        if location:
            self.send_header("Location", location)
        self.end_headers()
        self.wfile.write(body)

    def version_string(self) -> str:
        return "Bulwark"

    def log_message(self, *_: object) -> None:
        """Nothing is logged of who came."""


def main(host: str, port: str, certificate: str, address: str) -> None:
    """Serves until it is ended."""
    Door(host, int(port), Path(certificate).read_bytes(), address).serve_forever()


if __name__ == "__main__":
    main(*sys.argv[1:5])
