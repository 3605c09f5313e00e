"""The server process: opens and updates the data, starts the listeners, and checks sessions ahead."""

from __future__ import annotations

import contextlib
import faulthandler
import io
import logging
import shutil
import signal
import socket
import sys
import threading
from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click
from apscheduler.schedulers.background import BackgroundScheduler
from waitress.server import create_server

from zealous_lark.cli.data import back_up_daily, back_up_if_due
from zealous_lark.cli.field import FieldServer
from zealous_lark.cli.status import ended_with
from zealous_lark.cli.watched import DEATHS, Watcher
from zealous_lark.cli.wish import Wish
from zealous_lark.services import tracks, watch
from zealous_lark.services.devices import Devices
from zealous_lark.services.sources import connected, move_keys
from zealous_lark.sources import WeatherSource
from zealous_lark.sources.aircraft import AircraftListener
from zealous_lark.sources.wind_meter import WindMeterListener
from zealous_lark.store import Database
from zealous_lark.store.backup import BadBackupError, back_up_before_migrating
from zealous_lark.store.claim import claimed
from zealous_lark.store.private import make_private
from zealous_lark.web import create_app
from zealous_lark.web.context import DOORS

if TYPE_CHECKING:
    from apiflask import APIFlask

WATCH_MIN = 30
"""How often sessions ahead are looked at again [min]; forecasts are renewed every few hours."""
_FIRST_AFTER_MIN = 2
_PROXIED: dict[str, Any] = {
    # The proxy may have any address, in a container at least; nothing else may reach this one. It says who asks.
    "trusted_proxy": "*",
    "trusted_proxy_count": 1,
    "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto", "x-forwarded-host"},
}


def serve_in_child(
    wish: Wish, sockets: list[socket.socket], field: socket.socket | None, watcher: Watcher, *, again: bool
) -> None:
    """Serve in a process of its own, which ends with the status of what ends it."""
    sys.exit(ended_with(lambda: serve(wish, sockets, field, watcher, again=again)))


def serve(
    wish: Wish, sockets: list[socket.socket], field: socket.socket | None, watcher: Watcher, *, again: bool = False
) -> None:
    """Serve until it is ended. again: in the place of a server that died."""
    _log(wish.log_level)
    wish.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    _say_where_it_dies(wish.folder)
    if wish.demo is not None and not again:
        _lay_out(wish.folder, wish.clock().astimezone(), reset=wish.demo.reset)
    with claimed(wish.folder, alone=False):
        database = _opened(wish, again=again)
        sources, devices = _sources(wish), _devices(wish, watcher)
        listener = FieldServer(wish.folder, wish.doors.address, wish.doors.port, watcher, field)
        behind = wish.doors.behind_proxy
        app = create_app(
            database, clock=wish.clock, trusted_hosts=("127.0.0.1", "localhost", wish.host, *wish.doors.names),
            sources=sources, devices=devices, field=None if behind else listener, doors_shut=behind,
        )  # fmt: skip
        listener.serve(app)
        server = create_server(
            app, sockets=sockets, threads=8, send_bytes=1,
            channel_request_lookahead=1,  # so that it is seen when who asked has gone
            **(_PROXIED if behind else {}),
        )  # fmt: skip
        stopped = threading.Event()
        watching = _looking_ahead(database, sources, wish.clock)
        if wish.demo is None:
            threading.Thread(target=back_up_daily, args=(wish.folder, stopped), daemon=True).start()
        if again:
            if field is not None:
                listener.start()
        else:
            ready = f"Lark is ready on http://{wish.host}:{sockets[0].getsockname()[1]} (data in {wish.folder})"
            click.echo("\n".join([ready, *(_opened_to_the_field(listener, app) if wish.doors.field else ())]))
        # Ended by the system as by a key: what is being written is written, and the log merged into the file.
        signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
        try:
            server.run()
        finally:
            stopped.set()
            listener.stop()
            watching.shutdown(wait=False)
            database.close()


def _say_where_it_dies(folder: Path) -> None:
    """Should a library in C ever bring the process down, it says where: the names of functions, no data."""
    with contextlib.suppress(OSError, ValueError, RuntimeError, AttributeError):
        faulthandler.enable(file=(folder / DEATHS).open("a"))


def _opened(wish: Wish, *, again: bool) -> Database:
    """The data, for the pilot's own account alone, backed up where that is due, and brought up to date."""
    if not again:
        _close_to_others(wish.folder)
        if wish.demo is None:
            back_up_if_due(wish.folder)  # before anything is brought up to date
        try:
            back_up_before_migrating(wish.folder, datetime.now())
        except BadBackupError as error:
            raise click.ClickException(
                f"{error}; nothing was changed. lark backups lists the backups, lark restore takes one."
            ) from None
    database = Database(wish.folder)
    database.migrate()
    tracks.measure_anew(database, datetime.now().astimezone())
    move_keys(database)
    return database


def _close_to_others(folder: Path) -> None:
    """Let only the pilot's own account read the data, and say what had to be done for it."""
    found = make_private(folder)
    if found.repaired:
        click.echo(
            f"Others on this computer could read {found.repaired} of Lark's files in {folder}; now only you can.",
            err=True,
        )
    if found.still_open:
        click.echo(
            f"Warning: {folder} is on a file system without access rights. Whoever can open it can read your data.",
            err=True,
        )


def _opened_to_the_field(field: FieldServer, app: APIFlask) -> list[str]:
    """Listen on the local network; how a phone gets in, in lines."""
    import segno

    try:
        state = field.start()
    except OSError as error:
        raise click.ClickException(
            f"cannot listen on the local network ({error.strerror or error}); does Lark already? Try --field-port."
        ) from None
    made = app.config[DOORS].new_code()
    picture = io.StringIO()
    segno.make(f"{state.addresses[0]}/pair#{made.code}", error="m").terminal(picture, compact=True)
    return [
        "On the local network, for paired devices:",
        *(f"  {address}" for address in state.addresses),
        f"Its certificate authority has the SHA-256 fingerprint {state.fingerprint}",
        f"Pair a phone within five minutes with the code {made.code[:4]}-{made.code[4:]}, or by the camera:",
        picture.getvalue(),
    ]


def _looking_ahead(
    database: Database, sources: Sequence[WeatherSource], clock: Callable[[], datetime]
) -> BackgroundScheduler:
    """Looks at the sessions ahead now and then, in a thread of its own."""

    def look() -> None:
        watch.look(database, connected(database, sources), clock())

    scheduler = BackgroundScheduler(daemon=True, timezone=UTC)
    first = datetime.now(UTC) + timedelta(minutes=_FIRST_AFTER_MIN)
    # Late is better than not at all: a laptop that slept looks once when it wakes, and never twice at a time.
    scheduler.add_job(
        look, "interval", minutes=WATCH_MIN, next_run_time=first, coalesce=True, max_instances=1,
        misfire_grace_time=None,
    )  # fmt: skip
    scheduler.start()
    return scheduler


def _sources(wish: Wish) -> Sequence[WeatherSource]:
    from zealous_lark.simulators.sources import simulated_sources

    url = wish.weather if wish.demo is None else wish.demo.weather
    return () if url is None else simulated_sources(url)


def _devices(wish: Wish, watcher: Watcher) -> Devices:
    if wish.demo is not None:
        from zealous_lark.cli.stand_ins import WatchedAircraft

        aircraft = AircraftListener()
        watcher.ask("send_to", aircraft.port)
        return Devices(aircraft, WindMeterListener("127.0.0.1", wish.demo.wind_meter), WatchedAircraft(watcher))
    try:
        listener = None if wish.aircraft is None else AircraftListener(wish.aircraft)
    except OSError as error:
        raise click.ClickException(f"cannot listen on UDP port {wish.aircraft} ({error.strerror})") from None
    return Devices(listener, None if wish.wind_meter is None else WindMeterListener(*wish.wind_meter))


def _log(level: str) -> None:
    """What happens, on standard error: never where a pilot is, nor what a plan says."""
    logging.basicConfig(level=level.upper(), format="%(asctime)s %(levelname)s %(name)s: %(message)s", force=True)
    for library in ("werkzeug", "httpx", "httpcore", "apscheduler"):
        # Their own lines name whole addresses, with the place that weather is asked for.
        logging.getLogger(library).setLevel(logging.WARNING)
    # That somebody waits a moment, as while a server begins, is nothing to tell of.
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)


def _lay_out(folder: Path, now: datetime, *, reset: bool) -> None:
    """The demo's data in a folder, whole: made beside it, so that one that was stopped meanwhile is begun again.

    Raises InUseError where they should be made again and somebody uses them.
    """
    from zealous_lark.demo.load import has_demo, load_demo
    from zealous_lark.store.database import FILE_NAME

    if not reset and has_demo(folder):
        return
    with claimed(folder, alone=True):
        half = folder / "half"
        shutil.rmtree(half, ignore_errors=True)
        database = Database(half)
        try:
            database.migrate()
            load_demo(database, now)
        finally:
            database.close()
        for suffix in ("", "-wal", "-shm"):
            (folder / f"{FILE_NAME}{suffix}").unlink(missing_ok=True)
        (half / FILE_NAME).rename(folder / FILE_NAME)
        shutil.rmtree(half)
