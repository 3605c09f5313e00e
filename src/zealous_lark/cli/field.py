"""Lark on the local network: TLS with certificates of its own, every request from there to be signed in."""

from __future__ import annotations

import ipaddress
import logging
import socket
import threading
from collections.abc import Callable
from contextlib import suppress
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from zealous_lark.cli.watched import Watcher
from zealous_lark.cli.wish import ANY
from zealous_lark.services.field import FieldState
from zealous_lark.store.certificates import Certificates, certificates

if TYPE_CHECKING:
    from flask import Flask

log = logging.getLogger(__name__)

_THREADS = 8


def addresses_here() -> tuple[str, ...]:
    """Private IPv4 addresses of this computer's networks; none for one that is on no network."""
    import ifaddr

    found = [str(ip.ip) for adapter in ifaddr.get_adapters() for ip in adapter.ips if ip.is_IPv4]
    return tuple(a for a in found if ipaddress.ip_address(a).is_private and not ipaddress.ip_address(a).is_loopback)


def local_name() -> str | None:
    """The name under which a local network may know this computer; None where it is none for a certificate."""
    name = socket.gethostname().split(".")[0].lower()
    return f"{name}.local" if name.replace("-", "").isalnum() and name.isascii() else None


class FieldServer:
    """Listens on the local network while it is wanted. host: one address, or all of them.

    watcher: who holds its socket. held: the socket of a server that died, to go on with.
    """

    def __init__(self, folder: Path, host: str, port: int, watcher: Watcher, held: socket.socket | None = None) -> None:
        self._folder, self._host, self._port = folder / "field", host, port
        self._watcher, self._held = watcher, held
        self._app: Callable[..., Any] | None = None
        self._server: Any = None
        self._kept: Certificates | None = None
        self._lock = threading.Lock()

    @property
    def hosts(self) -> tuple[str, ...]:
        """Names and addresses under which Lark may be asked for."""
        own = addresses_here() if self._host == ANY else (self._host,)
        name = local_name() if self._host == ANY else None
        return (*own, *(() if name is None else (name,)))

    def serve(self, app: Flask) -> None:
        """What to answer with: the same application, told where a request comes from."""
        trusted: list[str] = app.config["TRUSTED_HOSTS"]

        def from_field(environ: dict[str, Any], start: Any) -> Any:
            # An address may have come with a network that was joined since.
            trusted.extend(h for h in self.hosts if h not in trusted)
            environ["lark.field"] = True
            return app.wsgi_app(environ, start)

        self._app = from_field

    def state(self) -> FieldState:
        """What it does now."""
        if self._server is None or self._kept is None:
            return FieldState(False)
        port = self._server.bind_addr[1]
        addresses = tuple(f"https://{host}:{port}" for host in self.hosts)
        return FieldState(True, addresses, self._kept.authority, self._kept.fingerprint)

    def start(self) -> FieldState:
        """Listen. Raises OSError."""
        from cheroot.ssl.builtin import BuiltinSSLAdapter
        from cheroot.wsgi import Server

        with self._lock:
            if self._server is not None:
                return self.state()
            if not self.hosts:
                raise OSError(0, "this computer is on no network")
            assert self._app is not None
            self._kept = certificates(self._folder, self.hosts, datetime.now().astimezone())
            server = Server((self._host, self._port), self._app, numthreads=_THREADS, server_name="lark")
            if self._held is not None:
                setattr(server, "bind", partial(_bound, server, self._held))  # noqa: B010  the library has no other way
            server.ssl_adapter = BuiltinSSLAdapter(str(self._kept.chain), str(self._kept.key))
            setattr(server, "error_log", _told)  # noqa: B010  the library takes it so
            server.prepare()
            if self._held is None:
                self._watcher.ask("hold_field", server.socket)
            self._server, self._held = server, None
            threading.Thread(target=server.serve, name="field", daemon=True).start()
            return self.state()

    def stop(self) -> FieldState:
        """Listen no more."""
        with self._lock:
            if self._server is not None:
                self._server.stop()
                self._server = None
                with suppress(OSError):  # nobody watches any more
                    self._watcher.ask("hold_field", None)
            return self.state()


def _bound(server: Any, held: socket.socket, *_: object) -> socket.socket:
    """Give a server a socket that listens already, in place of one of its own."""
    server.socket, server.bind_addr = held, held.getsockname()[:2]
    return held


def _told(message: str = "", level: int = 20, traceback: bool = False) -> None:
    """What the TLS server says: a phone that does not trust its certificate is no fault of Lark's."""
    log.info("%s", message.strip().splitlines()[-1] if message.strip() else "")
    if level >= logging.ERROR and traceback:
        log.exception("the listener on the local network broke")
