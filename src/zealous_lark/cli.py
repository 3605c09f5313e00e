"""The command line of Lark; each command's own help says what it does."""

from __future__ import annotations

import json
import sys
import threading
from collections.abc import Callable, Sequence
from datetime import UTC, date, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Literal

import click

from zealous_lark import __version__
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan import MAX_PLAN_BYTES, Known, PlanRefusedError, judge_plan, read_whole_plan, schema
from zealous_lark.sources import WeatherSource

if TYPE_CHECKING:
    from zealous_lark.desk.devices import Devices

BAD_INPUT = 64
EXIT_STATUS = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.STAY: 2, Verdict.UNKNOWN: 3}
PORT = 5870


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lark")
def lark() -> None:
    """Zealous Lark: launch decisions for camera-drone pilots.

    Lark shows what the numbers say and what was not checked. Local rules, the land
    owner, the aircraft's manual and the aviation authority decide.
    """


@lark.command()
@click.argument("plan", type=click.Path(dir_okay=False, allow_dash=True))
@click.option("--json", "as_json", is_flag=True, help="Write the result document.")
@click.option("--speed", type=click.Choice([u.value for u in SpeedUnit]), default="ms", show_default=True)
@click.option("--length", type=click.Choice([u.value for u in LengthUnit]), default="m", show_default=True)
@click.option("--temperature", type=click.Choice([u.value for u in TemperatureUnit]), default="c", show_default=True)
def check(plan: str, as_json: bool, speed: str, length: str, temperature: str) -> None:
    """Judge the plan document in the file PLAN, or on standard input with -.

    Exit status: 0 launch, 1 care, 2 stay, 3 unknown, 64 bad input.
    """
    try:
        with click.open_file(plan, "rb") as stream:
            raw = stream.read(MAX_PLAN_BYTES + 1)
    except OSError as error:
        click.echo(f"{plan}: {error.strerror or error}", err=True)
        sys.exit(BAD_INPUT)
    units = Units(SpeedUnit(speed), LengthUnit(length), TemperatureUnit(temperature))
    try:
        document = read_whole_plan(raw)
    except PlanRefusedError as error:
        click.echo(f"{plan} is not a plan that Lark can judge:", err=True)
        for refusal in error.refusals:
            click.echo(f"  {refusal}", err=True)
        sys.exit(BAD_INPUT)
    result = judge_plan(document, units, known=Known(judged_at=datetime.now(UTC)))
    if as_json:
        click.echo(result.model_dump_json(by_alias=True, indent=2))
    else:
        from zealous_lark.terminal import print_result

        print_result(document, result, units)
    sys.exit(EXIT_STATUS[result.verdict])


@lark.command(name="schema")
@click.argument("which", type=click.Choice(["plan", "result"]))
def print_schema(which: Literal["plan", "result"]) -> None:
    """Write the JSON Schema of the plan or of the result."""
    click.echo(json.dumps(schema(which), indent=2))


@lark.command()
def openapi() -> None:
    """Write the OpenAPI document of the server."""
    import tempfile

    from zealous_lark.store import Database
    from zealous_lark.web import create_app

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        click.echo(json.dumps(create_app(database).spec, indent=2, sort_keys=True))
        database.close()


def _utc_now() -> datetime:
    return datetime.now(UTC)


def _clock_of(today: date) -> Callable[[], datetime]:
    """A clock that goes as usual, but on another day."""
    away = today - datetime.now().astimezone().date()
    return lambda: _utc_now() + away


def _serve(
    folder: Path,
    host: str,
    port: int,
    sources: Sequence[WeatherSource],
    devices: Devices,
    clock: Callable[[], datetime],
    demo: bool,
) -> None:
    from waitress.server import create_server

    from zealous_lark.desk.demo import load_demo
    from zealous_lark.store import Database
    from zealous_lark.web import create_app

    if not demo:
        _back_up_if_due(folder)  # before anything is brought up to date
    database = Database(folder)
    database.migrate()
    if demo:
        load_demo(database, clock().astimezone())
    hosts = ("127.0.0.1", "localhost", host)
    app = create_app(database, clock=clock, trusted_hosts=hosts, sources=sources, devices=devices)
    try:
        server = create_server(app, host=host, port=port, threads=8, send_bytes=1)
    except OSError as error:
        raise click.ClickException(
            f"cannot listen on {host}:{port} ({error.strerror}); is Lark running already? Try --port."
        ) from None
    stopped = threading.Event()
    if not demo:
        threading.Thread(target=_back_up_daily, args=(folder, stopped), daemon=True).start()
    click.echo(f"Lark is ready on http://{host}:{server.effective_port} (data in {folder})")
    try:
        server.run()
    finally:
        stopped.set()
        database.close()


_HOST = click.option("--host", default="127.0.0.1", show_default=True)
_PORT = click.option("--port", type=click.IntRange(0, 65535), default=PORT, show_default=True)


@lark.command()
@_HOST
@_PORT
@click.option("--weather", metavar="ADDRESS", help="Address of the simulated weather services (lark weather-service).")
@click.option("--aircraft", metavar="PORT", type=click.IntRange(1, 65535), help="UDP port to listen on for MAVLink.")
@click.option("--wind-meter", metavar="HOST:PORT", help="Where a wind meter sends NMEA 0183 (lark wind-meter).")
def serve(host: str, port: int, weather: str | None, aircraft: int | None, wind_meter: str | None) -> None:
    """Serve the application with your own data (LARK_DATA, or your user data folder)."""
    from zealous_lark.store import data_folder

    _serve(data_folder(), host, port, _sources(weather), _devices(aircraft, wind_meter), _utc_now, demo=False)


def _devices(aircraft: int | None, wind_meter: str | None) -> Devices:
    from zealous_lark.desk.devices import Devices
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

    from zealous_lark.sources import HttpForecasts, HttpStation

    if address is None:
        return ()
    if urlsplit(address).scheme not in ("http", "https"):
        raise click.BadParameter(f"{address}: an address that begins with http:// or https://", param_hint="--weather")
    url = address.rstrip("/")
    return HttpForecasts(url), HttpStation(url)


@lark.command(name="weather-service")
@click.option("--port", type=click.IntRange(0, 65535), default=PORT + 1, show_default=True)
@click.option(
    "--day",
    type=click.Choice(["fair", "front", "sea_breeze", "frost_fog", "storm"]),
    default="fair",
    show_default=True,
    help="The kind of day when a request does not say.",
)
@click.option("--behave", type=click.Choice(["well", "slow", "down", "rubbish"]), default="well", show_default=True)
@click.option("--seed", type=int, default=0, show_default=True, help="The same seed gives the same weather.")
def weather_service(port: int, day: str, behave: str, seed: int) -> None:
    """Run the simulated forecast service and weather station, on this machine only."""
    from zealous_lark.standins.days import Day
    from zealous_lark.standins.services import Behave, Manner, Running

    try:
        running = Running(Manner(Day(day), Behave(behave), seed), port)
    except (OSError, SystemExit):
        raise click.ClickException(f"cannot listen on 127.0.0.1:{port}; try --port.") from None
    click.echo(f"Simulated weather is ready on {running.url}")
    running.wait()


@lark.command()
@click.option("--port", type=click.IntRange(1, 65535), default=14550, show_default=True, help="UDP port to send to.")
@click.option(
    "--behave",
    type=click.Choice(["well", "few_satellites", "no_home", "charge_falls", "compass", "return_height", "silent"]),
    default="well",
    show_default=True,
)
def aircraft(port: int, behave: str) -> None:
    """Run the simulated aircraft: it sends MAVLink to a UDP port of this machine."""
    from zealous_lark.standins.aircraft import Behaviour, SimulatedAircraft

    running = SimulatedAircraft(port, Behaviour(behave))
    click.echo(f"Simulated aircraft sends to 127.0.0.1:{port}")
    running.wait()


@lark.command(name="wind-meter")
@click.option("--port", type=click.IntRange(0, 65535), default=10110, show_default=True)
@click.option("--speed", type=click.FloatRange(0, 40), default=2.6, show_default=True, help="Mean wind [m/s].")
@click.option("--direction", type=click.FloatRange(0, 360), default=235, show_default=True, help="From where [°].")
def wind_meter(port: int, speed: float, direction: float) -> None:
    """Run the simulated wind meter: it sends NMEA 0183 MWV sentences to who connects, on this machine only."""
    from zealous_lark.standins.wind_meter import SimulatedWindMeter

    try:
        running = SimulatedWindMeter(speed, direction, port)
    except OSError:
        raise click.ClickException(f"cannot listen on 127.0.0.1:{port}; try --port.") from None
    click.echo(f"Simulated wind meter is ready on 127.0.0.1:{running.port}")
    running.wait()


@lark.command()
@_HOST
@_PORT
@click.option("--reset", is_flag=True, help="Throw the demo's data away and start over.")
@click.option(
    "--today",
    type=click.DateTime(["%Y-%m-%d"]),
    help="Day that it is in the demo, at the time of day that it is now.",
)
def demo(host: str, port: int, reset: bool, today: datetime | None) -> None:
    """Serve the application with the demo scenario, kept apart from your own data."""
    from zealous_lark.store import data_folder
    from zealous_lark.store.database import FILE_NAME

    folder = data_folder() / "demo"
    if reset:
        for suffix in ("", "-wal", "-shm"):
            (folder / f"{FILE_NAME}{suffix}").unlink(missing_ok=True)
    from zealous_lark.desk.devices import Devices
    from zealous_lark.sources.aircraft import AircraftListener
    from zealous_lark.sources.wind_meter import WindMeterListener
    from zealous_lark.standins.aircraft import SimulatedAircraft
    from zealous_lark.standins.services import Manner, Running
    from zealous_lark.standins.wind_meter import SimulatedWindMeter

    clock = _utc_now if today is None else _clock_of(today.date())
    weather = Running(Manner(), clock=clock)
    listener, meter = AircraftListener(), SimulatedWindMeter()
    devices = Devices(listener, WindMeterListener("127.0.0.1", meter.port), SimulatedAircraft(listener.port))
    try:
        _serve(folder, host, port, _sources(weather.url), devices, clock, demo=True)
    finally:
        weather.close()


@lark.command()
def backup() -> None:
    """Back up the database now, beside it; `lark serve` does so once a day by itself."""
    from zealous_lark.store import backup as backups
    from zealous_lark.store import data_folder

    folder = data_folder()
    _must_have_data(folder)
    click.echo(f"Backed up to {backups.back_up(folder, datetime.now())}")


@lark.command()
def backups() -> None:
    """List the backups, the latest first."""
    from zealous_lark.store import backup as kept
    from zealous_lark.store import data_folder

    found = kept.list_backups(data_folder())
    for one in found:
        click.echo(f"{one.made}  {one.path}")
    if not found:
        click.echo("No backup yet; lark backup makes one.")


@lark.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
@click.option("--yes", is_flag=True, help="Do not ask.")
def restore(path: Path, yes: bool) -> None:
    """Put the backup in the file PATH in place of the database, after a check. Stop lark serve first.

    What was there is backed up before.
    """
    from zealous_lark.store import Database, data_folder
    from zealous_lark.store import backup as backups

    folder = data_folder()
    try:
        backups.check(path)
        click.echo(f"{path} is sound.")
        if not yes:
            click.confirm(f"Put it in place of what is in {folder}?", abort=True)
        before = backups.restore(folder, path, datetime.now())
    except backups.BadBackupError as error:
        raise click.ClickException(f"{error}; nothing was changed") from None
    restored = Database(folder)
    restored.migrate()
    restored.close()
    click.echo("Restored." if before is None else f"Restored. What was there is in {before}")


@lark.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
def archive(path: Path) -> None:
    """Write everything that Lark has into the archive PATH, to be restored on another machine."""
    from zealous_lark.desk import archive as archives
    from zealous_lark.store import Database, data_folder

    folder = data_folder()
    _must_have_data(folder)
    database = Database(folder)
    database.migrate()
    try:
        half = path.with_name(path.name + ".part")
        half.write_bytes(archives.write(database, datetime.now(UTC)))
        half.rename(path)
    except OSError as error:
        raise click.ClickException(f"{path}: {error.strerror or error}") from None
    finally:
        database.close()
    click.echo(f"Wrote {path}")


@lark.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
def unarchive(path: Path) -> None:
    """Restore the archive PATH into an empty Lark (LARK_DATA, or your user data folder)."""
    from zealous_lark.desk import archive as archives
    from zealous_lark.desk.errors import NotAllowedError
    from zealous_lark.formats.errors import BadFileError
    from zealous_lark.store import Database, data_folder

    try:
        data = path.read_bytes()
    except OSError as error:
        raise click.ClickException(f"{path}: {error.strerror or error}") from None
    database = Database(data_folder())
    database.migrate()
    try:
        archives.restore(database, data)
    except (BadFileError, NotAllowedError) as error:
        raise click.ClickException(f"{path}: {error}; nothing was changed") from None
    finally:
        database.close()
    click.echo(f"Restored {path}")


def _must_have_data(folder: Path) -> None:
    from zealous_lark.store.database import FILE_NAME

    if not (folder / FILE_NAME).is_file():
        raise click.ClickException(f"there is no data in {folder} yet")


def _back_up_if_due(folder: Path) -> None:
    """The backup of this day, where there is something to back up. One that fails is said, and stops nothing."""
    import sqlite3

    from zealous_lark.store import backup as backups
    from zealous_lark.store.database import FILE_NAME

    here = datetime.now()
    try:
        if (folder / FILE_NAME).is_file() and backups.due(folder, here):
            backups.back_up(folder, here)
    except (OSError, sqlite3.Error) as error:
        click.echo(f"No backup could be made ({error}); it is tried again within the hour.", err=True)


def _back_up_daily(folder: Path, stopped: threading.Event) -> None:
    """A backup of each day, as long as the server runs."""
    while not stopped.wait(3600):
        _back_up_if_due(folder)


def main() -> None:
    """Run a command; whatever is wrong with the call ends with 64, never with a verdict's status."""
    try:
        lark(standalone_mode=False)
    except click.ClickException as error:
        error.show()
        sys.exit(BAD_INPUT)
    except (click.Abort, KeyboardInterrupt):
        sys.exit(130)
