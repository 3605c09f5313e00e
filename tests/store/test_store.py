"""The store: what it keeps, what it refuses to change, what survives."""

import json
import signal
import sqlite3
import subprocess
import sys
from contextlib import closing
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError, StatementError

import zealous_lark.store
from tests.conftest import NOW
from tests.make import opened_sessions
from zealous_lark.demo.load import load_demo
from zealous_lark.plan import read_plan
from zealous_lark.services import decisions, sessions
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.session_list import list_sessions
from zealous_lark.store import Database, PilotsWord, RevisionConflictError, backup, data_folder
from zealous_lark.store import decisions as decision_store
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.models import Base, FactRow, SessionRow


def test_migrations_make_the_tables_of_the_models(database: Database) -> None:
    with database.engine.connect() as connection:
        context = MigrationContext.configure(connection, opts={"compare_server_default": True})
        assert compare_metadata(context, Base.metadata) == []


def test_migrating_twice_changes_nothing(database: Database) -> None:
    with database.transaction() as s:
        s.add(FactRow(name="a", value="b"))
    database.migrate()
    assert database.fact("a") == "b"


def test_write_ahead_log_and_foreign_keys_are_on(database: Database) -> None:
    with database.engine.connect() as connection:
        pragma = {n: connection.execute(text(f"PRAGMA {n}")).scalar() for n in ("journal_mode", "foreign_keys")}
    assert pragma == {"journal_mode": "wal", "foreign_keys": 1}
    with pytest.raises(IntegrityError), database.transaction() as s:
        decision_store.add(
            s, 99, word=PilotsWord.WAIT, note="", verdict="care", plan="{}", result="{}", walkround="[]", now=NOW
        )


def write_and_fail(database: Database) -> None:
    with database.transaction() as s:
        s.add(FactRow(name="half", value="written"))
        s.flush()
        raise RuntimeError


def test_a_failed_unit_of_work_leaves_nothing(database: Database) -> None:
    with pytest.raises(RuntimeError):
        write_and_fail(database)
    assert database.fact("half") is None


def test_times_keep_their_instant_and_need_an_offset(database: Database, plan_text: str) -> None:
    opened = sessions.add_session(database, read_plan(plan_text), NOW)
    kept = sessions.open_session(database, opened.session.id, NOW).session
    assert kept.headline.takeoff_at == datetime(2026, 9, 27, 4, 40, tzinfo=UTC)
    assert kept.created_at == NOW
    with pytest.raises(StatementError, match="UTC offset"), database.transaction() as s:
        s.get_one(SessionRow, kept.id).changed_at = datetime(2026, 1, 1)


def test_data_folder_is_named_by_the_environment(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("LARK_DATA", str(tmp_path))
    assert data_folder() == tmp_path
    monkeypatch.delenv("LARK_DATA")
    assert data_folder().name == "zealous-lark"


def test_saving_from_an_old_revision_is_a_conflict(database: Database, plan_text: str) -> None:
    plan = read_plan(plan_text)
    opened = sessions.add_session(database, plan, NOW)
    first = plan.model_copy(update={"title": "First"})
    saved = sessions.save_session(database, opened.session.id, first, 1, NOW + timedelta(hours=1))
    assert (saved.revision, saved.headline.title) == (2, "First")
    with pytest.raises(RevisionConflictError):
        sessions.save_session(database, opened.session.id, plan, 1, NOW)
    assert sessions.open_session(database, opened.session.id, NOW).plan.title == "First"


def test_a_deleted_session_comes_back_whole(database: Database, plan_text: str) -> None:
    opened = sessions.add_session(database, read_plan(plan_text), NOW)
    number = opened.session.id
    sessions.delete_session(database, number, NOW)
    assert list_sessions(database, NOW).sessions == ()
    with pytest.raises(NotHereError):
        sessions.open_session(database, number, NOW)
    with pytest.raises(NotHereError):
        sessions.delete_session(database, number, NOW)
    sessions.restore_session(database, number)
    assert sessions.open_session(database, number, NOW) == opened
    with pytest.raises(NotHereError):
        sessions.restore_session(database, number)


def test_copies_say_so_and_fit(database: Database, plan_text: str) -> None:
    long = read_plan(plan_text).model_copy(update={"title": "x" * 120})
    number = sessions.add_session(database, long, NOW).session.id
    copy = sessions.duplicate_session(database, number, NOW)
    assert copy.headline.title == "x" * 113 + " (copy)"
    again = sessions.duplicate_session(database, copy.id, NOW)
    assert again.headline.title == copy.headline.title


def test_what_belongs_to_the_day_does_not_carry_over(database: Database, plan_text: str) -> None:
    base = read_plan(plan_text)
    seen = base.site.model_copy(update={"people_looked_at": NOW.date(), "zones_looked_at": NOW.date()})
    looked = base.model_copy(update={"site": seen})
    begun = sessions.plan_of(database, sessions.begin_session(database, "Next week", NOW, looked, NOW).id)
    assert (begun.settings.satellites, begun.settings.home_point_set, begun.weather.as_of) == (None, None, None)
    assert (begun.title, begun.aircraft, begun.site) == ("Next week", base.aircraft, base.site)


def record(database: Database, number: int, word: PilotsWord, note: str = "") -> decisions.Recorded:
    questions = sessions.open_session(database, number, NOW).result.questions
    said = dict.fromkeys([*(q.id for q in questions), *decisions.OPEN], decisions.OpenWord.IN_ORDER)
    return decisions.record_decision(database, number, word=word, note=note, revision=1, now=NOW, said=said)


def test_a_decision_keeps_plan_and_result_as_they_were(database: Database, plan_text: str) -> None:
    plan = read_plan(plan_text)
    number = sessions.add_session(database, plan, NOW).session.id
    kept = record(database, number, PilotsWord.LAUNCH, " Steady. ")
    windy = plan.model_copy(update={"title": "Changed since"})
    sessions.save_session(database, number, windy, 1, NOW)
    again = decisions.open_decision(database, kept.decision.id)
    assert again == kept
    assert (again.plan, again.result.verdict, again.decision.note) == (plan, "care", "Steady.")
    with pytest.raises(RevisionConflictError):
        record(database, number, PilotsWord.WAIT)


@pytest.mark.parametrize("statement", ["UPDATE decisions SET note = 'better'", "DELETE FROM decisions"])
def test_a_decision_cannot_be_changed_even_by_hand(database: Database, plan_text: str, statement: str) -> None:
    number = sessions.add_session(database, read_plan(plan_text), NOW).session.id
    record(database, number, PilotsWord.WAIT, "as it was")
    with pytest.raises(IntegrityError, match="kept as it was made"), database.transaction() as s:
        s.execute(text(statement))
    assert [d.decision.note for d in decisions.list_decisions(database, number)] == ["as it was"]


def test_launching_against_the_verdict_needs_a_reason(database: Database, plan_text: str) -> None:
    plan = json.loads(plan_text)
    plan["settings"]["rth_altitude_m"] = 10
    number = sessions.add_session(database, read_plan(json.dumps(plan)), NOW).session.id
    with pytest.raises(NotAllowedError, match="reason"):
        record(database, number, PilotsWord.LAUNCH, "   ")
    assert decisions.list_decisions(database, number) == []
    record(database, number, PilotsWord.STAND_DOWN)
    record(database, number, PilotsWord.LAUNCH, "Trees were felled.")
    assert [d.decision.word for d in decisions.list_decisions(database, number)] == ["launch", "stand_down"]


@pytest.mark.parametrize("today", ["2026-03-01", "2026-06-21", "2026-09-26", "2026-11-24", "2026-12-21"])
def test_the_demo_shows_what_lark_does(database: Database, today: str) -> None:
    """Sessions that come out differently, each for its own reason, in every season's light."""
    now = datetime.combine(date.fromisoformat(today), NOW.timetz())
    load_demo(database, now)
    found = {x.headline.title: (x.verdict, x.tightest.id) for x in list_sessions(database, now).sessions}
    assert found == {
        "Tower from the boardwalk": ("care", "wind.steady"),
        "Bog at first light": ("launch", "sight.distance"),
        "Cranes, wind behind on the flight out": ("stay", "wind.return"),
        "Low along the pines": ("stay", "return.clearance"),
        "Tower in a gusty west wind": ("care", "wind.gust"),
        "Jetty before the front": ("unknown", "wind.steady"),
        "Mill, ground floor": ("care", "battery.charge"),
        "Frozen bog in January": ("stay", "battery.reach"),
        "Reeds from the rowing boat": ("care", "clear.descent"),
        "Along the quarry edge": ("care", "clear.outbound"),
    }


def test_turning_the_demos_cranes_round_opens_the_door(demo: Database) -> None:
    """The reason given, wind at the back on the way out, is the real one."""
    from zealous_lark.plan import judge_plan

    cranes = next(plan for _, plan in sessions.plans(demo) if plan.title.startswith("Cranes"))
    into_wind = cranes.flight.model_copy(update={"bearing_deg": 240.0})
    assert judge_plan(cranes.model_copy(update={"flight": into_wind})).verdict == "care"


def test_the_demo_is_loaded_once(demo: Database) -> None:
    number = list_sessions(demo, NOW).sessions[0].id
    sessions.delete_session(demo, number, NOW)
    before = [x.id for x in list_sessions(demo, NOW).sessions]
    assert not load_demo(demo, NOW + timedelta(days=4))
    assert [x.id for x in list_sessions(demo, NOW).sessions] == before


@pytest.mark.parametrize("today", ["2026-06-21", "2026-11-24", "2027-01-01"])
def test_the_demo_is_tomorrow_at_dawn_on_any_day(database: Database, today: str) -> None:
    day = date.fromisoformat(today)
    load_demo(database, datetime.combine(day, NOW.timetz()))
    dawn = next(o for o in opened_sessions(database, NOW) if o.plan.title == "Bog at first light")
    assert dawn.plan.takeoff_at.date() == day + timedelta(days=1)
    rise = dawn.result.light.sunrise
    assert rise is not None
    assert timedelta(minutes=15) < dawn.plan.takeoff_at - rise <= timedelta(minutes=25)


KILLED = """
import os, signal, sys
from datetime import UTC, datetime
from pathlib import Path
from zealous_lark.services import sessions
from zealous_lark.plan import read_plan
from zealous_lark.store import Database

db = Database(Path(sys.argv[1]))
db.migrate()
plan = read_plan(Path(sys.argv[2]).read_bytes())
opened = sessions.add_session(db, plan, datetime.now(UTC))
for i in range(1, 21):
    sessions.save_session(db, opened.session.id, plan.model_copy(update={"title": f"Change {i}"}), i, datetime.now(UTC))
    print(i, flush=True)
with db.transaction() as s:
    s.connection().exec_driver_sql("UPDATE sessions SET title = 'never committed'")
    os.kill(os.getpid(), signal.SIGKILL)
"""


def test_a_killed_process_loses_no_saved_change(tmp_path: Path) -> None:
    """Killed without warning in the middle of a write: every acknowledged save is there, the unfinished one is not."""
    example = Path(__file__).parents[2] / "examples" / "example-plan.json"
    run = subprocess.run(
        [sys.executable, "-c", KILLED, str(tmp_path), str(example)], capture_output=True, text=True, check=False
    )
    assert run.returncode == -signal.SIGKILL, run.stderr
    assert run.stdout.split()[-1] == "20"
    with sqlite3.connect(tmp_path / "lark.db") as db:
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    again = Database(tmp_path)
    (kept,) = opened_sessions(again, NOW)
    assert (kept.plan.title, kept.session.headline.title, kept.session.revision) == ("Change 20", "Change 20", 21)
    again.close()


def at_revision(folder: Path, revision: str) -> None:
    """A database as it was made at a revision."""
    db = Database(folder)
    config = Config()
    config.set_main_option("script_location", str(Path(zealous_lark.store.__file__).parent / "migrations"))
    with db.engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
    db.close()


def copied(source: Path, target: Path) -> None:
    """The rows of a database of today in one of before, as far as that has tables and columns for them."""
    with closing(sqlite3.connect(target / FILE_NAME)) as db:
        db.execute("ATTACH ? AS now", (str(source / FILE_NAME),))
        for (table,) in db.execute("SELECT name FROM main.sqlite_master WHERE type = 'table'").fetchall():
            if table != "alembic_version":
                names = ", ".join(f'"{row[1]}"' for row in db.execute(f"PRAGMA main.table_info({table})"))
                db.execute(f"INSERT INTO main.{table} ({names}) SELECT {names} FROM now.{table}")
        db.commit()


def test_a_database_of_the_first_version_is_brought_up_to_date(tmp_path: Path, plan_text: str) -> None:
    """What a pilot saved before an update is there after it."""
    at_revision(tmp_path, "0001")
    old = Database(tmp_path)
    with old.transaction() as s:
        s.execute(
            text(
                "INSERT INTO sessions (title, place, aircraft, pack, takeoff_at, plan, revision, created_at,"
                " changed_at)"
                " VALUES ('Kept', '', 'Dunlin', '', '2026-09-27 04:40:00', :plan, 3, '2026-09-01', '2026-09-02')"
            ),
            {"plan": plan_text},
        )
    old.close()
    new = Database(tmp_path)
    new.migrate()
    (kept,) = opened_sessions(new, NOW)
    assert (kept.session.headline.title, kept.session.revision) == ("Kept", 3)
    assert kept.result.verdict == "care"
    new.close()


def test_stored_plans_of_version_1_are_migrated_after_a_backup(tmp_path: Path, plan_text: str, kept_data: Path) -> None:
    """A Lark of the tables before: sessions and kit are in version 2 afterwards, in version 1 in the backup."""
    old = tmp_path / "old"
    at_revision(old, "0006")
    copied(kept_data / "demo", old)
    v1 = json.loads(plan_text)
    sheet = {"kind": "aircraft", "note": "", "aircraft": v1["aircraft"]}
    with closing(sqlite3.connect(old / FILE_NAME)) as raw:
        raw.execute("UPDATE sessions SET plan = ?", (plan_text,))
        raw.execute("UPDATE kit SET document = ? WHERE kind = 'aircraft'", (json.dumps(sheet),))
        raw.commit()
    made = backup.back_up_before_migrating(old, NOW)
    assert made is not None
    db = Database(old)
    db.migrate()
    opened = opened_sessions(db, NOW)
    db.close()
    assert {o.plan.version for o in opened} == {2}
    with closing(sqlite3.connect(old / FILE_NAME)) as raw:
        plans = [json.loads(r[0]) for r in raw.execute("SELECT plan FROM sessions")]
        sheets = [json.loads(r[0]) for r in raw.execute("SELECT document FROM kit WHERE kind = 'aircraft'")]
    assert all(p["version"] == 2 and "slow" in p["aircraft"]["speeds_ms"] for p in plans)
    assert all("fast" in s["aircraft"]["speeds_ms"] for s in sheets)
    with closing(sqlite3.connect(made)) as raw:
        assert json.loads(raw.execute("SELECT plan FROM sessions LIMIT 1").fetchone()[0])["version"] == 1
    assert backup.back_up_before_migrating(old, NOW) is None, "nothing is left to do"
