"""Commands that run the simulated services and devices, on this machine only."""

from __future__ import annotations

import click

WEATHER_PORT = 5871


@click.command(name="weather-service")
@click.option("--port", type=click.IntRange(0, 65535), default=WEATHER_PORT, show_default=True)
@click.option(
    "--day",
    type=click.Choice(["fair", "front", "sea_breeze", "frost_fog", "storm"]),
    default="fair",
    show_default=True,
    help="The kind of day; it can be changed on the service's own page.",
)
@click.option("--behave", type=click.Choice(["well", "slow", "down", "rubbish"]), default="well", show_default=True)
@click.option("--seed", type=int, default=0, show_default=True, help="The same seed gives the same weather.")
def weather_service(port: int, day: str, behave: str, seed: int) -> None:
    """Run the simulated weather service (OGC API – EDR), on this machine only."""
    from zealous_lark.simulators.days import Day
    from zealous_lark.simulators.services import Behave, Manner, Running

    try:
        running = Running(Manner(Day(day), Behave(behave), seed), port)
    except (OSError, SystemExit):
        raise click.ClickException(f"cannot listen on 127.0.0.1:{port}; try --port.") from None
    click.echo(f"Simulated weather is ready on {running.url} (told what to do under /control)")
    running.wait()


@click.command()
@click.option("--port", type=click.IntRange(1, 65535), default=14550, show_default=True, help="UDP port to send to.")
@click.option(
    "--behave",
    type=click.Choice(["well", "few_satellites", "no_home", "charge_falls", "compass", "return_height", "silent"]),
    default="well",
    show_default=True,
)
def aircraft(port: int, behave: str) -> None:
    """Run the simulated aircraft: it sends MAVLink to a UDP port of this machine."""
    from zealous_lark.simulators.aircraft import Behaviour, SimulatedAircraft

    running = SimulatedAircraft(port, Behaviour(behave))
    click.echo(f"Simulated aircraft sends to 127.0.0.1:{port}")
    running.wait()


@click.command(name="wind-meter")
@click.option("--port", type=click.IntRange(0, 65535), default=10110, show_default=True)
@click.option("--speed", type=click.FloatRange(0, 40), default=2.6, show_default=True, help="Mean wind [m/s].")
@click.option("--direction", type=click.FloatRange(0, 360), default=235, show_default=True, help="From where [°].")
def wind_meter(port: int, speed: float, direction: float) -> None:
    """Run the simulated wind meter: it sends NMEA 0183 MWV sentences to who connects, on this machine only."""
    from zealous_lark.simulators.wind_meter import SimulatedWindMeter

    try:
        running = SimulatedWindMeter(speed, direction, port)
    except OSError:
        raise click.ClickException(f"cannot listen on 127.0.0.1:{port}; try --port.") from None
    click.echo(f"Simulated wind meter is ready on 127.0.0.1:{running.port}")
    running.wait()


COMMANDS = (weather_service, aircraft, wind_meter)
