"""Requests that another page than Lark's own asks for are refused before anything is done for them.

A browser says who asks (Fetch Metadata); an older one says it by Origin and Referer. Programs say nothing, and are let
through: the command line, a calendar.

References
----------
.. [1] W3C, Fetch Metadata Request Headers. Quoted from memory.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any
from urllib.parse import urlsplit

Environ = dict[str, Any]
WsgiApp = Callable[[Environ, Any], Iterable[bytes]]

POLICY = ("Cross-Origin-Resource-Policy", "same-origin")
_OWN = frozenset({"same-origin", "none"})
_REFUSED = b'{"message":"Refused: a page that is not Lark\'s asked for this. Nothing was changed.","refusals":[]}'


def is_foreign(environ: Environ) -> bool:
    """Whether a browser says that another page than Lark's own asks for this, and not for a page to be opened."""
    host = environ.get("HTTP_HOST", "")
    site = environ.get("HTTP_SEC_FETCH_SITE")
    if site is not None and site not in _OWN:
        return not _opens_a_page(environ)
    origin = environ.get("HTTP_ORIGIN")
    if origin is not None:
        return bool(urlsplit(origin).netloc != host)
    referer = environ.get("HTTP_REFERER")
    return site is None and referer is not None and bool(urlsplit(referer).netloc != host)


def _opens_a_page(environ: Environ) -> bool:
    """Whether a link to one of Lark's pages was followed in a window of its own."""
    return (
        environ.get("REQUEST_METHOD") in ("GET", "HEAD")
        and environ.get("HTTP_SEC_FETCH_MODE") == "navigate"
        and environ.get("HTTP_SEC_FETCH_DEST") == "document"
        and not environ.get("PATH_INFO", "").startswith("/api/")
    )


def own_pages_only(application: WsgiApp) -> WsgiApp:
    """The application behind a door that foreign pages do not get through."""

    def guarded(environ: Environ, start: Any) -> Iterable[bytes]:
        if not is_foreign(environ):
            return application(environ, start)
        length = str(len(_REFUSED))
        start("403 FORBIDDEN", [("Content-Type", "application/json"), ("Content-Length", length), POLICY])
        return [] if environ.get("REQUEST_METHOD") == "HEAD" else [_REFUSED]

    return guarded
