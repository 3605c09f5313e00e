"""Tries of a key: counted for each network, and slowed down for all of them together.

A home is given a whole /64 of IPv6 addresses, so that counting addresses counts nothing. A limit on all networks
together would let a stranger lock the owner out; a short wait does not.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from ipaddress import IPv6Address, ip_address, ip_network

from limits import RateLimitItem, parse
from limits.storage import MemoryStorage
from limits.strategies import MovingWindowRateLimiter

TRIES = "5 per minute;20 per hour;60 per day"
"""Wrong ones of one network."""
FREE = 10
"""Wrong tries a minute, over all networks, before a try has to wait."""
STEP_S, LONGEST_S = 0.1, 1.0
"""What each further one adds to the wait [s], and the longest wait."""
WAITING = 2
"""How many wait at once; more would take the threads that answer everybody else."""

_MOST = 1_000
_IPV6_NETWORK = 64


class TooBusyError(Exception):
    """As many tries as may wait do so already."""


def network_of(address: str) -> str:
    """The network that an address counts for: the /64 of an IPv6 address, an IPv4 address itself."""
    try:
        found = ip_address(address.partition("%")[0])
    except ValueError:
        return address
    if isinstance(found, IPv6Address):
        if found.ipv4_mapped is not None:
            return str(found.ipv4_mapped)
        return str(ip_network((found, _IPV6_NETWORK), strict=False))
    return str(found)


class Slowing:
    """The wait before a try is looked at: none, until many were wrong in the last minute."""

    def __init__(self, sleep: Callable[[float], None] = time.sleep) -> None:
        self._sleep = sleep
        self._seats = threading.BoundedSemaphore(WAITING)
        self._wrong = MovingWindowRateLimiter(MemoryStorage())
        self._a_minute: RateLimitItem = parse(f"{_MOST} per minute")

    def wrong(self) -> None:
        """Count a wrong try."""
        self._wrong.hit(self._a_minute)

    @property
    def wait_s(self) -> float:
        """How long a try waits now [s]."""
        wrong = _MOST - self._wrong.get_window_stats(self._a_minute).remaining
        return min(max(wrong - FREE, 0) * STEP_S, LONGEST_S)

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Wait for the turn of a try. Raises TooBusyError."""
        wait_s = self.wait_s
        if wait_s > 0:
            if not self._seats.acquire(blocking=False):
                raise TooBusyError
            try:
                self._sleep(wait_s)
            finally:
                self._seats.release()
        yield
