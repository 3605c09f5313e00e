"""What a track says and what is drawn of it, as a document that is kept."""

from __future__ import annotations

from pydantic import TypeAdapter

from zealous_lark.core.postflight.track import DrawnTrack, TrackFacts
from zealous_lark.plan.base import Part

MEASURED = 2
"""The way in which tracks are measured now: since 2, a ground speed that was held tells no wind."""


class TrackPart(Part):
    """A track without its points. measured: the way in which its facts were found; what was kept before says none."""

    measured: int = 1
    facts: TrackFacts
    drawn: DrawnTrack


_TRACK: TypeAdapter[TrackPart] = TypeAdapter(TrackPart)


def read_track_part(text: str) -> TrackPart:
    """A document that was kept."""
    return _TRACK.validate_json(text)
