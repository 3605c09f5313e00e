"""The demo's stand-ins, which live where the server is watched and outlive it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime
from typing import Any

from zealous_lark.cli.watched import Watcher
from zealous_lark.simulators.aircraft import ABOUT, SimulatedAircraft
from zealous_lark.simulators.services import Manner, Running
from zealous_lark.simulators.wind_meter import SimulatedWindMeter


class StandIns:
    """A weather service, an aircraft and a wind meter, on the loopback."""

    def __init__(self, clock: Callable[[], datetime]) -> None:
        self._weather = Running(Manner(), clock=clock)
        self._aircraft = SimulatedAircraft()
        self._meter = SimulatedWindMeter()

    @property
    def weather(self) -> str:
        """The weather service's address."""
        return self._weather.url

    @property
    def wind_meter(self) -> int:
        """The wind meter's port."""
        return self._meter.port

    @property
    def doing(self) -> Mapping[str, Callable[..., Any]]:
        """What a server may ask for."""
        aircraft = self._aircraft
        return {
            "send_to": aircraft.send_to,
            "behaviour": lambda: str(aircraft.behaviour),
            "behave": aircraft.behave,
            "take_off": aircraft.take_off,
            "land": aircraft.land,
        }

    def close(self) -> None:
        """Stop all of them."""
        self._weather.close()
        self._aircraft.close()
        self._meter.close()


class WatchedAircraft:
    """The simulated aircraft, as a server speaks of it."""

    behaviours: Mapping[str, str] = ABOUT

    def __init__(self, watcher: Watcher) -> None:
        self._watcher = watcher

    @property
    def behaviour(self) -> str:
        """How it behaves now."""
        return str(self._watcher.ask("behaviour"))

    def behave(self, behaviour: str) -> None:
        """Behave otherwise from now on."""
        self._watcher.ask("behave", behaviour)

    def take_off(self, charge_pct: float, drain_pct_per_s: float) -> None:
        """Begin a flight with a charge [%] that falls from now on."""
        self._watcher.ask("take_off", charge_pct, drain_pct_per_s)

    def land(self, charge_pct: float) -> None:
        """Stand on the ground with what the flight has left [%]."""
        self._watcher.ask("land", charge_pct)
