"""Letting the pilot's own devices in from elsewhere, and nobody else: a pass phrase, and pairing by a code."""

from __future__ import annotations

import hashlib
import secrets
import threading
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError

from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import order
from zealous_lark.store.access import AccessFile, PairedDevice

CODE_MINUTES = 5
SHORTEST, LONGEST = 12, 200
_STRONG = 3
"""Of 0 to 4 by the estimator: 10^8 guesses and more, as its documentation says (from memory)."""
_LETTERS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"
_CODE_LENGTH = 8
_SEEN_EVERY = timedelta(minutes=1)


@dataclass(frozen=True, slots=True)
class PairingCode:
    """A code that lets one device in, once, until it expires."""

    code: str
    expires_at: datetime


class Doors:
    """Who may use the Lark of a data folder from elsewhere. now: the application's time."""

    def __init__(self, folder: Path, now: Callable[[], datetime]) -> None:
        self._kept, self._now = AccessFile(folder), now
        # Codes end by the machine's uptime [s]: a clock that is set back must not keep one alive.
        self._codes: dict[str, float] = {}
        self._lock = threading.Lock()
        self._hasher = PasswordHasher()

    @property
    def has_phrase(self) -> bool:
        """Whether a pass phrase is set; without one nobody signs in by it."""
        return self._kept.load().phrase is not None

    def devices(self) -> tuple[PairedDevice, ...]:
        """The devices that are let in, the last seen first."""
        return tuple(sorted(self._kept.load().devices, key=lambda d: d.seen_at, reverse=True))

    def set_phrase(self, phrase: str) -> None:
        """Set another pass phrase; every device has to come in again. Raises NotAllowedError."""
        if not SHORTEST <= len(phrase) <= LONGEST:
            raise NotAllowedError("phrase", f"{len(phrase)} characters", f"{SHORTEST} to {LONGEST} characters")
        from zxcvbn import zxcvbn  # its word lists take a while to load

        judged = zxcvbn(phrase[:72])
        if judged["score"] < _STRONG:
            why = judged["feedback"]["warning"] or "It would be guessed soon."
            raise NotAllowedError(
                "phrase", f"a phrase that is easily guessed ({why.rstrip('.').lower()})", "four or more words at random"
            )
        self._kept.change_phrase(self._hasher.hash(phrase))
        with self._lock:
            self._codes.clear()

    def sign_in(self, phrase: str, name: str) -> str | None:
        """The token of a new device, None for a wrong phrase."""
        kept = self._kept.load().phrase
        try:
            # A hash is computed either way: the time says nothing of whether a phrase is set.
            self._hasher.verify(kept or _nobodys(), phrase)
        except (Argon2Error, InvalidHashError):
            return None
        return None if kept is None else self._let_in(name)

    def new_code(self) -> PairingCode:
        """A code for one device; it takes the place of an earlier one that nobody has used."""
        made = "".join(secrets.choice(_LETTERS) for _ in range(_CODE_LENGTH))
        alive = timedelta(minutes=CODE_MINUTES)
        with self._lock:
            self._codes = {made: order.pulse().uptime_s + alive.total_seconds()}
        return PairingCode(made, self._now() + alive)

    def pair(self, code: str, name: str) -> str | None:
        """The token of a new device, None for a code that is wrong, used or expired."""
        asked = code.strip().upper().replace("-", "").replace(" ", "")
        with self._lock:
            found = next((c for c in self._codes if secrets.compare_digest(c.encode(), asked.encode())), None)
            expires = None if found is None else self._codes.pop(found)
        return self._let_in(name) if expires is not None and order.pulse().uptime_s < expires else None

    def _let_in(self, name: str) -> str:
        token = secrets.token_urlsafe(32)
        self._kept.add(name.strip()[:80] or "A device", _digest(token), self._now())
        return token

    def device_of(self, token: str | None) -> PairedDevice | None:
        """The device that a token is of, None for nobody's. It counts as seen."""
        if not token:
            return None
        digest = _digest(token)
        found = next((d for d in self._kept.load().devices if secrets.compare_digest(d.digest, digest)), None)
        if found is not None and abs(self._now() - found.seen_at) >= _SEEN_EVERY:
            self._kept.seen(found.id, self._now())
        return found

    def withdraw(self, number: int) -> None:
        """Let a device in no more, from its next request on. Raises NotHereError."""
        if not self._kept.withdraw(number):
            raise NotHereError(f"there is no device {number}; it may have been withdrawn")


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@cache
def _nobodys() -> str:
    return PasswordHasher().hash(secrets.token_urlsafe(16))
