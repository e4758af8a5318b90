"""A simulated pencil or felt pen on a printed page: what a child leaves on paper.

Arrays in, arrays out: grey pictures of 8 bit, shape (height, width).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from firstloop.core.curves import FloatArray

_INCH_MM = 25.4
_ROOM_MM = 5.0  # beyond what was written: as far as its smear goes
_SHIFT = 4  # cv2 takes points in sixteenths of a pixel


@dataclass(frozen=True)
class Lead:
    """What is written with.

    Parameters
    ----------
    width_mm : float
        Of its line.
    dark : float
        How dark it makes white paper, 0 to 1.
    grain : float
        How much of the paper's grain shows, 0 to 1; a felt pen shows none.
    pressed : float
        How much darkness and width change along a stroke, a share.
    """

    width_mm: float = 0.5
    dark: float = 0.7
    grain: float = 0.3
    pressed: float = 0.15


def some_lead(rng: np.random.Generator) -> Lead:
    """A pencil, soft or hard, sharp or blunt; one in five times a felt pen."""
    if rng.random() < 0.2:
        return Lead(float(rng.uniform(0.45, 0.8)), float(rng.uniform(0.75, 0.95)), 0.0, 0.05)
    return Lead(
        float(rng.uniform(0.3, 0.8)),
        float(rng.uniform(0.45, 0.85)),
        float(rng.uniform(0.1, 0.45)),
        float(rng.uniform(0.05, 0.2)),
    )


def write_on(
    paper: np.ndarray, dpi: float, strokes: Sequence[FloatArray], lead: Lead, rng: np.random.Generator
) -> np.ndarray:
    """A page with strokes on it (mm, each of shape (n, 2)); what is already dark stays dark."""
    out = paper.copy()
    where, ink = _drawn(paper.shape, dpi, strokes, lead, rng)
    if not ink.size:
        return out
    dark = ink * lead.dark
    if lead.grain:
        tooth = cv2.GaussianBlur(rng.normal(0, 1, ink.shape).astype(np.float32), (0, 0), 0.8)
        dark *= np.clip(1 + lead.grain * tooth / max(float(tooth.std()), 1e-6) * 0.6, 0.3, 1.3)
    written = 255 * (1 - np.clip(dark, 0, 1))
    out[where] = np.rint(np.minimum(out[where], written))
    return out


def rub_out(
    paper: np.ndarray, dpi: float, strokes: Sequence[FloatArray], lead: Lead, rng: np.random.Generator
) -> np.ndarray:
    """A page with the ghost that strokes leave when they were rubbed out, and the smear of the rubber."""
    px_mm = dpi / _INCH_MM
    out = paper.copy()
    where, ink = _drawn(paper.shape, dpi, strokes, lead, rng)
    if not ink.size:
        return out
    ghost = cv2.GaussianBlur(ink, (0, 0), 0.15 * px_mm) * float(rng.uniform(0.05, 0.14))
    smear = cv2.GaussianBlur(ink, (0, 0), 1.2 * px_mm) * float(rng.uniform(0.05, 0.12))
    out[where] = np.rint(out[where] * (1 - np.clip(ghost + smear, 0, 1)))
    return out


def _drawn(
    shape: tuple[int, ...],
    dpi: float,
    strokes: Sequence[FloatArray],
    lead: Lead,
    rng: np.random.Generator,
) -> tuple[tuple[slice, slice], np.ndarray]:
    """The part of a page that strokes and their smear reach, and their darkness there, 0 to 1."""
    px_mm = dpi / _INCH_MM
    every = np.concatenate([np.zeros((0, 2)), *strokes])
    if not len(every):
        return (slice(0), slice(0)), np.zeros((0, 0), dtype=np.float32)
    most = np.array(shape[::-1])
    low = np.clip(np.floor((every.min(0) - _ROOM_MM) * px_mm), 0, most).astype(int)
    high = np.clip(np.ceil((every.max(0) + _ROOM_MM) * px_mm), low, most).astype(int)
    ink = np.zeros((high - low)[::-1], dtype=np.float32)
    for stroke in strokes if ink.size else ():
        _draw(ink, stroke - low / px_mm, px_mm, lead, rng)
    return (slice(low[1], high[1]), slice(low[0], high[0])), ink


def _draw(ink: np.ndarray, stroke: FloatArray, px_mm: float, lead: Lead, rng: np.random.Generator) -> None:
    """Add a stroke's darkness, 0 to 1, harder and softer along its way."""
    points = np.round((stroke * px_mm - 0.5) * 2**_SHIFT).astype(np.int32)
    if len(points) == 1:
        points = np.repeat(points, 2, axis=0)
    phase = rng.uniform(0, 2 * np.pi)
    pieces = max(1, len(points) // 6)
    for k, some in enumerate(np.array_split(np.arange(len(points) - 1), min(pieces, len(points) - 1))):
        press = 1 + lead.pressed * np.sin(phase + k * 0.9)
        wide = max(1, round(lead.width_mm * (1 + (press - 1) / 2) * px_mm))
        run = points[some[0] : some[-1] + 2]
        low = np.clip((run.min(0) >> _SHIFT) - wide - 2, 0, None)  # no more of the page than it reaches
        high = np.clip((run.max(0) >> _SHIFT) + wide + 3, 0, None)
        part = ink[low[1] : high[1], low[0] : high[0]]
        if not part.size:
            continue
        one = np.zeros(part.shape, dtype=np.uint8)
        corner = low << _SHIFT
        cv2.polylines(one, [(run - corner).reshape(-1, 1, 2)], False, 255, wide, cv2.LINE_AA, _SHIFT)
        np.maximum(part, one.astype(np.float32) / 255 * min(press, 1.25), out=part)
