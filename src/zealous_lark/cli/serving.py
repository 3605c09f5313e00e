"""Commands that serve the application: with the pilot's own data, or with the demo."""

from __future__ import annotations

import socket
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import click

from zealous_lark.cli.watched import Held, Here, can_watch, prepare, watch
from zealous_lark.cli.wish import ANY, FIELD_PORT, DemoWish, Doors, Wish

PORT = 5870


def _utc_now() -> datetime:
    return datetime.now(UTC)


def _serve(wish: Wish, port: int, *, watched: bool) -> None:
    """Serve what is wished for until it is ended. For the demo its stand-ins live here, and outlive a server."""
    watched = watched and can_watch()
    if watched:
        prepare()
    with closing(_listening(wish.host, port)) as listening:
        held = Held([listening])
        stand_ins = None
        if wish.demo is not None:
            from zealous_lark.cli.stand_ins import StandIns

            stand_ins = StandIns(wish.clock)
            demo = replace(wish.demo, weather=stand_ins.weather, wind_meter=stand_ins.wind_meter)
            wish = replace(wish, demo=demo)
        doing = {} if stand_ins is None else stand_ins.doing
        try:
            if watched:
                watch(wish, held, doing)
            else:
                from zealous_lark.cli.server import serve as serve_here

                serve_here(wish, held.listening, None, Here({**doing, "hold_field": held.hold_field}))
        finally:
            if stand_ins is not None:
                stand_ins.close()


def _listening(host: str, port: int) -> socket.socket:
    """A socket that listens already, so that nobody is refused while a server begins."""
    try:
        family, kind, protocol, _, address = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)[0]
        made = socket.socket(family, kind, protocol)
        made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        made.bind(address)
        made.listen()
    except OSError as error:
        raise click.ClickException(
            f"cannot listen on {host}:{port} ({error.strerror}); is Lark running already? Try --port."
        ) from None
    return made


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
_UNWATCHED = click.option(
    "--unwatched", is_flag=True, help="Serve in one process, for use under a supervisor that restarts it."
)
_PORT = click.option("--port", type=click.IntRange(0, 65535), default=PORT, show_default=True)


@click.command()
@click.option("--behind-proxy", is_flag=True, is_eager=True, help="Every request signs in; TLS is a proxy's in front.")
@click.option("--name", "names", multiple=True, metavar="NAME", help="A name under which the proxy is asked for.")
@_HOST
@_PORT
@_with_field
@_LOG_LEVEL
@_UNWATCHED
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
    unwatched: bool,
    weather: str | None,
    aircraft: int | None,
    wind_meter: str | None,
) -> None:
    """Serve the application with your own data (LARK_DATA, or your user data folder)."""
    from zealous_lark.store.database import data_folder

    if field and behind_proxy:
        raise click.UsageError("--field and --behind-proxy are two ways to the same: choose one.")
    wish = Wish(
        data_folder(), host, log_level, Doors(field, field_address, field_port, behind_proxy, names),
        weather=None if weather is None else _address(weather), aircraft=aircraft,
        wind_meter=None if wind_meter is None else _host_and_port(wind_meter),
    )  # fmt: skip
    _serve(wish, port, watched=not unwatched)


def _address(text: str) -> str:
    from urllib.parse import urlsplit

    if urlsplit(text).scheme not in ("http", "https"):
        raise click.BadParameter(f"{text}: an address that begins with http:// or https://", param_hint="--weather")
    return text.rstrip("/")


def _host_and_port(text: str) -> tuple[str, int]:
    name, _, number = text.rpartition(":")
    if not (name and number.isdigit() and 0 < int(number) < 65536):
        raise click.BadParameter(f"{text}: a host and a port, like 127.0.0.1:10110", param_hint="--wind-meter")
    return name, int(number)


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


@click.command()
@_HOST
@_PORT
@_with_field
@_LOG_LEVEL
@_UNWATCHED
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
    unwatched: bool,
    reset: bool,
    today: datetime | None,
) -> None:
    """Serve the application with the demo scenario, kept apart from your own data."""
    from zealous_lark.store.database import data_folder

    wish = Wish(
        data_folder() / "demo", host, log_level, Doors(field, field_address, field_port),
        ahead=timedelta(0) if today is None else today.date() - datetime.now().astimezone().date(),
        demo=DemoWish(reset, weather="", wind_meter=0),
    )  # fmt: skip
    _serve(wish, port, watched=not unwatched)


COMMANDS = (serve, phrase, demo)
