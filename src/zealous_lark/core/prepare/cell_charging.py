"""How fast a battery takes charge: first at a constant current, above four fifths at a constant voltage.

Power is counted at the charger's output, in W; a tenth of it is lost on the way into the cells.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, log

CHARGER_EFFICIENCY = 0.9
"""Share of a charger's power that reaches the cells; common practice."""
FULL_PCT = 100.0
KNEE = 0.8
"""Share of charge above which a battery takes less and less; common practice."""
LAST_SHARE = 0.2
"""Share of its greatest power that it still takes when it is nearly full; common practice."""
_FALL = (1 - LAST_SHARE) / (1 - KNEE)


@dataclass(frozen=True, slots=True)
class Cells:
    """What is charged: energy when full [Wh]; greatest charging power [W]."""

    full_wh: float
    most_w: float

    def takes_w(self, share: float, offered_w: float) -> float:
        """Power that it takes [W] at a share of charge (0 to 1), of what is offered [W].

        >>> [round(Cells(18.0, 18.0).takes_w(s, 45.0), 1) for s in (0.5, 0.8, 0.9, 1.0)]
        [18.0, 18.0, 10.8, 3.6]
        """
        return min(offered_w, self.most_w * min(1.0, 1 - _FALL * (share - KNEE)))

    def seconds(self, from_share: float, to_share: float, offered_w: float) -> float:
        """Time [s] from one share of charge to another with so much power offered [W].

        >>> round(Cells(18.0, 18.0).seconds(1 / 3, 1.0, 45.0) / 60)
        58
        """
        if to_share <= from_share:
            return 0.0
        bend = self._bend(offered_w)
        steady = max(min(to_share, bend) - from_share, 0.0) * self.full_wh / min(offered_w, self.most_w)
        begins, ends = max(from_share, bend), max(to_share, bend)
        falling = self.full_wh / (self.most_w * _FALL) * log(_fallen(begins) / _fallen(ends))
        return (steady + falling) / CHARGER_EFFICIENCY * 3600

    def after(self, from_share: float, seconds: float, offered_w: float) -> float:
        """Share of charge after a time [s] with so much power offered [W]; at most 1."""
        bend = self._bend(offered_w)
        left_h = seconds * CHARGER_EFFICIENCY / 3600
        share = from_share
        if share < bend:
            power_w = min(offered_w, self.most_w)
            to_bend_h = (bend - share) * self.full_wh / power_w
            if left_h <= to_bend_h:
                return share + left_h * power_w / self.full_wh
            share, left_h = bend, left_h - to_bend_h
        fallen = _fallen(share) * exp(-left_h * self.most_w * _FALL / self.full_wh)
        return min(KNEE + (1 - fallen) / _FALL, 1.0)

    def _bend(self, offered_w: float) -> float:
        """Share of charge from which on it takes less than is offered; 1 where it never does."""
        return min(KNEE + max(1 - offered_w / self.most_w, 0.0) / _FALL, 1.0)


def _fallen(share: float) -> float:
    """Share of its greatest power that a battery takes, on the straight fall from the knee on."""
    return 1 - _FALL * (share - KNEE)
