"""Flying on, step by step: many flights at once through the same air, each as its pilot acts.

Assumptions
-----------
=========================  =============================================================================
steps                      half a second; gusts by `turbulence`, the same for all flights at one moment
on its way                 holds the airspeed of its mode and its track; blown off it where it cannot
holding still              as long as the wind leaves it its mode's airspeed; else it drifts with the rest
power                      as the trip model: level flight, climb over it, hover while it rises, sinks or lands;
                           holding still by the mean wind: gusts save nothing
link                       control from 0 dB of margin, the picture from 3 dB; common practice
control lost               7 s until the lost-link setting acts; sticks let go, it holds still; common practice
low battery                15 % lands it where it is; common practice
ice in fog                 1 % more power a second, down after 90 s; Lark's own
bird                       12 s of holding still near it; a third as fast on its way, not at all climbing; Lark's own
walking into the open      20 s, then nothing near the pilot is in the link's way; Lark's own
=========================  =============================================================================
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.homeward.acts import Act, Doing, End
from zealous_lark.core.homeward.mishap import Mishap
from zealous_lark.core.homeward.sheet import ROOM_M, Ground, Sheet, apart_m, far_end
from zealous_lark.core.homeward.state import Bools, Ended, Floats, State
from zealous_lark.core.homeward.turbulence import Gusts
from zealous_lark.core.leg_costs import HOVER_CHECK_S, LANDING_S
from zealous_lark.core.radio import HAND_HEIGHT_M
from zealous_lark.core.situation import LostLink, SpeedMode

Normals = tuple[float, float, float]
Acts = Sequence[tuple[float, Act]]

STEP_S = 0.5
LONGEST_S = 2700.0
"""What is still in the air then is gone [s]."""
HEIGHT_CHANGE_M = 15.0
"""One word up or down [m]."""
LOWEST_M = 10.0
CONTROL_DB, PICTURE_DB = 0.0, 3.0
LOST_AFTER_S = 7.0
WALK_S = 20.0
ICE_A_SECOND, ICE_DOWN_S = 0.01, 90.0
BIRD_STRIKES_S, BIRD_LEAVES_M, BIRD_SLOW_MS = 12.0, 120.0, 3.0
_ARRIVED_M = 3.0
PAD_M = 12.0
"""Landed so near to where it was to land, it is home [m]."""
_COMES_BACK_S, _DOWN_M = 4.0, 0.05

# By what each does, looked up for all flights at once.
_RISE, _OUT, _DOWN = int(Doing.RISE), int(Doing.OUT), int(Doing.DOWN)
_HOMEWARD = np.array([d in (Doing.PLANNED, Doing.BY_HAND, Doing.RETURN_HOME) for d in Doing])
_TO_PILOT = np.array([d in (Doing.PLANNED, Doing.BY_HAND) for d in Doing])
_BY_HAND = _TO_PILOT | np.array([d is Doing.OUT for d in Doing])
_UP_FIRST = np.array([d in (Doing.PLANNED, Doing.RETURN_HOME) for d in Doing])
_IN_PLACE = np.array([d in (Doing.HOVER_CHECK, Doing.RISE, Doing.DOWN) for d in Doing])
_TO_GROUND = np.array([d in (Doing.HOVER_CHECK, Doing.DOWN) for d in Doing])
_AUTOMATIC = int(Doing.RETURN_HOME)


class Flights:
    """Several flights of one sheet through one mishap. normals: three standard normal numbers for each step.

    schedules: for each flight, what its pilot does, and when [s], the first first. What does not reach the aircraft,
    for want of control, is as if it had not been done.
    """

    def __init__(self, sheet: Sheet, mishap: Mishap, normals: Sequence[Normals], schedules: Sequence[Acts]) -> None:
        s = sheet.situation
        self.sheet, self.mishap, self._normals = sheet, mishap, normals
        self._flight, self._craft = s.flight, s.aircraft
        self._far = far_end(s)
        self._modes_ms = np.array([s.aircraft.airspeed_ms(self._mode(d)) for d in Doing])
        self._fast_ms = s.aircraft.airspeed_ms(SpeedMode.FAST)
        self.state = State.on_the_ground(len(schedules), s.flight.height_m)
        self._gusts = Gusts.begun(normals[0], len(schedules))
        todo = [(at, n, act) for n, acts in enumerate(schedules) for at, act in acts]
        self._todo = sorted(todo, key=lambda t: t[0])[::-1]
        self.at_s = 0.0
        self._steps = 0

    @property
    def charge_pct(self) -> Floats:
        """Charge that is left [%]."""
        dropped = self.mishap.drop_points if self.at_s >= self.mishap.at_s else 0.0
        left = self.sheet.situation.pack.charge_pct - 100 * self.state.wh / self.sheet.trip.usable_wh - dropped
        return np.maximum(left, 0.0)

    @property
    def over(self) -> bool:
        """Whether all of them have ended."""
        return bool(np.isfinite(self.state.ended_s).all())

    @property
    def picture(self) -> Bools:
        """Whose pilot has a picture."""
        frozen = self.mishap.picture_lost and self.at_s >= self.mishap.at_s
        return (self.state.margin_db >= PICTURE_DB) & (not frozen)

    def to_the_end(self) -> list[Ended]:
        """Fly on until all have ended."""
        while not self.over:
            self.step()
        return self.ended()

    def ended(self) -> list[Ended]:
        """How each ended; raises ValueError while one is in the air."""
        s = self.state
        if not self.over:
            raise ValueError("a flight is in the air yet")
        return [
            Ended(float(at), end, float(charge), float(apart))
            for at, end, charge, apart in zip(s.ended_s, s.end, s.ended_pct, s.ended_from_m, strict=True)
        ]

    def step(self) -> None:
        """Half a second on."""
        state = self.state
        flying = ~np.isfinite(state.ended_s)
        self._listen()
        mean_ms, wind_e, wind_n = self._air()
        goal_x, goal_y = self._goals()
        going, in_place, air_e, air_n = self._headings(goal_x, goal_y, wind_e, wind_n)
        rate = self._rates()
        move_e, move_n = wind_e + air_e, wind_n + air_n
        state.airspeed_ms = np.hypot(air_e, air_n)
        state.ground_ms = np.hypot(move_e, move_n)
        dt = np.where(flying, STEP_S, 0.0)
        state.x, state.y = state.x + move_e * dt, state.y + move_n * dt
        state.z = np.maximum(state.z + rate * dt, 0.0)
        flown_ms = np.where(going, state.airspeed_ms, np.minimum(mean_ms, self._airspeed_ms))
        state.power_w = self._powers(flown_ms, rate, in_place)
        state.wh = state.wh + state.power_w * dt / 3600
        self.at_s += STEP_S
        self._steps += 1
        self._arrive(goal_x, goal_y)
        self._link(flying)
        self._harm(flying, rate, dt)
        self._settle(flying, dt)

    def _listen(self) -> None:
        """What the pilots do now."""
        while self._todo and self._todo[-1][0] <= self.at_s + 1e-9:
            _, n, act = self._todo.pop()
            if not np.isfinite(self.state.ended_s[n]):
                self._do(n, act)

    def _do(self, n: int, act: Act) -> None:
        s = self.state
        if act is Act.WALK:
            s.walked_at[n] = min(s.walked_at[n], self.at_s)
            return
        if s.margin_db[n] < CONTROL_DB or s.forced[n]:
            return
        doing = Doing(int(s.doing[n]))
        if act is Act.FAST:
            s.fast[n] = True
        elif act in (Act.LOWER, Act.CLIMB):
            self._change_height(n, doing, 1 if act is Act.CLIMB else -1)
        elif act is Act.TURN_BACK:
            auto = self._flight.return_mode is SpeedMode.RTH
            self._begin(n, Doing.RETURN_HOME if auto else Doing.PLANNED)
        elif act is Act.BY_HAND:
            self._begin(n, Doing.BY_HAND)
            s.target_m[n] = s.z[n]
        elif act is Act.RETURN_HOME:
            self._begin(n, Doing.RETURN_HOME)
        elif act is Act.WAIT:
            self._hold(n)
        else:
            self._land_here(n)

    def _change_height(self, n: int, doing: Doing, way: int) -> None:
        s = self.state
        if doing is Doing.DOWN:
            if way < 0:
                return
            self._hold(n)
        if doing is Doing.RETURN_HOME and way < 0:
            return  # the automatic return keeps its height
        highest = self.sheet.situation.settings.max_altitude_m
        from_m = s.z[n] if doing in (Doing.DOWN, Doing.RISE) else s.target_m[n]
        s.target_m[n] = min(max(from_m + way * HEIGHT_CHANGE_M, LOWEST_M), highest)

    def _begin(self, n: int, doing: Doing) -> None:
        s = self.state
        s.doing[n] = doing
        s.landing_s[n], s.follows[n] = 0.0, False
        if doing in (Doing.PLANNED, Doing.RETURN_HOME):
            s.target_m[n] = max(s.z[n], self.sheet.situation.settings.rth_altitude_m)

    def _hold(self, n: int) -> None:
        s = self.state
        self._begin(n, Doing.HOLD)
        s.hold_x[n], s.hold_y[n], s.target_m[n] = s.x[n], s.y[n], max(s.z[n], 2.0)

    def _land_here(self, n: int) -> None:
        s = self.state
        self._begin(n, Doing.DOWN)
        s.hold_x[n], s.hold_y[n] = s.x[n], s.y[n]

    def _air(self) -> tuple[Floats, Floats, Floats]:
        """Mean wind [m/s], and wind with its gusts [m/s towards east and north], where each flight is."""
        s = self.state
        east, north, sigma = self.sheet.wind(s.z)
        factor, cos, sin = self.mishap.wind(self.at_s)
        east, north = factor * (cos * east + sin * north), factor * (cos * north - sin * east)
        normals = self._normals[self._steps % len(self._normals)]
        self._gusts.go_on(normals, s.airspeed_ms, np.maximum(s.z, 1.0), STEP_S)
        speed = np.maximum(np.hypot(east, north), 1e-6)
        along, across = factor * sigma * self._gusts.along / speed, factor * sigma * self._gusts.across / speed
        return speed, east * (1 + along) - north * across, north * (1 + along) + east * across

    @property
    def _airspeed_ms(self) -> Floats:
        """Airspeed that each may use [m/s]."""
        s = self.state
        return np.where(s.fast & (s.doing != _AUTOMATIC), self._fast_ms, self._modes_ms[s.doing])

    def _goals(self) -> tuple[Floats, Floats]:
        """Where each flies to [m]: the far point, the home point, the pilot, or where it holds still."""
        s = self.state
        deck_x, deck_y = self.mishap.deck(self.at_s)
        out, home = s.doing == _OUT, s.doing == _AUTOMATIC
        to_pilot = _TO_PILOT[s.doing] | s.follows
        x = np.where(out, self._far[0], np.where(to_pilot, deck_x, np.where(home, 0.0, s.hold_x)))
        y = np.where(out, self._far[1], np.where(to_pilot, deck_y, np.where(home, 0.0, s.hold_y)))
        return x, y

    def _mode(self, doing: Doing) -> SpeedMode:
        modes = {Doing.OUT: self._flight.outbound_mode, Doing.PLANNED: self._flight.return_mode,
                 Doing.RETURN_HOME: SpeedMode.RTH}  # fmt: skip
        return modes.get(doing, SpeedMode.NORMAL)

    def _headings(
        self, goal_x: Floats, goal_y: Floats, wind_e: Floats, wind_n: Floats
    ) -> tuple[Bools, Bools, Floats, Floats]:
        """Which are on a way, which rise or sink in place, and how each moves through the air [m/s east and north]."""
        s = self.state
        airspeed = self._airspeed_ms
        # Straight up first, where it is told to return; without control by hand the sticks are let go.
        rising = (s.target_m > s.z + 0.5) & _UP_FIRST[s.doing]
        stays = rising | ((s.lost_s > 0) & _BY_HAND[s.doing])
        going = (_BY_HAND[s.doing] | _HOMEWARD[s.doing]) & ~stays
        dx, dy = np.where(stays, 0.0, goal_x - s.x), np.where(stays, 0.0, goal_y - s.y)
        far = np.maximum(np.hypot(dx, dy), 1e-9)
        to_e, to_n = dx / far, dy / far
        # On its way: all of its airspeed, as much across as the wind takes, the rest along.
        along_wind, across_wind = wind_e * to_e + wind_n * to_n, wind_n * to_e - wind_e * to_n
        counter = np.clip(-across_wind, -airspeed, airspeed)
        ahead = np.sqrt(np.maximum(airspeed**2 - counter**2, 0.0))
        # The last step is no longer than the way.
        ahead = np.minimum(ahead, np.maximum(far / STEP_S - along_wind, 0.0))
        go_e, go_n = ahead * to_e - counter * to_n, ahead * to_n + counter * to_e
        # Holding still: against the wind and slowly back to where it is to be, as far as its airspeed goes.
        back = np.minimum(far / _COMES_BACK_S, airspeed / 2)
        want_e, want_n = back * to_e - wind_e, back * to_n - wind_n
        wanted = np.maximum(np.hypot(want_e, want_n), 1e-9)
        can = np.minimum(airspeed / wanted, 1.0)
        on_ground = (s.z <= _DOWN_M) & (s.doing == _DOWN)
        air_e = np.where(on_ground, -wind_e, np.where(going, go_e, want_e * can))
        air_n = np.where(on_ground, -wind_n, np.where(going, go_n, want_n * can))
        return going, rising | _IN_PLACE[s.doing], air_e, air_n

    def _rates(self) -> Floats:
        """Rate of climb of each [m/s]."""
        s = self.state
        target = np.where(_TO_GROUND[s.doing], 0.0, s.target_m)
        return np.clip((target - s.z) / STEP_S, -self._craft.descent_ms, self._craft.ascent_ms)

    def _powers(self, airspeed_ms: Floats, rate: Floats, in_place: Bools) -> Floats:
        """What each draws [W] at airspeeds and rates of climb [m/s]."""
        power = self.sheet.power
        level = np.where(in_place, power.hover_w, self.sheet.cruise_w(airspeed_ms))
        lift = power.climb_w(1.0) - power.hover_w
        drain = 1 + (self.mishap.drain - 1) * self.mishap.grown(self.at_s)
        return (level + lift * np.maximum(rate, 0.0)) * drain * (1 + ICE_A_SECOND * self.state.iced_s)

    def _arrive(self, goal_x: Floats, goal_y: Floats) -> None:
        """On to the next part of the flight, where one is done."""
        s = self.state
        there = np.hypot(goal_x - s.x, goal_y - s.y) <= _ARRIVED_M
        station = there & (s.doing == _OUT)
        landing = there & _HOMEWARD[s.doing] & (s.z >= s.target_m - 0.5)
        arrived = station | landing
        if arrived.any():
            s.follows |= landing & (s.doing != _AUTOMATIC)
            s.doing[station], s.doing[landing] = Doing.STATION, _DOWN
            s.hold_x, s.hold_y = np.where(arrived, goal_x, s.hold_x), np.where(arrived, goal_y, s.hold_y)
        if self.at_s >= HOVER_CHECK_S:
            s.doing[s.doing == int(Doing.HOVER_CHECK)] = _RISE
            s.doing[(s.doing == _RISE) & (s.z >= s.target_m - 0.01)] = _OUT

    def _link(self, flying: Bools) -> None:
        """The link's margin, and what the aircraft does without it."""
        s, sheet = self.state, self.sheet
        distance = self._from_home_m
        slant = np.maximum(np.hypot(distance, s.z - HAND_HEIGHT_M), 1.0)
        extra = sheet.shade_db(distance, s.z) + self.mishap.noise_db * self.mishap.grown(self.at_s)
        in_the_open = self.at_s >= s.walked_at + WALK_S
        s.margin_db = sheet.margin_1m_db - 20 * np.log10(slant) - np.where(in_the_open, 0.0, extra)
        lost = (s.margin_db < CONTROL_DB) & flying
        s.lost_s = np.where(lost, s.lost_s + STEP_S, 0.0)
        s.acted &= lost
        for n in np.flatnonzero(lost & (s.lost_s >= LOST_AFTER_S) & ~s.acted):
            s.acted[n] = True
            self._without_link(int(n))

    def _without_link(self, n: int) -> None:
        s = self.state
        if s.doing[n] in (_AUTOMATIC, _DOWN):
            return
        setting = self.sheet.situation.settings.lost_link
        if setting is LostLink.RETURN:
            self._begin(n, Doing.RETURN_HOME)
        elif setting is LostLink.HOVER:
            self._hold(n)
        else:
            self._land_here(n)

    def _harm(self, flying: Bools, rate: Floats, dt: Floats) -> None:
        """What ends it in the air."""
        s, mishap = self.state, self.mishap
        if mishap.fog_rise_ms > 0:
            inside = (s.z < mishap.fog_top_m(self.at_s)) & (s.z > 2.0)
            s.iced_s = s.iced_s + np.where(inside, dt, 0.0)
            self._end(flying & (s.iced_s >= ICE_DOWN_S), End.ICED)
        if mishap.bird and self.at_s >= mishap.at_s:
            left = np.hypot(s.x - self._far[0], s.y - self._far[1]) > BIRD_LEAVES_M
            slow = np.where(s.ground_ms < BIRD_SLOW_MS, 1.0, 1 / 3)
            s.threat_s = s.threat_s + np.where((rate > 1) | left | (s.z < 1.0), 0.0, slow * dt)
            self._end(flying & (s.threat_s >= BIRD_STRIKES_S), End.STRUCK)
        for stands in self.sheet.stands:
            under = s.z < stands.top_m
            if (under & flying & (s.doing > _RISE)).any():
                near = apart_m(s.x, s.y, stands) <= ROOM_M
                self._end(flying & under & near & (s.doing > _RISE), End.HIT)
        self._end(flying & (self.charge_pct <= 0), End.EMPTY)
        if self.at_s >= LONGEST_S:
            self._end(flying, End.GONE)

    def _settle(self, flying: Bools, dt: Floats) -> None:
        """Low battery, and what has landed."""
        s = self.state
        low = flying & ~s.forced & (self.charge_pct <= FORCED_LANDING_PCT) & (s.z > _DOWN_M)
        for n in np.flatnonzero(low):
            s.forced[n] = True
            if s.doing[n] != _DOWN:
                self._land_here(int(n))
        down = flying & (s.doing == _DOWN) & (s.z <= _DOWN_M)
        if down.any() and self.mishap.pad_taken(self.at_s):
            self._end(down & (self._from_home_m <= PAD_M), End.HURT)  # who stands there is hit as it touches down
        s.landing_s = np.where(down, s.landing_s + dt, 0.0)
        landed = down & (s.landing_s >= LANDING_S)
        if not landed.any():
            return
        home = self._from_home_m <= PAD_M
        self._end(landed & home, End.HOME)
        for n in np.flatnonzero(landed & ~home):
            ground = self.sheet.ground(float(np.hypot(s.x[n], s.y[n])))
            ends = {Ground.OPEN: End.AWAY, Ground.TREES: End.TREES, Ground.WATER: End.WATER}
            self._end(np.arange(s.x.size) == n, ends[ground])

    @property
    def _from_home_m(self) -> Floats:
        """How far each is from where it is to land [m]."""
        deck_x, deck_y = self.mishap.deck(self.at_s)
        return np.hypot(self.state.x - deck_x, self.state.y - deck_y)

    def _end(self, which: Bools, end: End) -> None:
        s = self.state
        new = which & ~np.isfinite(s.ended_s)
        if new.any():
            s.ended_s[new], s.end[new] = self.at_s, end
            s.ended_pct[new] = self.charge_pct[new]
            s.ended_from_m[new] = self._from_home_m[new]
