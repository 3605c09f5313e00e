"""The OpenAPI document and the types made from it are those of the code."""

import json
import re
import shutil
import subprocess
from pathlib import Path

from apiflask import APIFlask

from tests.make import ROOT

FRONTEND = ROOT / "frontend"


def test_the_document_in_the_tree_is_the_servers(app: APIFlask) -> None:
    kept = json.loads((FRONTEND / "src/api/openapi.json").read_text())
    assert kept == json.loads(json.dumps(app.spec)), "stale: run make api"


def test_each_thing_is_one_component(app: APIFlask) -> None:
    """Called by its own name, whatever body it is a part of; nothing that only is called alike shares it."""
    spec = json.loads(json.dumps(app.spec))
    names = spec["components"]["schemas"]
    assert [n for n in names if "." in n or "__" in n or n[-1].isdigit()] == []
    bodies = [json.dumps({**schema, "title": ""}) for schema in names.values() if schema.get("properties")]
    assert len(bodies) - len(set(bodies)) <= 3
    refs = set(re.findall(r'"#/components/schemas/([^"]+)"', json.dumps(spec)))
    assert refs <= set(names)
    assert {"PlanDocument", "ResultDocument"} <= refs


def test_the_types_in_the_tree_are_made_from_it(tmp_path: Path) -> None:
    npx = shutil.which("npx")
    assert npx is not None
    made = tmp_path / "schema.d.ts"
    subprocess.run(
        [npx, "--no-install", "openapi-typescript", "src/api/openapi.json", "-o", str(made)],
        cwd=FRONTEND,
        check=True,
        capture_output=True,
    )
    assert made.read_text() == (FRONTEND / "src/api/schema.d.ts").read_text(), "stale: run make api"


READS_JSON = (
    "/api/check",
    "/api/practice/home/{seed}",
    "/api/sessions",
    "/api/sessions/import",
    "/api/places",
    "/api/section",
    "/api/survey",
    "/api/takeoffs",
    "/api/weather/fetch",
    "/api/weather/read",
    "/api/weather/fill",
    "/api/weather/compare",
    "/api/weather/fetch-all",
    "/api/sources",
    "/api/sources/try",
    "/api/windows",
    "/api/kit",
    "/api/kit/{item_id}/upkeep",
    "/api/outing",
    "/api/sessions/{session_id}/on-site",
    "/api/flights",
    "/api/learning",
    "/api/access/sign-in",
    "/api/access/pair",
    "/api/practice/{family}/{seed}",
    "/api/sessions/{session_id}/drills",
)


def test_every_route_says_what_it_takes_and_gives(app: APIFlask) -> None:
    paths = app.spec["paths"]
    assert set(paths["/api/sessions/{session_id}"]) >= {"get", "put", "delete"}
    for path, methods in paths.items():
        for method, about in methods.items():
            if method not in ("get", "post", "put", "delete"):
                continue
            assert about["summary"], path
            takes = method == "put" or path in READS_JSON
            assert ("requestBody" in about) == (takes and method != "get") or path.endswith("/decisions"), path
