"""The built interface, under a strict policy: no inline scripts, nothing from outside."""

import secrets
from pathlib import Path
from typing import Any, Final

from fastapi import APIRouter, FastAPI, Response
from fastapi.responses import HTMLResponse
from fastapi.staticfiles import StaticFiles

# Put into the pages at build time; replaced by a fresh nonce at each request.
NONCE_MARK: Final = "%NONCE%"
POLICY: Final = (
    "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; "
    "font-src 'self'; img-src 'self' data:; connect-src 'self'; form-action 'none'; "
    "base-uri 'none'; frame-ancestors 'none'"
)


class _Assets(StaticFiles):
    """Built files; their names change with their contents, so they may be kept for good."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        """Let the browser keep it."""
        response = super().file_response(*args, **kwargs)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def add_pages(app: FastAPI, folder: Path) -> None:
    """Serve the interface from its built folder; every address of the interface is one page."""
    router = APIRouter(include_in_schema=False)

    def page(name: str) -> HTMLResponse:
        nonce = secrets.token_urlsafe(16)
        html = (folder / name).read_text(encoding="utf-8").replace(NONCE_MARK, nonce)
        headers = {
            "Content-Security-Policy": POLICY.format(nonce=nonce),
            "Cache-Control": "no-store",
        }
        return HTMLResponse(html, headers=headers)

    @router.get("/api/docs")
    def docs() -> HTMLResponse:
        return page("docs.html")

    @router.get("/method")
    def method() -> HTMLResponse:
        return page("method.html")

    @router.get("/glossary")
    def glossary() -> HTMLResponse:
        return page("glossary.html")

    @router.get("/")
    @router.get("/shelf")
    @router.get("/d/{rest:path}")
    def interface(rest: str = "") -> HTMLResponse:
        return page("index.html")

    app.include_router(router)
    app.mount("/assets", _Assets(directory=folder / "assets"))
