"""What an adapter to a weather provider has to be. A real provider's adapter fills this and nothing else."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from zealous_lark.plan.forecast import ForecastPart


class SourceFailedError(Exception):
    """A provider that gave nothing usable; the text says why, for the pilot."""


@dataclass(frozen=True, slots=True)
class Asked:
    """What is asked of a provider: where [°], from when (aware), how many hours; now (aware): when it is asked."""

    latitude: float
    longitude: float
    begin: datetime
    hours: int
    now: datetime


class WeatherSource(Protocol):
    """A provider of forecasts or observations.

    key: a short name that never changes. name: for people. simulated: whether it is made up. control: address of the
    page on which a simulated one is told what to make up.
    """

    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def simulated(self) -> bool: ...
    @property
    def control(self) -> str | None: ...

    def fetch(self, asked: Asked) -> ForecastPart:
        """What the provider says. Raises SourceFailedError; must not take longer than `edr.LONGEST_S`."""
        ...
