"""Devices that Lark listens to on site: an aircraft, a wind meter. It never speaks to them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from zealous_lark.core.flight.clock import Moment, drained_pct
from zealous_lark.core.meter import MeterReading
from zealous_lark.plan.flight import EventKind, EventPart
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.flights import Flight
from zealous_lark.sources.aircraft import AircraftListener, Telemetry
from zealous_lark.sources.listening import Heard
from zealous_lark.sources.wind_meter import WindMeterListener


class Simulated(Protocol):
    """An aircraft that is made up, and can be told how to behave. behaviours: the ways, each with words for people."""

    behaviours: Mapping[str, str]

    @property
    def behaviour(self) -> str:
        """How it behaves now."""
        ...

    def behave(self, behaviour: str) -> None:
        """Behave otherwise from now on."""
        ...

    def take_off(self, charge_pct: float, drain_pct_per_s: float) -> None:
        """Begin a flight with a charge [%] that falls from now on."""
        ...

    def land(self, charge_pct: float) -> None:
        """Stand on the ground with what the flight has left [%]."""
        ...


@dataclass(frozen=True, slots=True)
class Devices:
    """What is connected; simulated: the simulated aircraft that it is, where it is one."""

    aircraft: AircraftListener | None = None
    wind_meter: WindMeterListener | None = None
    simulated: Simulated | None = None

    def telemetry(self) -> tuple[Telemetry, Heard] | None:
        """What the aircraft says; None where none is connected."""
        return None if self.aircraft is None else self.aircraft.now()

    def wind(self) -> tuple[MeterReading | None, Heard] | None:
        """What the wind meter says; None where none is connected."""
        return None if self.wind_meter is None else self.wind_meter.now()


def behave(devices: Devices, behaviour: str) -> None:
    """Tell the simulated aircraft how to behave. Raises NotAllowedError where it is a real one, or for no such way."""
    if devices.simulated is None:
        raise NotAllowedError("behaviour", behaviour, "nothing: the aircraft is not a simulated one")
    if behaviour not in devices.simulated.behaviours:
        raise NotAllowedError("behaviour", behaviour, ", ".join(devices.simulated.behaviours))
    devices.simulated.behave(behaviour)


_WITHOUT_CARD_PCT_PER_S = 0.05
_LOOKED_AT_S = 600.0


def follow(devices: Devices, flight: Flight, events: Sequence[EventPart]) -> None:
    """Let the simulated aircraft fly what the pilot flies: its battery falls as planned, and stays as it landed."""
    if devices.simulated is None:
        return
    for event in events:
        if event.kind is EventKind.TAKEOFF and event.value is not None and not flight.landed:
            rate, card = _WITHOUT_CARD_PCT_PER_S, flight.card
            if card is not None:
                there = Moment(_LOOKED_AT_S, card.distances_m[2])
                rate = drained_pct(card, there, _LOOKED_AT_S) / _LOOKED_AT_S
            devices.simulated.take_off(event.value, rate)
        if event.kind is EventKind.LANDED and event.value is not None:
            devices.simulated.land(event.value)
