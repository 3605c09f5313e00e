"""Keys of forecast services: in the operating system's key store where there is one, else in the access file.

Never in the database, so that no backup, archive or share carries one. A key belongs to one address: a service that has
another by now does not get it.
"""

from __future__ import annotations

import json
import logging
import subprocess
import sys
import threading
from collections.abc import Callable, Mapping
from pathlib import Path

from zealous_lark.store.access import AccessFile

log = logging.getLogger(__name__)

SERVICE = "zealous-lark"
LONGEST_S = 2.0
"""How long the key store may take [s]: one that asks at a screen that nobody sees would never answer."""
_STORES = ("keyring.backends.SecretService", "keyring.backends.kwallet", "keyring.backends.libsecret",
           "keyring.backends.macOS", "keyring.backends.Windows")  # fmt: skip
"""What keeps keys as the operating system does. Others write them down in plain text, or keep nothing."""
_CHILD = """
import json, sys
import keyring
asked = json.load(sys.stdin)
backend = keyring.get_keyring()
backends = [backend, *getattr(backend, "backends", [])]
good = [b for b in backends if type(b).__module__.startswith(tuple(asked["stores"]))]
if not good:
    sys.exit(3)
if asked["do"] == "get":
    json.dump(good[0].get_password(asked["service"], asked["name"]), sys.stdout)
else:
    good[0].set_password(asked["service"], asked["name"], asked["text"])
    json.dump(good[0].get_password(asked["service"], asked["name"]) == asked["text"], sys.stdout)
"""

Asking = Callable[[Mapping[str, object]], object]
"""Asks the key store. Raises OSError where there is none, or where it does not answer in time."""


def ask_the_system(asked: Mapping[str, object]) -> object:
    """What the operating system's key store answers, asked in a process of its own. Raises OSError."""
    try:
        done = subprocess.run(
            [sys.executable, "-c", _CHILD], input=json.dumps({**asked, "stores": _STORES, "service": SERVICE}),
            capture_output=True, text=True, timeout=LONGEST_S, check=True,
        )  # fmt: skip
        return json.loads(done.stdout)
    except (subprocess.SubprocessError, ValueError) as error:
        raise OSError(f"no key store ({type(error).__name__})") from None


class ServiceKeys:
    """The keys of a data folder, by the number of their service. They are read once, when the first is wanted."""

    def __init__(self, folder: Path, ask: Asking = ask_the_system) -> None:
        self._file, self._name, self._ask = AccessFile(folder), str(folder.resolve()), ask
        self._lock = threading.Lock()
        self._known: dict[str, list[str]] | None = None

    def of(self, number: int, url: str) -> str:
        """The key of a service at an address; empty for none."""
        with self._lock:
            address, key = self._all().get(str(number), ["", ""])
        return key if address == url else ""

    def put(self, number: int, url: str, key: str) -> None:
        """Keep a key, in place of an earlier one; an empty one is forgotten."""
        with self._lock:
            keys = {n: kept for n, kept in self._all().items() if n != str(number)}
            if key:
                keys[str(number)] = [url, key]
            if keys != self._known:
                self._save(keys)
            self._known = keys

    def _all(self) -> dict[str, list[str]]:
        if self._known is None:
            self._known = self._read()
        return self._known

    def _read(self) -> dict[str, list[str]]:
        kept = self._file.load()
        if not kept.in_key_store:
            return {n: list(one) for n, one in kept.keys.items()}
        try:
            text = self._ask({"do": "get", "name": self._name})
            return dict(json.loads(str(text))) if text else {}
        except (OSError, ValueError):
            log.warning("the key store does not answer; forecast services with a key are asked without one")
            return {}

    def _save(self, keys: dict[str, list[str]]) -> None:
        stored = False
        try:
            stored = self._ask({"do": "set", "name": self._name, "text": json.dumps(keys)}) is True
        except OSError:
            stored = False
        self._file.keep_keys({} if stored else keys, in_key_store=stored)
