"""The command line, as a shell sees it."""

import json
from pathlib import Path
from typing import Any

import pytest

from tests.lark import lark
from tests.make import EXAMPLES
from zealous_lark.plan import judge_plan, read_plan, schema


def with_change(plan: dict[str, Any], part: str, **values: Any) -> str:
    plan[part].update(values)
    return json.dumps(plan)


def test_the_example_as_a_table() -> None:
    done = lark("check", str(EXAMPLES / "example-plan.json"))
    assert done.returncode == 1
    assert "Caution. Tightest: sight." in done.stdout
    (row,) = (line for line in done.stdout.splitlines() if line.startswith("Gusts"))
    assert row.split()[1] == "pass"
    assert "7.9 m/s" in row
    assert "10.7 m/s" in row
    assert "landing 70%" in " ".join(done.stdout.split())
    assert "Not permission to fly" in done.stdout


def test_the_example_as_a_document(plan_text: str) -> None:
    done = lark("check", "--json", "-", given=plan_text)
    assert done.returncode == 1
    assert json.loads(done.stdout) == json.loads(judge_plan(read_plan(plan_text)).model_dump_json(by_alias=True))


def test_exit_status_is_the_verdict(plan_dict: dict[str, Any]) -> None:
    plan_dict["aircraft"]["mass_g"] = 240
    near = {"distance_m": 120}
    calm = [{"height_m": 10, "speed_ms": 2, "direction_deg": 240, "source": "forecast"}]
    plan_dict["weather"]["winds"] = calm
    assert lark("check", "-", given=with_change(plan_dict, "flight", **near)).returncode == 0
    assert lark("check", "-", given=with_change(plan_dict, "settings", rth_altitude_m=10)).returncode == 2
    plan_dict["settings"]["rth_altitude_m"] = 40
    plan_dict["weather"]["winds"][0]["source"] = "measured"
    assert lark("check", "-", given=with_change(plan_dict, "site", sheltered=True)).returncode == 3


@pytest.mark.parametrize(
    ("given", "named"),
    [
        (b"junk", "not JSON"),
        (b"7" * 10_000_000, "4,000,000 bytes at most"),
        (b'{"format": Infinity}', "format: Infinity given"),
        (b"", "not JSON"),
    ],
)
def test_bad_input_is_named_with_status_64(given: bytes, named: str) -> None:
    done = lark("check", "-", given=given)
    assert (done.returncode, done.stdout) == (64, "")
    assert named in done.stderr


def test_all_faults_are_listed(plan_dict: dict[str, Any]) -> None:
    del plan_dict["pack"]
    done = lark("check", "-", given=with_change(plan_dict, "flight", bearing_deg=400, height_m=-1))
    assert done.returncode == 64
    lines = [line.strip() for line in done.stderr.splitlines()[1:]]
    assert [line.split(":")[0] for line in lines] == ["pack", "flight.bearing_deg", "flight.height_m"]
    assert "400 given; needs a number from 0 to 360" in lines[1]


@pytest.mark.parametrize(
    "words", [("check",), ("check", "/nowhere.json"), ("check", "-", "--speed", "warp"), ("fly",), ("schema", "x")]
)
def test_a_wrong_call_never_looks_like_a_verdict(words: tuple[str, ...]) -> None:
    done = lark(*words)
    assert done.returncode == 64
    assert done.stderr


def test_units_of_the_table(plan_text: str) -> None:
    done = lark("check", "--speed", "mph", "--length", "ft", "-", given=plan_text)
    assert "452 ft" in done.stdout
    assert "11.0 mph" in done.stdout


@pytest.mark.parametrize("which", ["plan", "result"])
def test_schemas(which: Any) -> None:
    assert json.loads(lark("schema", which).stdout) == schema(which)


def test_a_taken_port_is_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    import socket

    monkeypatch.setenv("LARK_DATA", str(tmp_path))
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        done = lark("serve", "--port", str(taken.getsockname()[1]))
    assert done.returncode == 64
    assert "is Lark running already?" in done.stderr


def test_a_plan_that_leaves_its_place_behind_is_refused(plan_dict: dict[str, Any]) -> None:
    """What a number means is known in one store only; a plan saved as a file carries its place."""
    plan_dict["site"]["place"] = 3
    done = lark("check", "-", given=json.dumps(plan_dict).encode())
    assert done.returncode == 64
    assert "site.place: 3 given" in done.stderr
    plan_dict["site"]["place"] = None
    terrain = {"name": "t", "latitude": 58.62, "longitude": 25.08, "cell_m": 10, "west_m": -50, "north_m": 50,
               "columns": 10, "rows": 10, "base_m": 40, "sha256": "0" * 64}  # fmt: skip
    plan_dict["place"] = {"name": "Bog", "terrain": terrain}
    done = lark("check", "-", given=json.dumps(plan_dict).encode())
    assert done.returncode == 64
    assert "place.terrain.heights" in done.stderr
    terrain["heights"] = "eJxjYGAYBaNgFIwCCAAABMQAAQ=="
    done = lark("check", "-", given=json.dumps(plan_dict).encode())
    assert done.returncode == 64
    assert "place.terrain" in done.stderr
