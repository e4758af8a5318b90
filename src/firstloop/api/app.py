"""The application: the API under ``/api``, and the built front end for everything else."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

import anyio.to_thread
from fastapi import FastAPI, HTTPException, Request
from fastapi.responses import FileResponse, HTMLResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

import firstloop
from firstloop.api.resources import ROUTERS
from firstloop.api.server import docs_page
from firstloop.api.server.auditing import Auditing
from firstloop.api.server.behind import Behind
from firstloop.api.server.beside import Beside
from firstloop.api.server.day_keeper import DayKeeper
from firstloop.api.server.demo_school import DemoSchool
from firstloop.api.server.doors import Doors
from firstloop.api.server.errors import add_handlers
from firstloop.api.server.gate import AT_ONCE, SPARE_THREADS, Gate
from firstloop.api.server.guard import Guard
from firstloop.api.server.judges import Judges
from firstloop.api.server.left_over import LeftOver
from firstloop.api.server.news import News
from firstloop.api.server.nightly import Nightly
from firstloop.api.server.page_reader import PageReader
from firstloop.api.server.room_office import RoomOffice
from firstloop.api.settings import Settings
from firstloop.services import records
from firstloop.services.door import Door, Slowing
from firstloop.services.judging import Judge, here
from firstloop.services.presence import Presence
from firstloop.store.database import sessions
from firstloop.store.opening import open_records

WEB_DIR = Path(firstloop.__file__).parent / "web"
TABLET_FILES = ("sw.js", "tablet.webmanifest", "icon.svg")  # what keeps a child's page on its tablet
NONCE = "NONCE-OF-THIS-PAGE"  # as web/vite.config.ts writes it


def create_app(settings: Settings, judge: Judge | None = None, web_dir: Path | None = WEB_DIR) -> FastAPI:
    """Build the application on the database of `settings`.

    Parameters
    ----------
    judge : callable
        What has ink judged; the checker as the settings say, unless a test wants to see it fail.
    web_dir : Path or None
        Folder of the built front end; None serves the API alone.

    Raises
    ------
    RecordsError
        If the records cannot be opened.
    """
    engine = open_records(settings.database, connections=AT_ONCE)
    left_over = LeftOver(sessions(engine))
    day_keeper = DayKeeper(sessions(engine), settings.data_dir)
    page_reader = PageReader(
        sessions(engine), settings.database, settings.judges and settings.judges + 1, settings.pages_from
    )
    judges = Judges(settings.judges) if settings.judges else None

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        anyio.to_thread.current_default_thread_limiter().total_tokens = AT_ONCE + SPARE_THREADS
        with app.state.sessions() as session:
            records.begin(session)
        left_over.start()
        day_keeper.start()
        page_reader.start()
        office.news.start(asyncio.get_running_loop())
        office.behind.start()
        nightly.start()
        if judges is not None:
            judges.warm_up()
        yield
        office.news.let_go()
        office.behind.stop()
        nightly.stop()
        left_over.stop()
        day_keeper.stop()
        page_reader.stop()
        if judges is not None:
            judges.stop()
        app.state.beside.stop()
        app.state.planner.stop()
        app.state.demo_school.stop()
        engine.dispose()

    app = FastAPI(
        title="First Loop",
        version=firstloop.__version__,
        summary="Models letters, catches how children write them, and remembers who needs what.",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
    )
    app.state.door = Door(settings.data_dir) if settings.room else None
    app.state.settings, app.state.sessions = settings, sessions(engine)
    app.state.clock = lambda: datetime.now(UTC)
    app.state.judge = judge or judges or here
    app.state.gate, app.state.left_over = Gate(AT_ONCE), left_over
    app.state.page_reader = page_reader
    office = app.state.room_office = _room_office(app)
    nightly = Nightly(app.state.sessions, settings.database, settings.nightly, partial(_now, app))
    app.state.lists_read = {}
    app.state.beside = Beside(min(1, settings.judges))
    app.state.planner = Beside(min(1, settings.judges), idle=False)  # somebody waits for it
    app.state.demo_school = DemoSchool(settings.data_dir / "demo-school")
    _stand_guard(app)
    add_handlers(app)
    for router in (docs_page.router, *ROUTERS):
        app.router.routes.extend(router.routes)
    if web_dir is not None:
        _serve_pages(app, web_dir)
    return app


def _now(app: FastAPI) -> datetime:
    now: datetime = app.state.clock()
    return now


def _stand_guard(app: FastAPI) -> None:
    """What every request passes, from the inside out."""

    state, clock = app.state, partial(_now, app)
    app.add_middleware(Guard, door=state.door, clock=clock)
    app.add_middleware(Auditing, data_dir=state.settings.data_dir, sessions=state.sessions, clock=clock)
    app.add_middleware(GZipMiddleware, minimum_size=1500, compresslevel=4)
    app.add_middleware(Doors, listens_on=state.settings.listens_on)


def _room_office(app: FastAPI) -> RoomOffice:
    """What leads rooms of tablets, on the application's own records, clock and judge."""
    state = app.state
    return RoomOffice(
        Presence(),
        News(),
        Behind(state.sessions, max(1, state.settings.judges), lambda: not state.gate.is_empty),
        Slowing(),
        state.settings.addresses,
        asyncio.Semaphore(1),
        judge=lambda: state.judge,
    )


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

    for name in TABLET_FILES:
        _serve_file(app, web_dir / name)

    @app.get("/{path:path}", include_in_schema=False)
    async def page(request: Request, path: str) -> HTMLResponse:
        html = index.read_text(encoding="utf-8").replace(NONCE, request.state.nonce)
        return HTMLResponse(html, headers={"Cache-Control": "no-store"})


def _serve_file(app: FastAPI, file: Path) -> None:
    """One file beside the page, fresh each time: a tablet asks whether it has changed."""

    @app.get(f"/{file.name}", include_in_schema=False)
    async def whole() -> FileResponse:
        return FileResponse(file, headers={"Cache-Control": "no-cache"})
