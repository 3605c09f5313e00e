"""Listening on the local network, as far as the screens need to know of it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Protocol


@dataclass(frozen=True, slots=True)
class FieldState:
    """Whether somebody listens, under which addresses, and the authority that signed for them with its fingerprint."""

    listening: bool
    addresses: tuple[str, ...] = ()
    authority: Path | None = None
    fingerprint: str = ""


class FieldListener(Protocol):
    """What listens on the local network over TLS, and can be started and stopped."""

    def state(self) -> FieldState:
        """What it does now."""
        ...

    def start(self) -> FieldState:
        """Listen. Raises OSError where nothing can listen there."""
        ...

    def stop(self) -> FieldState:
        """Listen no more; open connections end."""
        ...
