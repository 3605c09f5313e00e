"""What the pilot can do, in few words, and what the aircraft is doing."""

from __future__ import annotations

from enum import IntEnum, StrEnum


class Act(StrEnum):
    """What the pilot does.

    turn_back: home as planned, at the return height and in the return's mode. by_hand: home as it flies now, and out
    of whatever the aircraft does by itself. return_home: the automatic return.
    """

    TURN_BACK = "turn_back"
    BY_HAND = "by_hand"
    FAST = "fast"
    LOWER = "lower"
    CLIMB = "climb"
    RETURN_HOME = "return_home"
    WAIT = "wait"
    LAND = "land"
    WALK = "walk"


class Doing(IntEnum):
    """What the aircraft does. DOWN: it lands where it is."""

    HOVER_CHECK = 0
    RISE = 1
    OUT = 2
    STATION = 3
    PLANNED = 4
    BY_HAND = 5
    RETURN_HOME = 6
    HOLD = 7
    DOWN = 8


class End(StrEnum):
    """How a flight ends.

    home: where it was to land. away: whole, on open ground elsewhere. hurt: somebody was where it landed. The others
    are lost: in water, in trees, against what stands there, fallen with an empty battery, iced up or struck, or
    blown away.
    """

    HOME = "home"
    AWAY = "away"
    HURT = "hurt"
    WATER = "water"
    TREES = "trees"
    HIT = "hit"
    EMPTY = "empty"
    ICED = "iced"
    STRUCK = "struck"
    GONE = "gone"


LOST = frozenset({End.WATER, End.TREES, End.HIT, End.EMPTY, End.ICED, End.STRUCK, End.GONE})
