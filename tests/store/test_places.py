"""Places and terrains in the store."""

from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy import text

from zealous_lark.store import Database, RevisionConflictError, places

NOW = datetime(2026, 9, 26, 18, tzinfo=UTC)


def test_a_place_is_found_by_its_number_until_it_is_deleted(database: Database) -> None:
    with database.transaction() as s:
        kept = places.add(s, "Bog", "{}", NOW)
        assert places.find(s, kept.id) == kept
        assert places.set_deleted(s, kept.id, NOW)
        assert places.find(s, kept.id) is None
        assert places.find(s, kept.id, deleted=True) is not None
        assert not places.set_deleted(s, kept.id, NOW)
        assert places.set_deleted(s, kept.id, None)
        assert [p.name for p in places.every(s)] == ["Bog"]


def test_only_the_first_of_two_savers_is_believed(database: Database) -> None:
    with database.transaction() as s:
        kept = places.add(s, "Bog", "{}", NOW)
    with database.transaction() as s:
        saved = places.save(s, kept.id, "Fen", '{"a": 1}', 1, NOW)
        assert saved is not None
        assert (saved.revision, saved.name) == (2, "Fen")
    with pytest.raises(RevisionConflictError), database.transaction() as s:
        places.save(s, kept.id, "Mire", "{}", 1, NOW)
    with database.transaction() as s:
        found = places.find(s, kept.id)
        assert found is not None
        assert (found.name, found.document) == ("Fen", '{"a": 1}')
        assert places.save(s, 99, "None", "{}", 1, NOW) is None


def test_the_same_terrain_is_kept_once_and_never_changes(database: Database) -> None:
    with database.transaction() as s:
        first = places.keep_terrain(s, "{}", b"heights")
        again = places.keep_terrain(s, "{}", b"heights")
        other = places.keep_terrain(s, "{}", b"others")
        assert first == again != other
        assert places.terrain(s, first) == ("{}", b"heights")
        assert places.terrain(s, "nothing") is None
        assert s.scalar(text("SELECT count(*) FROM terrains")) == 2


def test_places_outlive_the_database_that_was_open(tmp_path: Path) -> None:
    first = Database(tmp_path)
    first.migrate()
    with first.transaction() as s:
        kept = places.add(s, "Bog", "{}", NOW)
        digest = places.keep_terrain(s, "{}", b"\0" * 1000)
    first.close()
    second = Database(tmp_path)
    second.migrate()
    with second.transaction() as s:
        assert places.find(s, kept.id) == kept
        assert places.terrain(s, digest) == ("{}", b"\0" * 1000)
    second.remember("a", "1")
    second.remember("a", "2")
    assert second.fact("a") == "2"
    second.close()
