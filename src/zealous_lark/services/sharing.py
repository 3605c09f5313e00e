"""A session or a place that goes to another pilot, and one that comes from another: looked at before it is taken."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from pydantic_core import from_json

from zealous_lark.formats import share
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.plan import MAX_PLAN_BYTES, PlanDocument, read_document, read_whole_plan
from zealous_lark.plan.document import MinimumsPart
from zealous_lark.plan.place import PlacePart
from zealous_lark.plan.share import SHARE_VERSION, LeftOut, SharePart
from zealous_lark.services import minimums, places, sessions
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.travelling import carried
from zealous_lark.store import Database

_GRIDS: tuple[LeftOut, ...] = ("terrain", "surface")


@dataclass(frozen=True, slots=True)
class Given:
    """What is given: its name, the whole as a file, and as codes without what no code holds.

    left_out: of the file; left_out_of_codes: of the codes, more. codes: none where even so it is too large for them.
    """

    name: str
    file: bytes
    left_out: tuple[LeftOut, ...]
    codes: tuple[str, ...]
    left_out_of_codes: tuple[LeftOut, ...]


def give_session(db: Database, session_id: int, now: datetime) -> Given:
    """A session's plan with its place and forecast. Raises NotHereError."""
    kept = sessions.plan_of(db, session_id)
    plan = carried(db, kept, heights=True)
    here = None if kept.site.place is None else places.open_place(db, kept.site.place).place
    return _given(plan.title, SharePart(lark="share", version=SHARE_VERSION, made_at=now, plan=plan), _picture(here))


def give_place(db: Database, place_id: int, now: datetime) -> Given:
    """A place with its drawing, terrain and surface model. Raises NotHereError."""
    here = places.open_place(db, place_id).place
    place = places.travelling(db, here)
    return _given(place.name, SharePart(lark="share", version=SHARE_VERSION, made_at=now, place=place), _picture(here))


def _picture(place: PlacePart | None) -> list[LeftOut]:
    return [] if place is None or place.picture is None else ["picture"]


def _given(name: str, whole: SharePart, lost: list[LeftOut]) -> Given:
    """As much of it as each form holds: the grids of heights go first, as they are the largest by far."""
    whole = whole.model_copy(update={"left_out": lost})
    text = whole.model_dump_json().encode()
    for key in reversed(_GRIDS):
        if len(text) > MAX_PLAN_BYTES:
            whole = _without(whole, key)
            text = whole.model_dump_json().encode()
    least = whole
    for key in (*_GRIDS, "forecast"):
        least = _without(least, key)
    # What is as it always is says nothing: a code has little room.
    codes = share.codes(least.model_dump_json(exclude_defaults=True).encode())
    return Given(name, share.packed(text), tuple(whole.left_out), tuple(codes), tuple(least.left_out))


def _without(part: SharePart, key: LeftOut) -> SharePart:
    """A shared document without one thing; as it is where it has none."""
    left_out = [*part.left_out, key]
    if key == "forecast":
        if part.plan is None or part.plan.forecast is None:
            return part
        return part.model_copy(update={"plan": part.plan.model_copy(update={key: None}), "left_out": left_out})
    place = part.place if part.plan is None else part.plan.place
    if place is None or getattr(place, key) is None:
        return part
    place = place.model_copy(update={key: None})
    if part.plan is None:
        return part.model_copy(update={"place": place, "left_out": left_out})
    return part.model_copy(update={"plan": part.plan.model_copy(update={"place": place}), "left_out": left_out})


@dataclass(frozen=True, slots=True)
class Looked:
    """What came from another pilot; nothing of it is kept yet. plan or place: None while codes are missing.

    own: what the pilot's own minimums would be for the plan.
    """

    missing: tuple[int, ...]
    of: int
    made_at: datetime | None = None
    plan: PlanDocument | None = None
    place: PlacePart | None = None
    left_out: tuple[LeftOut, ...] = ()
    own: MinimumsPart | None = None


def look(db: Database, data: bytes) -> Looked:
    """What is in a file, or in the texts of codes, a line each. Raises NotAllowedError, PlanRefusedError."""
    try:
        if share.are_codes(data):
            found = share.joined(data.decode("ascii", "replace").strip().splitlines())
            if found.document is None:
                return Looked(found.missing, found.of)
            document = found.document
        else:
            document = share.unpacked(data) if share.is_packed(data) else data
        with telling("text", "a file that a Lark made"):
            head = from_json(document)
    except BadFileError as error:
        raise NotAllowedError("file", error.given, error.allowed) from None
    if not isinstance(head, dict) or "lark" not in head:
        # A plan that was exported is one to take, too.
        return _with_own(db, Looked((), 0, plan=read_whole_plan(document)))
    version = head.get("version")
    if isinstance(version, int) and version > SHARE_VERSION:
        raise NotAllowedError("version", str(version), f"{SHARE_VERSION}: a newer Lark made it; update this one")
    part = read_document(SharePart, document)
    return _with_own(db, Looked((), 0, part.made_at, part.plan, part.place, tuple(part.left_out)))


def _with_own(db: Database, looked: Looked) -> Looked:
    if looked.plan is None:
        return looked
    mass_g = looked.plan.aircraft.takeoff_mass_g
    return replace(looked, own=minimums.in_force(minimums.current(db), mass_g))
