"""A simulated wind meter: sends NMEA 0183 MWV sentences to whoever connects on the loopback."""

from __future__ import annotations

import math
import socketserver
import threading
import time

import numpy as np
import pynmea2

INTERVAL_S = 0.5


def sentence(speed_ms: float, direction_deg: float) -> str:
    """A MWV sentence of a true wind, with its checksum."""
    return str(pynmea2.MWV("WI", "MWV", (f"{direction_deg % 360:.1f}", "T", f"{speed_ms:.1f}", "M", "A")))


def gusty(seconds: float, speed_ms: float, direction_deg: float, seed: int = 0) -> tuple[float, float]:
    """A wind that comes and goes around a mean: speed [m/s] and direction [°] at a time [s]; the same for a seed."""
    shake = np.random.default_rng([seed, int(seconds / INTERVAL_S)]).normal()
    wave = math.sin(seconds / 4.1) + 0.6 * math.sin(seconds / 1.7)
    return max(0.0, speed_ms * (1 + 0.18 * wave + 0.08 * shake)), direction_deg + 6 * wave


class SimulatedWindMeter:
    """Sends a wind on a port of the loopback."""

    def __init__(self, speed_ms: float = 2.6, direction_deg: float = 235.0, port: int = 0) -> None:
        """Raises OSError where the port is taken."""
        began, closed = time.monotonic(), threading.Event()
        self._closed = closed

        class Meter(socketserver.BaseRequestHandler):
            def handle(self) -> None:
                while not closed.wait(INTERVAL_S):
                    wind = gusty(time.monotonic() - began, speed_ms, direction_deg)
                    try:
                        self.request.sendall((sentence(*wind) + "\r\n").encode())
                    except OSError:
                        return

        class Server(socketserver.ThreadingTCPServer):
            allow_reuse_address = True
            daemon_threads = True

        self._server = Server(("127.0.0.1", port), Meter)
        self.port: int = self._server.server_address[1]
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def wait(self) -> None:
        """Serve until interrupted."""
        self._closed.wait()

    def close(self) -> None:
        """Switch it off."""
        self._closed.set()
        self._server.shutdown()
        self._server.server_close()
