"""The API of what lies under every drawing: map archives, and the address of tiles from elsewhere."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response, request

from zealous_lark.formats.map_archive import kind_of
from zealous_lark.services import tiles
from zealous_lark.services.errors import NotHereError
from zealous_lark.web.context import database, json_answer
from zealous_lark.web.http import body, query, reads_first, streamed
from zealous_lark.web.schemas import places as b

api = APIBlueprint("tiles", __name__, url_prefix="/api")


def _out(kept: tiles.KeptArchive) -> b.MapArchiveOut:
    said = asdict(kept.archive)
    return b.MapArchiveOut(
        digest=kept.digest, tiles=said.pop("count"), megabytes=round(kept.size / 1_000_000, 2), **said
    )


@api.get("/settings/tiles")
@api.output(b.Tiles)
@api.doc(summary="What lies under the drawings")
def open_tiles() -> Response:
    """An archive, an address, or neither."""
    return json_answer(b.Tiles(**asdict(tiles.under(database()))))


@api.put("/settings/tiles")
@api.output(b.Tiles)
@api.doc(summary="Choose what lies under the drawings", responses={422: "Refused"})
@body(api, b.Tiles)
def put_tiles(document: b.Tiles) -> Response:
    """Choose an archive, an address, or neither."""
    tiles.lay_under(database(), tiles.Under(document.archive, document.address))
    return json_answer(document)


@api.get("/maps")
@api.output(b.MapArchives)
@api.doc(summary="The map archives that are kept here")
def list_maps() -> Response:
    """Each archive with its zooms and size."""
    return json_answer(b.MapArchives(maps=[_out(kept) for kept in tiles.archives(database())]))


@api.post("/maps")
@api.output(b.MapArchiveOut)
@api.doc(
    summary="Keep a map archive: MBTiles or PMTiles with pictures",
    responses={413: "Too large", 415: "Not bytes", 422: "Refused"},
)
@query(api, b.MapQuery)
@streamed(api, tiles.MAX_ARCHIVE_BYTES)
@reads_first
def add_map(asked: b.MapQuery) -> Response:
    """Bring an archive in."""
    pieces = iter(lambda: request.stream.read(1_000_000), b"")
    return json_answer(_out(tiles.add_archive(database(), pieces, asked.name)))


@api.delete("/maps/<digest>")
@api.output({}, status_code=204)
@api.doc(summary="Delete a map archive for good", responses={404: "Not here"})
def delete_map(digest: str) -> tuple[str, int]:
    """Delete an archive."""
    tiles.remove_archive(database(), digest)
    return "", 204


@api.get("/maps/<digest>/<int:zoom>/<int:column>/<int:row>")
@api.doc(summary="A tile of a map archive, or nothing where it has none", responses={204: "No tile", 404: "Not here"})
def tile(digest: str, zoom: int, column: int, row: int) -> Response | tuple[str, int]:
    """A picture that never changes."""
    found = tiles.tile_of(database(), digest, zoom, column, row)
    if found is None:
        return "", 204
    kind = kind_of(found)
    if kind is None:
        raise NotHereError("there is no picture in that tile")
    return Response(found, mimetype=kind, headers={"Cache-Control": "private, max-age=31536000, immutable"})
