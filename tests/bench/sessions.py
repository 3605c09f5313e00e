"""The sessions' figures: years of use, what the list, the minimums and one answer on site take then."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from sqlalchemy import event

from zealous_lark.demo.load import load_demo
from zealous_lark.services import sessions
from zealous_lark.store import Database, PilotsWord, decisions, launches
from zealous_lark.store import sessions as stored
from zealous_lark.store.launches import Launch
from zealous_lark.web import create_app

SESSIONS, AHEAD = 2_000, 10
NOW = datetime(2026, 9, 26, 9, 3, tzinfo=UTC)


def _years(db: Database) -> None:
    """Sessions like the demo's, most of them over and half of those launched."""
    load_demo(db, NOW)
    like = sessions.plans(db)
    with db.writing() as s:
        for n in range(SESSIONS):
            _, plan = like[n % len(like)]
            at = NOW + timedelta(hours=20 * n + 3) if n < AHEAD else NOW - timedelta(hours=9 * n)
            plan = plan.model_copy(update={"title": f"Session {n}", "takeoff_at": at})
            text, site = plan.model_dump_json(), plan.site
            headline = sessions.headline(plan)
            number = stored.add(s, headline, text, NOW).id
            if n >= AHEAD and n % 2:
                made = decisions.add(
                    s, number, word=PilotsWord.LAUNCH, note="", verdict="launch", plan=text, result="{}",
                    walkround="[]", now=at,
                )  # fmt: skip
                launches.add(
                    s, Launch(made.id, number, f"{at:%Y-%m-%d}", site.latitude, site.longitude, plan.aircraft.name,
                              plan.aircraft.kit, plan.pack.label or "", plan.pack.kit)
                )  # fmt: skip


def session_figures(timed: Callable[[Callable[[], object]], float]) -> None:
    """Print the figures: the first time, and again; with the count of queries."""
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        _years(db)
        clock = [NOW]
        client = create_app(db, clock=lambda: clock[0]).test_client()
        queries: list[str] = []
        event.listen(db.engine, "before_cursor_execute", lambda *given: queries.append(given[2]))

        def figure(name: str, ask: Callable[[], Any]) -> None:
            def asked() -> None:
                queries.clear()
                answer = ask()
                assert answer.status_code == 200, answer.json

            first, again = timed(asked), sorted(timed(asked) for _ in range(9))[4]
            sys.stdout.write(f"{name:<58} first {first:7.1f} ms   again {again:7.1f} ms   {len(queries)} queries\n")

        sys.stdout.write(f"{SESSIONS:,} sessions, {AHEAD} of them ahead:\n")
        figure("the list, never judged before", lambda: client.get("/api/sessions"))
        clock[0] += timedelta(minutes=10)
        figure("the list, ten minutes later", lambda: client.get("/api/sessions"))
        figure("the list's last page but one", lambda: client.get("/api/sessions?page=66"))
        figure("the minimums with what each school would say", lambda: client.get("/api/minimums"))
        said = {"item": "birds", "word": "done"}
        figure("one answer on site", lambda: client.put("/api/sessions/1/answers/look_round", json=said))
        plan = client.get("/api/sessions/1").json["plan"]
        figure("the site after it", lambda: client.post("/api/sessions/1/on-site", json={"plan": plan}))
        db.close()
