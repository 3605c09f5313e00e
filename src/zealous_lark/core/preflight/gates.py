"""The walkround: gates of a few items each, made for the session, in the order in which the hands move.

What to look at, and the values that are wanted, are common practice; the aircraft's manual goes before them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from itertools import product

LEAST_ITEMS, MOST_ITEMS = 5, 9
"""Items of a gate; neighbours are joined where one alone has too few."""


class Topic(StrEnum):
    """Topics in the order of the hands."""

    AIRFRAME = "airframe"
    PROPELLERS = "propellers"
    PACK = "pack"
    CAMERA = "camera"
    CONTROLLER = "controller"
    POSITION = "position"
    AROUND = "around"


TOPIC_NAMES = {
    Topic.AIRFRAME: "Airframe", Topic.PROPELLERS: "Propellers", Topic.PACK: "Battery", Topic.CAMERA: "Camera and card",
    Topic.CONTROLLER: "Controller and display", Topic.POSITION: "Position and home point",
    Topic.AROUND: "People and air around",
}  # fmt: skip


class Value(StrEnum):
    """Values that are entered, by what they are."""

    CHARGE = "charge_pct"
    PACK_TEMPERATURE = "pack_temperature_c"
    CARD = "card_min"
    RETURN_HEIGHT = "rth_altitude_m"
    SATELLITES = "satellites"
    HOME_POINT = "home_point_set"
    COMPASS = "compass_checked"


@dataclass(frozen=True, slots=True)
class Round:
    """What a walkround depends on."""

    winter: bool = False
    water: bool = False
    boat: bool = False
    indoors: bool = False
    built_up: bool = False
    first_of_day: bool = False
    first_of_pack: bool = False
    after_firmware: bool = False
    new_place: bool = False
    after_knock: bool = False
    first_flights: bool = False
    bright: bool = False
    risky: bool = False
    payload: bool = False


@dataclass(frozen=True, slots=True)
class GateItem:
    """One item: its key, what to do, why in a line, how in three, what to do when it is not so; the value it takes."""

    key: str
    topic: Topic
    text: str
    why: str
    how: tuple[str, ...]
    fault: str
    value: Value | None = None


@dataclass(frozen=True, slots=True)
class Gate:
    """A few items of one topic, or of neighbours."""

    topics: tuple[Topic, ...]
    items: tuple[GateItem, ...]

    @property
    def name(self) -> str:
        names = [TOPIC_NAMES[t] for t in self.topics]
        if len(names) == 1:
            return names[0]
        return ", ".join([names[0], *(n[0].lower() + n[1:] for n in names[1:])])


_Rule = tuple[str, str, str, tuple[str, str, str], str, Callable[[Round], bool], Value | None]


def _always(_: Round) -> bool:
    return True


def _outdoors(r: Round) -> bool:
    return not r.indoors


_RULES: dict[Topic, tuple[_Rule, ...]] = {
    Topic.AIRFRAME: (
        ("arms", "Arms: unfolded and locked, legs out", "A half-open arm folds in the air.",
         ("Open the front arms, then the rear ones.", "Push each to its stop.", "Pull out the legs or feet."),
         "An arm that does not lock stays on the ground. Do not fly it.", _always, None),
        ("shell", "No crack, nothing loose", "A crack grows with every landing.",
         ("Turn it over once in your hands.", "Look along each arm and at the screws.", "Shake it by your ear."),
         "Don't fly it. Log it under maintenance.", lambda r: r.first_of_day or r.after_knock, None),
        ("cover", "Gimbal cover off", "A blocked gimbal overheats at power-on.",
         ("Hold the camera, do not pull on it.", "Take the cover off.", "Put it where you find it again."),
         "Power off at once, then take it off.", _always, None),
        ("pad", "Take-off spot: level, clean, dry", "Sand, dust and long grass go into motors and gimbal.",
         ("Put the pad down where the way up is clear.", "Weigh its corners down.", "Its tail to you."),
         "Find a better spot, or hold the pad down with stones.", lambda r: not r.boat and not r.indoors, None),
        ("ice", "No ice, frost or dew on it", "Ice on the propellers is not seen from the ground.",
         ("Look along the blades' leading edges.", "Wipe lens and sensors dry.", "Look again after each flight."),
         "Dry it and warm it in its closed bag. With fog or low cloud don't launch.", lambda r: r.winter, None),
        ("attached", "Attachments: secure", "Guards, floats and lights catch the wind and cost time.",
         ("Pull at each part.", "Check that none can touch a blade.", "Think of its weight against 250 g."),
         "Take it off.", lambda r: r.payload, None),
    ),
    Topic.PROPELLERS: (
        ("blades", "Blades: no nicks, bends or cracks", "A nicked blade shakes, and breaks.",
         ("Look along each blade against the sky.", "Run a fingertip along both edges.", "Look for white at the root."),
         "Change both blades of that motor.", _always, None),
        ("tight", "Tight, and on the right motor", "Blades are marked in pairs; a wrong one flips it at take-off.",
         ("Compare the mark of blade and motor.", "Try each screw or latch.", "Pull gently upwards."),
         "Put the pairs right and tighten them before power comes on.", _always, None),
        ("turn", "They turn freely, without grit", "Sand in a motor stops it in the air.",
         ("Turn each by hand, power off.", "Listen for grinding.", "Blow sand out."),
         "Do not fly until it turns freely.", lambda r: r.first_of_day or r.after_knock or r.boat, None),
        ("guards", "Guards on, and free of the blades", "Indoors it touches something sooner or later.",
         ("Clip all of them on.", "Turn each propeller once round.", "Pull at each guard."),
         "Without guards don't launch indoors.", lambda r: r.indoors, None),
    ),
    Topic.PACK: (
        ("swollen", "Not swollen, dry, not hot", "A swollen, wet or hot battery burns.",
         ("Lay it on something flat: it must not rock.", "Cells apart by more than 0.1 V: put it aside.",
          "Look into the contacts."),
         "Never fly or charge it. Put it outdoors, away "
         "from anything that burns, and mark it in Gear.", _always, None),
        ("label", "It is the battery of this plan", "The plan uses this battery's charge and health.",
         ("Read the label.", "Compare it with the plan.", "Take the plan's, or change the plan."),
         "Take the right battery, or choose this one in the plan.", lambda r: r.first_of_pack, None),
        ("latched", "Pushed in until it clicks", "A battery that is not latched falls out.",
         ("Push until both sides click.", "Pull at it.", "No gap around it."),
         "Take it out, clean the latches, try again. If it does not click, do not fly.", _always, None),
        ("charge", "Charge as the aircraft shows it", "A part-used battery can fall suddenly.",
         ("Switch on.", "Read the percentage on the display.", "Type it in."),
         "Change the battery.", _always, Value.CHARGE),
        ("pack_temperature", "Battery temperature", "A cold battery sags and its percentage jumps.",
         ("Keep it in an inside pocket until now.", "Read it on the display.", "Hover it warm before going anywhere."),
         "Warm it on your body, or take a warm one.", lambda r: r.winter, Value.PACK_TEMPERATURE),
    ),
    Topic.CAMERA: (
        ("card", "Card in, minutes free on it", "A card on the desk films nothing.",
         ("Open the slot and look.", "Read the free time on the display.", "Type the minutes in."),
         "Swap the card, or format this one in the aircraft if it is backed up.", _always, Value.CARD),
        ("swap_card", "A fresh card for the risky shot", "What is filmed already stays with you.",
         ("Take the card out and put it away.", "Put the spare one in.", "Format it in the aircraft."),
         "Leave the risky shot until the card is swapped.", lambda r: r.risky, None),
        ("lens", "Lens clean", "One fingerprint spoils the whole session.",
         ("Breathe on it.", "Wipe from the middle outwards.", "Look at the picture."),
         "Clean it.", _always, None),
        ("filter", "Filter on", "In bright sun the picture stutters without it.",
         ("Put it on with the power off.", "Turn it until it clicks.", "Look that the gimbal moves freely."),
         "Take another filter, or none.", lambda r: r.bright, None),
        ("record", "Recording: press, check it runs", "The commonest fault of all.",
         ("Press it.", "See the time count up.", "Stop it again, or leave it running."),
         "Format or swap the card.", _always, None),
    ),
    Topic.CONTROLLER: (
        ("display", "Controller and display charged and readable", "When it dies you fly by sight.",
         ("Read both charges against the time you stay.", "Brightness to the top, hood on.",
          "Cable in and out once."),
         "Charge it from the bank first.", lambda r: r.first_of_day, None),
        ("radios", "Other radios off, nothing metal around", "Phone and watch disturb the link, metal the compass.",
         ("Flight mode on phone and watch.", "Step away from cars, fences, masts.", "Lay keys and tools aside."),
         "Go some metres away and try again.", lambda r: r.built_up or r.new_place, None),
        ("aerials", "Antennas: flat side towards the aircraft", "Their tips radiate least.",
         ("Fold them out.", "Flat side towards the far point.", "Hold it so while you fly."),
         "Turn yourself, not only the antennas.", _outdoors, None),
        ("return_height", "Return height as it is set", "The aircraft keeps the value from your last place.",
         ("Open the safety settings.", "Set what the card says.", "Type in what it shows now."),
         "Set it before the motors run.", _outdoors, Value.RETURN_HEIGHT),
        ("dialled", "Other settings: entered", "Ceiling, distance, lost link, low charge.",
         ("Go through the card line by line.", "Set each.", "Read each once more."),
         "Set what differs.", _always, None),
        ("slow_mode", "Slow mode on", "First flights are flown slowly.",
         ("Switch to the slow mode.", "See it on the display.", "Leave it there."),
         "Do not start in a faster mode.", lambda r: r.first_flights or r.indoors, None),
        ("motor_stop", "Emergency stop of the propellers set to emergencies only",
         "A slip of both thumbs stops them in the air.",
         ("Open the safety settings.", "Set it to emergencies only.", "Know how it is done."),
         "Set it before the motors run.", lambda r: r.first_of_day, None),
        ("firmware", "Everything connects after the new firmware", "Firmware updates can reset settings.",
         ("See aircraft and controller on the same version.", "Go through all settings again.", "Look for warnings."),
         "Finish the update at home. Don't launch today.", lambda r: r.after_firmware, None),
    ),
    Topic.POSITION: (
        ("satellites", "Satellites", "With six or fewer it does not hold its position.",
         ("Wait half a minute after switching on.", "Read the number.", "Type it in."),
         "Wait, or go where the sky is open.", _outdoors, Value.SATELLITES),
        ("home_point", "Home point confirmed, here", "It returns to where this was set.",
         ("Wait for the aircraft to confirm.", "See it on the map where you stand.", "Only then say yes."),
         "Don't take off. Wait for a position fix.", _outdoors, Value.HOME_POINT),
        ("compass", "Compass in order", "A wrong compass makes it circle and drift.",
         ("See no compass warning.", "Calibrate if it asks, away from metal.", "Never on a boat."),
         "Go away from metal and calibrate. If it asks again, don't launch.",
         lambda r: (r.new_place or r.after_knock or r.after_firmware) and not r.indoors, Value.COMPASS),
        ("boat_home", "Home point: set again before every take-off", "It would return to where the boat was.",
         ("Set home to the controller's position.", "Return action to hover.", "Say aloud how far it may drift."),
         "Don't launch from this deck.", lambda r: r.boat, None),
        ("practise_return", "Know how to stop a return to home", "It stops at the pad's place, not at yours.",
         ("Practise one return on a new aircraft, high and near.", "Afterwards take the sticks back.",
          "Never cancel a return that low charge began."),
         "Practise it now, in the open.", lambda r: r.first_flights and not r.indoors, None),
        ("indoor_mode", "Mode for indoors chosen", "Satellites come and go under a roof.",
         ("Satellite mode or attitude mode: your school's.", "Low-charge return off.", "Lost link to hover."),
         "Do not start until you know which mode it is in.", lambda r: r.indoors, None),
    ),
    Topic.AROUND: (
        ("people", "Nobody close, nobody talking to you", "You cannot look at two things.",
         ("Look all round.", "Tell who is with you what you do.", "Wait for walkers to pass."),
         "Wait.", _always, None),
        ("overhead", "The way up is clear", "No sensor on it looks up.",
         ("Look straight up and along the flight out.", "Find poles, follow their wires.", "Step away from branches."),
         "Move the pad.", _outdoors, None),
        ("air", "No aircraft, no blue lights, no birds that mind", "They do not see you; some attack.",
         ("Listen for helicopters.", "Look to the horizon once round.", "Watch the birds for a minute."),
         "Wait, or move elsewhere.", _outdoors, None),
        ("wind_now", "Wind: same as checked", "It changes while you walk round.",
         ("Feel it, look at leaves and water.", "Compare with what you measured.", "Measure again if in doubt."),
         "Measure again in the Site stage; the verdict follows.", _outdoors, None),
        ("observer", "Somebody watches the aircraft", "On first flights and from boats two pairs of eyes are needed.",
         ("Agree on the words: stop, up, back.", "They watch it, not your screen.", "They say what comes near."),
         "Wait until somebody can.", lambda r: r.first_flights or r.boat, None),
        ("water_sensors", "Above waves and spray, no trust in its height", "Over water it reads too high, and more "
         "when it tilts.",
         ("Twice the waves' height between.", "No lower than three metres.", "Tilt makes the reading grow by 1/cos."),
         "Fly higher.", lambda r: r.water and not r.boat, None),
        ("over_water", "Life jacket on, and a flight home above the water",
         "A forced landing there loses the aircraft.",
         ("Put the jacket on.", "No lower than three metres over the water.", "Know which shore you'll head for."),
         "Stay over land.", lambda r: r.water or r.boat, None),
        ("deck", "Deck clear, rigging known, two to launch and catch", "A drifting deck leaves it behind.",
         ("Stop the boat if you can.", "One holds, one flies.", "Gloves and glasses on."),
         "Don't launch from this deck.", lambda r: r.boat, None),
        ("room", "No people, no pets, eye protection on", "Indoors everything is near.",
         ("Shut the doors.", "Glasses on.", "Keep under the ceiling by the height of a table."),
         "Don't launch.", lambda r: r.indoors, None),
    ),
}  # fmt: skip


def item_texts() -> dict[str, str]:
    """The text of every item that there is, by its key."""
    return {key: text for rules in _RULES.values() for key, text, *_ in rules}


def items(context: Round) -> tuple[GateItem, ...]:
    """The items that a walkround asks for, each once, in the order of the hands."""
    return tuple(
        GateItem(key, topic, text, why, how, fault, value)
        for topic, rules in _RULES.items()
        for key, text, why, how, fault, asks, value in rules
        if asks(context)
    )


def gates(context: Round) -> tuple[Gate, ...]:
    """The walkround: neighbouring topics joined so that every gate has five to nine items, as nearly as can be.

    Where several ways do, the one with most gates: they are the shortest.
    """
    asked = items(context)
    by_topic = [(t, tuple(i for i in asked if i.topic is t)) for t in Topic]
    topics = [(t, mine) for t, mine in by_topic if mine]

    def cut(cuts: tuple[bool, ...]) -> list[Gate]:
        found = [Gate((topics[0][0],), topics[0][1])]
        for (topic, mine), apart in zip(topics[1:], cuts, strict=True):
            if apart:
                found.append(Gate((topic,), mine))
            else:
                found[-1] = Gate((*found[-1].topics, topic), (*found[-1].items, *mine))
        return found

    def off(gate: Gate) -> int:
        # One item too many to hold in mind is worse than a short gate.
        return max(LEAST_ITEMS - len(gate.items), 10 * (len(gate.items) - MOST_ITEMS), 0)

    ways = (cut(cuts) for cuts in product((False, True), repeat=len(topics) - 1))
    best: list[Gate] = min(ways, key=lambda way: (sum(off(g) for g in way), -len(way)))
    return tuple(best)
