"""A simulated aircraft: tells over MAVLink how it stands, and can be told to behave badly."""

from __future__ import annotations

import math
import socket
import threading
import time
from collections.abc import Callable, Mapping
from enum import StrEnum

from pymavlink.dialects.v20 import common

INTERVAL_S = 0.5


class Behaviour(StrEnum):
    WELL = "well"
    FEW_SATELLITES = "few_satellites"
    NO_HOME = "no_home"
    CHARGE_FALLS = "charge_falls"
    COMPASS = "compass"
    RETURN_HEIGHT = "return_height"
    SILENT = "silent"
    FLIES = "flies"


ABOUT: dict[str, str] = {
    Behaviour.WELL: "as it should",
    Behaviour.FEW_SATELLITES: "few satellites",
    Behaviour.NO_HOME: "home point not set",
    Behaviour.CHARGE_FALLS: "charge falling fast",
    Behaviour.COMPASS: "compass disturbed",
    Behaviour.RETURN_HEIGHT: "return height at 20 m",
    Behaviour.SILENT: "silent",
    Behaviour.FLIES: "flies out to 120 m",
}


_OUT_MS, _FARTHEST_M = 8.0, 120.0
_M_PER_DEG = 111_400.0


PAD_PCT = 98.0
"""The charge that it stands on its pad with, until a flight begins [%]."""


def packets(
    behaviour: Behaviour, seconds: float, rth_m: float = 40.0, lean_deg: float = 6.0, charge_pct: float = PAD_PCT
) -> list[bytes]:
    """What the aircraft says at a time since it was switched on [s]; nothing when it is silent.

    charge_pct: what is left in its battery now, of which misbehaviour takes more.
    """
    if behaviour is Behaviour.SILENT:
        return []
    link = common.MAVLink(None, srcSystem=1, srcComponent=1)
    few, falls = behaviour is Behaviour.FEW_SATELLITES, behaviour is Behaviour.CHARGE_FALLS
    flies = behaviour is Behaviour.FLIES
    charge = max(3, round(charge_pct - (2.0 if falls else 0.06 if flies else 0.0) * seconds))
    north = min(_OUT_MS * seconds, _FARTHEST_M) if flies else 0.0
    magnetometer = common.MAV_SYS_STATUS_SENSOR_3D_MAG
    healthy = 0 if behaviour is Behaviour.COMPASS else magnetometer
    cell_mv = 3500 + 8 * charge
    lean = math.radians(lean_deg)
    height = 20.0 if behaviour is Behaviour.RETURN_HEIGHT else rth_m
    messages = [
        link.heartbeat_encode(common.MAV_TYPE_QUADROTOR, common.MAV_AUTOPILOT_GENERIC, 0, 0, common.MAV_STATE_STANDBY),
        link.gps_raw_int_encode(0, 2 if few else 3, 586200000, 250800000, 42000, 80, 80, 0, 0, 5 if few else 17),
        link.sys_status_encode(magnetometer, magnetometer, healthy, 100, 2 * cell_mv, 0, charge, 0, 0, 0, 0, 0, 0),
        link.battery_status_encode(
            0, 0, common.MAV_BATTERY_TYPE_LIPO, 1900, [cell_mv, cell_mv] + [0xFFFF] * 8, 0, 0, 0, charge
        ),
        link.attitude_encode(round(1000 * seconds) % 2**32, 0.0, lean, 0.0, 0, 0, 0),
        link.global_position_int_encode(
            round(1000 * seconds) % 2**32,
            586200000 + round(1e7 * north / _M_PER_DEG),
            250800000,
            82000,
            40000,
            0,
            0,
            0,
            0,
        ),
        link.param_value_encode(b"RTL_ALT", 100 * height, common.MAV_PARAM_TYPE_REAL32, 1, 0),
    ]
    if behaviour is not Behaviour.NO_HOME:
        messages.append(link.home_position_encode(586200000, 250800000, 42000, 0, 0, 0, [1.0, 0.0, 0.0, 0.0], 0, 0, 0))
    return [bytes(m.pack(link)) for m in messages]


class SimulatedAircraft:
    """Sends what it says to a UDP port of the loopback, in a thread, until it is closed. port: 0 for nobody yet."""

    behaviours: Mapping[str, str] = ABOUT

    def __init__(
        self, port: int = 0, behaviour: Behaviour = Behaviour.WELL, clock: Callable[[], float] = time.monotonic
    ) -> None:
        self.behaviour, self._clock = behaviour, clock
        self._address = ("127.0.0.1", port)
        self._closed = threading.Event()
        self._began = self._clock()
        self._battery = (PAD_PCT, 0.0, self._began)
        threading.Thread(target=self._run, daemon=True).start()

    def send_to(self, port: int) -> None:
        """Send to another port from now on."""
        self._address = ("127.0.0.1", port)

    def behave(self, behaviour: str) -> None:
        """Behave otherwise from now on, as if just switched on."""
        self.behaviour, self._began = Behaviour(behaviour), self._clock()

    def take_off(self, charge_pct: float, drain_pct_per_s: float) -> None:
        """Begin a flight with a charge [%] that falls from now on."""
        self._battery = (charge_pct, drain_pct_per_s, self._clock())

    def land(self, charge_pct: float) -> None:
        """Stand on the ground with what the flight has left [%]."""
        self._battery = (charge_pct, 0.0, self._clock())

    @property
    def charge_pct(self) -> float:
        """What is left in its battery now [%]."""
        charge, drain, since = self._battery
        return max(charge - drain * (self._clock() - since), 0.0)

    def _run(self) -> None:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as out:
            while not self._closed.wait(INTERVAL_S):
                seconds = self._clock() - self._began
                said = packets(self.behaviour, seconds, charge_pct=self.charge_pct) if self._address[1] else ()
                for packet in said:
                    out.sendto(packet, self._address)

    def wait(self) -> None:
        """Keep on until interrupted."""
        self._closed.wait()

    def close(self) -> None:
        """Switch it off."""
        self._closed.set()
