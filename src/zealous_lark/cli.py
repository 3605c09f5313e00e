"""The command line: `lark check`, `lark schema`, `lark serve`, `lark demo`, `lark openapi`."""

from __future__ import annotations

import json
import sys
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Literal

import click

from zealous_lark import __version__
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan import MAX_PLAN_BYTES, PlanRefusedError, judge_plan, read_whole_plan, schema

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
    result = judge_plan(document, units)
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


def _serve(folder: Path, host: str, port: int, today: date | None, demo: bool) -> None:
    from waitress.server import create_server

    from zealous_lark.desk.demo import load_demo
    from zealous_lark.store import Database
    from zealous_lark.web import create_app

    database = Database(folder)
    database.migrate()
    if demo:
        here = datetime.now().astimezone()
        now = here if today is None else datetime.combine(today, here.timetz())
        load_demo(database, now.date(), now.astimezone(UTC))
    app = create_app(database, trusted_hosts=("127.0.0.1", "localhost", host))
    try:
        server = create_server(app, host=host, port=port, threads=8)
    except OSError as error:
        raise click.ClickException(
            f"cannot listen on {host}:{port} ({error.strerror}); is Lark running already? Try --port."
        ) from None
    click.echo(f"Lark is ready on http://{host}:{server.effective_port} (data in {folder})")
    try:
        server.run()
    finally:
        database.close()


_HOST = click.option("--host", default="127.0.0.1", show_default=True)
_PORT = click.option("--port", type=click.IntRange(0, 65535), default=PORT, show_default=True)


@lark.command()
@_HOST
@_PORT
def serve(host: str, port: int) -> None:
    """Serve the application with your own data (LARK_DATA, or your user data folder)."""
    from zealous_lark.store import data_folder

    _serve(data_folder(), host, port, None, demo=False)


@lark.command()
@_HOST
@_PORT
@click.option("--reset", is_flag=True, help="Throw the demo's data away and start over.")
@click.option(
    "--today",
    type=click.DateTime(["%Y-%m-%d"]),
    help="Day from which the demo's dates count, when first loaded.",
)
def demo(host: str, port: int, reset: bool, today: datetime | None) -> None:
    """Serve the application with the demo scenario, kept apart from your own data."""
    from zealous_lark.store import data_folder
    from zealous_lark.store.database import FILE_NAME

    folder = data_folder() / "demo"
    if reset:
        for suffix in ("", "-wal", "-shm"):
            (folder / f"{FILE_NAME}{suffix}").unlink(missing_ok=True)
    _serve(folder, host, port, today.date() if today else None, demo=True)


def main() -> None:
    """Run a command; whatever is wrong with the call ends with 64, never with a verdict's status."""
    try:
        lark(standalone_mode=False)
    except click.ClickException as error:
        error.show()
        sys.exit(BAD_INPUT)
    except (click.Abort, KeyboardInterrupt):
        sys.exit(130)
