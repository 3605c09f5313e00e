"""A wind meter that sends NMEA 0183 over a TCP socket: MWV sentences, read and never answered."""

from __future__ import annotations

import socket
import time
from collections import deque
from collections.abc import Callable

import pynmea2

from zealous_lark.core.meter import WINDOW_S, MeterReading, Sample, reading_of
from zealous_lark.sources.listening import Heard, Listener

_PER_MS = {"M": 1.0, "K": 3.6, "N": 3600 / 1852, "S": 3600 / 1609.344}
_LONGEST_LINE = 82 * 4
MOST_MS = 75.0


def read_mwv(line: str) -> Sample | None:
    """The wind of a MWV sentence that is valid and true; None for another kind of sentence.

    Raises ValueError for one that is broken, has a wrong checksum, or says itself that it is not valid.
    """
    try:
        sentence = pynmea2.parse(line, check=True)
    except pynmea2.ParseError as error:
        raise ValueError(str(error)) from None
    if sentence.sentence_type != "MWV":
        return None
    if sentence.status != "A":
        raise ValueError("the meter says that it is not valid")
    if sentence.wind_speed is None or sentence.wind_angle is None:
        raise ValueError("a sentence without its wind")
    if sentence.reference != "T" or sentence.wind_speed_units not in _PER_MS:
        raise ValueError("a wind relative to something else, or in another unit")
    speed = float(sentence.wind_speed) / _PER_MS[sentence.wind_speed_units]
    direction = float(sentence.wind_angle)
    if not (0 <= speed <= MOST_MS and 0 <= direction <= 360):
        raise ValueError("a wind that cannot be")
    return Sample(speed, direction % 360)


class WindMeterListener(Listener):
    """Connects to a meter, reads its sentences, and connects again when it goes away."""

    def __init__(self, host: str, port: int, clock: Callable[[], float] = time.monotonic) -> None:
        super().__init__(clock)
        self._address = (host, port)
        self._samples: deque[tuple[float, Sample]] = deque(maxlen=1000)
        self._start()

    def _run(self) -> None:
        while not self._closed.is_set():
            try:
                with socket.create_connection(self._address, timeout=2) as link:
                    link.settimeout(1)
                    self._read(link)
            except OSError:
                self._closed.wait(1)

    def _read(self, link: socket.socket) -> None:
        rest = b""
        while not self._closed.is_set():
            try:
                more = link.recv(4096)
            except TimeoutError:
                continue
            if not more:
                return
            *lines, rest = (rest + more).split(b"\n")
            rest = rest[-_LONGEST_LINE:]
            for line in lines:
                self.take(line)

    def take(self, line: bytes) -> None:
        """One line off the wire; what is broken is dropped and counted."""
        try:
            sample = read_mwv(line.decode("ascii").strip())
        except ValueError:
            with self._lock:
                self._dropped += 1
            return
        if sample is None:
            return
        with self._lock:
            self._word()
            self._samples.append((self._clock(), sample))

    def now(self) -> tuple[MeterReading | None, Heard]:
        """The reading now; None while it is silent."""
        heard = self.heard()
        if heard.silent:
            return None, heard
        with self._lock:
            since = self._clock() - WINDOW_S
            found = [sample for at, sample in self._samples if at >= since]
        return reading_of(found), heard
