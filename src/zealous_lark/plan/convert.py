"""To and from the core's own types."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from functools import lru_cache

from shapely.geometry import Point

from zealous_lark.core.air import Wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.best_way_home import BestWayHome, WayHome
from zealous_lark.core.chance import Chance
from zealous_lark.core.checks.base import MOST_USED, said, share_of_budget
from zealous_lark.core.fixes import Fix, Probes, fixes, written_value
from zealous_lark.core.forecast import Forecast
from zealous_lark.core.geodesy import xy
from zealous_lark.core.land import Land
from zealous_lark.core.minimums import Minimums
from zealous_lark.core.obstacles import Obstacle
from zealous_lark.core.place import Place, Role
from zealous_lark.core.readings import Provenance, Weather, WindLevel
from zealous_lark.core.situation import (
    Aircraft,
    Attachment,
    ControllerSettings,
    Flight,
    Landform,
    Link,
    Move,
    Pack,
    Platform,
    Site,
    Situation,
    SpeedMode,
)
from zealous_lark.core.trip import Trip
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Judged, judge
from zealous_lark.plan import result as r
from zealous_lark.plan.document import (
    AircraftPart,
    MinimumsPart,
    MovePart,
    PlanDocument,
    ProvenancePart,
    SitePart,
    WeatherPart,
    WindPart,
)
from zealous_lark.plan.evidence import assumed
from zealous_lark.plan.forecast import forecast_of
from zealous_lark.plan.place import place_of


def _aircraft(a: AircraftPart, m: MinimumsPart) -> Aircraft:
    return Aircraft(
        name=a.name,
        mass_g=a.mass_g,
        size_m=a.size_m,
        rotor_count=a.rotor_count,
        rotor_diameter_m=a.rotor_diameter_m,
        battery_wh=a.battery_wh,
        hover_time_min=a.hover_time_min,
        slow_ms=a.speeds_ms.slow,
        normal_ms=a.speeds_ms.normal,
        fast_ms=a.speeds_ms.fast,
        rth_speed_ms=a.rth_speed_ms,
        ascent_ms=a.ascent_ms,
        descent_ms=a.descent_ms,
        max_wind_ms=a.max_wind_ms,
        link=Link(a.link.band_ghz, a.link.range_m),
        payload_g=a.payload_g,
        max_tilt_deg=a.max_tilt_deg,
        temperature_c=(a.temperature_c[0], a.temperature_c[1]),
        consumption_factor=a.consumption_factor,
        max_takeoff_g=a.max_takeoff_g,
        ceiling_m=a.ceiling_m,
        charge_power_w=a.charge_power_w,
        region_power_db=a.region_power_db,
        attachments=tuple(Attachment(x.kind, x.mass_g) for x in a.attachments),
        bulky_speed=m.bulky_speed,
        bulky_power=m.bulky_power,
    )


def _site(s: SitePart) -> Site:
    landform = s.landform
    return Site(
        latitude=s.latitude,
        longitude=s.longitude,
        elevation_m=s.elevation_m,
        surroundings=s.surroundings,
        landform=Landform() if landform is None else Landform(landform.kind, landform.height_m, landform.half_length_m),
        over_water=s.over_water,
        indoors=s.indoors,
        platform=Platform(s.platform.kind, s.platform.course_deg % 360, s.platform.speed_ms),
        sheltered=s.sheltered,
        radio_noise=s.radio_noise,
        obstacles=tuple(
            Obstacle(o.kind, o.height_m, o.distance_m, o.bearing_deg % 360, o.depth_m, known=o.known)
            for o in s.obstacles
        ),
        radio_loss_db=s.radio_loss_db,
        wave_height_m=s.wave_height_m,
        trees_bare=s.trees_bare,
        zones_looked_at=s.zones_looked_at,
        people_looked_at=s.people_looked_at,
        seen=frozenset(s.seen),
    )


def minimums_of(part: MinimumsPart) -> Minimums:
    """The core's minimums of a document's."""
    return Minimums(**{**part.model_dump(), "mass_steps_g": tuple(sorted(part.mass_steps_g))})


def minimums_part(minimums: Minimums) -> MinimumsPart:
    """A document's minimums of the core's; the inverse of `minimums_of`."""
    return MinimumsPart(**{**asdict(minimums), "mass_steps_g": list(minimums.mass_steps_g)})


def _move(m: MovePart) -> Move:
    return Move(**{**m.model_dump(), "bearing_deg": m.bearing_deg % 360})


@lru_cache(maxsize=32)
def land_at(place: Place, latitude: float, longitude: float, elevation_m: float) -> Land:
    """A place seen from a take-off point. Kept: what it samples is worth keeping while other things change."""
    return Land(place, latitude, longitude, elevation_m)


@dataclass(frozen=True, slots=True)
class Known:
    """What is known beyond a plan document: the place and the forecast that it names by number, and the time (aware).

    spread: how far several forecasts of its wind differ, as one standard deviation over their mean.

    A place or forecast that the plan carries itself goes first. Without the time, the weather's age does not count.
    """

    place: Place | None = None
    forecast: Forecast | None = None
    judged_at: datetime | None = None
    spread: float | None = None


NOTHING_MORE = Known()


def weather_of(w: WeatherPart) -> Weather:
    """The core's weather of a document's."""
    return Weather(
        winds=tuple(
            WindLevel(x.height_m, x.speed_ms, x.direction_deg % 360, x.source, x.gust_ms, x.at) for x in w.winds
        ),
        temperature_c=w.temperature_c,
        dew_point_c=w.dew_point_c,
        visibility_m=w.visibility_m,
        precipitation=w.precipitation,
        kp=w.kp,
        cloud_base_m=w.cloud_base_m,
        as_of=w.as_of,
        provenance=tuple(Provenance(p.figure, p.source, p.as_of) for p in w.provenance),
    )


def weather_part(weather: Weather, report: int | None) -> WeatherPart:
    """A document's weather of the core's, as it came from the stored forecast `report`."""
    return WeatherPart(
        winds=[
            WindPart(
                height_m=x.height_m, speed_ms=round(x.speed_ms, 2), direction_deg=round(x.direction_deg, 1) % 360,
                gust_ms=None if x.gust_ms is None else round(max(x.gust_ms, x.speed_ms), 2), source=x.source, at=x.at,
            )
            for x in weather.winds
        ],
        temperature_c=round(weather.temperature_c, 2),
        dew_point_c=None if weather.dew_point_c is None else round(weather.dew_point_c, 2),
        visibility_m=round(weather.visibility_m),
        precipitation=weather.precipitation,
        kp=round(weather.kp, 2),
        cloud_base_m=None if weather.cloud_base_m is None else round(weather.cloud_base_m),
        as_of=weather.as_of,
        provenance=[ProvenancePart(figure=p.figure, source=p.source, as_of=p.as_of) for p in weather.provenance],
        report=report,
    )  # fmt: skip


def situation_of(plan: PlanDocument, known: Known = NOTHING_MORE) -> Situation:
    """The core's situation of a plan document."""
    place, forecast = known.place, known.forecast
    if plan.place is not None:
        place = place_of(plan.place, None if place is None else place.terrain, None if place is None else place.surface)
    if plan.forecast is not None:
        forecast = forecast_of(plan.forecast)
    at = plan.site
    land = None if place is None else land_at(place, at.latitude, at.longitude, at.elevation_m)
    f, c = plan.flight, plan.settings
    return Situation(
        takeoff_at=plan.takeoff_at,
        aircraft=_aircraft(plan.aircraft, plan.minimums),
        pack=Pack(plan.pack.charge_pct, plan.pack.health_pct, plan.pack.temperature_c),
        site=_site(plan.site),
        weather=weather_of(plan.weather),
        flight=Flight(
            bearing_deg=f.bearing_deg % 360,
            distance_m=f.distance_m,
            height_m=f.height_m,
            station_min=f.station_min,
            outbound_mode=SpeedMode(f.outbound_mode),
            return_mode=SpeedMode(f.return_mode),
            moves=tuple(_move(m) for m in f.moves),
            station_radius_m=f.station_radius_m,
            night_permitted=f.night_permitted,
        ),
        settings=ControllerSettings(
            rth_altitude_m=c.rth_altitude_m,
            max_altitude_m=c.max_altitude_m,
            max_distance_m=c.max_distance_m,
            lost_link=c.lost_link,
            satellites=c.satellites,
            home_point_set=c.home_point_set,
            compass_checked=c.compass_checked,
        ),
        minimums=minimums_of(plan.minimums),
        land=land,
        forecast=forecast,
        forecast_spread=known.spread,
        judged_at=known.judged_at,
        aimed=_aimed(plan, land),
        assumed=assumed(plan),
    )


AIMED_M = 30.0


def _aimed(plan: PlanDocument, land: Land | None) -> bool:
    """Whether the far end is there for a subject: planned ones, moves around one, or one drawn there."""
    if plan.flight.moves or (plan.outing is not None and plan.outing.shots):
        return True
    if land is None:
        return False
    x, y = xy(plan.flight.bearing_deg, plan.flight.distance_m)
    return any(d.shape.distance(Point(float(x), float(y))) <= AIMED_M for d in land.of(Role.SUBJECT))


def _wind(wind: Wind) -> r.WindFoundPart:
    return r.WindFoundPart(**asdict(wind))


def _finite(value: float) -> float | None:
    return None if math.isnan(value) else value


def _energy(trip: Trip) -> r.EnergyPart:
    return r.EnergyPart(
        usable_wh=trip.usable_wh,
        spent_wh=trip.spent_wh,
        landing_pct=trip.landing_pct,
        ground_speed_out_ms=_finite(trip.ground_speed_out_ms),
        ground_speed_home_ms=_finite(trip.ground_speed_home_ms),
        blocked=trip.blocked,
        legs=[
            r.LegPart(name=x.name, seconds=x.seconds, wh=x.wh, charge_after_pct=x.charge_after_pct) for x in trip.legs
        ],
    )


def _spread(judged: Judged, a: Assessment) -> list[float] | None:
    """Share used at both ends of what is uncertain, for the checks that wind and charge decide."""
    used, chance = judged.finding.used, a.chance
    if used is None or chance is None:
        return None
    if judged.check.id == "battery.budget":
        s = a.situation
        ends = (chance.landing_high_pct, chance.landing_low_pct)
        return [share_of_budget(s.pack.charge_pct, end, s.reserve_pct) for end in ends]
    if judged.check.id in ("wind.steady", "wind.gust", "wind.offshore"):
        # Nine draws in ten of a normal spread lie within 1.645 standard deviations.
        swing = 1.645 * chance.wind_spread
        return [max(used * (1 - swing), 0.0), min(used * (1 + swing), MOST_USED)]
    return None


def _fix(fix: Fix, situation: Situation, report: int | None) -> r.FixPart:
    """A fix by the document's keys. Another time brings that time's weather with it."""
    changes = {key: written_value(value) for key, value in fix.changes}
    moved = next((value for key, value in fix.changes if key == "takeoff_at"), None)
    if moved is not None and situation.forecast is not None:
        weather = weather_part(situation.moved_to(moved).weather, report)
        changes["weather"] = weather.model_dump(mode="json")
    return r.FixPart(set=changes, sentence=fix.sentence, verdict=fix.verdict)


def _check(judged: Judged, a: Assessment, found: Sequence[r.FixPart], units: Units) -> r.CheckPart:
    check, finding = judged.check, judged.finding
    return r.CheckPart(
        id=check.id,
        label=check.label,
        status=finding.status,
        value=finding.value,
        limit=finding.limit,
        unit=check.unit,
        bound=check.bound,
        used=finding.used,
        sentence=finding.sentence(units),
        working=list(finding.working(units)),
        source=check.source,
        shown=None if finding.shown is None else said(finding.shown, units),
        spread=_spread(judged, a),
        follows=finding.follows,
        levers=list(found),
    )


def _chance(chance: Chance | None) -> r.ChancePart | None:
    if chance is None:
        return None
    return r.ChancePart(
        above_reserve=chance.above_reserve,
        above_forced=chance.above_forced,
        landing_low_pct=chance.landing_low_pct,
        landing_high_pct=chance.landing_high_pct,
        legs=[r.LegBandPart(name=x.name, low_pct=x.low_pct, high_pct=x.high_pct) for x in chance.legs],
    )


def _way(way: WayHome) -> r.WayHomePart:
    return r.WayHomePart(
        height_m=way.height_m, mode=way.mode, ground_speed_ms=way.ground_speed_ms, landing_pct=way.landing_pct
    )


def _ways(ways: BestWayHome | None) -> r.BestWayHomePart | None:
    if ways is None:
        return None
    return r.BestWayHomePart(
        best=None if ways.best is None else _way(ways.best),
        fastest=None if ways.fastest is None else _way(ways.fastest),
        ways=[_way(w) for w in ways.ways],
    )


def judge_plan(
    plan: PlanDocument, units: Units = METRIC, *, with_fixes: bool = True, known: Known = NOTHING_MORE
) -> r.ResultDocument:
    """The result document of a plan. Units change the sentences and workings, never a value.

    Levers take longer than all the rest; without them the result is the same but for their lists.
    """
    judgement = judge(situation_of(plan, known))
    a = judgement.assessment
    trip, height, reach = a.trip, a.return_height, a.reach
    probes = Probes(a)
    return r.ResultDocument(
        verdict=judgement.verdict,
        tightest=judgement.tightest.check.id,
        checks=[
            _check(
                x,
                a,
                [_fix(fix, a.situation, plan.weather.report) for fix in fixes(judgement, x.check, units, probes)]
                if with_fixes
                else [],
                units,
            )
            for x in judgement.judged
        ],
        wind=None
        if a.wind_planned is None or a.wind_return is None
        else r.WindsPart(planned=_wind(a.wind_planned), return_=_wind(a.wind_return)),
        energy=None if trip is None else _energy(trip),
        other_way=None if a.other_way is None else _energy(a.other_way),
        turn_back=None if trip is None or trip.turn_back_pct is None else r.TurnBackPart(charge_pct=trip.turn_back_pct),
        rth=r.RthPart(
            lowest_m=height.lowest_m,
            highest_m=height.highest_m,
            recommended_m=height.recommended_m,
            limited_by=height.limited_by,
        ),
        reach=None
        if reach is None
        else r.ReachPart(
            bearing_deg=list(reach.bearing_deg),
            distance_m=list(reach.distance_m),
            limited_by=list(reach.limited_by),
        ),
        signal=r.SignalPart(
            margin_db=a.signal.margin_db,
            range_m=a.signal.range_m,
            obstruction_db=a.signal.obstruction_db,
            noise_db=a.signal.noise_db,
        ),
        sight=r.SightPart(limit_m=a.sight.limit_m, limited_by=a.sight.limited_by),
        chance=_chance(a.chance),
        best_way_home=_ways(a.best_way_home),
        questions=[
            r.QuestionPart(
                id=x.check.id,
                question=said(x.finding.question or "", units),
                matters=x.finding.matters,
                key=x.finding.asks,
            )
            for x in judgement.questions
        ],
        light=r.LightPart(sunrise=a.light.sunrise, sunset=a.light.sunset),
        cloud_base_m=a.cloud_base_m,
        forced_landing_pct=FORCED_LANDING_PCT,
        reserve_pct=a.situation.reserve_pct,
    )
