"""A result as a table for a terminal."""

from __future__ import annotations

from collections.abc import Callable

from rich.console import Console
from rich.table import Table
from rich.text import Text

from zealous_lark.core.checks import Status
from zealous_lark.core.units import Units, decibels, percent
from zealous_lark.core.verdict import CAUTION, VERDICT_WORDS
from zealous_lark.plan import PlanDocument, ResultDocument
from zealous_lark.plan.result import CheckPart

_STATUS_WORDS = {
    Status.PASS: ("pass", "cyan"),
    Status.CARE: ("care", "yellow"),
    Status.FAIL: ("FAIL", "bold red"),
    Status.UNKNOWN: ("unknown", "magenta"),
}
_RAIL = 20


def quantity(value: float | None, unit: str, units: Units) -> str:
    """A value of a check in the units that the pilot reads."""
    if value is None:
        return "not known"
    write: Callable[[float], str] | None = {
        "m/s": units.speed,
        "m": units.length,
        "%": percent,
        "dB": decibels,
        "°C": units.temperature,
        "°": lambda v: f"{v:.0f}°",
    }.get(unit)
    return write(value) if write else f"{value:g} {unit}"


def _rail(check: CheckPart) -> Text:
    if check.used is None:
        return Text("·" * _RAIL + "|  ?", "dim")
    filled = min(round(check.used * _RAIL), _RAIL)
    through = "=>" if check.used > 1 else "  "
    style = _STATUS_WORDS[check.status][1]
    return Text("=" * filled, style) + Text("·" * (_RAIL - filled), "dim") + Text("|") + Text(through, style)


def print_result(plan: PlanDocument, result: ResultDocument, units: Units) -> None:
    """Write a result to standard output: the verdict, the checks, the charge after each leg."""
    console = Console(highlight=False, markup=False)
    if not console.is_terminal:
        console = Console(highlight=False, markup=False, width=140)
    tightest = result.checks[0]
    place = plan.site.name or f"{plan.site.latitude:.4f}, {plan.site.longitude:.4f}"
    where = f"  {place}, {plan.takeoff_at:%Y-%m-%d %H:%M}, {plan.aircraft.name}"
    console.print(Text(plan.title, "bold") + Text(where))
    why = f". Tightest: {tightest.label.lower()}. {tightest.sentence}"
    console.print(Text(VERDICT_WORDS[result.verdict], "bold") + Text(why))
    table = Table(box=None, pad_edge=False, padding=(0, 2, 0, 0))
    for heading in ("check", "", "limit used", "value", "limit", "what it says"):
        table.add_column(heading, no_wrap=heading != "what it says", justify="left")
    for c in result.checks:
        word, style = _STATUS_WORDS[c.status]
        table.add_row(
            c.label,
            Text(word, style),
            _rail(c),
            c.shown or quantity(c.value, c.unit, units),
            "" if c.shown else quantity(c.limit, c.unit, units),
            c.sentence,
        )
    console.print(table)
    if result.energy is not None:
        left = ", ".join(f"{leg.name.replace('_', ' ')} {percent(leg.charge_after_pct)}" for leg in result.energy.legs)
        console.print(f"Charge after each leg: {left}.")
    if result.turn_back is not None:
        console.print(f"Turn back at {percent(result.turn_back.charge_pct)}.")
    console.print(CAUTION, style="dim")
