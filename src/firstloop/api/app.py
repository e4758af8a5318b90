"""The application: the API under ``/api``, and the built front end for everything else."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI, HTTPException
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

import firstloop
from firstloop.api import written
from firstloop.api.errors import UNREADABLE, add_handlers
from firstloop.api.routers import ROUTERS
from firstloop.api.settings import Settings
from firstloop.api.writing import Judge, judge, judge_left_over
from firstloop.store.database import open_engine, sessions, upgrade

WEB_DIR = Path(firstloop.__file__).parent / "web"


def create_app(settings: Settings, judge: Judge = judge, web_dir: Path | None = WEB_DIR) -> FastAPI:
    """Build the application on the database of `settings`.

    Parameters
    ----------
    judge : callable
        What judges an attempt; the checker, unless a test wants to see it fail.
    web_dir : Path or None
        Folder of the built front end; None serves the API alone.
    """
    engine = open_engine(settings.database)
    upgrade(engine)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        with app.state.sessions() as session:
            judge_left_over(session, judge)
            written.judge_left_over(session)
        yield
        engine.dispose()

    app = FastAPI(
        title="First Loop",
        version=firstloop.__version__,
        summary="Models letters, catches how children write them, and remembers who needs what.",
        lifespan=lifespan,
        responses=UNREADABLE,
        generate_unique_id_function=lambda route: route.name,
    )
    app.state.settings, app.state.sessions, app.state.judge = settings, sessions(engine), judge
    app.add_middleware(GZipMiddleware, minimum_size=1500)
    add_handlers(app)
    for router in ROUTERS:
        app.include_router(router, prefix="/api")
    if web_dir is not None:
        _serve_pages(app, web_dir)
    return app


def _serve_pages(app: FastAPI, web_dir: Path) -> None:
    """The built front end, with every path that is no file answered by its one page."""

    @app.api_route(
        "/api/{rest:path}", methods=["GET", "POST", "PUT", "PATCH", "DELETE"], include_in_schema=False
    )
    def unknown_api(rest: str) -> None:
        raise HTTPException(404, f"There is no /api/{rest} here.")

    index = web_dir / "index.html"
    if not index.is_file():

        @app.get("/", include_in_schema=False)
        def not_built() -> None:
            raise HTTPException(503, "The screens have not been built yet. Run: make build")

        return
    app.mount("/assets", StaticFiles(directory=web_dir / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
