"""The pilot's own minimums: what is in force, changing it, and what each school would say."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from functools import cache, lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from zealous_lark.core.rules import RuleSet
from zealous_lark.core.schools import QUESTIONS, for_first_flights
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.plan import Known, PlanDocument, minimums_of, minimums_part, read_plan, situation_of
from zealous_lark.plan.document import MinimumsPart
from zealous_lark.rulesets import GENERAL, rule_sets
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store import Database, minimums

OWN = "own"
"""The id of the rule set that the pilot wrote down."""


class OwnRules(BaseModel):
    """A rule set of the pilot's own."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)

    name: Annotated[str, Field(min_length=1, max_length=80)] = "My own rules"
    height_m: Annotated[float, Field(gt=0, le=1_000)] = 120
    mass_steps_g: Annotated[list[Annotated[float, Field(gt=0, le=150_000)]], Field(min_length=1, max_length=12)] = [250]
    people_m: Annotated[float, Field(ge=0, le=5_000)] | None = None
    people_from_g: Annotated[float, Field(gt=0, le=150_000)] | None = None
    airfield_m: Annotated[float, Field(ge=0, le=30_000)] | None = None
    airfield_from_g: Annotated[float, Field(gt=0, le=150_000)] | None = None
    note: Annotated[str, Field(max_length=500)] = ""


class PilotSettings(BaseModel):
    """What the pilot chose: own minimums, rule set, and whether these are first flights."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)

    minimums: MinimumsPart = MinimumsPart()
    rule_set: str = GENERAL
    first_flights: bool = False
    own_rules: OwnRules | None = None


@dataclass(frozen=True, slots=True)
class Dated:
    """Settings and since when they are in force; None for the defaults, which always were."""

    settings: PilotSettings
    changed_at: datetime | None


@cache
def _read(text: str) -> PilotSettings:
    return PilotSettings.model_validate_json(text)


def minimums_history(db: Database) -> list[Dated]:
    """What was in force, the latest first; the defaults come last."""
    with db.transaction() as s:
        rows = minimums.history(s)
    return [*(Dated(_read(row.settings), row.changed_at) for row in rows), Dated(PilotSettings(), None)]


def current(db: Database) -> PilotSettings:
    """The settings in force."""
    return minimums_history(db)[0].settings


def change(db: Database, settings: PilotSettings, now: datetime, *, may_end_first_flights: bool) -> None:
    """Put settings in force from now on.

    may_end_first_flights: whether the course for first flights is done, or the pilot gave their word.
    Raises NotAllowedError for an unknown rule set, or for first flights that end without either.
    """
    known = rules_known(settings)
    if settings.rule_set not in known:
        raise NotAllowedError("rule_set", settings.rule_set, ", ".join(known))
    if current(db).first_flights and not settings.first_flights and not may_end_first_flights:
        raise NotAllowedError("first_flights", "false", "true until the course is done, or your word (by_word)")
    with db.transaction() as s:
        minimums.add(s, settings.model_dump_json(), now)


def rules_known(settings: PilotSettings) -> dict[str, RuleSet]:
    """Every rule set that ships, and the pilot's own where there is one, by id."""
    own = settings.own_rules
    if own is None:
        return rule_sets()
    mine = RuleSet(
        id=OWN,
        name=own.name,
        authority="your aviation authority",
        checked="by yourself",
        source="Written down by yourself.",
        height_m=own.height_m,
        mass_steps_g=tuple(sorted(own.mass_steps_g)),
        people_m=own.people_m,
        airfield_m=own.airfield_m,
        night="As you wrote it down." if own.note else "Ask your authority.",
        notes=(own.note,) if own.note else (),
        people_from_g=own.people_from_g,
        airfield_from_g=own.airfield_from_g,
    )
    return {**rule_sets(), OWN: mine}


def in_force(settings: PilotSettings, mass_g: float) -> MinimumsPart:
    """The minimums that a judgement uses: the stricter of the pilot's, the rules' and first flights'.

    mass_g: take-off mass, on which some distances depend [g].
    """
    own = minimums_of(settings.minimums)
    chosen = for_first_flights(own) if settings.first_flights else own
    rules = rules_known(settings)[settings.rule_set]
    legal = min(chosen.legal_height_m, rules.height_m)
    return minimums_part(
        replace(
            chosen,
            legal_height_m=legal,
            mass_steps_g=rules.mass_steps_g,
            people_m=rules.people_for(mass_g),
            airfield_m=rules.airfield_for(mass_g),
        )
    )


def with_minimums(plan: PlanDocument, settings: PilotSettings) -> PlanDocument:
    """A plan under the pilot's minimums."""
    return plan.model_copy(update={"minimums": in_force(settings, plan.aircraft.takeoff_mass_g)})


def verdict_under_each(plan: PlanDocument, settings: PilotSettings, known: Known) -> dict[str, list[Verdict]]:
    """For each question, the plan's verdict under each of its schools, all else as set."""
    each = _verdicts(plan.model_dump_json(), settings.model_dump_json(), known)
    return {question.id: list(verdicts) for question, verdicts in zip(QUESTIONS, each, strict=True)}


@lru_cache(maxsize=16)
def _verdicts(plan_text: str, settings_text: str, known: Known) -> tuple[tuple[Verdict, ...], ...]:
    plan, settings = read_plan(plan_text), _read(settings_text)
    situation = situation_of(plan, known)
    found: dict[str, Verdict] = {}

    def verdict(other: MinimumsPart) -> Verdict:
        tried = in_force(settings.model_copy(update={"minimums": other}), plan.aircraft.takeoff_mass_g)
        # Most schools only say again what is set, so that few plans are judged.
        key = tried.model_dump_json()
        if key not in found:
            found[key] = judge(replace(situation, minimums=minimums_of(tried))).verdict
        return found[key]

    return tuple(
        tuple(verdict(settings.minimums.model_copy(update=dict(school.sets))) for school in question.schools)
        for question in QUESTIONS
    )
