"""Asking an address that somebody typed, without running anybody's errand.

A name is resolved here, every address that it has is checked, and the connection goes to a checked one: what a name
means is not asked twice. Proxies of the environment are not used, redirects not followed.

References
----------
.. [1] RFC 6890, special-purpose address registries, as Python's `ipaddress` has them.
.. [2] RFC 3927 and RFC 4291, link-local addresses; the addresses of metadata services are from memory.
"""

from __future__ import annotations

import socket
import time
from collections.abc import Iterable, Mapping
from ipaddress import IPv4Address, IPv6Address, ip_address, ip_network

import httpcore
import httpx

from zealous_lark.sources.base import SourceFailedError

MOST_BYTES = 2_000_000
UNREACHED = "it could not be reached"
"""The same for a closed port, a filtered one, a name that nobody knows and an address that is not asked."""
_NEVER = tuple(map(ip_network, (
    "169.254.0.0/16", "fe80::/10",  # link-local, with the metadata services of most clouds
    "100.100.100.200/32", "192.0.0.192/32", "fd00:ec2::254/128", "168.63.129.16/32",  # metadata services elsewhere
    "0.0.0.0/8", "::/128", "224.0.0.0/4", "ff00::/8", "240.0.0.0/4",
)))  # fmt: skip

Address = IPv4Address | IPv6Address


def may_be_asked(address: Address, *, own_network: bool) -> bool:
    """Whether a service may have this address. own_network: the pilot says that it is on the own network.

    >>> may_be_asked(ip_address("192.168.1.4"), own_network=False)
    False
    >>> may_be_asked(ip_address("169.254.169.254"), own_network=True)
    False
    """
    if isinstance(address, IPv6Address):
        inner = address.ipv4_mapped or address.sixtofour or (address.teredo or (None, None))[1]
        if inner is None and address in ip_network("64:ff9b::/96"):
            inner = IPv4Address(int(address) & 0xFFFFFFFF)
        if inner is not None:
            return may_be_asked(inner, own_network=own_network)
    if any(address.version == never.version and address in never for never in _NEVER):
        return False
    return own_network or address.is_global


class _Checked(httpcore.NetworkBackend):
    """Connects to checked addresses alone. clear_key: a key goes along unencrypted, so to this computer only."""

    def __init__(self, *, own_network: bool, clear_key: bool) -> None:
        self._own_network, self._clear_key = own_network, clear_key
        self._plain = httpcore.SyncBackend()

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: Iterable[httpcore.SOCKET_OPTION] | None = None,
    ) -> httpcore.NetworkStream:
        try:
            found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
        except (OSError, UnicodeError):
            raise httpcore.ConnectError("no such name") from None
        # A scope, as of fe80::1%eth0, names an interface and no other address.
        addresses = list(dict.fromkeys(ip_address(str(info[4][0]).split("%")[0]) for info in found))
        if not all(may_be_asked(a, own_network=self._own_network) for a in addresses):
            raise httpcore.ConnectError("an address that is not asked")
        if self._clear_key and not all(a.is_loopback for a in addresses):
            raise httpcore.ConnectError("a key in clear")
        for n, address in enumerate(addresses, 1):
            try:
                return self._plain.connect_tcp(str(address), port, timeout, local_address, socket_options)
            except httpcore.NetworkError:
                if n == len(addresses):
                    raise
        raise httpcore.ConnectError("no address")


def _transport(*, own_network: bool, clear_key: bool) -> httpx.HTTPTransport:
    transport = httpx.HTTPTransport(trust_env=False)
    transport._pool = httpcore.ConnectionPool(
        ssl_context=httpx.create_ssl_context(trust_env=False),
        network_backend=_Checked(own_network=own_network, clear_key=clear_key),
    )
    return transport


def get(
    url: str, query: Mapping[str, str], headers: Mapping[str, str], longest_s: float, *, own_network: bool, secret: bool
) -> tuple[bytes, str]:
    """The body of an answer, and when it was last changed as it says. Raises SourceFailedError.

    own_network: whether it may be on the own network. secret: whether the headers hold a key.
    """
    until = time.monotonic() + longest_s
    transport = _transport(own_network=own_network, clear_key=secret and not url.startswith("https://"))
    try:
        with (
            httpx.Client(transport=transport, trust_env=False, follow_redirects=False, timeout=longest_s) as client,
            client.stream("GET", url, params=query, headers=headers) as said,
        ):
            if said.status_code != 200:
                raise SourceFailedError(f"it answered {said.status_code} {said.reason_phrase}".rstrip())
            body = b""
            for piece in said.iter_bytes():
                body += piece
                if len(body) > MOST_BYTES:
                    raise SourceFailedError(f"it sent more than {MOST_BYTES // 1_000_000} MB")
                if time.monotonic() > until:
                    raise SourceFailedError(f"it did not finish within {longest_s:g} s")
            return body, said.headers.get("Last-Modified", "")
    except (httpx.ConnectError, httpx.ConnectTimeout):
        raise SourceFailedError(UNREACHED) from None
    except httpx.TimeoutException:
        raise SourceFailedError(f"it did not answer within {longest_s:g} s") from None
    except (httpx.HTTPError, httpx.InvalidURL, UnicodeError):
        raise SourceFailedError("it broke off, or sent what is no answer") from None
