"""The API of the devices that Lark listens to."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.services.devices import behave
from zealous_lark.sources.listening import Heard
from zealous_lark.web.context import devices, json_answer
from zealous_lark.web.http import body, writes_nothing
from zealous_lark.web.schemas import devices as b

api = APIBlueprint("devices", __name__, url_prefix="/api")


def _heard(heard: Heard) -> b.HeardOut:
    return b.HeardOut(silent=heard.silent, since_s=heard.since_s, dropped=heard.dropped)


def _devices() -> Response:
    connected = devices()
    aircraft, wind = connected.telemetry(), connected.wind()
    simulated = connected.simulated
    return json_answer(
        b.DevicesOut(
            aircraft=None
            if aircraft is None
            else b.AircraftOut(
                heard=_heard(aircraft[1]),
                says=b.TelemetryOut(**{k: v for k, v in asdict(aircraft[0]).items() if k != "position"}),
                behaviour=None if simulated is None else simulated.behaviour,
                behaviours=[]
                if simulated is None
                else [b.WayOut(value=v, label=w) for v, w in simulated.behaviours.items()],
            ),
            wind_meter=None
            if wind is None
            else b.WindMeterOut(
                heard=_heard(wind[1]), reading=None if wind[0] is None else b.ReadingOut(**asdict(wind[0]))
            ),
        )
    )


@api.get("/devices")
@api.output(b.DevicesOut)
@api.doc(summary="What aircraft and wind meter say; nothing of one that has been silent for three seconds")
def list_devices() -> Response:
    """The devices now."""
    return _devices()


@api.put("/devices/aircraft")
@api.output(b.DevicesOut)
@api.doc(summary="Tell the simulated aircraft how to behave", responses={422: "Refused"})
@body(api, b.BehaveIn)
@writes_nothing
def set_behaviour(document: b.BehaveIn) -> Response:
    """Behave well or badly."""
    behave(devices(), document.behaviour)
    return _devices()
