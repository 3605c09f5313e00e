"""METAR and TAF, the coded reports and forecasts of aerodromes.

The codes are read by a library; what it would skip over is refused here, with the group's place, because a
group that is not understood may be the one that counts. The forms are those of ICAO Annex 3, from memory.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

from metar_taf_parser.model.enum import WeatherChangeType
from metar_taf_parser.model.model import AbstractWeatherContainer, TAFTrend
from metar_taf_parser.parser.parser import MetarParser, TAFParser

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.readings import Precipitation, WindLevel, WindSource
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError

WIND_HEIGHT_M = 10.0
"""Height of an aerodrome's wind [m]: ICAO Annex 3, from memory."""
HOLDS = timedelta(hours=1)
"""How long an observation is taken to hold."""
_TO_MS = {"KT": 1852 / 3600, "MPS": 1.0}
_TO_M = {"M": 1.0, "KM": 1000.0, "SM": 1609.344, "FT": METRES_PER_FOOT}
_WEATHER = "(?:MI|BC|PR|DR|BL|SH|TS|FZ)?(?:DZ|RA|SN|SG|PL|IC|GR|GS|UP|BR|FG|FU|VA|DU|SA|HZ|PO|SQ|FC|SS|DS|PY)*"

_WIND = r"(?:\d{3}|VRB|///)P?(?:\d{2,3}|//)(?:GP?\d{2,3})?(?:KT|MPS)"
_SKY = (
    r"(?:FEW|SCT|BKN|OVC|///)(?:\d{3}|///)(?:CB|TCU|///)?", r"VV(?:\d{3}|///)", "SKC", "NSC", "NCD", "CLR", "CAVOK",
)  # fmt: skip
_SIGHT = (r"\d{4}(?:NDV)?", r"\d{4}[NESW]{1,2}", r"[PM]?\d{1,2}(?:/\d{1,2})?SM", r"\d(?=\s)", "////", r"\d{1,2}KM")
_FALLS = (rf"(?:\+|-|VC|RE)?(?!$){_WEATHER}", "NSW", "//")
_METAR_GROUPS = (
    _WIND, r"\d{3}V\d{3}", *_SKY, *_SIGHT, *_FALLS, r"M?\d{2}/(?:M?\d{2}|//)?", "/////", r"[QA](?:\d{4}|////)",
    "AUTO", "COR", "NIL", "NOSIG", r"R\d{2}[LCR]?/\S+", r"WS", "ALL", r"RWY\d{2}[LCR]?", r"W\d{2}/S\d",
    r"BLU\+?", "WHT", "GRN", "YLO1?", "YLO2", "AMB", "RED", "NIL", r"TEMPO", "BECMG", r"(?:FM|TL|AT)\d{4}", r"\d",
)  # fmt: skip
_TAF_GROUPS = (
    _WIND, *_SKY, *_SIGHT, *_FALLS, "TEMPO", "BECMG", "INTER", r"PROB\d{2}", r"FM\d{6}", r"\d{4}/\d{4}",
    r"T[XN]M?\d{2}/\d{4}Z", r"WS\d{3}/\d{5}KT", "CNL", "NIL", r"[QA]\d{4}", r"QNH\d{4}INS", r"\d",
)  # fmt: skip
_PRECIPITATION = re.compile(r"(DZ|RA|SN|SG|PL|GR|GS|UP)")


def read_metar(text: str, near: datetime) -> Forecast:
    """A METAR or SPECI as an observation. near: a time (aware) by which the day of the month is dated.

    Raises BadFileError naming the group that is not understood.
    """
    groups = _groups(text, "METAR", _METAR_GROUPS)
    said = _parsed(MetarParser, _plain(groups), "METAR")
    at = _dated(said.day, said.time.hour, said.time.minute, near)
    before_trend = _before(groups, ("TEMPO", "BECMG", "NOSIG", "RMK"))
    hour = Hour(
        at=at,
        winds=_winds(said, before_trend),
        temperature_c=None if said.temperature is None else float(said.temperature),
        dew_point_c=None if said.dew_point is None else float(said.dew_point),
        cloud_pct=_cloud_pct(said),
        visibility_m=_visibility_m(said),
        precipitation=_falls(before_trend, said),
        cloud_base_m=_base_m(said),
    )
    if hour == Hour(at=at):
        raise BadFileError(text.strip()[:60], "a METAR that says something; in this one everything is missing")
    return Forecast(f"METAR {said.station}", at, (hour,), HOLDS)


def read_taf(text: str, near: datetime) -> Forecast:
    """A TAF, hour by hour. What is temporary or only probable counts where it is worse; a change while it comes.

    Wind, visibility and cloud of each hour. Raises BadFileError naming the group that is not understood.
    """
    groups = _groups(text, "TAF", _TAF_GROUPS)
    said = _parsed(TAFParser, "TAF " + _plain(groups), "TAF")
    issued = _dated(said.day, said.time.hour, said.time.minute, near)
    if said.validity is None:
        raise BadFileError("no validity", "the hours it is valid for, like 2706/2806, after the time of issue")
    begin = _hour_of(said.validity.start_day, said.validity.start_hour, issued)
    end = _hour_of(said.validity.end_day, said.validity.end_hour, issued)
    parts = list(_split(groups))
    base = _state(said, parts[0])
    trends = [(_span(t, issued, end), t, words) for t, words in zip(said.trends, parts[1:], strict=False)]
    hours = []
    at = begin
    while at <= end:
        hours.append(_hour(at, base, trends))
        at += timedelta(hours=1)
    if not hours:
        raise BadFileError(f"{groups[2]}", "a validity that ends after it begins")
    return Forecast(f"TAF {said.station}", issued, tuple(hours))


def _groups(text: str, kind: str, known: Sequence[str]) -> list[str]:
    """The groups of a report without its name and end, each one known. Raises BadFileError."""
    flat = text.strip().rstrip("=").split()
    if not flat:
        raise BadFileError("nothing", f"a {kind} from its name or its aerodrome on")
    names = {"METAR": ("METAR", "SPECI"), "TAF": ("TAF",)}[kind]
    while flat and flat[0] in (*names, "COR", "AMD"):
        flat = flat[1:]
    if len(flat) < 3:
        raise BadFileError(text.strip()[:60], f"a {kind}: aerodrome, day and time, wind and what follows")
    shapes = [r"[A-Z][A-Z0-9]{3}", r"\d{6}Z"]
    pattern = re.compile("|".join(f"(?:{shape})" for shape in known))
    for i, group in enumerate(flat):
        if group == "RMK":
            break
        fits = re.fullmatch(shapes[i], group) if i < 2 else pattern.fullmatch(group)
        if fits is None and not (group.isdigit() and len(group) == 1):
            column = _column(text, group, flat[:i])
            asked = ["an aerodrome of four letters", "day and time like 270650Z", f"a group of a {kind}"][min(i, 2)]
            raise BadFileError(f"{group} (group {i + 1}, from letter {column})", asked)
    return flat


def _column(text: str, group: str, before: Sequence[str]) -> int:
    at = 0
    for earlier in before:
        at = text.find(earlier, at) + len(earlier)
    return text.find(group, at) + 1


def _plain(groups: Sequence[str]) -> str:
    """The report with winds beyond the scale (P99KT, P49MPS) as the end of the scale, which the library can read."""
    return " ".join(re.sub(r"P(?=\d)", "", g) if re.fullmatch(_WIND, g) else g for g in groups)


def _parsed(parser: Any, text: str, kind: str) -> Any:
    try:
        return parser().parse(text)
    except Exception as error:  # the library has errors of many kinds for text that it cannot read
        raise BadFileError(text[:60], f"a whole {kind} ({type(error).__name__} while reading it)") from None


def _dated(day: int, hour: int, minute: int, near: datetime) -> datetime:
    """The moment with a day of the month that is nearest to a time. Raises BadFileError for no such moment."""
    near = near.astimezone(UTC)
    found = []
    for months in (-1, 0, 1):
        month = near.year * 12 + near.month - 1 + months
        try:
            start = datetime(month // 12, month % 12 + 1, day, tzinfo=UTC)
        except ValueError:
            continue
        if 0 <= hour <= 24 and 0 <= minute < 60:
            found.append(start + timedelta(hours=hour, minutes=minute))
    if not found:
        raise BadFileError(f"{day:02}{hour:02}{minute:02}Z", "a day of the month and a time of the day")
    return min(found, key=lambda t: abs(t - near))


def _hour_of(day: int, hour: int, issued: datetime) -> datetime:
    return _dated(day, hour, 0, issued)


def _before(groups: Sequence[str], words: Sequence[str]) -> list[str]:
    ends = [i for i, g in enumerate(groups) if g in words]
    return list(groups[: min(ends, default=len(groups))])


def _split(groups: Sequence[str]) -> Iterator[list[str]]:
    """The groups of the base forecast, then those of each change."""
    part: list[str] = []
    for i, group in enumerate(groups):
        joined = group == "TEMPO" and i > 0 and groups[i - 1].startswith("PROB")
        if (group in ("TEMPO", "BECMG", "INTER") or group.startswith(("PROB", "FM"))) and not joined and i > 1:
            yield part
            part = []
        part.append(group)
    yield part


def _winds(said: AbstractWeatherContainer, groups: Sequence[str]) -> tuple[WindLevel, ...]:
    """The wind at 10 m; a variable one without a direction counts as from the north, and the gust is kept."""
    wind = said.wind
    if wind is None or wind.speed is None:
        return ()
    factor = _TO_MS[wind.unit]
    speed = wind.speed * factor
    gust = None if not wind.gust else max(wind.gust * factor, speed)
    if any(re.match(r"(\d{3}|VRB)P", g) for g in groups):
        gust = max(gust or 0.0, speed * 1.25)
    return (WindLevel(WIND_HEIGHT_M, speed, float(wind.degrees or 0) % 360, WindSource.FORECAST, gust),)


def _visibility_m(said: AbstractWeatherContainer) -> float | None:
    if said.cavok:
        return 10_000.0
    seen = said.visibility
    if seen is None or not seen.distance:
        return None
    digits = seen.distance.lstrip("<>PM").strip()
    total = 0.0
    for piece in digits.split():
        top, _, bottom = piece.partition("/")
        total += float(top) / float(bottom or 1)
    return total * _TO_M[str(seen.unit).removeprefix("LengthUnit.")]


def _base_m(said: AbstractWeatherContainer) -> float | None:
    """Height of the lowest broken or overcast cloud, or of the vertical visibility [m]."""
    bases = [
        c.height * _TO_M[str(c.unit).removeprefix("LengthUnit.")]
        for c in said.clouds
        if c.height is not None and c.quantity.name in ("BKN", "OVC")
    ]
    if said.vertical_visibility is not None:
        bases.append(said.vertical_visibility * METRES_PER_FOOT)
    return min(bases, default=None)


_COVER_PCT = {"SKC": 0.0, "NSC": 0.0, "FEW": 20.0, "SCT": 45.0, "BKN": 75.0, "OVC": 100.0}


def _cloud_pct(said: AbstractWeatherContainer) -> float | None:
    """Sky covered [%]: the middle of the eighths that the thickest layer stands for."""
    if said.cavok:
        return 0.0
    if said.vertical_visibility is not None:
        return 100.0
    return max((_COVER_PCT[c.quantity.name] for c in said.clouds if c.quantity.name in _COVER_PCT), default=None)


def _falls(groups: Sequence[str], said: AbstractWeatherContainer) -> Precipitation | None:
    """What falls, by the weather groups; none when the report has none."""
    worst = Precipitation.NONE
    order = (Precipitation.NONE, Precipitation.LIGHT, Precipitation.FOG, Precipitation.HEAVY)
    for group in groups[2:]:
        if group == "NSW" or re.fullmatch("|".join(_FALLS), group) is None or group == "//":
            continue
        if group.startswith(("VC", "RE")):
            continue
        found = Precipitation.NONE
        if _PRECIPITATION.search(group):
            # Moderate rain is over 2.5 mm/h and so no light rain any more.
            light = group.startswith("-") or "DZ" in group
            found = Precipitation.LIGHT if light else Precipitation.HEAVY
        elif "FG" in group and not group.startswith(("MI", "BC", "PR")):
            found = Precipitation.FOG
        worst = max(worst, found, key=order.index)
    if worst is Precipitation.NONE and said.visibility is None and not said.cavok:
        return None
    return worst


def _state(said: AbstractWeatherContainer, groups: Sequence[str]) -> Hour:
    """What a part of a TAF says; the time is put in later."""
    falls = _falls(groups, said) if any(re.fullmatch("|".join(_FALLS), g) for g in groups[1:]) else None
    return Hour(
        at=datetime.min.replace(tzinfo=UTC),
        winds=_winds(said, groups),
        cloud_pct=_cloud_pct(said),
        visibility_m=_visibility_m(said),
        precipitation=falls,
        cloud_base_m=_base_m(said),
    )


Trend = tuple[tuple[datetime, datetime], TAFTrend, list[str]]


def _span(trend: TAFTrend, issued: datetime, end: datetime) -> tuple[datetime, datetime]:
    try:
        valid = trend.validity
    except AttributeError:  # the parser's way of saying that there is none
        raise BadFileError("a change without its hours", "hours after each change, like BECMG 2709/2711") from None
    begin = _hour_of(valid.start_day, valid.start_hour, issued)
    if trend.type is WeatherChangeType.FM:
        return begin + timedelta(minutes=getattr(valid, "start_minutes", 0) or 0), end
    return begin, _hour_of(valid.end_day, valid.end_hour, issued)


def _laid_over(base: Hour, said: Hour) -> Hour:
    """A later state: what it says in place of what was; good visibility and no weather clear what they replace."""
    return replace(
        base,
        winds=said.winds or base.winds,
        cloud_pct=base.cloud_pct if said.cloud_pct is None else said.cloud_pct,
        visibility_m=base.visibility_m if said.visibility_m is None else said.visibility_m,
        precipitation=base.precipitation if said.precipitation is None else said.precipitation,
        cloud_base_m=said.cloud_base_m if said.cloud_pct is not None else base.cloud_base_m,
    )


def _worse(a: Hour, b: Hour) -> Hour:
    """The worse of two states, figure by figure: what may come for a while counts."""
    order = (None, Precipitation.NONE, Precipitation.LIGHT, Precipitation.FOG, Precipitation.HEAVY)

    def strength(h: Hour) -> float:
        return max((w.gust_ms or w.speed_ms for w in h.winds), default=-1.0)

    return replace(
        a,
        winds=max(a, b, key=strength).winds,
        cloud_pct=max((c for c in (a.cloud_pct, b.cloud_pct) if c is not None), default=None),
        visibility_m=min((v for v in (a.visibility_m, b.visibility_m) if v is not None), default=None),
        precipitation=max(a.precipitation, b.precipitation, key=order.index),
        cloud_base_m=min((v for v in (a.cloud_base_m, b.cloud_base_m) if v is not None), default=None),
    )


def _hour(at: datetime, base: Hour, trends: Sequence[Trend]) -> Hour:
    state = base
    passing: list[Hour] = []
    for (begin, end), trend, words in trends:
        said = _state(trend, words)
        lasting = trend.type in (WeatherChangeType.FM, WeatherChangeType.BECMG)
        if lasting and trend.probability is None:
            if trend.type is WeatherChangeType.BECMG and begin <= at < end:
                passing.append(_laid_over(state, said))
            elif at >= (begin if trend.type is WeatherChangeType.FM else end):
                state = said if trend.type is WeatherChangeType.FM else _laid_over(state, said)
        elif begin <= at < end:
            passing.append(_laid_over(state, said))
    for other in passing:
        state = _worse(state, other)
    falls = Precipitation.NONE if state.precipitation is None else state.precipitation
    return replace(state, at=at, precipitation=falls)
