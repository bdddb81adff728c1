"""The application: routers, errors, guard and the built interface."""

import asyncio
import hashlib
import sqlite3
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from functools import partial
from importlib import import_module
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from finebatch.formats.moments import local
from finebatch.settings import Settings
from finebatch.store.copies import make_daily
from finebatch.store.database import Database, UnusableFile
from finebatch.store.places import token_of
from finebatch.store.presses import forget_old
from finebatch.store.swap import forget_aside
from finebatch.web import problems
from finebatch.web.answers import make_ready
from finebatch.web.as_read import AsRead
from finebatch.web.clock import Clock, steady_clock, system_clock
from finebatch.web.demo_beside import DemoBeside
from finebatch.web.described import describe
from finebatch.web.devices_live import LiveDevices
from finebatch.web.guard import Guard
from finebatch.web.methods import HeadAndOptions
from finebatch.web.network.opening import CHANGED, HomeNetwork
from finebatch.web.once_only import OnceOnly
from finebatch.web.ringing import Ringing
from finebatch.web.routers import (
    aim,
    bake,
    bin,
    book,
    changes,
    chill,
    cold,
    copies,
    demo,
    devices,
    dough,
    exchange,
    kitchen,
    larder,
    network,
    occasions,
    photo,
    plan,
    ringing,
    session_files,
    study,
    template,
    today,
    tray,
)
from finebatch.web.wire import Wire
from finebatch.workflow.book.photos import let_old_go
from finebatch.workflow.book.reckon import of_earlier_laws, reckon_anew
from finebatch.workflow.dough.doughs import put_unreadable_aside
from finebatch.workflow.kitchen.thrown import KEPT_MS
from finebatch.workflow.session.live import catch_up
from finebatch.workflow.session.search import Searches

READY_AFTER_S = 2
COPY_AFTER_S, COPY_EVERY_S, QUIET_S = 60, 3600, 5
LOOK_S, JUMP_MS = 2, 60_000
STATIC = Path(__file__).parent / "static"

ROUTERS = (
    today.router,
    dough.router,
    study.router,
    changes.router,
    larder.router,
    occasions.router,
    exchange.router,
    tray.router,
    aim.router,
    chill.router,
    template.router,
    kitchen.router,
    plan.router,
    bake.router,
    ringing.router,
    session_files.router,
    copies.router,
    bin.router,
    devices.router,
    network.router,
    book.router,
    photo.router,
    cold.router,
    demo.router,
)


class _Interface(StaticFiles):
    """The built interface; any path that is no file and no API is one of its screens."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        if path.startswith("api"):
            raise HTTPException(404, "There is nothing at this address.")
        try:
            response = await super().get_response(path, scope)
        except HTTPException as error:
            if error.status_code != 404 or scope["method"] not in ("GET", "HEAD"):
                raise
            if not (STATIC / "index.html").is_file():
                raise HTTPException(503, "The interface is not built: run make setup.") from None
            response = FileResponse(STATIC / "index.html")
        hashed = path.startswith("assets/")
        keep = "public, max-age=31536000, immutable" if hashed else "no-cache"
        response.headers["cache-control"] = keep
        return response


def _catch_up(database: Database, now: int) -> None:
    """What is to be done once after a start: rows that cannot be read, bakes of an earlier law, a
    plan that was cut short."""
    put_unreadable_aside(database, now)
    with database.reading() as session:
        behind = bool(of_earlier_laws(session))
    if behind:
        with database.writing() as session:
            reckon_anew(session)
    catch_up(database, now, lambda: None)


def _load_slow() -> None:
    for slow in ("scipy.optimize", "scipy.spatial.distance", "finebatch.core.plan.replan"):
        import_module(slow)
    make_ready(route for router in ROUTERS for route in router.routes)


async def _get_ready() -> None:
    """What takes time to load is there before the first tray or plan asks for it, and does not
    keep the first screen waiting."""
    await asyncio.sleep(READY_AFTER_S)
    await asyncio.to_thread(_load_slow)


def _forget_presses(database: Database, now: int) -> None:
    with database.writing() as session:
        forget_old(session, now)


async def _keep_house(database: Database, clock: Clock) -> None:
    """Look now and then whether a copy of the data file is due, and what was thrown away a month
    ago. What cannot be done is tried again: whoever asks for a copy is told why."""
    await asyncio.sleep(COPY_AFTER_S)
    while True:
        for errand in (
            partial(make_daily, database.file, local(clock())),
            partial(let_old_go, database, clock()),
            partial(_forget_presses, database, clock()),
            partial(forget_aside, database.file, local(clock() - KEPT_MS).replace(tzinfo=None)),
        ):
            with suppress(OSError, sqlite3.Error, DBAPIError, UnusableFile):
                await asyncio.to_thread(errand)
        await asyncio.sleep(COPY_EVERY_S)


async def _settle(database: Database) -> None:
    """Whenever nobody has written for a while, the data file alone is whole."""
    while True:
        await asyncio.sleep(QUIET_S)
        if database.quiet_s > QUIET_S:
            await asyncio.to_thread(database.settle)


def _shell() -> str:
    """Which interface is built: its page names all its parts."""
    page = STATIC / "index.html"
    return hashlib.sha256(page.read_bytes()).hexdigest()[:16] if page.is_file() else ""


async def watch_clock(clock: Clock, wire: Wire, steady: Clock = steady_clock) -> None:
    """Tell every screen when the clock is set: all times of a plan go by it."""
    ahead = clock() - steady()
    while True:
        await asyncio.sleep(LOOK_S)
        now = clock() - steady()
        if abs(now - ahead) > JUMP_MS:
            wire.tell("clock", {"by_ms": now - ahead})
        ahead = now


def create_app(settings: Settings, clock: Clock = system_clock) -> FastAPI:
    """Build the application on its data file, which is brought up to date.

    Raises `UnusableFile` when the data file cannot be used.
    """
    database = Database(settings.data_file)
    searches = Searches(database, settings.plan_seconds)

    wire = Wire(_shell())
    live = LiveDevices(database, wire, clock, settings)
    demo_beside = DemoBeside()

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        reading = asyncio.create_task(live.run())
        catching_up = asyncio.create_task(asyncio.to_thread(_catch_up, database, clock()))
        keeping_house = asyncio.create_task(_keep_house(database, clock))
        settling = asyncio.create_task(_settle(database))
        getting_ready = asyncio.create_task(_get_ready())
        tasks = [reading, keeping_house, settling, getting_ready]
        if clock is system_clock:
            tasks.append(asyncio.create_task(watch_clock(clock, wire)))
        if app.state.reopens:
            tasks.append(asyncio.create_task(app.state.home.reopen()))
        yield
        await catching_up
        for task in tasks:
            task.cancel()
            with suppress(asyncio.CancelledError):
                await task
        await app.state.home.end()
        demo_beside.close()
        searches.close()
        database.close()

    app = FastAPI(
        title="Fine Batch",
        version="1",
        summary="Formulate, portion, schedule, bake and learn.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        routes=[route for router in ROUTERS for route in router.routes],
        lifespan=lifespan,
    )
    app.openapi = partial(describe, app)  # type: ignore[method-assign]
    app.state.database, app.state.clock, app.state.settings = database, clock, settings
    app.state.searches, app.state.wire, app.state.devices = searches, wire, live
    app.state.show_bake, app.state.demo_beside = None, demo_beside
    app.state.ringing = Ringing()
    app.state.home = HomeNetwork(app, settings, clock, lambda: wire.tell(CHANGED, {}))
    app.state.reopens = False
    problems.install(app)
    if STATIC.is_dir():
        app.mount("/", _Interface(directory=STATIC, html=True))
    app.add_middleware(HeadAndOptions, routes=app.routes)
    app.add_middleware(AsRead)
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    app.add_middleware(OnceOnly)
    app.add_middleware(Guard, token=token_of(settings.data_file))
    return app
