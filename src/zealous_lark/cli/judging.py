"""Commands that judge a plan, and that write what plans, results and the server's interface look like."""

from __future__ import annotations

import json
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Literal

import click

from zealous_lark.cli.status import BAD_INPUT, EXIT_STATUS
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units


@click.command()
@click.argument("plan", type=click.Path(dir_okay=False, allow_dash=True))
@click.option("--json", "as_json", is_flag=True, help="Write the result document.")
@click.option("--speed", type=click.Choice([u.value for u in SpeedUnit]), default="ms", show_default=True)
@click.option("--length", type=click.Choice([u.value for u in LengthUnit]), default="m", show_default=True)
@click.option("--temperature", type=click.Choice([u.value for u in TemperatureUnit]), default="c", show_default=True)
def check(plan: str, as_json: bool, speed: str, length: str, temperature: str) -> None:
    """Judge the plan document in the file PLAN, or on standard input with -.

    Exit status: 0 launch, 1 care, 2 stay, 3 unknown, 64 bad input.
    """
    from zealous_lark.plan import MAX_PLAN_BYTES, Known, PlanRefusedError, judge_plan, read_whole_plan

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
        click.echo(f"Lark can't check {plan}:", err=True)
        for refusal in error.refusals:
            click.echo(f"  {refusal}", err=True)
        sys.exit(BAD_INPUT)
    result = judge_plan(document, units, known=Known(judged_at=datetime.now(UTC)))
    if as_json:
        click.echo(result.model_dump_json(by_alias=True, indent=2))
    else:
        from zealous_lark.cli.terminal import print_result

        print_result(document, result, units)
    sys.exit(EXIT_STATUS[result.verdict])


@click.command(name="schema")
@click.argument("which", type=click.Choice(["plan", "result"]))
def print_schema(which: Literal["plan", "result"]) -> None:
    """Write the JSON Schema of the plan or of the result."""
    from zealous_lark.plan import schema

    click.echo(json.dumps(schema(which), indent=2))


@click.command()
def openapi() -> None:
    """Write the OpenAPI document of the server."""
    import tempfile

    from zealous_lark.store import Database
    from zealous_lark.web import create_app

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        click.echo(json.dumps(create_app(database).spec, indent=2, sort_keys=True))
        database.close()


COMMANDS = (check, print_schema, openapi)
