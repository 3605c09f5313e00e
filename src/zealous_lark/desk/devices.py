"""Devices that Lark listens to on site: an aircraft, a wind meter. It never speaks to them."""

from __future__ import annotations

from dataclasses import dataclass

from zealous_lark.core.meter import MeterReading
from zealous_lark.desk.errors import NotAllowedError
from zealous_lark.sources.aircraft import AircraftListener, Telemetry
from zealous_lark.sources.listening import Heard
from zealous_lark.sources.wind_meter import WindMeterListener
from zealous_lark.standins.aircraft import ABOUT, Behaviour, SimulatedAircraft


@dataclass(frozen=True, slots=True)
class Devices:
    """What is connected; simulated: the stand-in that the aircraft is, where it is one."""

    aircraft: AircraftListener | None = None
    wind_meter: WindMeterListener | None = None
    simulated: SimulatedAircraft | None = None

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
    if behaviour not in ABOUT:
        raise NotAllowedError("behaviour", behaviour, ", ".join(ABOUT))
    devices.simulated.behave(Behaviour(behaviour))
