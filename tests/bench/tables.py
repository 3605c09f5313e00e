"""Field tables of the demo's first session and of the boat's, which costs the most: seconds, and bytes compressed."""

from __future__ import annotations

import gzip
import json
import sys
import tempfile
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path

from tests.conftest import NOW
from zealous_lark.core.field_tables import field_tables
from zealous_lark.core.readings import WindSource
from zealous_lark.demo.load import load_demo
from zealous_lark.plan import situation_of
from zealous_lark.services import sessions, weather
from zealous_lark.store import Database

TITLES = ("Bog at first light", "Reeds from the rowing boat")


def tables(timed: Callable[[Callable[[], object]], float]) -> None:
    """Print the figures."""
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        load_demo(db, NOW)
        plans = {plan.title: plan for _, plan in sessions.plans_ahead(db, NOW)}
        for title in TITLES:
            plan = plans[title]
            situation = situation_of(plan, weather.known(db, plan, NOW))
            kinds = ((None, 2.0), (WindSource.MEASURED, 2.0), (WindSource.MEASURED, 10.0),
                     (WindSource.HOVER, plan.flight.height_m))  # fmt: skip
            made = []
            ms = timed(lambda s=situation, k=kinds, m=made: m.extend(field_tables(s, *kind) for kind in k))  # type: ignore[misc]
            size = sum(len(gzip.compress(json.dumps(asdict(t)).encode())) for t in made)
            words = f"field tables for four kinds of reading: {title}"
            sys.stdout.write(f"{words:<70} {ms / 1000:5.1f} s  {size / 1000:6.1f} kB\n")
        db.close()
