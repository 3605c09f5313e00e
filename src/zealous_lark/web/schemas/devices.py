"""What the routes of the devices take and give."""

from __future__ import annotations

from pydantic import Field

from zealous_lark.web.schemas.common import In, Out


class HeardOut(Out):
    """since_s: since its last word; null: none yet. dropped: packets that were broken or not its own."""

    silent: bool
    since_s: float | None
    dropped: int


class TelemetryOut(Out):
    """What an aircraft says; nulls where it says nothing, and all of them while it is silent."""

    satellites: int | None
    fix: bool | None
    charge_pct: float | None
    voltage_v: float | None
    pack_temperature_c: float | None
    home_point_set: bool | None
    compass_checked: bool | None
    tilt_deg: float | None
    rth_altitude_m: float | None
    distance_m: float | None


class WayOut(Out):
    value: str
    label: str


class AircraftOut(Out):
    heard: HeardOut
    says: TelemetryOut
    behaviour: str | None = Field(description="Of a simulated one.")
    behaviours: list[WayOut]


class ReadingOut(Out):
    """The mean of the last half minute, and the greatest of it."""

    speed_ms: float
    direction_deg: float
    gust_ms: float
    samples: int


class WindMeterOut(Out):
    heard: HeardOut
    reading: ReadingOut | None


class DevicesOut(Out):
    aircraft: AircraftOut | None
    wind_meter: WindMeterOut | None


class BehaveIn(In):
    behaviour: str
