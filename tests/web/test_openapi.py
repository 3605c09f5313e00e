"""The OpenAPI document and the types made from it are those of the code."""

import json
import shutil
import subprocess
from pathlib import Path

from apiflask import APIFlask

from tests.make import ROOT

FRONTEND = ROOT / "frontend"


def test_the_document_in_the_tree_is_the_servers(app: APIFlask) -> None:
    kept = json.loads((FRONTEND / "src/api/openapi.json").read_text())
    assert kept == json.loads(json.dumps(app.spec)), "stale: run make api"


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
    "/api/sessions",
    "/api/sessions/import",
    "/api/places",
    "/api/section",
    "/api/survey",
    "/api/takeoffs",
    "/api/weather/fetch",
    "/api/weather/read",
    "/api/weather/fill",
    "/api/windows",
    "/api/kit",
    "/api/kit/{item_id}/upkeep",
    "/api/outing",
    "/api/sessions/{session_id}/on-site",
    "/api/flights",
    "/api/learning",
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
