"""Gusts: variance, length and spectrum of what is made against the published form, over 10,000 seconds."""

from __future__ import annotations

import numpy as np
import pytest

from zealous_lark.core.homeward.turbulence import Gusts, scale_length_m

SECONDS, STEP_S, FLIGHTS = 10_000, 0.5, 200
AIRSPEED_MS, HEIGHT_M = 10.0, 60.0


@pytest.fixture(scope="module")
def made() -> tuple[np.ndarray, np.ndarray]:  # type: ignore[type-arg]
    """Gusts along and across, shape (steps, flights): one flight of 10,000 s alone is told no better than by 7 %."""
    rng = np.random.default_rng(20261128)
    a, b, c = rng.standard_normal((3, FLIGHTS))
    gusts = Gusts.begun((0.0, 0.0, 0.0), FLIGHTS)
    gusts.along, gusts._first, gusts._second = a, np.sqrt(0.5) * b, np.sqrt(0.125) * (b + c)
    airspeed, height = np.full(FLIGHTS, AIRSPEED_MS), np.full(FLIGHTS, HEIGHT_M)
    along, across = [], []
    for _ in range(int(SECONDS / STEP_S)):
        a, b, c = rng.standard_normal((3, FLIGHTS))
        gusts.go_on((a, b, c), airspeed, height, STEP_S)  # type: ignore[arg-type]
        along.append(gusts.along)
        across.append(gusts.across)
    return np.array(along), np.array(across)


def test_the_variance_is_one(made: tuple[np.ndarray, np.ndarray]) -> None:  # type: ignore[type-arg]
    for gusts in made:
        assert gusts.var() == pytest.approx(1.0, rel=0.05)
        assert abs(gusts.mean()) < 0.02


def _length_m(gusts: np.ndarray) -> float:  # type: ignore[type-arg]
    """Integral of the correlation along the way [m]."""
    power = np.mean(np.abs(np.fft.rfft(gusts, n=2 * len(gusts), axis=0)) ** 2, axis=1)
    correlation = np.fft.irfft(power)[: len(gusts)] / np.arange(len(gusts), 0, -1)
    upto = int(8 * float(scale_length_m(HEIGHT_M)) / AIRSPEED_MS / STEP_S)
    return float(np.trapezoid(correlation[:upto] / correlation[0], dx=STEP_S * AIRSPEED_MS))


def test_the_scale_length_is_the_published_one(made: tuple[np.ndarray, np.ndarray]) -> None:  # type: ignore[type-arg]
    along, across = made
    length = float(scale_length_m(HEIGHT_M))
    assert _length_m(along) == pytest.approx(length, rel=0.05)
    # Φv(0) is half of Φu(0): so is its integral length.
    assert _length_m(across) == pytest.approx(length / 2, rel=0.05)


def test_the_spectrum_is_the_published_one(made: tuple[np.ndarray, np.ndarray]) -> None:  # type: ignore[type-arg]
    """In octaves from 1/8 to 2 of the scale length's wave number, where half a second resolves it."""
    length = float(scale_length_m(HEIGHT_M))
    for gusts, published in zip(made, (_along, _across), strict=True):
        power = np.mean(np.abs(np.fft.rfft(gusts, axis=0)) ** 2, axis=1) / len(gusts)
        omega = 2 * np.pi * np.fft.rfftfreq(len(gusts), STEP_S) / AIRSPEED_MS  # [rad/m]
        density = power * STEP_S * AIRSPEED_MS / np.pi  # one-sided, per rad/m
        for low in (0.125, 0.25, 0.5, 1.0):
            band = (omega * length >= low) & (omega * length < 2 * low)
            assert density[band].mean() == pytest.approx(published(omega[band] * length, length).mean(), rel=0.05)


def _along(x: np.ndarray, length: float) -> np.ndarray:  # type: ignore[type-arg]
    return 2 * length / np.pi / (1 + x**2)


def _across(x: np.ndarray, length: float) -> np.ndarray:  # type: ignore[type-arg]
    return length / np.pi * (1 + 3 * x**2) / (1 + x**2) ** 2


@pytest.mark.parametrize(
    ("feet", "length_ft"), [(10, 10 / 0.18523**1.2), (200, 200 / 0.3416**1.2), (1000, 1000.0)]
)  # fmt: skip
def test_lengths_by_hand(feet: float, length_ft: float) -> None:
    """At 1,000 ft the low altitude form meets the one above: 1,000 ft."""
    assert float(scale_length_m(feet * 0.3048)) / 0.3048 == pytest.approx(length_ft, rel=1e-9)


def test_steps_of_any_length_are_the_same_process() -> None:
    """What one second keeps of a gust is what two half seconds keep."""
    for steps, dt in ((1, 1.0), (2, 0.5), (10, 0.1)):
        gusts = Gusts.begun((1.0, 0.7, -0.3), 1)
        for _ in range(steps):
            gusts.go_on((0.0, 0.0, 0.0), np.array([8.0]), np.array([40.0]), dt)
        kept = float(gusts.along[0]), float(gusts.across[0])
        if steps == 1:
            once = kept
        assert kept == pytest.approx(once, rel=1e-12)
