"""Natural variation: how one hand departs from the model on an ordinary day."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from firstloop.core.curves import FloatArray, along, resample
from firstloop.core.motion import Tempo, durations_ms
from firstloop.core.simulate.own_forms import THE_MODELS, OwnForms

STEP_XH = 0.02
_TREMOR_POINTS = 9
REPORT_MS = 8.0  # the pen reports 125 times a second


@dataclass(frozen=True)
class SimHand:
    """How much a hand varies; standard deviations over letters unless said otherwise.

    Parameters
    ----------
    size, width : float
        Relative change of height and of width.
    shift_xh, slant_deg : float
        Up or down on the lines; lean.
    wobble_xh : float
        Slow wandering of the pen along a stroke.
    tremor_xh : float
        Quick unsteadiness, felt over about 0.1 xh.
    rounding_xh : float
        How much corners are rounded off.
    pace : float
        Speed against the model's.
    built : str
        ``lines`` bends the model's lines, ``strokelets`` moves from target to target, ``splines`` runs
        smoothly through a few places.
    forms : OwnForms
        Whose letterforms: the model's, or some of the writer's own.
    """

    size: float = 0.05
    width: float = 0.06
    shift_xh: float = 0.045
    slant_deg: float = 2.0
    wobble_xh: float = 0.025
    tremor_xh: float = 0.005
    rounding_xh: float = 0.03
    pace: float = 0.8
    built: Literal["lines", "strokelets", "splines"] = "lines"
    forms: OwnForms = THE_MODELS

    def steadier(self, by: float) -> SimHand:
        """The same hand after practice: all variation times `by`."""
        return replace(
            self,
            size=self.size * by,
            width=self.width * by,
            shift_xh=self.shift_xh * by,
            slant_deg=self.slant_deg * by,
            wobble_xh=self.wobble_xh * by,
            tremor_xh=self.tremor_xh * by,
        )


ORDINARY_HAND = SimHand()
AGES = {
    "five-to-six": SimHand(0.06, 0.08, 0.055, 2.5, 0.032, 0.006, 0.03, 0.6),
    "seven-to-eight": ORDINARY_HAND,
    "nine-to-eleven": SimHand(0.04, 0.05, 0.035, 2.0, 0.02, 0.003, 0.04, 1.2),
}

Strokes = list[FloatArray]


def _smoothed(points: FloatArray, reach_xh: float) -> FloatArray:
    """Round the corners of an evenly spaced run, keeping its ends."""
    reach = int(reach_xh / STEP_XH)
    if reach < 1 or len(points) < 4 * reach + 3:
        return points
    kernel = np.hanning(2 * reach + 3)[1:-1]
    kernel /= kernel.sum()
    padded = np.concatenate(
        [
            2 * points[:1] - points[1 : reach + 1][::-1],
            points,
            2 * points[-1:] - points[-reach - 1 : -1][::-1],
        ]
    )
    return np.column_stack([np.convolve(padded[:, k], kernel, mode="valid") for k in (0, 1)])


def wander(
    where: FloatArray, rng: np.random.Generator, wavelengths_xh: tuple[float, ...] = (0.9, 1.7, 3.1)
) -> FloatArray:
    """Slow sideways drift along a stroke of arc length `where`, unit variance; shape (n, 2)."""
    out = np.zeros((len(where), 2))
    for wavelength in wavelengths_xh:
        phase = rng.uniform(0, 2 * np.pi, 2)
        gain = rng.normal(0, 1, 2)
        out += gain * np.sin(2 * np.pi * where[:, None] / wavelength + phase)
    return np.asarray(out / np.sqrt(1.5))


def _tremor(count: int, rng: np.random.Generator) -> FloatArray:
    """Quick unsteadiness along a stroke, unit variance, smooth over about 0.1 xh; shape (count, 2)."""
    kernel = np.hanning(_TREMOR_POINTS + 2)[1:-1]
    kernel /= np.sqrt((kernel**2).sum())
    noise = rng.normal(0, 1, (count + _TREMOR_POINTS - 1, 2))
    return np.column_stack([np.convolve(noise[:, k], kernel, mode="valid") for k in (0, 1)])


def overall(strokes: Strokes, hand: SimHand, rng: np.random.Generator) -> Strokes:
    """The letter as a whole as `hand` would have it today: its size, width, place and lean."""
    size = 1 + np.clip(rng.normal(0, hand.size), -2.2 * hand.size, 2.2 * hand.size)
    wide = size * (1 + np.clip(rng.normal(0, hand.width), -2.2 * hand.width, 2.2 * hand.width))
    shift = np.clip(rng.normal(0, hand.shift_xh), -2.2 * hand.shift_xh, 2.2 * hand.shift_xh)
    lean = np.tan(np.radians(rng.normal(0, hand.slant_deg)))
    return [
        np.column_stack([wide * stroke[:, 0] + lean * stroke[:, 1], size * stroke[:, 1] + shift])
        for stroke in strokes
    ]


def vary(strokes: Strokes, hand: SimHand, rng: np.random.Generator) -> Strokes:
    """Write `strokes` (letter space) as `hand` would today, bending its lines."""
    out = []
    for stroke in overall(strokes, hand, rng):
        total = float(along(stroke)[-1])
        points = resample(stroke, max(2, int(total / STEP_XH) + 1))
        points = _smoothed(points, hand.rounding_xh)
        points = points + hand.wobble_xh * wander(along(points), rng) + rng.normal(0, hand.wobble_xh, 2) * 0.5
        out.append(points + hand.tremor_xh * _tremor(len(points), rng))
    return out


def in_time(
    strokes: Strokes, hand: SimHand, rng: np.random.Generator, start_ms: float = 0.0
) -> tuple[Strokes, Strokes]:
    """Sample strokes as a pen reports them: points every 8 ms, and their times in ms."""
    tempo = Tempo(cruise_xh_s=2.6 * hand.pace, curve_xh_s=2.2 * hand.pace, accel_xh_s2=10 * hand.pace)
    clock, points_out, times_out = start_ms, [], []
    for stroke in strokes:
        t = durations_ms(stroke, tempo) * rng.uniform(0.9, 1.15)
        count = max(2, int(t[-1] / REPORT_MS) + 1)
        at = np.arange(count) * REPORT_MS if t[-1] >= REPORT_MS else np.array([0.0, max(t[-1], 1.0)])
        points_out.append(np.column_stack([np.interp(at, t, stroke[:, k]) for k in (0, 1)]))
        points_out[-1][-1] = stroke[-1]
        times_out.append(np.round(clock + at))
        clock += float(at[-1]) + rng.uniform(250, 520)
    return points_out, times_out
