"""A large extract cut to a place: time and memory, beside the library's own walk through the file."""

from __future__ import annotations

import statistics
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
import osmium
from osmium.osm.mutable import Node, Way

from tests.bench.memory import most_mb
from zealous_lark.demo.places import BOG_AT
from zealous_lark.formats import bounded, readers

Timed = Callable[[Callable[[], object]], float]
HOUSES = 1_200_000
"""So many houses of four corners make an extract of about 15 MB, packed (4.8 million points)."""


def made(path: Path, houses: int) -> None:
    """An extract with houses strewn over two degrees, a hundredth of them tagged as woods."""
    chance = np.random.default_rng(5)
    lat, lon = BOG_AT[0] + chance.uniform(-1, 1, houses), BOG_AT[1] + chance.uniform(-1, 1, houses)
    corners = ((0, 0), (0, 2e-4), (1e-4, 2e-4), (1e-4, 0))
    with osmium.SimpleWriter(str(path)) as writer:
        for n in range(houses):
            for c, (north, east) in enumerate(corners):
                writer.add_node(Node(id=4 * n + c + 1, version=1, location=(lon[n] + east, lat[n] + north)))
        for n in range(houses):
            first = 4 * n + 1
            tags = {"natural": "wood"} if n % 100 == 0 else {"building": "house", "building:levels": str(1 + n % 4)}
            writer.add_way(Way(id=n + 1, version=1, nodes=[first, first + 1, first + 2, first + 3, first], tags=tags))


def figures(timed: Timed, houses: int = HOUSES) -> None:
    """Print the figures."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "extract.osm.pbf"
        made(path, houses)

        def whole() -> object:
            return bounded.read(bounded.OF_MAP_DATA, readers.read_map_data, str(path), *BOG_AT, 2_000.0)

        def walk() -> int:
            return sum(1 for _ in osmium.FileProcessor(str(path)).with_filter(osmium.filter.KeyFilter("building")))

        whole()
        pairs = [(timed(whole), timed(walk)) for _ in range(3)]
        ours, theirs = (statistics.median(column) for column in zip(*pairs, strict=True))
        used = bounded.read(bounded.OF_MAP_DATA, most_mb, readers.read_map_data, str(path), *BOG_AT, 2_000.0)
        out = sys.stdout.write
        out(f"{f'map extract of {path.stat().st_size / 1e6:.0f} MB cut to a place':<58} median {ours:7.0f} ms\n")
        out(f"{'the library walking through its tagged things alone':<58} median {theirs:7.0f} ms\n")
        out(f"cut over walk {ours / theirs:.2f}; most memory of the reader {used:.0f} MB\n")
