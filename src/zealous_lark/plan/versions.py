"""Older versions of the plan document, brought to the newest as plain JSON values.

Version 1 names the modes cine, normal and sport, has a flag `from_boat`, and reads a hover as measured. What it
says was typed in.
"""

from __future__ import annotations

import json
import re
from typing import Any

_MODES = {"cine": "slow", "sport": "fast"}


_OLD = re.compile(r'"version"\s*:\s*1\b|"cine"|"sport"')


def upgraded_text(raw: bytes | str) -> bytes | str:
    """JSON text in which every plan and every aircraft of a kit is of the newest version.

    Text that is no JSON, or has nothing old in it, is given back as it is.
    """
    try:
        text = raw.decode() if isinstance(raw, bytes) else raw
        if not _OLD.search(text):
            return raw
        return json.dumps(_upgraded(json.loads(text)))
    except (ValueError, RecursionError):
        return raw


def _upgraded(node: Any) -> Any:
    """A JSON value with the plans and aircraft in it upgraded."""
    if isinstance(node, list):
        return [_upgraded(x) for x in node]
    if not isinstance(node, dict):
        return node
    if node.get("format") == "zealous-lark.plan":
        return upgraded_plan(node)
    if node.get("kind") == "aircraft" and "aircraft" in node:
        return {**node, "aircraft": upgraded_aircraft(node["aircraft"])}
    return {k: _upgraded(v) for k, v in node.items()}


def upgraded_plan(plan: Any) -> Any:
    """A plan of version 2 out of one of version 1; anything else is given back as it is. The input is not changed."""
    if not isinstance(plan, dict) or plan.get("version") != 1 or isinstance(plan.get("version"), bool):
        return plan
    new = {**plan, "version": 2}
    new["aircraft"] = upgraded_aircraft(plan.get("aircraft"))
    flight = plan.get("flight")
    if isinstance(flight, dict):
        new["flight"] = {**flight, **{k: _mode(flight[k]) for k in ("outbound_mode", "return_mode") if k in flight}}
    site = plan.get("site")
    if isinstance(site, dict) and "from_boat" in site:
        kind = "boat" if site["from_boat"] is True else "ground"
        rest = {k: v for k, v in site.items() if k != "from_boat"}
        new["site"] = {**rest, "platform": {"kind": kind}} if isinstance(site["from_boat"], bool) else site
    weather = plan.get("weather")
    if isinstance(weather, dict) and isinstance(weather.get("winds"), list):
        new["weather"] = {**weather, "winds": [_wind(w, weather.get("as_of")) for w in weather["winds"]]}
    if "evidence" not in plan:
        new["evidence"] = _typed(new)
    if "aircraft" not in plan:
        del new["aircraft"]
    return new


def upgraded_aircraft(aircraft: Any) -> Any:
    """A spec sheet with the modes of version 2; the input is not changed."""
    if not isinstance(aircraft, dict) or not isinstance(aircraft.get("speeds_ms"), dict):
        return aircraft
    return {**aircraft, "speeds_ms": {_MODES.get(k, k): v for k, v in aircraft["speeds_ms"].items()}}


def _mode(mode: Any) -> Any:
    return _MODES.get(mode, mode) if isinstance(mode, str) else mode


def _wind(wind: Any, as_of: Any) -> Any:
    if not isinstance(wind, dict) or wind.get("method") != "hover" or wind.get("source") != "measured":
        return wind
    return {**wind, "source": "hover", "at": wind.get("at", as_of)}


def _typed(plan: dict[str, Any]) -> dict[str, Any]:
    """In version 1 what has no evidence counts as typed; in version 2 weather and charge would count as defaults."""
    found: dict[str, Any] = {}
    weather, pack = plan.get("weather"), plan.get("pack")
    if isinstance(weather, dict):
        winds = weather.get("winds")
        for i, wind in enumerate(winds if isinstance(winds, list) else []):
            measured = isinstance(wind, dict) and wind.get("source") in ("measured", "hover")
            found[f"weather.winds.{i}"] = {"how": "measured" if measured else "typed"}
        for key in ("temperature_c", "dew_point_c", "visibility_m", "precipitation", "kp"):
            if weather.get(key) is not None:
                found[f"weather.{key}"] = {"how": "typed"}
    if isinstance(pack, dict):
        for key in ("charge_pct", "temperature_c"):
            if pack.get(key) is not None:
                found[f"pack.{key}"] = {"how": "typed"}
    return found
