"""Tracks from files: GPX 1.1, and tables of comma-, semicolon- or tab-separated values.

Both are read piece by piece: each reader is a generator that yields the share that is done and returns the track, so
that who reads can show how far it is, and stop.
"""

from __future__ import annotations

import math
from array import array
from collections.abc import Callable, Generator
from dataclasses import dataclass, field
from datetime import UTC, datetime
from xml.sax import SAXException
from xml.sax.handler import ContentHandler

import numpy as np
from defusedxml import DefusedXmlException
from defusedxml.sax import make_parser

from zealous_lark.core.postflight.track import Track, cleaned
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.tables import Table

MAX_POINTS = 1_000_000
_PIECE = 1 << 18
_ROWS = 5_000
LEAST_POINTS = 10
LEAST_S = 1.0
LONGEST_H = 72.0
"""No flight is that long; a log that nobody cut may be. Longer is a wrong time among the points."""
_CHARGE_NAMES = {"charge_pct", "charge", "battery", "battery_pct"}
_TILT_NAMES = {"tilt", "tilt_deg", "lean"}
_HEIGHT_NAME = "height_m"
"""Above the take-off point, as Lark writes it after the height above sea level: it is the one that counts."""
_NAN = math.nan
_HIGHEST_M = 20_000.0
_LATEST_S = 7.26e9


@dataclass(frozen=True, slots=True)
class FlownTrack:
    """A track with the time of its first point (aware), where the file has times of day."""

    track: Track
    started_at: datetime | None
    name: str = ""


Reading = Generator[float, None, FlownTrack]


def _numbers() -> array[float]:
    return array("d")


@dataclass(slots=True)
class _Points:
    """A million points in 50 MB: as numbers beside each other, not as objects."""

    time: array[float] = field(default_factory=_numbers)
    latitude: array[float] = field(default_factory=_numbers)
    longitude: array[float] = field(default_factory=_numbers)
    height: array[float] = field(default_factory=_numbers)
    charge: array[float] = field(default_factory=_numbers)
    tilt: array[float] = field(default_factory=_numbers)

    def add(
        self, time: float, latitude: float, longitude: float, height: float, charge: float, tilt: float = _NAN
    ) -> None:
        self.time.append(time)
        self.latitude.append(latitude)
        self.longitude.append(longitude)
        self.height.append(height)
        self.charge.append(charge)
        self.tilt.append(tilt)
        if len(self.time) > MAX_POINTS:
            raise BadFileError(f"more than {MAX_POINTS:,} points", f"{MAX_POINTS:,} at most")


def _finished(points: _Points, epoch: bool, name: str) -> FlownTrack:
    """In order of time, without doubled times and what cannot have been flown, heights above the first."""
    if len(points.time) < LEAST_POINTS:
        raise BadFileError(f"{len(points.time)} points with a time and a position", f"{LEAST_POINTS} or more")
    # To the millisecond: what is closer together than that is one moment, and no speed comes of it.
    time = np.round(np.array(points.time), 3)
    order = np.argsort(time, kind="stable")
    order = order[np.concatenate([[True], np.diff(time[order]) > 0])]
    time = time[order]
    if len(time) < LEAST_POINTS:
        raise BadFileError("points that all have the same time", "a track with increasing times")
    span_h = (time[-1] - time[0]) / 3600
    if not span_h <= LONGEST_H:
        # One wrong time among many is usual: a receiver that has no fix yet gives a day long ago.
        raise BadFileError(
            f"points over {span_h:,.0f} hours", f"those of one flight, {LONGEST_H:.0f} hours at most from first to last"
        )
    latitude, longitude, height, charge, tilt = (
        np.array(values)[order]
        for values in (points.latitude, points.longitude, points.height, points.charge, points.tilt)
    )
    leans = tilt if np.isfinite(tilt).any() else None
    track, gone_s = cleaned(Track(time - time[0], latitude, longitude, height, charge, leans))
    if len(track.time_s) < LEAST_POINTS:
        raise BadFileError(
            f"{len(track.time_s)} points that can be flown one after the other", f"{LEAST_POINTS} or more"
        )
    if track.time_s[-1] < LEAST_S:
        raise BadFileError("points that all have nearly the same time", f"a track of {LEAST_S:g} s or more")
    begun = float(time[0]) + gone_s
    return FlownTrack(track, datetime.fromtimestamp(begun, UTC) if epoch else None, name[:120])


class _Gpx(ContentHandler):
    """Track points of a GPX document, as they come."""

    def __init__(self) -> None:
        self.points = _Points()
        self.root: str | None = None
        self.name = ""
        self.timeless = 0
        self._in_point = False
        self._text: list[str] = []
        self._at = (0.0, 0.0)
        self._time = self._height = self._charge = self._tilt = _NAN

    def startElement(self, name: str, attrs: object) -> None:
        local = name.rsplit(":", 1)[-1]
        if self.root is None:
            self.root = local
        self._text.clear()
        if local == "trkpt":
            self._in_point = True
            self._time = self._height = self._charge = self._tilt = _NAN
            values = dict(attrs.items())  # type: ignore[attr-defined]
            try:
                self._at = (float(values["lat"]), float(values["lon"]))
            except (KeyError, ValueError):
                raise BadFileError(
                    f"point {len(self.points.time) + 1} without lat and lon", "degrees in both"
                ) from None
            if not (abs(self._at[0]) <= 90 and abs(self._at[1]) <= 180):
                raise BadFileError(f"point {len(self.points.time) + 1} at {self._at}", "a latitude and a longitude")

    def characters(self, content: str) -> None:
        self._text.append(content)

    def endElement(self, name: str) -> None:
        local = name.rsplit(":", 1)[-1]
        if not self._in_point:
            if local == "name" and not self.name:
                self.name = "".join(self._text).strip()
            return
        if local == "trkpt":
            self._in_point = False
            if math.isnan(self._time):
                self.timeless += 1
            else:
                self.points.add(self._time, *self._at, self._height, self._charge, self._tilt)
        elif local == "time":
            self._time = _when("".join(self._text).strip(), f"point {len(self.points.time) + 1}")
        elif local in ("ele", _HEIGHT_NAME):
            self._height = _height(_number("".join(self._text), f"the height of point {len(self.points.time) + 1}"))
        elif local in _CHARGE_NAMES:
            self._charge = _percent(_number("".join(self._text), f"the charge of point {len(self.points.time) + 1}"))
        elif local in _TILT_NAMES:
            self._tilt = _lean(_number("".join(self._text), f"the tilt of point {len(self.points.time) + 1}"))


def _when(text: str, where: str) -> float:
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        raise BadFileError(f"{where} at {text[:40]!r}", "a time like 2026-09-27T06:00:00Z") from None
    if not 1970 <= found.year <= 2200:
        raise BadFileError(f"{where} in the year {found.year}", "years from 1970 to 2200")
    return (found if found.tzinfo is not None else found.replace(tzinfo=UTC)).timestamp()


def _number(text: str, where: str) -> float:
    try:
        found = float(text)
    except ValueError:
        raise BadFileError(f"{where}: {text.strip()[:40]!r}", "a number") from None
    return found if math.isfinite(found) else _NAN


def _height(value: float) -> float:
    """A height [m]; what no aircraft of this kind was ever at is none."""
    return value if abs(value) <= _HIGHEST_M else _NAN


def _clock(text: str, where: str, scale: float) -> float:
    """Seconds since whenever. What is beyond that is no clock's, and no day can be made of it."""
    found = _number(text, where) * scale
    if not abs(found) <= _LATEST_S:
        raise BadFileError(f"{where}: the time {text.strip()[:40]!r}", "seconds, or milliseconds, up to the year 2200")
    return found


def _percent(value: float) -> float:
    if value < 0 or value > 100:
        raise BadFileError(f"a charge of {value:g}", "percent from 0 to 100")
    return value


def _lean(value: float) -> float:
    """A tilt [°] whichever way it is counted; beyond what flies it is none."""
    return abs(value) if abs(value) <= 80 else _NAN


def read_gpx_track(data: bytes) -> Reading:
    """The tracks of a GPX 1.1 file as one, charge and tilt in the extensions with it. Raises BadFileError."""
    parser, handler = make_parser(), _Gpx()
    parser.forbid_dtd = True
    parser.setContentHandler(handler)
    try:
        for at in range(0, len(data), _PIECE):
            parser.feed(data[at : at + _PIECE])
            yield min(at + _PIECE, len(data)) / len(data)
        parser.close()
    except DefusedXmlException:
        raise BadFileError(
            "a document type or entities, which Lark doesn't read", "plain GPX 1.1 without them"
        ) from None
    except (SAXException, UnicodeError, LookupError) as error:  # LookupError: an encoding that nobody knows
        raise BadFileError(f"XML that cannot be read ({error})", "GPX 1.1") from None
    if handler.root != "gpx":
        raise BadFileError(f"XML that begins with <{handler.root}>", "GPX 1.1")
    if handler.timeless and len(handler.points.time) < LEAST_POINTS:
        raise BadFileError(f"{handler.timeless} points without a time", "track points with times")
    return _finished(handler.points, True, handler.name)


FIELDS = ("time", "latitude", "longitude", "height", "charge", "tilt", "pitch", "roll")
_NEEDED = FIELDS[:3]
_GUESSES: dict[str, tuple[str, ...]] = {
    "time": ("time", "datetime", "timestamp", "time_s", "seconds", "time(ms)", "time_ms"),
    "latitude": ("latitude", "lat"),
    "longitude": ("longitude", "lon", "lng", "long"),
    "height": ("height", "height_m", "altitude", "alt", "altitude_m", "height_ft", "altitude_ft"),
    "charge": ("charge", "charge_pct", "battery", "battery_pct", "battery_percent", "soc"),
    "tilt": ("tilt", "tilt_deg", "lean"),
    "pitch": ("pitch", "pitch_deg"),
    "roll": ("roll", "roll_deg"),
}


@dataclass(frozen=True, slots=True)
class TableHead:
    """The columns of a table, its first rows, and a guess of which is what."""

    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    guess: dict[str, str]


def read_table_head(data: bytes) -> TableHead:
    """What a table has, for the pilot to say which column is which. Raises BadFileError."""
    rows = Table(data)
    columns = tuple(c.strip() for c in next(rows, []))
    if len(columns) < len(_NEEDED):
        raise BadFileError(f"a table of {len(columns)} columns", "columns for time, latitude and longitude")
    if len(set(columns)) != len(columns):
        raise BadFileError("two columns of the same name", "a name of its own for each")
    first = tuple(tuple(r) for _, r in zip(range(3), rows, strict=False))
    by_name = {c.lower().replace(" ", "_"): c for c in columns}
    guess = {}
    for what, names in _GUESSES.items():
        found = next((by_name[n] for n in names if n in by_name), None)
        if found is not None:
            guess[what] = found
    return TableHead(columns, first, guess)


def _time_of(column: str, sample: str) -> tuple[Callable[[str, str], float], bool]:
    """How a column's times are read, and whether they are times of day: ISO 8601, else a count since anywhere."""
    try:
        number = float(sample)
    except ValueError:
        return _when, True
    milliseconds = column.lower().rstrip(")").endswith("ms") or number > 1e11
    scale = 1e-3 if milliseconds else 1.0
    return (lambda text, where: _clock(text, where, scale)), number * scale > 1e8


def read_table_track(data: bytes, columns: dict[str, str]) -> Reading:
    """A track from a table, with the pilot's word on which column is which. Raises BadFileError naming the row."""
    head = read_table_head(data)
    for what in _NEEDED:
        if what not in columns:
            raise BadFileError(f"no column for the {what}", "one for each of time, latitude and longitude")
    at: dict[str, int] = {}
    for what, name in columns.items():
        if what not in FIELDS or name not in head.columns:
            raise BadFileError(f"column {name!r} for {what}", f"one of {', '.join(head.columns)}")
        at[what] = head.columns.index(name)
    rows = Table(data)
    next(rows)
    points = _Points()
    in_feet = columns.get("height", "").lower().rstrip(")").endswith("ft")
    reader: Callable[[str, str], float] | None = None
    epoch = False
    for row in rows:
        if not any(c.strip() for c in row):
            continue
        where = f"row {rows.line_num}"
        if len(row) <= max(at.values()):
            raise BadFileError(f"{where} with {len(row)} columns", f"{len(head.columns)}, as in the first row")
        if reader is None:
            reader, epoch = _time_of(columns["time"], row[at["time"]].strip())
        latitude, longitude = (_number(row[at[k]], f"{where}, {columns[k]}") for k in ("latitude", "longitude"))
        if math.isnan(latitude) or math.isnan(longitude) or (latitude == longitude == 0):
            continue  # no fix yet
        if not (abs(latitude) <= 90 and abs(longitude) <= 180):
            raise BadFileError(f"{where} at {latitude:g}, {longitude:g}", "degrees, latitude and longitude")
        height = _height(_optional(row, at.get("height"), where) * (METRES_PER_FOOT if in_feet else 1.0))
        charge = _percent_or_none(_optional(row, at.get("charge"), where))
        tilt, pitch, roll = (_optional(row, at.get(k), where) for k in ("tilt", "pitch", "roll"))
        lean = _lean(tilt if "tilt" in at else leaning(pitch, roll))
        points.add(reader(row[at["time"]].strip(), where), latitude, longitude, height, charge, lean)
        if rows.line_num % _ROWS == 0:
            yield min(rows.line_num / rows.lines, 1.0)
    yield 1.0
    return _finished(points, epoch, "")


def leaning(pitch_deg: float, roll_deg: float) -> float:
    """Tilt [°] of what is pitched and rolled; NaN where one of them is.

    >>> round(leaning(3.0, 4.0), 2)
    5.0
    """
    return math.degrees(math.acos(math.cos(math.radians(pitch_deg)) * math.cos(math.radians(roll_deg))))


def _optional(row: list[str], index: int | None, where: str) -> float:
    if index is None or not row[index].strip():
        return _NAN
    return _number(row[index], where)


def _percent_or_none(value: float) -> float:
    return value if math.isnan(value) else _percent(value)


def whole(reading: Reading, seen: Callable[[float], None] = lambda _: None) -> FlownTrack:
    """Read to the end. Raises BadFileError."""
    while True:
        try:
            seen(next(reading))
        except StopIteration as end:
            found: FlownTrack = end.value
            return found


def is_gpx(data: bytes) -> bool:
    """Whether a file looks like XML rather than a table."""
    return data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"<"
