"""CoverageJSON: parameters by the standard's own metadata, units by a table, heights by axis or name."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Any

import pytest
from covjson_pydantic.coverage import Coverage
from metpy.calc import dewpoint_from_relative_humidity
from metpy.units import units

from zealous_lark.formats import bounded
from zealous_lark.formats.coverage import read_coverage
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.weather_names import dew_point_c
from zealous_lark.plan.forecast import forecast_of, forecast_part

ISSUED = datetime(2026, 9, 26, 12, tzinfo=UTC)
TIMES = ["2026-09-27T06:00:00Z", "2026-09-27T07:00:00Z"]


def parameter(name: str, unit: str, *, by: str = "id") -> dict[str, Any]:
    """A parameter that says what it is by its property's address, by its label, or by its own key alone."""
    observed = {"label": {"en": name.replace("_", " ").capitalize() if by == "label" else "Something"}}
    if by == "id":
        observed["id"] = f"https://vocab.example/standard_name/{name}/"[:-1]  # type: ignore[assignment]
    symbol = {"value": unit, "type": "http://www.opengis.net/def/uom/UCUM/"}
    return {"type": "Parameter", "observedProperty": observed, "unit": {"symbol": symbol}}


def series(said: dict[str, tuple[str, list[float | None]]], **domain: Any) -> dict[str, Any]:
    """Two hours at one point: by standard name, the unit and the values."""
    axes = {"x": {"values": [25.1]}, "y": {"values": [58.6]}, "t": {"values": TIMES}, **domain}
    return {
        "type": "Coverage",
        "domain": {"type": "Domain", "domainType": "PointSeries", "axes": axes},
        "parameters": {name: parameter(name.split("@")[0], unit) for name, (unit, _) in said.items()},
        "ranges": {
            name: {"type": "NdArray", "dataType": "float", "axisNames": ["t"], "shape": [2], "values": values}
            for name, (_, values) in said.items()
        },
    }


WIND: dict[str, tuple[str, list[float | None]]] = {
    "wind_speed": ("m/s", [4.0, 5.0]),
    "wind_from_direction": ("deg", [240.0, 250.0]),
}


def read(document: dict[str, Any]) -> Any:
    Coverage.model_validate(document) if document["type"] == "Coverage" else None
    return read_coverage(json.dumps(document).encode(), "Made", ISSUED, 58.62, 25.08)


@pytest.mark.parametrize(
    ("name", "unit", "value", "key", "si"),
    [
        ("wind_speed", "km/h", 36.0, "speed", 10.0),
        ("wind_speed", "[kn_i]", 10.0, "speed", 5.1444),
        ("wind_speed", "mph", 10.0, "speed", 4.4704),
        ("wind_speed_of_gust", "kn", 20.0, "gust", 10.2889),
        ("air_temperature", "K", 283.15, "temperature_c", 10.0),
        ("air_temperature", "[degF]", 50.0, "temperature_c", 10.0),
        ("air_temperature", "Cel", 10.0, "temperature_c", 10.0),
        ("cloud_area_fraction", "1", 0.5, "cloud_pct", 50.0),
        ("cloud_area_fraction", "%", 50.0, "cloud_pct", 50.0),
        ("precipitation_flux", "kg m-2 s-1", 0.001, "rain_mmh", 3.6),
        ("rainfall_rate", "mm/h", 2.5, "rain_mmh", 2.5),
        ("lwe_precipitation_rate", "m/s", 1e-6, "rain_mmh", 3.6),
        ("visibility_in_air", "km", 12.0, "visibility_m", 12_000.0),
        ("visibility_in_air", "[mi_i]", 1.0, "visibility_m", 1609.344),
        ("planetary_k_index", "1", 5.0, "kp", 5.0),
    ],
)
def test_units_become_si(name: str, unit: str, value: float, key: str, si: float) -> None:
    hour = read(series({**WIND, name: (unit, [value, value])})).forecast.hours[0]
    wind = hour.winds[0]
    found = {"speed": wind.speed_ms, "gust": wind.gust_ms}.get(key) if key in ("speed", "gust") else getattr(hour, key)
    assert found == pytest.approx(si, rel=1e-4)


@pytest.mark.parametrize("name", ["wind_speed", "air_temperature", "precipitation_flux", "visibility_in_air"])
def test_a_unit_that_is_not_known_is_refused_by_name(name: str) -> None:
    with pytest.raises(BadFileError, match=f"{name} in the unit furlong/wk"):
        read(series({**WIND, name: ("furlong/wk", [1.0, 1.0])}))


@pytest.mark.parametrize("by", ["id", "label", "key"])
def test_what_a_parameter_is_it_says_itself(by: str) -> None:
    document = series(WIND)
    document["parameters"] = {name: parameter(name, unit, by=by) for name, (unit, _) in WIND.items()}
    assert read(document).forecast.hours[0].winds[0].speed_ms == 4.0


def test_heights_stand_in_the_name_or_are_those_of_a_mast() -> None:
    document = series({**WIND, "wind_speed@100": ("m/s", [9.0, 9.0]), "wind_from_direction@100": ("deg", [260, 260])})
    for name in ("wind_speed", "wind_from_direction"):
        document["parameters"][f"{name}_100m"] = document["parameters"].pop(f"{name}@100")
        document["ranges"][f"{name}_100m"] = document["ranges"].pop(f"{name}@100")
    winds = read(document).forecast.hours[0].winds
    assert [(w.height_m, w.speed_ms, w.direction_deg) for w in winds] == [(10.0, 4.0, 240.0), (100.0, 9.0, 260.0)]


def test_a_grid_gives_the_nearest_point_and_every_height() -> None:
    """Values along t, z, y and x, the last the fastest: each is its own index, so that a slip shows."""
    names = ["t", "z", "y", "x"]
    shape = [2, 2, 2, 3]
    speeds = [100 * t + 10 * z + 3 * y + x for t in range(2) for z in range(2) for y in range(2) for x in range(3)]
    document = series(WIND)
    document["domain"] = {
        "type": "Domain",
        "domainType": "Grid",
        "axes": {
            "x": {"start": 24.9, "stop": 25.1, "num": 3},
            "y": {"values": [58.5, 58.6]},
            "z": {"values": [10, 80]},
            "t": {"values": TIMES},
        },
    }
    array = {"type": "NdArray", "dataType": "float", "axisNames": names, "shape": shape}
    document["ranges"] = {
        "wind_speed": {**array, "values": [v / 10 for v in speeds]},
        "wind_from_direction": {**array, "values": [200.0] * 24},
    }
    found = read(document)
    assert found.point == pytest.approx((58.6, 25.1))
    told = [(w.height_m, round(w.speed_ms * 10)) for h in found.forecast.hours for w in h.winds]
    assert told == [(10, 5), (80, 15), (10, 105), (80, 115)]


def test_components_make_a_wind_from_where_it_blows() -> None:
    document = series({"eastward_wind": ("m/s", [3.0, 0.0]), "northward_wind": ("m/s", [4.0, -2.0])})
    first, second = (h.winds[0] for h in read(document).forecast.hours)
    assert (first.speed_ms, first.direction_deg) == (pytest.approx(5.0), pytest.approx(216.87, abs=0.01))
    assert (second.speed_ms, second.direction_deg) == (2.0, 0.0)


def test_a_collection_of_levels_is_one_forecast_and_gaps_stay_gaps() -> None:
    one, two = (
        series(WIND, z={"values": [10]}),
        series({**WIND, "wind_speed": ("m/s", [8.0, None])}, z={"values": [80]}),
    )
    parameters = one.pop("parameters")
    two.pop("parameters")
    found = read({"type": "CoverageCollection", "parameters": parameters, "coverages": [one, two]}).forecast
    assert [[(w.height_m, w.speed_ms) for w in h.winds] for h in found.hours] == [[(10, 4), (80, 8)], [(10, 5)]]
    assert forecast_of(forecast_part(found)).hours == found.hours


def test_levels_of_pressure_are_no_heights() -> None:
    document = series(WIND, z={"values": [850]})
    document["domain"]["referencing"] = [
        {"coordinates": ["z"], "system": {"type": "VerticalCRS", "cs": {"csAxes": [{"name": {"en": "Pressure"}}]}}}
    ]
    with pytest.raises(BadFileError, match="no wind with its direction"):
        read(document)


@pytest.mark.parametrize("celsius", [-20.0, 0.0, 21.0, 35.0])
@pytest.mark.parametrize("humidity", [10.0, 45.0, 100.0])
def test_the_dew_point_agrees_with_another_implementation(celsius: float, humidity: float) -> None:
    theirs = dewpoint_from_relative_humidity(celsius * units.degC, humidity * units.percent).to("degC").magnitude
    assert dew_point_c(celsius, humidity) == pytest.approx(float(theirs), abs=0.25)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: d["domain"]["axes"].pop("t"), "no CoverageJSON|without their times"),
        (lambda d: d["ranges"].pop("wind_from_direction"), "no wind with its direction"),
        (lambda d: d["domain"]["axes"].update(x={"values": [6_500_000.0]}), "not in degrees"),
        (lambda d: d["ranges"]["wind_speed"].update(values=[1.0]), "no CoverageJSON"),
        (lambda d: d["ranges"].update(wind_speed="https://elsewhere.example/values"), "not numbers in the answer"),
        (lambda d: d.update(type="Feature"), "no CoverageJSON"),
    ],
)
def test_what_is_wrong_is_said(change: Any, said: str) -> None:
    document = series(WIND)
    change(document)
    with pytest.raises(BadFileError, match=said):
        read_coverage(json.dumps(document).encode(), "Made", ISSUED, 58.62, 25.08)


@pytest.mark.parametrize("data", [b"", b"{", b"[" * 20_000, b'{"type": "Coverage"}', b"\xff\xfe", b"null"])
def test_rubbish_is_refused_within_limits(data: bytes) -> None:
    with pytest.raises(BadFileError):
        bounded.read(bounded.OF_A_PLACE, read_coverage, data, "Made", ISSUED, 58.62, 25.08)
