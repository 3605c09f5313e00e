"""Providers that answer with forecast documents over HTTP: the simulated services, or anybody who writes the format."""

from __future__ import annotations

import time
from dataclasses import dataclass

import httpx

from zealous_lark.plan.forecast import ForecastPart
from zealous_lark.plan.reading import PlanRefusedError, read_document
from zealous_lark.sources.base import Asked, Option, SourceFailedError

LONGEST_S = 6.0
"""A provider that takes longer is given up [s]."""
MOST_BYTES = 2_000_000

_BEHAVE = Option(
    "behave",
    "It answers",
    (("well", "as it should"), ("slow", "too slowly"), ("down", "not at all"), ("rubbish", "with rubbish")),
)
_DAYS = Option(
    "day",
    "Kind of day",
    (
        ("fair", "Fair, a light wind"),
        ("front", "A front in the afternoon"),
        ("sea_breeze", "A sea breeze"),
        ("frost_fog", "A calm frosty morning with fog"),
        ("storm", "A stormy day"),
    ),
)


def _get(url: str, query: dict[str, str], longest_s: float) -> bytes:
    """The body of an answer. Raises SourceFailedError."""
    until = time.monotonic() + longest_s
    try:
        with httpx.stream("GET", url, params=query, timeout=longest_s, follow_redirects=False, trust_env=False) as said:
            if said.status_code != 200:
                raise SourceFailedError(f"it answered {said.status_code} {said.reason_phrase}".rstrip())
            body = b""
            for piece in said.iter_bytes():
                body += piece
                if len(body) > MOST_BYTES:
                    raise SourceFailedError(f"it sent more than {MOST_BYTES // 1_000_000} MB")
                if time.monotonic() > until:
                    raise SourceFailedError(f"it did not finish within {longest_s:g} s")
            return body
    except httpx.TimeoutException:
        raise SourceFailedError(f"it did not answer within {longest_s:g} s") from None
    except httpx.HTTPError as error:
        raise SourceFailedError(f"it could not be reached ({type(error).__name__})") from None


def _read(body: bytes) -> ForecastPart:
    try:
        return read_document(ForecastPart, body)
    except PlanRefusedError as error:
        first = error.refusals[0]
        raise SourceFailedError(
            f"it sent an invalid forecast ({first.key} is {first.given}; it should be {first.allowed})"
        ) from None


@dataclass(frozen=True, slots=True)
class HttpForecasts:
    """A forecast service under an address."""

    url: str
    key: str = "forecast"
    name: str = "Simulated forecast service"
    simulated: bool = True
    options: tuple[Option, ...] = (_DAYS, _BEHAVE)
    longest_s: float = LONGEST_S

    def fetch(self, asked: Asked) -> ForecastPart:
        """Hours from the time asked for on."""
        query = {
            "latitude": f"{asked.latitude:.5f}",
            "longitude": f"{asked.longitude:.5f}",
            "from": asked.begin.isoformat(),
            "hours": str(asked.hours),
            **asked.options,
        }
        return _read(_get(f"{self.url}/forecast", query, self.longest_s))


@dataclass(frozen=True, slots=True)
class HttpStation:
    """A weather station under an address: what it reads now."""

    url: str
    key: str = "station"
    name: str = "Simulated weather station"
    simulated: bool = True
    options: tuple[Option, ...] = (_DAYS, _BEHAVE)
    longest_s: float = LONGEST_S

    def fetch(self, asked: Asked) -> ForecastPart:
        """One observation; the time asked for does not matter."""
        query = {"latitude": f"{asked.latitude:.5f}", "longitude": f"{asked.longitude:.5f}", **asked.options}
        return _read(_get(f"{self.url}/observation", query, self.longest_s))
