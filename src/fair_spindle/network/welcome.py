"""What the plain port answers where pages are served over TLS: how to trust this machine, and the way to it."""

from __future__ import annotations

from pathlib import Path

from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import FileResponse, HTMLResponse, RedirectResponse, Response
from starlette.routing import Route

from fair_spindle.network.addresses import Addresses

STYLE = """
body{font:18px/1.5 'Segoe UI',sans-serif;max-width:34em;margin:0 auto;padding:24px 20px}
body{background:#f4f1ea;color:#1c2628}h1{font-size:28px}li{margin:14px 0}p{color:#55605f}
a.go{display:inline-block;padding:14px 22px;background:#12655b;color:#fff;text-decoration:none;border-radius:6px}
"""
HEADERS = {
    "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
}


def welcome_app(authority: Path, port: int, addresses: Addresses) -> Starlette:
    """Three steps to trust the workshop's certificate; every other address leads to the same one over TLS."""

    def safe(request: Request) -> str:
        told = request.url.hostname or ""
        host = told if told in addresses.all else addresses.usual
        return f"https://{f'[{host}]' if ':' in host else host}:{port}"

    def welcome(request: Request) -> Response:
        return HTMLResponse(_page(safe(request)), headers=HEADERS)

    def certificate(_: Request) -> Response:
        return FileResponse(authority, media_type="application/x-x509-ca-cert", filename="fair-spindle-workshop.crt")

    def onward(request: Request) -> Response:
        query = f"?{request.url.query}" if request.url.query else ""
        return RedirectResponse(f"{safe(request)}{request.url.path}{query}", 307)

    routes = [
        Route("/", welcome),
        Route("/authority.crt", certificate),
        Route("/{path:path}", onward, methods=["GET", "HEAD", "POST", "PUT", "DELETE"]),
    ]
    return Starlette(routes=routes)


def _page(go: str) -> str:
    return f"""<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><title>Fair Spindle: trust this workshop</title>
<style>{STYLE}</style></head><body><h1>Let this device trust the workshop</h1>
<ol><li>Download the <a href="/authority.crt">workshop's certificate</a>. It was made by the workshop's own machine
and vouches for nothing else.</li>
<li>Open it and let the device trust it for web pages: on a phone in its settings, under security, certificates of
an authority; on a computer in the browser's certificate settings.</li>
<li>Go on over the safe address, and enter the six digits the bench shows.</li></ol>
<p><a class="go" href="{go}/">Go on</a></p>
<p>Compare the address with the one on the bench before you trust it.</p></body></html>"""
