"""An aircraft that speaks MAVLink over UDP: read only, Lark never sends it commands.

Messages are those of the common dialect; the return height is the parameter RTL_ALT in centimetres, as open flight
controllers name it.
"""

from __future__ import annotations

import math
import socket
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from pymavlink.dialects.v20 import common

from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.sources.listening import SILENT_S, Heard, Listener

_MAGNETOMETER = common.MAV_SYS_STATUS_SENSOR_3D_MAG
_LARGEST = 2048


@dataclass(frozen=True, slots=True)
class Telemetry:
    """What an aircraft said last; None: nothing yet.

    charge_pct [%], voltage_v [V], pack_temperature_c [°C], tilt_deg: off level [°], rth_altitude_m [m],
    distance_m: from its home point [m], position: latitude and longitude [°].
    """

    satellites: int | None = None
    fix: bool | None = None
    charge_pct: float | None = None
    voltage_v: float | None = None
    pack_temperature_c: float | None = None
    home_point_set: bool | None = None
    compass_checked: bool | None = None
    tilt_deg: float | None = None
    rth_altitude_m: float | None = None
    distance_m: float | None = None
    position: tuple[float, float] | None = None


class AircraftListener(Listener):
    """Listens on a UDP port of the loopback. Packets that are cut short or forged are dropped and counted."""

    def __init__(self, port: int = 0, clock: Callable[[], float] = time.monotonic) -> None:
        """Raises OSError where the port is taken."""
        super().__init__(clock)
        self._socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._socket.bind(("127.0.0.1", port))
        self._socket.settimeout(0.5)
        self.port: int = self._socket.getsockname()[1]
        self._telemetry = Telemetry()
        self._home_at: float | None = None
        self._home: tuple[float, float] | None = None
        self._start()

    def _run(self) -> None:
        while not self._closed.is_set():
            try:
                packet, _ = self._socket.recvfrom(_LARGEST)
            except TimeoutError:
                continue
            except OSError:
                return
            self.take(packet)
        self._socket.close()

    def take(self, packet: bytes) -> None:
        """One packet off the wire: whole messages count, what is left over or broken is dropped."""
        messages, broken = decode(packet)
        with self._lock:
            self._dropped += broken
            for message in messages:
                self._telemetry = _taken(self._telemetry, message)
                if message.get_type() == "HOME_POSITION":
                    self._home_at = self._clock()
                    self._home = message.latitude / 1e7, message.longitude / 1e7
            if messages:
                self._word()

    def now(self) -> tuple[Telemetry, Heard]:
        """What it says now. Once it is silent, nothing: an old value is not shown as now."""
        heard = self.heard()
        if heard.silent:
            return Telemetry(), heard
        with self._lock:
            # It tells its home point again and again while it has one.
            home = self._home_at is not None and self._clock() - self._home_at <= SILENT_S
            at, far = self._telemetry.position, None
            if home and self._home is not None and at is not None:
                far = bearing_and_distance(*self._home, *at)[1]
            return replace(self._telemetry, home_point_set=home, distance_m=far), heard


def decode(packet: bytes) -> tuple[list[Any], int]:
    """The messages of a packet, and 1 where something of it is no message of the dialect."""
    parser = common.MAVLink(None)
    parser.robust_parsing = True
    try:
        found = parser.parse_buffer(packet) or []
    except (common.MAVError, ValueError):
        return [], 1
    # A message that the dialect does not know has no checksum that could be checked.
    good = [m for m in found if m.get_type() != "BAD_DATA" and not m.get_type().startswith("UNKNOWN")]
    whole = sum(len(m.get_msgbuf()) for m in good) == len(packet)
    return good, 0 if whole and len(good) == len(found) else 1


def _taken(t: Telemetry, message: Any) -> Telemetry:
    match message.get_type():
        case "GPS_RAW_INT":
            seen = message.satellites_visible
            fix = message.fix_type >= common.GPS_FIX_TYPE_3D_FIX
            return replace(t, satellites=None if seen == 255 else seen, fix=fix)
        case "SYS_STATUS":
            health = message.onboard_control_sensors_health & _MAGNETOMETER
            present = message.onboard_control_sensors_present & _MAGNETOMETER
            return replace(t, compass_checked=bool(health) if present else None)
        case "BATTERY_STATUS":
            left, warmth, cells = message.battery_remaining, message.temperature, message.voltages
            volts = sum(v for v in cells if v != 0xFFFF) / 1000
            return replace(
                t,
                charge_pct=None if left < 0 else float(left),
                pack_temperature_c=None if warmth == 0x7FFF else warmth / 100,
                voltage_v=volts or None,
            )
        case "ATTITUDE":
            tilt = math.acos(max(-1.0, min(1.0, math.cos(message.roll) * math.cos(message.pitch))))
            return replace(t, tilt_deg=math.degrees(tilt))
        case "GLOBAL_POSITION_INT":
            return replace(t, position=(message.lat / 1e7, message.lon / 1e7))
        case "PARAM_VALUE" if message.param_id.rstrip("\0") == "RTL_ALT":
            return replace(t, rth_altitude_m=message.param_value / 100)
    return t
