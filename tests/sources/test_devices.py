"""MAVLink and NMEA 0183 with the libraries' own encoders; broken packets; silence."""

from __future__ import annotations

import socket
import time
from collections.abc import Callable, Iterator

import pynmea2
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pymavlink.dialects.v20 import common

from zealous_lark.simulators.aircraft import Behaviour, SimulatedAircraft, packets
from zealous_lark.simulators.wind_meter import SimulatedWindMeter, sentence
from zealous_lark.sources.aircraft import AircraftListener, Telemetry, decode
from zealous_lark.sources.listening import SILENT_S
from zealous_lark.sources.wind_meter import WindMeterListener, read_mwv


class Clock:
    """A clock that stands until it is moved."""

    def __init__(self) -> None:
        self.now = 0.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def listener(clock: Clock) -> Iterator[AircraftListener]:
    made = AircraftListener(clock=clock)
    yield made
    made.close()


def told(listener: AircraftListener, behaviour: Behaviour, seconds: float = 0.0) -> Telemetry:
    for packet in packets(behaviour, seconds):
        listener.take(packet)
    return listener.now()[0]


def until(true: Callable[[], bool], seconds: float = 60.0) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if true():
            return True
        time.sleep(0.05)
    return true()


def test_everything_that_an_aircraft_says_is_read(listener: AircraftListener) -> None:
    says = told(listener, Behaviour.WELL)
    assert says.satellites == 17
    assert says.fix is True
    assert says.charge_pct == 98
    assert says.voltage_v == pytest.approx(2 * (3500 + 8 * 98) / 1000)
    assert says.pack_temperature_c == pytest.approx(19)
    assert says.home_point_set is True
    assert says.compass_checked is True
    assert says.tilt_deg == pytest.approx(6, abs=0.01)
    assert says.rth_altitude_m == pytest.approx(40)


@pytest.mark.parametrize(
    ("behaviour", "field", "value"),
    [
        (Behaviour.FEW_SATELLITES, "satellites", 5),
        (Behaviour.NO_HOME, "home_point_set", False),
        (Behaviour.COMPASS, "compass_checked", False),
        (Behaviour.RETURN_HEIGHT, "rth_altitude_m", 20),
    ],
)
def test_bad_behaviour_is_seen(listener: AircraftListener, behaviour: Behaviour, field: str, value: object) -> None:
    assert getattr(told(listener, behaviour), field) == value


def test_a_charge_that_falls_is_followed(listener: AircraftListener) -> None:
    first = told(listener, Behaviour.CHARGE_FALLS, 0).charge_pct
    later = told(listener, Behaviour.CHARGE_FALLS, 10).charge_pct
    assert (first, later) == (98, 78)


def test_a_home_point_that_is_told_no_more_is_not_set(listener: AircraftListener, clock: Clock) -> None:
    assert told(listener, Behaviour.WELL).home_point_set is True
    clock.now = SILENT_S + 0.5
    assert told(listener, Behaviour.NO_HOME).home_point_set is False


def test_silence_shows_as_silence_within_three_seconds_and_not_as_the_last_value(
    listener: AircraftListener, clock: Clock
) -> None:
    told(listener, Behaviour.WELL)
    clock.now = SILENT_S
    assert not listener.now()[1].silent
    clock.now = SILENT_S + 0.01
    says, heard = listener.now()
    assert heard.silent
    assert says == Telemetry()
    clock.now += 1
    assert told(listener, Behaviour.WELL).satellites == 17


@given(st.data())
def test_a_packet_with_any_byte_changed_is_dropped_and_counted(data: st.DataObject) -> None:
    packet = bytearray(data.draw(st.sampled_from(packets(Behaviour.WELL, 3.0))))
    place = data.draw(st.integers(0, len(packet) - 1))
    packet[place] ^= data.draw(st.integers(1, 255))
    messages, broken = decode(bytes(packet))
    assert messages == []
    assert broken == 1


@given(st.sampled_from(packets(Behaviour.WELL, 3.0)), st.integers(1, 40))
def test_a_packet_that_is_cut_short_is_dropped_and_counted(packet: bytes, cut: int) -> None:
    messages, broken = decode(packet[: max(1, len(packet) - cut)])
    assert messages == []
    assert broken == 1


@given(st.binary(min_size=1, max_size=300))
def test_noise_is_never_taken_for_an_aircraft(noise: bytes) -> None:
    messages, broken = decode(noise)
    assert messages == []
    assert broken == 1


def test_a_truncated_packet_leaves_the_values_as_they_were(listener: AircraftListener) -> None:
    told(listener, Behaviour.WELL)
    listener.take(packets(Behaviour.FEW_SATELLITES, 0)[1][:-3])
    says, heard = listener.now()
    assert says.satellites == 17
    assert heard.dropped == 1


def test_nothing_is_ever_sent_to_the_aircraft() -> None:
    """Over the wire: what the aircraft's own socket receives while it is listened to is nothing at all."""
    listener = AircraftListener()
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as craft:
        craft.bind(("127.0.0.1", 0))
        craft.settimeout(0.7)
        for packet in packets(Behaviour.WELL, 0):
            craft.sendto(packet, ("127.0.0.1", listener.port))
        assert until(lambda: listener.now()[0].satellites == 17)
        with pytest.raises(TimeoutError):
            craft.recv(100)
    listener.close()


def test_the_stand_in_and_the_listener_over_the_loopback() -> None:
    listener = AircraftListener()
    craft = SimulatedAircraft(listener.port)
    assert until(lambda: listener.now()[0].rth_altitude_m is not None)
    craft.behave(Behaviour.SILENT)
    assert until(lambda: listener.now()[1].silent)
    craft.close()
    listener.close()


def mwv(*fields: str) -> str:
    return str(pynmea2.MWV("WI", "MWV", fields))


def test_the_wind_of_a_sentence_in_every_unit() -> None:
    assert read_mwv(mwv("240.0", "T", "3.2", "M", "A")).speed_ms == pytest.approx(3.2)  # type: ignore[union-attr]
    assert read_mwv(mwv("240.0", "T", "36", "K", "A")).speed_ms == pytest.approx(10)  # type: ignore[union-attr]
    knots = read_mwv(mwv("360.0", "T", "10", "N", "A"))
    assert knots is not None
    assert (knots.speed_ms, knots.direction_deg) == (pytest.approx(5.144, abs=1e-3), 0)
    assert read_mwv("$GPGLL,4916.45,N,12311.12,W,225444,A,*1D") is None


@pytest.mark.parametrize(
    "line",
    [
        mwv("240.0", "T", "3.2", "M", "V"),
        mwv("240.0", "R", "3.2", "M", "A"),
        mwv("240.0", "T", "99", "M", "A"),
        mwv("240.0", "T", "3.2", "X", "A"),
        mwv("", "T", "", "M", "A"),
        sentence(3.2, 240)[:-1] + "0" if not sentence(3.2, 240).endswith("0") else sentence(3.2, 240)[:-1] + "1",
        sentence(3.2, 240)[:15],
        "3.2 m/s",
        "",
    ],
)
def test_a_broken_sentence_is_refused(line: str) -> None:
    with pytest.raises(ValueError, match=r".+"):
        read_mwv(line)


def test_a_meter_gives_the_mean_of_half_a_minute_and_its_greatest(clock: Clock) -> None:
    meter = WindMeterListener("127.0.0.1", 9, clock)  # nothing listens there: only what is handed in counts
    for second, speed in enumerate((9.0, *[2.0] * 29, 4.0, 3.0)):
        clock.now = float(second)
        meter.take(sentence(speed, 350 if second % 2 else 10).encode())
    reading, heard = meter.now()
    assert reading is not None
    assert reading.gust_ms == pytest.approx(4)
    assert reading.speed_ms == pytest.approx((2 * 29 + 4 + 3) / 31)
    assert min(reading.direction_deg, 360 - reading.direction_deg) < 2
    assert heard.dropped == 0
    meter.take(b"\xff\xfe")
    clock.now += SILENT_S + 0.1
    reading, heard = meter.now()
    assert reading is None
    assert heard.silent
    assert heard.dropped == 1
    meter.close()


def test_the_meter_over_the_loopback() -> None:
    served = SimulatedWindMeter(speed_ms=5, direction_deg=100)
    meter = WindMeterListener("127.0.0.1", served.port)
    assert until(lambda: meter.now()[0] is not None)
    reading = meter.now()[0]
    assert reading is not None
    assert 2 < reading.speed_ms < 8
    meter.close()
    served.close()


def test_an_unknown_message_of_the_dialect_changes_nothing(listener: AircraftListener) -> None:
    told(listener, Behaviour.WELL)
    before = listener.now()[0]
    link = common.MAVLink(None, srcSystem=1)
    listener.take(bytes(link.system_time_encode(0, 1).pack(link)))
    assert listener.now()[0] == before


def test_how_far_it_is_from_its_home_point(listener: AircraftListener) -> None:
    assert told(listener, Behaviour.WELL).distance_m == pytest.approx(0, abs=0.1)
    assert told(listener, Behaviour.FLIES, 10).distance_m == pytest.approx(80, abs=0.5)
    assert told(listener, Behaviour.FLIES, 500).distance_m == pytest.approx(120, abs=0.5)


def test_without_a_home_point_no_distance_is_told(clock: Clock, listener: AircraftListener) -> None:
    assert told(listener, Behaviour.NO_HOME).distance_m is None
    told(listener, Behaviour.WELL)
    clock.now += SILENT_S + 0.1
    assert listener.now()[0].distance_m is None
