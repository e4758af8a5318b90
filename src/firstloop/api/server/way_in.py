"""What answers on http where tablets come by https: a page that shows the way, and who vouches for it.

Nothing else is ever said in the open. A browser trusts this machine once it trusts the machine's own small
authority, whose certificate is given out here; it is no secret.
"""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from starlette.datastructures import Headers
from starlette.responses import HTMLResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from firstloop.api.server.doors import LOOPBACK, host_name
from firstloop.formats.authority import Authority, fingerprint

CERTIFICATE = "/first-loop-authority.crt"
_PAGE = """<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>First Loop: the way in</title>
<h1>First Loop</h1>
<p><a href="{to}">Go on to First Loop</a></p>
<h2>Once for every tablet</h2>
<p>A tablet asks whether it may trust this machine. It may once it has the machine's own certificate:</p>
<ol>
<li><a href="{certificate}">Download the certificate</a>.</li>
<li>On an iPad: Settings, General, VPN &amp; Device Management: install it. Then Settings, General, About,
Certificate Trust Settings: switch it on.</li>
<li>On an Android tablet: Settings, Security, More security settings, Install from device storage,
CA certificate.</li>
<li>On a Chromebook: Settings, Privacy and security, Security, Manage certificates, Authorities, Import.</li>
<li>On a Windows tablet: open the file, Install certificate, Local machine, Trusted Root Certification
Authorities.</li>
</ol>
<p>Its SHA-256, to compare with what the tablet shows:</p>
<p><code>{fingerprint}</code></p>
<p>Without it a tablet can still be used where it lets you go on in spite of its warning; but it does not then
keep the page when the network is gone.</p>
</html>
"""
_POLICY = "default-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"


def way_in(authority: Authority, secure_port: int, names: Sequence[str]) -> ASGIApp:
    """An application that shows the way to https at one of `names`, and nothing else."""
    known = LOOPBACK | {name.lower() for name in names}
    said = fingerprint(authority)

    async def answer(scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            return
        name = host_name(Headers(scope=scope).get("host"))
        response: Response
        if name not in known:
            response = Response("This is not that machine.", 421)
        elif scope["path"] == CERTIFICATE:
            response = Response(authority.certificate, media_type="application/x-x509-ca-cert")
        else:
            shown = f"[{name}]" if ":" in name else name
            query = scope["query_string"].decode("latin-1")
            to = f"https://{shown}:{secure_port}{scope['path']}" + (f"?{query}" if query else "")
            response = HTMLResponse(
                _PAGE.format(to=escape(to, quote=True), certificate=CERTIFICATE, fingerprint=said)
            )
        response.headers["Content-Security-Policy"] = _POLICY
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "no-referrer"
        await response(scope, receive, send)

    return answer
