"""Providers that speak OGC API – Environmental Data Retrieval: the position query, answered in CoverageJSON.

    GET {address}/collections
    GET {address}/collections/{collection}/position?coords=POINT(25.08 58.62)&datetime=…/…

References
----------
.. [1] OGC 19-086r6, OGC API – Environmental Data Retrieval. Quoted from memory.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from email.utils import parsedate_to_datetime
from typing import Any
from urllib.parse import quote

from pydantic import ValidationError

from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.plan.forecast import ForecastPart, forecast_part
from zealous_lark.sources.base import Asked, SourceFailedError
from zealous_lark.sources.reaching import get

LONGEST_S = 6.0
"""A provider that takes longer is given up [s]."""
ISSUED_BEFORE = timedelta(hours=6)
"""A model that does not say when it ran is taken to be as old as it may be: many run four times a day."""
HOLDS_MIN = 60.0
MEDIA_TYPE = "application/prs.coverage+json"
MOST_COLLECTIONS = 500


def _z(at: datetime) -> str:
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%MZ")


def _issued(last_modified: str, now: datetime) -> datetime:
    try:
        said = parsedate_to_datetime(last_modified).astimezone(UTC)
    except (TypeError, ValueError):
        return now - ISSUED_BEFORE
    # A clock that is wrong must not make an old forecast young.
    return said if said <= now + timedelta(minutes=5) else now - ISSUED_BEFORE


@dataclass(frozen=True, slots=True)
class Collection:
    """What a service offers under a name: its title, and the names of its parameters."""

    id: str
    title: str
    parameters: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class EdrSource:
    """A collection of a service under an address.

    headers: sent with each request, such as a key; never shown nor logged. control: where a simulated service is told
    what to make up. own_network: whether it may be on the own network.
    """

    url: str
    collection: str
    key: str
    name: str
    simulated: bool = False
    control: str | None = None
    headers: Mapping[str, str] = field(default_factory=dict, repr=False)
    longest_s: float = LONGEST_S
    own_network: bool = False

    def fetch(self, asked: Asked) -> ForecastPart:
        """Hours from the time asked for on; what the service has of them."""
        query = {
            "coords": f"POINT({asked.longitude:.5f} {asked.latitude:.5f})",
            "datetime": f"{_z(asked.begin)}/{_z(asked.begin + timedelta(hours=asked.hours))}",
        }
        url = f"{self.url}/collections/{quote(self.collection, safe='')}/position"
        body, last = get(
            url, query, {"Accept": MEDIA_TYPE, **self.headers}, self.longest_s,
            own_network=self.own_network, secret=bool(self.headers),
        )  # fmt: skip
        try:
            found = bounded.read(
                bounded.OF_A_PLACE, readers.read_coverage, body, self.name, _issued(last, asked.now), asked.latitude,
                asked.longitude,
            )  # fmt: skip
            part = forecast_part(found.forecast)
        except BadFileError as error:
            raise SourceFailedError(f"it sent no forecast that Lark can read: {error}") from None
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(map(str, first["loc"]))
            raise SourceFailedError(f"it sent a number that can't be: {where} is {first.get('input')}") from None
        at = None if found.point is None else {"latitude": found.point[0], "longitude": found.point[1]}
        # One moment alone is what was observed, and is taken to hold as long as an aerodrome's report.
        holds = {"holds_min": HOLDS_MIN} if len(part.hours) == 1 else {}
        return part.model_copy(update={**(at or {}), **holds})


def collections_of(
    url: str, headers: Mapping[str, str], longest_s: float = LONGEST_S, *, own_network: bool = False
) -> list[Collection]:
    """What a service offers for positions. Raises SourceFailedError."""
    body, _ = get(
        f"{url}/collections", {"f": "json"}, {"Accept": "application/json", **headers}, longest_s,
        own_network=own_network, secret=bool(headers),
    )  # fmt: skip
    try:
        found = json.loads(body)["collections"]
        listed = [_collection(one) for one in found[:MOST_COLLECTIONS]]
    except (ValueError, LookupError, TypeError, AttributeError, RecursionError):
        raise SourceFailedError("it has no list of collections, as OGC API – EDR wants") from None
    offered = [one for one in listed if one is not None]
    if not offered:
        raise SourceFailedError("none of its collections answers for a position")
    return offered


def _collection(one: dict[str, Any]) -> Collection | None:
    if "position" not in one.get("data_queries", {}):
        return None
    name = str(one["id"])
    return Collection(name, str(one.get("title") or name)[:120], tuple(map(str, one.get("parameter_names") or ()))[:50])
