"""What an adapter to a weather provider has to be. A real provider's adapter fills this and nothing else."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Protocol

from zealous_lark.plan.forecast import ForecastPart


class SourceFailedError(Exception):
    """A provider that gave nothing usable; the text says why, for the pilot."""


@dataclass(frozen=True, slots=True)
class Asked:
    """What is asked of a provider: where [°], from when (aware), how many hours.

    options: what the provider's own `options` offer, by name.
    """

    latitude: float
    longitude: float
    begin: datetime
    hours: int
    options: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Option:
    """A choice that a provider offers: its name, a label, and values with their labels."""

    name: str
    label: str
    values: tuple[tuple[str, str], ...]


class WeatherSource(Protocol):
    """A provider of forecasts or observations.

    key: a short name that never changes. name: for people. simulated: whether it is made up.
    """

    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def simulated(self) -> bool: ...
    @property
    def options(self) -> tuple[Option, ...]: ...

    def fetch(self, asked: Asked) -> ForecastPart:
        """What the provider says. Raises SourceFailedError; must not take longer than `http.LONGEST_S`."""
        ...
