"""What a track says and what is drawn of it, as a document that is kept."""

from __future__ import annotations

from pydantic import TypeAdapter

from zealous_lark.core.flown.track import DrawnTrack, TrackFacts
from zealous_lark.plan.base import Part


class TrackPart(Part):
    """A track without its points."""

    facts: TrackFacts
    drawn: DrawnTrack


_TRACK: TypeAdapter[TrackPart] = TypeAdapter(TrackPart)


def read_track_part(text: str) -> TrackPart:
    """A document that was kept."""
    return _TRACK.validate_json(text)
