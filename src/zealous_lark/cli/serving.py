"""Commands that serve the application: with the pilot's own data, or with the demo."""

from __future__ import annotations

import contextlib
import faulthandler
import io
import logging
import shutil
import signal
import sys
import threading
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from zealous_lark.cli.data import back_up_daily, back_up_if_due

if TYPE_CHECKING:
    from apiflask import APIFlask
    from apscheduler.schedulers.base import BaseScheduler

    from zealous_lark.cli.field import FieldServer
    from zealous_lark.services.devices import Devices
    from zealous_lark.sources import WeatherSource
    from zealous_lark.store import Database

PORT = 5870
FIELD_PORT = 5871
ANY = "0.0.0.0"


@dataclass(frozen=True, slots=True)
class _Doors:
    """How Lark is reached from elsewhere: by its own listener on the local network, or behind a proxy, by its names."""

    field: bool = False
    address: str = ANY
    port: int = FIELD_PORT
    behind_proxy: bool = False
    names: tuple[str, ...] = ()


def _utc_now() -> datetime:
    return datetime.now(UTC)


def _clock_of(today: date) -> Callable[[], datetime]:
    """A clock that goes as usual, but on another day."""
    away = today - datetime.now().astimezone().date()
    return lambda: _utc_now() + away


def _log(level: str) -> None:
    """What happens, on standard error: never where a pilot is, nor what a plan says."""
    logging.basicConfig(level=level.upper(), format="%(asctime)s %(levelname)s %(name)s: %(message)s", force=True)
    for library in ("werkzeug", "httpx", "httpcore", "apscheduler"):
        # Their own lines name whole addresses, with the place that weather is asked for.
        logging.getLogger(library).setLevel(logging.WARNING)


def _serve(
    folder: Path,
    host: str,
    port: int,
    sources: Sequence[WeatherSource],
    devices: Devices,
    clock: Callable[[], datetime],
    *,
    own: bool = True,
    doors: _Doors = _Doors(),
) -> None:
    """Serve the data in a folder until it is stopped. own: the pilot's, which are backed up each day."""
    from waitress.server import create_server

    from zealous_lark.services import tracks
    from zealous_lark.services.sources import move_keys
    from zealous_lark.store import Database
    from zealous_lark.store.backup import BadBackupError, back_up_before_migrating
    from zealous_lark.store.claim import claimed
    from zealous_lark.web import create_app

    with claimed(folder, alone=False):
        _close_to_others(folder)
        if own:
            back_up_if_due(folder)  # before anything is brought up to date
        try:
            back_up_before_migrating(folder, datetime.now())
        except BadBackupError as error:
            raise click.ClickException(
                f"{error}; nothing was changed. lark backups lists the backups, lark restore takes one."
            ) from None
        database = Database(folder)
        database.migrate()
        tracks.measure_anew(database, datetime.now().astimezone())
        move_keys(database)
        from zealous_lark.cli.field import FieldServer

        field = FieldServer(folder, doors.address, doors.port)
        hosts = ("127.0.0.1", "localhost", host, *doors.names)
        app = create_app(
            database, clock=clock, trusted_hosts=hosts, sources=sources, devices=devices,
            field=None if doors.behind_proxy else field, doors_shut=doors.behind_proxy,
        )  # fmt: skip
        field.serve(app)
        try:
            server = create_server(
                app,
                host=host,
                port=port,
                threads=8,
                send_bytes=1,
                channel_request_lookahead=1,  # so that it is seen when who asked has gone
                **(_PROXIED if doors.behind_proxy else {}),
            )
        except OSError as error:
            raise click.ClickException(
                f"cannot listen on {host}:{port} ({error.strerror}); is Lark running already? Try --port."
            ) from None
        stopped = threading.Event()
        watching = _watching(database, sources, clock)
        if own:
            threading.Thread(target=back_up_daily, args=(folder, stopped), daemon=True).start()
        ready = f"Lark is ready on http://{host}:{server.effective_port} (data in {folder})"
        click.echo("\n".join([ready, *(_opened_to_the_field(field, app) if doors.field else ())]))
        # Ended by the system as by a key: what is being written is written, and the log merged into the file.
        signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
        # Should a library in C ever bring the process down, it says where: the names of functions, no data.
        with contextlib.suppress(OSError, ValueError, RuntimeError, AttributeError):  # no real place to say it to
            faulthandler.enable()
        try:
            server.run()
        finally:
            stopped.set()
            field.stop()
            watching.shutdown(wait=False)
            database.close()


def _close_to_others(folder: Path) -> None:
    """Let only the pilot's own account read the data, and say what had to be done for it."""
    from zealous_lark.store.private import make_private

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


_PROXIED: dict[str, Any] = {
    # The proxy may have any address, in a container at least; nothing else may reach this one. It says who asks.
    "trusted_proxy": "*",
    "trusted_proxy_count": 1,
    "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto", "x-forwarded-host"},
}


def _opened_to_the_field(field: FieldServer, app: APIFlask) -> list[str]:
    """Listen on the local network; how a phone gets in, in lines."""
    import segno

    from zealous_lark.web.context import DOORS

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


WATCH_MIN = 30
"""How often sessions ahead are looked at again [min]; forecasts are renewed every few hours."""
_FIRST_AFTER_MIN = 2


def _watching(database: Database, sources: Sequence[WeatherSource], clock: Callable[[], datetime]) -> BaseScheduler:
    """Looks at the sessions ahead now and then, in a thread of its own."""
    from apscheduler.schedulers.background import BackgroundScheduler

    from zealous_lark.services import watch
    from zealous_lark.services.sources import connected

    def look() -> None:
        watch.look(database, connected(database, sources), clock())

    scheduler = BackgroundScheduler(daemon=True, timezone=UTC)
    first = _utc_now() + timedelta(minutes=_FIRST_AFTER_MIN)
    # Late is better than not at all: a laptop that slept looks once when it wakes, and never twice at a time.
    scheduler.add_job(
        look, "interval", minutes=WATCH_MIN, next_run_time=first, coalesce=True, max_instances=1,
        misfire_grace_time=None,
    )  # fmt: skip
    scheduler.start()
    return scheduler


def _only_here(context: click.Context, _parameter: click.Parameter, value: str) -> str:
    """Another address than this computer's own is for those who ask every request who it is of."""
    from ipaddress import ip_address

    here = value == "localhost"
    with suppress(ValueError):
        here = here or ip_address(value).is_loopback
    if here or context.params.get("behind_proxy"):
        return value
    raise click.BadParameter(
        f"{value} would open your data to everybody on the network. Use --field for your phone, or --behind-proxy."
    )


_HOST = click.option("--host", default="127.0.0.1", show_default=True, callback=_only_here)


def _with_field(command: Callable[..., None]) -> Callable[..., None]:
    for option in (
        click.option("--field-address", default=ANY, metavar="ADDRESS", help="Listen there on one address alone."),
        click.option("--field-port", type=click.IntRange(0, 65535), default=FIELD_PORT, show_default=True),
        click.option("--field", is_flag=True, help="Listen on the local network too, over TLS, for paired devices."),
    ):
        command = option(command)
    return command


_LOG_LEVEL = click.option(
    "--log-level",
    type=click.Choice(["debug", "info", "warning", "error"]),
    default="warning",
    show_default=True,
    help="How much is told on standard error; no coordinates, and nothing of what plans say.",
)
_PORT = click.option("--port", type=click.IntRange(0, 65535), default=PORT, show_default=True)


@click.command()
@click.option("--behind-proxy", is_flag=True, is_eager=True, help="Every request signs in; TLS is a proxy's in front.")
@click.option("--name", "names", multiple=True, metavar="NAME", help="A name under which the proxy is asked for.")
@_HOST
@_PORT
@_with_field
@_LOG_LEVEL
@click.option("--weather", metavar="ADDRESS", help="Address of the simulated weather service (lark weather-service).")
@click.option("--aircraft", metavar="PORT", type=click.IntRange(1, 65535), help="UDP port to listen on for MAVLink.")
@click.option("--wind-meter", metavar="HOST:PORT", help="Where a wind meter sends NMEA 0183 (lark wind-meter).")
def serve(
    behind_proxy: bool,
    names: tuple[str, ...],
    host: str,
    port: int,
    field: bool,
    field_port: int,
    field_address: str,
    log_level: str,
    weather: str | None,
    aircraft: int | None,
    wind_meter: str | None,
) -> None:
    """Serve the application with your own data (LARK_DATA, or your user data folder)."""
    from zealous_lark.store import data_folder

    _log(log_level)
    if field and behind_proxy:
        raise click.UsageError("--field and --behind-proxy are two ways to the same: choose one.")
    doors = _Doors(field, field_address, field_port, behind_proxy, names)
    _serve(data_folder(), host, port, _sources(weather), _devices(aircraft, wind_meter), _utc_now, doors=doors)


@click.command()
def phrase() -> None:
    """Set the pass phrase by which devices sign in from elsewhere; all that were paired are withdrawn."""
    from zealous_lark.services.access import Doors
    from zealous_lark.services.errors import NotAllowedError
    from zealous_lark.store import data_folder

    typed = click.prompt("Pass phrase", hide_input=True, confirmation_prompt=True)
    folder = data_folder()
    folder.mkdir(parents=True, exist_ok=True)
    try:
        Doors(folder, _utc_now).set_phrase(typed)
    except NotAllowedError as error:
        raise click.BadParameter(f"{error.given}; it needs {error.allowed}", param_hint="the pass phrase") from None
    click.echo("The pass phrase is set. Every device has to sign in again.")


def _devices(aircraft: int | None, wind_meter: str | None) -> Devices:
    from zealous_lark.services.devices import Devices
    from zealous_lark.sources.aircraft import AircraftListener
    from zealous_lark.sources.wind_meter import WindMeterListener

    meter = None
    if wind_meter is not None:
        name, _, number = wind_meter.rpartition(":")
        if not (name and number.isdigit() and 0 < int(number) < 65536):
            raise click.BadParameter(
                f"{wind_meter}: a host and a port, like 127.0.0.1:10110", param_hint="--wind-meter"
            )
        meter = WindMeterListener(name, int(number))
    try:
        listener = None if aircraft is None else AircraftListener(aircraft)
    except OSError as error:
        raise click.ClickException(f"cannot listen on UDP port {aircraft} ({error.strerror})") from None
    return Devices(listener, meter)


def _sources(address: str | None) -> Sequence[WeatherSource]:
    from urllib.parse import urlsplit

    from zealous_lark.simulators.sources import simulated_sources

    if address is None:
        return ()
    if urlsplit(address).scheme not in ("http", "https"):
        raise click.BadParameter(f"{address}: an address that begins with http:// or https://", param_hint="--weather")
    url = address.rstrip("/")
    return simulated_sources(url)


def _lay_out(folder: Path, now: datetime, *, again: bool) -> None:
    """The demo's data in a folder, whole: made beside it, so that one that was stopped meanwhile is begun again.

    Raises InUseError where they should be made again and somebody uses them.
    """
    from zealous_lark.demo.load import has_demo, load_demo
    from zealous_lark.store import Database
    from zealous_lark.store.claim import claimed
    from zealous_lark.store.database import FILE_NAME

    if not again and has_demo(folder):
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


@click.command()
@_HOST
@_PORT
@_with_field
@_LOG_LEVEL
@click.option("--reset", is_flag=True, help="Throw the demo's data away and start over.")
@click.option(
    "--today",
    type=click.DateTime(["%Y-%m-%d"]),
    help="Date to use in the demo (with the current time).",
)
def demo(
    host: str,
    port: int,
    field: bool,
    field_port: int,
    field_address: str,
    log_level: str,
    reset: bool,
    today: datetime | None,
) -> None:
    """Serve the application with the demo scenario, kept apart from your own data."""
    from zealous_lark.store import data_folder

    _log(log_level)
    folder = data_folder() / "demo"
    from zealous_lark.services.devices import Devices
    from zealous_lark.simulators.aircraft import SimulatedAircraft
    from zealous_lark.simulators.services import Manner, Running
    from zealous_lark.simulators.wind_meter import SimulatedWindMeter
    from zealous_lark.sources.aircraft import AircraftListener
    from zealous_lark.sources.wind_meter import WindMeterListener

    clock = _utc_now if today is None else _clock_of(today.date())
    _lay_out(folder, clock().astimezone(), again=reset)
    weather = Running(Manner(), clock=clock)
    listener, meter = AircraftListener(), SimulatedWindMeter()
    devices = Devices(listener, WindMeterListener("127.0.0.1", meter.port), SimulatedAircraft(listener.port))
    try:
        _serve(
            folder, host, port, _sources(weather.url), devices, clock, own=False,
            doors=_Doors(field, field_address, field_port),
        )  # fmt: skip
    finally:
        weather.close()


COMMANDS = (serve, phrase, demo)
