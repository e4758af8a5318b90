"""The API's own description as one plain page: no scripts, no styles, nothing from elsewhere."""

from __future__ import annotations

from html import escape
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

_PAGE = """<!doctype html>
<html lang="en-GB">
<head><meta charset="utf-8"><title>{title}: the API</title></head>
<body>
<h1>{title} {version}: the API</h1>
<p>{summary}</p>
<p>The whole description, with the fields of every answer: <a href="/openapi.json">openapi.json</a>.</p>
{doors}
</body>
</html>
"""


router = APIRouter(include_in_schema=False)


@router.get("/docs")
async def docs(request: Request) -> HTMLResponse:
    """The page of whichever application is asked."""
    return HTMLResponse(docs_page(request.app.openapi()))


def docs_page(document: dict[str, Any]) -> str:
    """The page of an OpenAPI document."""
    doors: dict[str, list[str]] = {}
    for path, methods in document["paths"].items():
        for method, door in methods.items():
            doors.setdefault(door.get("tags", [""])[0], []).append(_door(path, method, door))
    info = document["info"]
    return _PAGE.format(
        title=escape(info["title"]),
        version=escape(info["version"]),
        summary=escape(info["summary"]),
        doors="\n".join(f"<h2>{escape(tag)}</h2>\n" + "\n".join(some) for tag, some in doors.items()),
    )


def _door(path: str, method: str, door: dict[str, Any]) -> str:
    wanted = [f"{one['name']} ({one['in']})" for one in door.get("parameters", [])]
    content = door.get("requestBody", {}).get("content", {})
    wanted += [body.get("schema", {}).get("$ref", kind).rsplit("/", 1)[-1] for kind, body in content.items()]
    answers = "; ".join(f"{status} {one['description']}" for status, one in door["responses"].items())
    return (
        f"<h3><code>{method.upper()} {escape(path)}</code></h3>\n"
        f"<p>{escape(door.get('description', door['summary']))}</p>\n"
        f"<p>Takes: {escape(', '.join(wanted) or 'nothing')}. Answers: {escape(answers)}</p>"
    )
