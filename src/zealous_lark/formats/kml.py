"""KML 2.2 and KMZ: zones in; places and sessions out and back in.

What Lark writes carries its own properties as ExtendedData, so that it comes back the same.
"""

from __future__ import annotations

import io
import json
import math
import zipfile
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree
from xml.etree.ElementTree import Element, SubElement

from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.formats.features import Exported, FlownLine, cut
from zealous_lark.formats.xml import child_text, local, parsed

_NAMESPACE = "http://www.opengis.net/kml/2.2"
MAX_UNPACKED = 20_000_000
"""A KMZ may not unpack to more than this [bytes]."""
_ALLOWED = "KML, or KMZ with one KML document in it"


def unzipped(data: bytes) -> bytes:
    """The KML of a KMZ; anything else comes back as it is. Raises BadFileError for a bomb."""
    if data[:2] != b"PK":
        return data
    with telling("a KMZ", _ALLOWED), zipfile.ZipFile(io.BytesIO(data)) as archive:
        inside = [i for i in archive.infolist() if i.filename.lower().endswith(".kml")]
        if not inside:
            raise BadFileError("a KMZ without a KML document", _ALLOWED)
        if inside[0].compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise BadFileError("a KMZ packed in an unusual way", "one that is stored or deflated, as KMZ is")
        with archive.open(inside[0]) as file:
            # The size that the archive states may be a lie; what is read is what counts.
            found = file.read(MAX_UNPACKED + 1)
    if len(found) > MAX_UNPACKED:
        raise BadFileError(f"a KMZ that unpacks to more than {MAX_UNPACKED:,} bytes", "a smaller one")
    return found


def _positions(text: str) -> list[list[float]]:
    try:
        found = [[float(n) for n in chunk.split(",")[:2]] for chunk in text.split()]
    except ValueError:
        raise BadFileError(f"coordinates {text[:40]!r}", "longitude,latitude[,height] apart by spaces") from None
    if any(len(p) != 2 for p in found):
        raise BadFileError(f"coordinates {text[:40]!r}", "longitude,latitude[,height] apart by spaces")
    return found


def _ring(boundary: Element) -> list[list[float]]:
    text = "".join((e.text or "") for e in boundary.iter() if local(e) == "coordinates")
    return _positions(text)


def _inside(placemark: Element) -> Iterator[Element]:
    """What is in a placemark and in no other one inside it: each element of a document is looked at once."""
    waiting = list(reversed(placemark))
    while waiting:
        e = waiting.pop()
        if local(e) != "Placemark":
            yield e
            waiting += reversed(e)


def _geometries(placemark: Element) -> list[tuple[str, Any]]:
    """Point, LineString and Polygon in a placemark, as GeoJSON types and coordinates."""
    found: list[tuple[str, Any]] = []
    for e in _inside(placemark):
        kind = local(e)
        if kind == "Point":
            found.append(("Point", (_positions(child_text(e, "coordinates")) or [[]])[0]))
        elif kind == "LineString":
            found.append(("LineString", _positions(child_text(e, "coordinates"))))
        elif kind == "Polygon":
            outer = [_ring(b) for b in e if local(b) == "outerBoundaryIs"]
            inner = [_ring(b) for b in e if local(b) == "innerBoundaryIs"]
            if outer:
                found.append(("Polygon", [outer[0], *inner]))
    return found


def _properties(placemark: Element) -> dict[str, Any]:
    found: dict[str, Any] = {"name": child_text(placemark, "name"), "description": child_text(placemark, "description")}
    for e in _inside(placemark):
        if local(e) == "Data" and e.get("name"):
            found[str(e.get("name"))] = child_text(e, "value")
        elif local(e) == "SimpleData" and e.get("name"):
            found[str(e.get("name"))] = (e.text or "").strip()
        elif local(e) in ("begin", "end") and e.text:
            found[local(e)] = e.text.strip()
    if "lark" in found:
        try:
            found.update(json.loads(found.pop("lark")))
        except (json.JSONDecodeError, TypeError, ValueError):
            raise BadFileError("a damaged property of Lark's own", "the file as Lark wrote it") from None
    return found


def read_placemarks(data: bytes) -> list[dict[str, Any]]:
    """Every placemark with a shape, as GeoJSON features. Raises BadFileError."""
    root = parsed(unzipped(data), "KML")
    if local(root) != "kml":
        raise BadFileError(f"XML that begins with <{local(root)}>", _ALLOWED)
    found = []
    for placemark in (e for e in root.iter() if local(e) == "Placemark"):
        properties = _properties(placemark)
        for kind, coordinates in _geometries(placemark):
            geometry = {"type": kind, "coordinates": coordinates}
            found.append({"type": "Feature", "properties": properties, "geometry": geometry})
    if not found:
        raise BadFileError("KML without a shape in it", "placemarks with points, lines or polygons")
    return found


def _coordinates(positions: list[list[float]]) -> str:
    return " ".join(",".join(repr(float(n)) for n in p) for p in positions)


def write_kml(exported: Exported) -> bytes:
    """A place or session as KML."""
    ElementTree.register_namespace("", _NAMESPACE)
    root = Element(f"{{{_NAMESPACE}}}kml")
    document = SubElement(root, f"{{{_NAMESPACE}}}Document")
    SubElement(document, f"{{{_NAMESPACE}}}name").text = exported.name
    SubElement(document, f"{{{_NAMESPACE}}}description").text = exported.caution
    for item in exported.items:
        mark = SubElement(document, f"{{{_NAMESPACE}}}Placemark")
        SubElement(mark, f"{{{_NAMESPACE}}}name").text = item.name
        extended = SubElement(mark, f"{{{_NAMESPACE}}}ExtendedData")
        data = SubElement(extended, f"{{{_NAMESPACE}}}Data", name="lark")
        SubElement(data, f"{{{_NAMESPACE}}}value").text = json.dumps(item.properties, ensure_ascii=False)
        if item.at is not None:
            SubElement(
                SubElement(mark, f"{{{_NAMESPACE}}}TimeStamp"), f"{{{_NAMESPACE}}}when"
            ).text = item.at.isoformat()
        if item.flown is not None:
            _write_flown(mark, item.coordinates, item.flown)
            continue
        many = SubElement(mark, f"{{{_NAMESPACE}}}MultiGeometry") if item.kind == "MultiPolygon" else mark
        if item.kind in ("Point", "LineString"):
            shape = SubElement(mark, f"{{{_NAMESPACE}}}{item.kind}")
            positions = [item.coordinates] if item.kind == "Point" else item.coordinates
            SubElement(shape, f"{{{_NAMESPACE}}}coordinates").text = _coordinates(positions)
        for rings in item.coordinates if item.kind == "MultiPolygon" else []:
            _write_polygon(many, rings)
        if item.kind == "Polygon":
            _write_polygon(mark, item.coordinates)
    return bytes(ElementTree.tostring(root, encoding="utf-8", xml_declaration=True))


def _write_flown(mark: Element, line: list[list[float]], flown: FlownLine) -> None:
    """A line that was flown, from when to when, at its heights: above sea level, or above the ground it left from."""
    span = SubElement(mark, f"{{{_NAMESPACE}}}TimeSpan")
    SubElement(span, f"{{{_NAMESPACE}}}begin").text = flown.times[0].isoformat()
    SubElement(span, f"{{{_NAMESPACE}}}end").text = flown.times[-1].isoformat()
    above_sea = [flown.above_sea_m(n) for n in range(len(line))]
    own = [None if math.isnan(h) else round(h, 1) for h in flown.height_m]
    mode, heights = "clampToGround", None
    if None not in above_sea:
        mode, heights = "absolute", above_sea
    elif None not in own:
        mode, heights = "relativeToGround", own
    high = line if heights is None else [[*c, h] for c, h in zip(line, heights, strict=True) if h is not None]
    pieces = cut(high)
    many = SubElement(mark, f"{{{_NAMESPACE}}}MultiGeometry") if len(pieces) > 1 else mark
    for _, piece in pieces:
        shape = SubElement(many, f"{{{_NAMESPACE}}}LineString")
        SubElement(shape, f"{{{_NAMESPACE}}}altitudeMode").text = mode
        SubElement(shape, f"{{{_NAMESPACE}}}coordinates").text = _coordinates(piece)


def _write_polygon(parent: Element, rings: list[list[list[float]]]) -> None:
    polygon = SubElement(parent, f"{{{_NAMESPACE}}}Polygon")
    for i, ring in enumerate(rings):
        boundary = SubElement(polygon, f"{{{_NAMESPACE}}}{'innerBoundaryIs' if i else 'outerBoundaryIs'}")
        linear = SubElement(boundary, f"{{{_NAMESPACE}}}LinearRing")
        SubElement(linear, f"{{{_NAMESPACE}}}coordinates").text = _coordinates(ring)
