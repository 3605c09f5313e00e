"""What goes over the wire of flights to bring home."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from zealous_lark.cases.marking import Grade
from zealous_lark.core.flight.emergency import EmergencyCard
from zealous_lark.core.homeward.acts import Act, End
from zealous_lark.core.homeward.flying import LONGEST_S
from zealous_lark.core.homeward.mishap import Kind, Mishap
from zealous_lark.core.homeward.sheet import Ground
from zealous_lark.core.situation import LostLink, SpeedMode
from zealous_lark.plan import PlanDocument
from zealous_lark.plan.flight import Uid
from zealous_lark.web.schemas.common import MONTH_S, In, Out

MOST_ACTS = 200


class HomeBand(Out):
    """Ground between two distances of the home point; to_m null: and beyond."""

    from_m: float
    to_m: float | None
    ground: Ground


class HomeStands(Out):
    """Something that stands there: the ends of its footprint, metres east and north of the home point; its top."""

    ends: list[list[float]]
    top_m: float


class HomeSheet(Out):
    """What the flight is flown by. Tables begin at nought, in steps of height_step_m, airspeed_step_ms, way_step_m.

    east_ms, north_ms, sigma_ms: where the wind goes, and one standard deviation of its gusts, by height. power_w: by
    airspeed. loss_db: by distance, and in each by height. modes_ms: airspeed of each mode.
    """

    height_step_m: float
    airspeed_step_ms: float
    way_step_m: float
    east_ms: list[float]
    north_ms: list[float]
    sigma_ms: list[float]
    power_w: list[float]
    loss_db: list[list[float]]
    margin_1m_db: float
    hover_w: float
    lift_w: float
    usable_wh: float
    charge_pct: float
    modes_ms: dict[SpeedMode, float]
    ascent_ms: float
    descent_ms: float
    outbound_mode: SpeedMode
    return_mode: SpeedMode
    lost_link: LostLink
    far_x: float
    far_y: float
    height_m: float
    return_height_m: float
    max_altitude_m: float
    stands: list[HomeStands]
    bands: list[HomeBand]


class HomeFlight(Out):
    """A flight to bring home: all that it takes to fly it on the device.

    own: whether the aircraft is the pilot's, else a usual light one. begins_s: when the pilot takes over; turn_s: when
    it is to turn back by the plan, turn_back_pct: and with what. mishap: what goes wrong. normals: its gusts, three
    thousandths of a standard normal number for each step, used again from the first after the last. card: the
    emergency text for what goes wrong. These are for the device, and for the pilot's eyes afterwards.
    """

    seed: int
    aircraft: str
    own: bool
    site: str
    place: str
    plan: PlanDocument
    sheet: HomeSheet
    reserve_pct: float
    turn_back_pct: float | None
    wind_ms: float
    wind_from_deg: float
    begins_s: float
    turn_s: float
    mishap: Mishap
    normals: list[int]
    card: EmergencyCard | None


class HomeAct(In):
    at_s: Annotated[float, Field(ge=0, le=LONGEST_S)]
    act: Act


class HomeAnswer(In):
    """What the pilot did on a flight, and when; ago_s: how long ago, where it waited on the device."""

    uid: Uid
    acts: Annotated[list[HomeAct], Field(max_length=MOST_ACTS)]
    ago_s: Annotated[float, Field(ge=0, le=MONTH_S)] = 0


class HomeLanded(Out):
    """How it ended, as it was flown again here. due: when its like is due again."""

    end: End
    at_s: float
    charge_pct: float
    from_home_m: float
    grade: Grade
    due: datetime


class HomeKind(Out):
    """How flights of a kind go. ends: how each ended, the first first. due: null before the first."""

    kind: Kind
    ends: list[End]
    due: datetime | None


class HomeNow(Out):
    """How it goes with all kinds. seed: of the flight to take next. due: whether one is due again."""

    kinds: list[HomeKind]
    seed: int
    due: bool
