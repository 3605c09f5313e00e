"""The drills: short exercises near the take-off point, each with its space, height and wind, and what done well means.

What they are, their figures and how often each is repeated is common practice, with no published source; the
aircraft's manual goes before them.
"""

from __future__ import annotations

from dataclasses import dataclass

from zealous_lark.core.situation import SpeedMode


@dataclass(frozen=True, slots=True)
class Drill:
    """An exercise of under five minutes.

    steps: what to do, in order. well: what done well means. asks: what the pilot says yes to before it starts.
    out_m, height_m: how far out and how high it is flown [m]; height_m None: nothing flies. room_m: nothing within
    so far of the take-off point may reach up to it [m]. wind_share: of the rated wind at the most; a pilot's own
    minimum may be stricter. minutes: how long it flies. every_days: after so many days it is due again.
    home: how it comes home. everyone: due from the beginning, whoever flies; else once it has been done.
    """

    key: str
    name: str
    why: str
    steps: tuple[str, ...]
    well: str
    every_days: int
    minutes: float
    height_m: float | None
    out_m: float = 10.0
    room_m: float = 15.0
    wind_share: float = 1 / 3
    home: SpeedMode = SpeedMode.NORMAL
    asks: tuple[str, ...] = ()
    everyone: bool = False


DRILLS: tuple[Drill, ...] = (
    Drill(
        "automatic_return", "Return to home, and cancel",
        "Know how long it waits, how high it climbs and which way it comes before you need it.",
        ("Fly out to 50 m, slowly, and stop.",
         "Say aloud what it will do: how high it climbs, which way it turns. Inside a distance that the manual gives, "
         "some come home without climbing.",
         "Press return to home. Watch the aircraft, not the screen.",
         "Before it is over you, cancel. Move a stick to feel that it is yours again.",
         "Fly home and land."),
        "It did what you said it would, and you had it back before it was over you.",
        every_days=60, minutes=4, height_m=30, out_m=50, room_m=30, wind_share=0.5, home=SpeedMode.RTH, everyone=True,
    ),
    Drill(
        "manual_return", "Manual return without the screen",
        "The screen freezes or dies sooner or later; the aircraft still flies.",
        ("Fly out to 60 m, no further than you see which way it points.",
         "Turn the screen away from you.",
         "Touch the stick forward: does it come nearer, go away, or cross?",
         "Turn it until forward brings it nearer, and bring it home.",
         "Stop in front of you, then look at the screen again."),
        "Home within two minutes, without the screen and without the return button.",
        every_days=60, minutes=4, height_m=30, out_m=60, room_m=30, wind_share=0.5, everyone=True,
    ),
    Drill(
        "nose_in", "Hover nose-in",
        "With its nose towards you, left and right are exchanged; that is how it comes home.",
        ("Hover 10 m in front of you, 5 m high, its tail to you.",
         "Turn it a quarter, hold it there for ten seconds; the other way too.",
         "Turn its nose to you and hold it for half a minute.",
         "Move it a few metres left and right, and stop each time."),
        "Half a minute nose-in within two metres of its spot, three times.",
        every_days=60, minutes=4, height_m=5,
    ),
    Drill(
        "square", "A square, both ways",
        "It shows whether each stick does what you think it does.",
        ("Pick four marks, 15 m apart.",
         "Fly from mark to mark with its tail to you, slowly, a stop at each.",
         "Once more with its nose along the way.",
         "Then the other way round."),
        "Both ways, within three metres of each mark, at one height.",
        every_days=90, minutes=4, height_m=10, out_m=20, room_m=30,
    ),
    Drill(
        "circle", "A circle, both ways",
        "Turning while it moves takes both hands, and shows at once when it drifts.",
        ("Pick a mark to go round, 20 m in front of you.",
         "Fly round it at 10 m with its nose along the way, slowly.",
         "Then the other way round.",
         "Once more with its nose to the mark."),
        "Both ways, round as seen from the ground, at one height.",
        every_days=90, minutes=4, height_m=10, out_m=30, room_m=40,
    ),
    Drill(
        "no_hold", "Without position hold",
        "When satellites fail it drifts with the wind, and only your hands stop it.",
        ("Fly to 15 m, well clear, and hover.",
         "Take position hold away, as the manual says.",
         "Let it drift a moment, then stop it against the wind.",
         "Hold it within ten metres for a minute.",
         "Switch position hold on again before you come down."),
        "A minute within ten metres, and never higher or lower than five metres off.",
        every_days=90, minutes=3, height_m=15, out_m=20, room_m=50, wind_share=0.2,
        asks=("The manual has a mode without position hold, and you know how to leave it.",),
    ),
    Drill(
        "hand_landing", "Hand landing",
        "From a boat, in snow or on stones there may be no other way down.",
        ("Hover at arm's length from your face, above your eyes, its nose away from you.",
         "Hold your hand flat under it, fingers out of the propellers' reach.",
         "Come down onto the hand. Grip only when the motors stop, as the manual says.",
         "If it drifts or tips, let go upwards and land on the pad."),
        "Down and still, without a step or a grab.",
        every_days=90, minutes=3, height_m=3, out_m=5, room_m=10, wind_share=0.25,
        asks=("Gloves and eye protection are on.", "Nobody else is within five metres.",
              "The manual allows it, and says how its motors stop."),
    ),
    Drill(
        "battery_change", "Battery change under calls",
        "A call to land comes while something else is going on.",
        ("Start the flight clock on a short hover.",
         "Have somebody call land by, at a time you don't know; alone, set a timer.",
         "Land within half a minute, motors off, propellers still.",
         "Change the battery: latched, charge read, home point set again.",
         "Only then take off."),
        "Down within half a minute of the call, and nothing of the list left out.",
        every_days=90, minutes=4, height_m=10, wind_share=0.5,
    ),
    Drill(
        "find_it", "Find it by its last position",
        "Somewhere in long grass it is out of sight at five metres.",
        ("Have somebody lay it down, switched off, 50 to 100 m away, and give you its position.",
         "Alone: note its position, go away, and come back from another side.",
         "Go there with the position alone.",
         "Walk rings around it, two metres apart."),
        "Found within five minutes.",
        every_days=180, minutes=5, height_m=None,
    ),
)  # fmt: skip

BY_KEY = {drill.key: drill for drill in DRILLS}
