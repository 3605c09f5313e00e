"""What a reader may take: files that are small and ask for everything, and files that send the reader elsewhere."""

from __future__ import annotations

import logging
import resource
import socket
import tempfile
import threading
import time
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from rasterio.io import MemoryFile

from tests.formats import stubborn
from tests.formats.hostile import KML, kmz
from tests.formats.test_raster import LAT, LON, estonian, lying_header
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.bounded import Limits, Room, asker_is_gone
from zealous_lark.formats.errors import BadFileError


def test_time_and_memory_are_limited_and_what_fits_comes_back() -> None:
    limits = Limits(2, 100)
    assert bounded.read(limits, stubborn.greedy, 50) == 50 * 125_000
    with pytest.raises(BadFileError, match="more than 100 MB"):
        bounded.read(limits, stubborn.greedy, 200)
    begun = time.monotonic()
    with pytest.raises(BadFileError, match="within 2 seconds"):
        bounded.read(limits, stubborn.for_ever)
    assert time.monotonic() - begun < 60
    with pytest.raises(BadFileError, match="cannot be read"):
        bounded.read(limits, stubborn.ended)


def test_what_a_reader_did_not_expect_is_refused_and_stands_in_the_log(caplog: pytest.LogCaptureFixture) -> None:
    with caplog.at_level(logging.ERROR), pytest.raises(BadFileError, match="not thought of"):
        bounded.read(Limits(1), stubborn.broken)
    assert "KeyError" in caplog.text


def test_progress_comes_as_it_is_made_and_who_stops_asking_ends_the_reader() -> None:
    assert bounded.read(Limits(1), stubborn.counting, 3) == "counted"
    reading = bounded.read_on(Limits(20), stubborn.counting, 10_000_000)
    assert next(reading) > 0
    reading.close()


@pytest.mark.parametrize(("files", "megabytes"), [(1, 30), (8, 2), (40, 1)])
def test_what_a_reader_writes_is_limited(tmp_path: Path, files: int, megabytes: int) -> None:
    """One large file, some that are too much together, and too many."""
    limits = Limits(20, 100, Room(least_bytes=10_000_000))
    assert bounded.read(limits, stubborn.writing, str(tmp_path), 1, 5, into=tmp_path) == "written"
    with pytest.raises(BadFileError, match="15 MB written"):  # what is there already counts as what came
        bounded.read(limits, stubborn.writing, str(tmp_path), files, megabytes, into=tmp_path)
    assert sum(p.stat().st_size for p in tmp_path.iterdir()) < 45_000_000


def test_what_a_reader_left_is_cleared_away() -> None:
    """A reader that is killed cannot clear up; who asked does."""
    before = set(Path(tempfile.gettempdir()).glob("tmp*"))
    with pytest.raises(BadFileError):
        bounded.read(Limits(1), stubborn.leaving_a_file)
    assert not [p for p in set(Path(tempfile.gettempdir()).glob("tmp*")) - before if (p / "left").exists()]


def test_a_reader_ends_when_who_asked_is_gone() -> None:
    begun = time.monotonic()
    token = asker_is_gone.set(lambda: time.monotonic() > begun + 0.2)
    try:
        with pytest.raises(BadFileError, match="gone"):
            bounded.read(Limits(100), stubborn.for_ever)
    finally:
        asker_is_gone.reset(token)
    assert time.monotonic() - begun < 60


def _empty_elements(megabytes: int) -> bytes:
    return b'<gpx version="1.1">' + b"<a/>" * (megabytes * 250_000) + b"</gpx>"


def _nested(deep: int) -> bytes:
    inside = b"<Placemark><Point><coordinates>25,58</coordinates></Point>"
    return b'<kml xmlns="http://www.opengis.net/kml/2.2">' + inside * deep + b"</Placemark>" * deep + b"</kml>"


def _one_block(side: int) -> bytes:
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=side, height=side, count=1, dtype="float32", sparse_ok=True, crs="EPSG:3301",
            blockysize=side, compress="deflate", BIGTIFF="YES",
        ):  # fmt: skip
            pass
        return bytes(memory.read())


def _bzipped() -> bytes:
    return kmz(KML, zipfile.ZIP_BZIP2)


def _bomb() -> bytes:
    return kmz(b"<kml>" + b" " * 60_000_000 + b"</kml>")


HOSTILE: dict[str, tuple[Callable[[], bytes], Limits, Callable[..., Any], tuple[Any, ...], str | None]] = {
    "a GeoTIFF of one sparse block": (
        lambda: _one_block(30_000), bounded.OF_A_PLACE, readers.read_terrain, ("a.tif", LAT, LON), "in blocks of",
    ),
    "a GeoTIFF that says two gigabytes": (
        lying_header, bounded.OF_A_PLACE, readers.read_terrain, ("a.tif", LAT, LON, "EPSG:3301"), ".",
    ),
    "placemarks in each other": (lambda: _nested(3_000), bounded.OF_A_PLACE, readers.read_drawn, (), None),
    "placemarks in each other without end": (lambda: _nested(200_000), bounded.OF_A_PLACE, readers.read_drawn, (), "."),
    "6 MB of nothing": (
        lambda: _empty_elements(6), bounded.OF_A_FLIGHT, readers.read_gpx_track, (), "0 points",
    ),
    "6 MB of nothing as a place": (lambda: _empty_elements(6), bounded.OF_A_PLACE, readers.read_drawn, (), "."),
    "a KMZ packed as nobody does": (_bzipped, bounded.OF_A_PLACE, readers.read_drawn, (), "an unusual way"),
    "a KMZ that unpacks to 60 MB": (_bomb, bounded.OF_A_PLACE, readers.read_drawn, (), "unpacks to more"),
}  # fmt: skip


@pytest.mark.parametrize("what", HOSTILE)
def test_a_file_that_asks_for_everything_is_refused_or_read_within_the_limits(
    what: str, caplog: pytest.LogCaptureFixture
) -> None:
    """None of it costs the server more than the time that is allowed, or the memory."""
    make, limits, reader, given, says = HOSTILE[what]
    data = make()
    before = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss
    if says is None:
        bounded.read(limits, reader, data, *given)
    else:
        with pytest.raises(BadFileError, match=says):
            bounded.read(limits, reader, data, *given)
    assert resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss - before < 800_000  # kB
    assert caplog.messages == []


@pytest.fixture
def listening() -> Iterator[tuple[int, list[str]]]:
    """A server that nobody should ask, and who did."""
    asked: list[str] = []
    with socket.create_server(("127.0.0.1", 0)) as server:
        server.settimeout(0.1)
        stopped = threading.Event()

        def listen() -> None:
            while not stopped.is_set():
                try:
                    connection, _ = server.accept()
                except TimeoutError:
                    continue
                asked.append(connection.recv(200).decode("ascii", "replace"))
                connection.close()

        thread = threading.Thread(target=listen)
        thread.start()
        yield server.getsockname()[1], asked
        stopped.set()
        thread.join()


def test_no_reader_reaches_out(listening: tuple[int, list[str]]) -> None:
    """An address in a file or in place of a projection is never followed, a virtual path neither."""
    port, asked = listening
    address = f"http://127.0.0.1:{port}/"
    wmts = f"<GDAL_WMTS><GetCapabilitiesUrl>{address}?SERVICE=WMTS</GetCapabilitiesUrl></GDAL_WMTS>".encode()
    source = f"<SimpleSource><SourceFilename>/vsicurl/{address}a.tif</SourceFilename></SimpleSource>"
    vrt = f'<VRTDataset rasterXSize="9" rasterYSize="9"><VRTRasterBand>{source}</VRTRasterBand></VRTDataset>'.encode()
    for name in ("a.tif", "a.xml", "a.vrt", "a"):
        for data in (wmts, vrt, b"/vsicurl/" + address.encode()):
            with pytest.raises(BadFileError, match="begins like none"):
                bounded.read(bounded.OF_A_PLACE, readers.read_terrain, data, name, LAT, LON)
    for crs in (
        address, f"/vsicurl/{address}a.prj", "/etc/hostname", f"+proj=longlat +nadgrids={address}a.gsb",
        "urn:ogc:def:crs", f"+init={address}:1", "EPSG:4326+/vsicurl/x", "AUTO:42001,1,1",
    ):  # fmt: skip
        with pytest.raises(BadFileError, match="the projection"):
            bounded.read(bounded.OF_A_PLACE, readers.read_terrain, estonian(80), "a.tif", LAT, LON, crs)
    for data in (
        f'<!DOCTYPE kml SYSTEM "{address}a.dtd"><kml/>',
        f"<kml><NetworkLink><Link><href>{address}</href></Link></NetworkLink></kml>",
    ):
        with pytest.raises(BadFileError):
            bounded.read(bounded.OF_A_PLACE, readers.read_drawn, data.encode())
    time.sleep(0.3)
    assert asked == []
