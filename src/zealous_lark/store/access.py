"""What is secret, in a file of its own: the pass phrase's hash, the paired devices, keys without a key store.

Not in the database: a backup that is restored must not let a withdrawn device in again, and no archive carries it.
"""

from __future__ import annotations

import json
import logging
import os
import threading
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import asdict, dataclass, field, replace
from datetime import datetime
from pathlib import Path

from zealous_lark.store.claim import one_at_a_time

log = logging.getLogger(__name__)

FILE_NAME = "access.json"


@dataclass(frozen=True, slots=True)
class PairedDevice:
    """A device that is let in: its number, name, the digest of its token, when it was paired and last seen."""

    id: int
    name: str
    digest: str
    paired_at: datetime
    seen_at: datetime


@dataclass(frozen=True, slots=True)
class Access:
    """phrase: the pass phrase's hash; None while none is set. last: the highest number that a device ever had.

    keys: of forecast services, address and key by number, where the operating system has no key store; in_key_store:
    it has one, and they are there.
    """

    phrase: str | None = None
    devices: tuple[PairedDevice, ...] = ()
    last: int = 0
    keys: Mapping[str, list[str]] = field(default_factory=dict)
    in_key_store: bool = False


class AccessFile:
    """The file in a data folder; whoever reads it sees what another process wrote."""

    def __init__(self, folder: Path) -> None:
        self._path = folder / FILE_NAME
        self._lock = threading.Lock()
        self._read: tuple[tuple[int, int], Access] | None = None

    def load(self) -> Access:
        """What is kept. A file that is damaged lets nobody in; the next phrase or pairing takes its place."""
        try:
            about = self._path.stat()
        except FileNotFoundError:
            return Access()
        stamp = about.st_mtime_ns, about.st_ino
        if self._read is None or self._read[0] != stamp:
            try:
                self._read = stamp, _read(self._path.read_text())
            except (ValueError, KeyError, TypeError) as error:
                log.error("%s cannot be read, and lets nobody in: %s", FILE_NAME, error)
                return Access()
        return self._read[1]

    def save(self, access: Access) -> None:
        """Keep it, whole or not at all, for the owner's eyes."""
        document = {**asdict(access), "devices": [_written(d) for d in access.devices]}
        half = self._path.with_suffix(".part")
        with open(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
            json.dump(document, file)
            file.flush()
            os.fsync(file.fileno())
        half.replace(self._path)

    @contextmanager
    def _changing(self) -> Iterator[None]:
        # Another Lark on the same folder must not bring back a device that this one withdraws.
        with self._lock, one_at_a_time(self._path.with_suffix(".lock")):
            yield

    def add(self, name: str, digest: str, now: datetime) -> PairedDevice:
        """A new device."""
        with self._changing():
            before = self.load()
            made = PairedDevice(before.last + 1, name, digest, now, now)
            self.save(replace(before, devices=(*before.devices, made), last=made.id))
            return made

    def change_phrase(self, phrase: str) -> None:
        """Set the pass phrase's hash; all devices are withdrawn."""
        with self._changing():
            self.save(replace(self.load(), phrase=phrase, devices=()))

    def keep_keys(self, keys: Mapping[str, list[str]], *, in_key_store: bool) -> None:
        """Keep the keys of forecast services here, or note that they are in the key store."""
        with self._changing():
            before = self.load()
            if before.keys or keys or before.in_key_store != in_key_store:
                self.save(replace(before, keys=dict(keys), in_key_store=in_key_store))

    def withdraw(self, number: int) -> bool:
        """Take a device out; whether it was there."""
        with self._changing():
            before = self.load()
            left = tuple(d for d in before.devices if d.id != number)
            if len(left) == len(before.devices):
                return False
            self.save(replace(before, devices=left))
            return True

    def seen(self, number: int, now: datetime) -> None:
        """Note that a device was here."""
        with self._changing():
            before = self.load()
            self.save(
                replace(before, devices=tuple(replace(d, seen_at=now) if d.id == number else d for d in before.devices))
            )


def _read(text: str) -> Access:
    raw = json.loads(text)
    devices = tuple(
        PairedDevice(
            d["id"], d["name"], d["digest"],
            datetime.fromisoformat(d["paired_at"]), datetime.fromisoformat(d["seen_at"]),
        )
        for d in raw["devices"]
    )  # fmt: skip
    return Access(raw["phrase"], devices, raw["last"], dict(raw.get("keys", {})), bool(raw.get("in_key_store", False)))


def _written(device: PairedDevice) -> dict[str, object]:
    return {**asdict(device), "paired_at": device.paired_at.isoformat(), "seen_at": device.seen_at.isoformat()}
