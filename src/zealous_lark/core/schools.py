"""Where pilots disagree: questions with a default, other schools, and why.

All of it is common practice, with no published source. Every question changes something
in the judgement: a limit, a recommendation, or what is asked.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from zealous_lark.core.minimums import (
    CompassRule,
    HoverRule,
    LandingRule,
    LostLinkRule,
    Minimums,
    SightRule,
    StrongWindRule,
    WindAloft,
)


@dataclass(frozen=True, slots=True)
class School:
    """One answer: what it is called, the minimums it sets, and the one whose number the pilot sets freely."""

    name: str
    sets: tuple[tuple[str, Any], ...]
    adjusts: str | None = None

    def chosen(self, minimums: Minimums) -> bool:
        """Whether minimums follow this school."""
        return all(getattr(minimums, key) == value for key, value in self.sets)


@dataclass(frozen=True, slots=True)
class Question:
    """A question with its schools, the default first, and why it matters."""

    id: str
    question: str
    why: str
    schools: tuple[School, ...]


def _one(key: str, *answers: tuple[str, Any]) -> tuple[School, ...]:
    return tuple(School(name, ((key, value),)) for name, value in answers)


QUESTIONS: tuple[Question, ...] = (
    Question("wind_share", "How much of the rated wind do you use?",
             "Gusts and the wind higher up come on top, and the footage shakes long before the limit.",
             _one("wind_fraction", ("Half", 0.5), ("Two thirds", 2 / 3), ("All of it", 1.0))),
    Question("reserve", "How much charge do you want left on landing?",
             "Around 15% many aircraft land where they are. Over water 10 points are always added.",
             _one("reserve_pct", ("30%", 30.0), ("20%", 20.0), ("40%", 40.0))),
    Question("takeoff_charge", "What is the least charge you take off with?",
             "The percentage of a part-used battery is an estimate and can fall at once.",
             _one("min_takeoff_pct", ("95%", 95.0), ("90%", 90.0), ("98%", 98.0))),
    Question("clearance", "How far above the highest obstacle do you return?",
             "No sensor looks up on the flight home, and height readings can be a few metres out.",
             _one("rth_margin_m", ("10 m", 10.0), ("5 m", 5.0), ("20 m", 20.0))),
    Question("turn_back", "When do you turn back?",
             "Half the battery is too late on a long leg against the wind, and needlessly early close by.",
             (School("Computed from wind and distance", (("turn_back_pct", None),)),
              School("Always at 60%", (("turn_back_pct", 60.0),)),
              School("Always at 50%", (("turn_back_pct", 50.0),)))),
    Question("wind_aloft", "How do you estimate wind aloft from a handheld reading?",
             "It is measured at head height, where trees and grass hold the wind back. A forecast needs no such step.",
             _one("wind_aloft", ("By the ground around", WindAloft.PROFILE), ("Doubled at 30 m", WindAloft.DOUBLING),
                  ("The larger of the two", WindAloft.LARGER))),
    Question("hover", "What does a reading from the hover count for?",
             "It is taken where it flies; the forecast knows what comes. After an hour it is as old as any reading.",
             _one("hover_rule", ("It replaces the forecast for half an hour", HoverRule.BEST),
                  ("The stronger always counts", HoverRule.STRONGER))),
    Question("return_height", "Which return height?",
             "A single height is too low for the trees at one place and wastes charge in the wind at another.",
             (School("The lowest that clears", (("rth_fixed_m", None),)),
              *_one("rth_fixed_m", ("Always 40 m", 40.0), ("Always 50 m", 50.0), ("Always 100 m", 100.0)))),
    Question("compass", "When do you calibrate the compass?",
             "A wrong compass sends it astray; a calibration beside a car or steel makes a good one wrong.",
             _one("compass", ("When it is due", CompassRule.WHEN_DUE), ("Every session", CompassRule.ALWAYS),
                  ("Only when asked for", CompassRule.WHEN_ASKED))),
    Question("lost_link", "What should it do if the link is lost?",
             "A return climbs first: wrong under a roof, from a boat, or where no return height works.",
             _one("lost_link", ("What the site asks for", LostLinkRule.BY_SITE), ("Always return", LostLinkRule.RETURN),
                  ("Always hover", LostLinkRule.HOVER))),
    Question("strong_wind", "Strong wind, far out: how do you come home?",
             "A return to home climbs into more wind, and is slower than fast mode flown manually.",
             _one("strong_wind", ("Low, manually, fast mode", StrongWindRule.BY_HAND),
                  ("Return to home", StrongWindRule.AUTOMATIC))),
    Question("line_of_sight", "How far is your line of sight?",
             "You need to see which way it is pointing. An observer can only tell you it is there.",
             (School("Where attitude can be read", (("sight_rule", SightRule.ATTITUDE),)),
              School("My own tested distance", (("sight_rule", SightRule.OWN),), "sight_own_m"),
              School("With an observer", (("sight_rule", SightRule.OBSERVER),)))),
    Question("water_sensors", "Do you trust the downward sensors over water?",
             "Moving water and reflections mislead them by half a metre and more.",
             _one("trust_water_sensors", ("Not below 3 m", False), ("In a slow hover", True))),
    Question("landing", "Where do you land?",
             "A hand landing puts spinning propellers within arm's reach of a gust.",
             _one("landing", ("On the pad", LandingRule.PAD), ("In the hand", LandingRule.HAND))),
    Question("satellites", "How many satellites do you take off with?",
             "With six or fewer it does not hold its position.",
             _one("satellites", ("11", 11), ("7, the older school", 7), ("15", 15))),
    Question("rain", "Light rain or snow?",
             "Water gets into motors and sensors, and snow fools the sensors that look down.",
             _one("accept_light_rain", ("Don't launch", False), ("A few minutes, then dry it", True))),
    Question("water", "How far out over water?",
             "A forced landing in water loses the aircraft.",
             _one("water_distance_m", ("200 m", 200.0), ("100 m", 100.0), ("400 m", 400.0))),
    Question("headway", "What is the lowest ground speed home you accept?",
             "The speed left over after a gust is all that brings it home.",
             _one("return_speed_ms", ("3 m/s", 3.0), ("2 m/s", 2.0), ("5 m/s", 5.0))),
    Question("weather_age", "How old may the weather data be?",
             "A new forecast comes every few hours, and the front that it moved is the one that counts.",
             _one("weather_age_h", ("12 hours", 12.0), ("6 hours", 6.0), ("3 hours", 3.0))),
    Question("signal", "How much signal do you keep?",
             "The picture freezes first, control goes later.",
             _one("link_margin_db", ("10 dB", 10.0), ("6 dB", 6.0), ("15 dB", 15.0))),
)  # fmt: skip

FIRST_FLIGHTS_HEIGHT_M = 90.0
"""Ceiling for first flights [m]; common practice."""


def for_first_flights(minimums: Minimums) -> Minimums:
    """The stricter of a pilot's minimums and those for first flights; never looser."""
    return replace(
        minimums,
        wind_fraction=min(minimums.wind_fraction, 1 / 3),
        reserve_pct=max(minimums.reserve_pct, 40.0),
        legal_height_m=min(minimums.legal_height_m, FIRST_FLIGHTS_HEIGHT_M),
        min_takeoff_pct=max(minimums.min_takeoff_pct, 95.0),
        satellites=max(minimums.satellites, 13),
        water_distance_m=min(minimums.water_distance_m, 50.0),
        return_speed_ms=max(minimums.return_speed_ms, 4.0),
        accept_light_rain=False,
    )
