"""An invented map around the Sarvik bog, as an OpenStreetMap extract: what a download of the real thing looks like.

`python -m zealous_lark.demo.map_data > examples/sarvik-map.osm` writes it again.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from xml.sax.saxutils import quoteattr

from zealous_lark.core.geodesy import destination
from zealous_lark.demo.places import BOG_AT

Spot = tuple[float, float]
"""Bearing [°] and distance [m] from the end of the boardwalk."""


@dataclass
class _Extract:
    """Nodes, ways and relations in the order of their numbers."""

    nodes: list[str] = field(default_factory=list)
    ways: list[str] = field(default_factory=list)
    relations: list[str] = field(default_factory=list)

    def node(self, spot: Spot, **tags: str) -> int:
        lat, lon = destination(*BOG_AT, *spot)
        number = len(self.nodes) + 1
        self.nodes.append(f'<node id="{number}" version="1" lat="{lat:.7f}" lon="{lon:.7f}">{_tags(tags)}</node>')
        return number

    def way(self, *spots: Spot, closed: bool = False, **tags: str) -> int:
        refs = [self.node(s) for s in spots]
        if closed:
            refs.append(refs[0])
        return self.of_nodes(refs, **tags)

    def of_nodes(self, refs: list[int], **tags: str) -> int:
        number = 100 + len(self.ways)
        self.ways.append(f'<way id="{number}" version="1">{"".join(f"<nd ref={chr(34)}{r}{chr(34)}/>" for r in refs)}'
                         f"{_tags(tags)}</way>")  # fmt: skip
        return number

    def ring(self, outer: int, *inner: int, **tags: str) -> None:
        members = [(outer, "outer"), *((w, "inner") for w in inner)]
        rows = "".join(f'<member type="way" ref="{w}" role="{role}"/>' for w, role in members)
        number = 900 + len(self.relations)
        self.relations.append(
            f'<relation id="{number}" version="1">{rows}{_tags({"type": "multipolygon", **tags})}</relation>'
        )

    def text(self) -> str:
        head = '<?xml version="1.0" encoding="UTF-8"?>\n<osm version="0.6" generator="Zealous Lark demo, invented">\n'
        return head + "\n".join([*self.nodes, *self.ways, *self.relations]) + "\n</osm>\n"


def _tags(tags: dict[str, str]) -> str:
    return "".join(f"<tag k={quoteattr(k.replace('__', ':'))} v={quoteattr(v)}/>" for k, v in tags.items())


def extract() -> str:
    """The extract, as XML.

    The small power line to the hut crosses the low flight along the pines: nobody drew it, only the map knows it.
    """
    x = _Extract()
    x.way((312, 190), (290, 118), (262, 84), (238, 104), (222, 150), power="minor_line")
    for spot in ((290, 118), (262, 84), (238, 104)):
        x.node(spot, power="pole")
    line = [x.node(s, power="tower") for s in ((305, 1100), (318, 900), (335, 800), (355, 830), (12, 1000))]
    x.of_nodes(line, power="line", voltage="110000", height="28 m")
    x.node((70, 900), man_made="mast", height="62", name="Kaarna")
    x.node((35, 1500), generator__source="wind", power="generator")
    x.way((222, 158), (225, 158), (225, 152), (222, 152), closed=True, building="cabin", name="Bog hut")
    x.way((116, 160), (118, 172), (113, 174), (111, 162), closed=True, building="yes", building__levels="2")
    x.way((95, 640), (97, 655), (94, 660), (92, 645), closed=True, building="farm_auxiliary")
    wood = x.way((195, 300), (205, 620), (240, 700), (262, 520), (250, 330), (225, 290), closed=True)
    clearing = x.way((222, 430), (225, 520), (235, 520), (234, 430), closed=True)
    x.ring(wood, clearing, natural="wood", name="Kaarna wood")
    x.way((30, 180), (38, 260), (48, 330), natural="tree_row")
    x.node((330, 62), natural="tree", height="9")
    x.way((172, 300), (180, 420), (195, 430), (190, 310), closed=True, natural="water", name="Long pool")
    x.way((100, 95), (128, 300), (150, 620), (158, 1200), highway="secondary", name="Sarvik road")
    x.way((0, 0), (240, 130), (240, 262), (236, 400), highway="path", surface="wood")
    x.way((155, 3600), (158, 3700), (162, 3650), (160, 3560), closed=True, aeroway="aerodrome", name="Kaarna airfield")
    x.way((340, 900), (5, 1000), (12, 1900), (335, 1800), closed=True, leisure="nature_reserve", name="Sarvik reserve")
    x.way((100, 130), (120, 400), power="cable", location="underground")
    x.node((10, 40), amenity="bench")
    return x.text()


if __name__ == "__main__":
    sys.stdout.write(extract())
