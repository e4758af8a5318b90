"""A simulated scanner, copier and phone: what becomes of a printed page before a machine sees it.

Arrays in, arrays out: grey pictures of 8 bit, shape (height, width). Each device says as well where every
point of the page went, so that what is found can be measured against the truth.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

import cv2
import numpy as np

from firstloop.core.curves import FloatArray

_INCH_MM = 25.4
_AROUND_MM = 14.0  # of the table, or the scanner's glass, around the page
_GRID = 64  # of a bent page: so many cells along each side


class Device(StrEnum):
    """What takes the picture."""

    SCANNER = "scanner"
    COPIER = "copier"
    PHONE = "phone"


Where = Callable[[FloatArray], FloatArray]
"""Points of the page, mm, shape (n, 2), to pixels of the picture."""


@dataclass(frozen=True, eq=False)
class Picture:
    """A picture of a page, and where its points are in it."""

    grey: np.ndarray
    where: Where


def take(device: Device, page: np.ndarray, dpi: float, rng: np.random.Generator) -> Picture:
    """A picture of a printed page.

    Parameters
    ----------
    page : array, shape (height, width), 8 bit
        The page as it was printed and written on.
    dpi : float
        Of that page.
    """
    return {Device.SCANNER: _scanner, Device.COPIER: _copier, Device.PHONE: _phone}[device](page, dpi, rng)


def _scanner(page: np.ndarray, dpi: float, rng: np.random.Generator) -> Picture:
    """Flat, somewhat turned or upside down, noise, JPEG."""
    out_dpi = float(rng.choice([150, 200, 200, 300]))
    turn = float(rng.normal(0, 1.2)) + (180.0 if rng.random() < 0.15 else 0.0)
    seen = _turned(page, dpi, out_dpi, turn, paper=int(rng.integers(244, 254)))
    grey = _noisy(seen.grey, rng, float(rng.uniform(1, 4)))
    return Picture(_jpeg(grey, int(rng.integers(60, 92))), seen.where)


def _copier(page: np.ndarray, dpi: float, rng: np.random.Generator) -> Picture:
    """Black or white, with streaks, then through a scanner."""
    cut = cv2.GaussianBlur(page, (0, 0), dpi / 300)
    black = np.where(cut < rng.uniform(150, 185), 0, 255).astype(np.uint8)  # set so that pencil copies
    for _ in range(int(rng.integers(0, 4))):
        at = int(rng.integers(0, black.shape[1]))
        black[:, at : at + max(1, round(dpi / 200))] = np.where(rng.random(len(black)) < 0.5, 0, 255)[:, None]
    specks = rng.integers(0, black.size, int(black.size / 2e5))
    black.reshape(-1)[specks] = 0
    shrunk = _turned(black, dpi, dpi * float(rng.uniform(0.985, 1.0)), 0.0, paper=255)
    seen = _scanner(shrunk.grey, dpi, rng)
    return Picture(seen.grey, lambda points: seen.where(shrunk.where(points) * _INCH_MM / dpi))


def _turned(page: np.ndarray, dpi: float, out_dpi: float, turn_deg: float, paper: int) -> Picture:
    """A page turned about its middle and scaled."""
    scale = out_dpi / dpi
    height, width = page.shape
    around = _AROUND_MM / _INCH_MM * out_dpi
    size = round(width * scale + 2 * around), round(height * scale + 2 * around)
    affine = np.asarray(cv2.getRotationMatrix2D((width / 2, height / 2), -turn_deg, scale), dtype=float)
    affine[:, 2] += np.array(size) / 2 - (width / 2, height / 2)
    grey = _sampled(page, affine, size, scale, paper)
    return Picture(
        grey, lambda points: np.asarray((points * dpi / _INCH_MM) @ affine[:, :2].T + affine[:, 2])
    )


def _sampled(
    page: np.ndarray, affine: FloatArray, size: tuple[int, int], scale: float, paper: int
) -> np.ndarray:
    """Pixels are squares: the affine map tells of their corners, and cv2 of their middles."""
    soft = cv2.GaussianBlur(page, (0, 0), 0.45 / scale) if scale < 1 else page
    middles = affine.copy()
    middles[:, 2] += affine[:, :2] @ (0.5, 0.5) - 0.5
    return np.asarray(cv2.warpAffine(soft, middles, size, flags=cv2.INTER_LINEAR, borderValue=paper))


def _phone(page: np.ndarray, dpi: float, rng: np.random.Generator) -> Picture:
    """From the hand: perspective, curl and fold, uneven light, blur, noise, JPEG."""
    height, width = page.shape
    wide_mm, tall_mm = width * _INCH_MM / dpi, height * _INCH_MM / dpi
    lens = _Lens(rng, wide_mm, tall_mm)
    u, v = np.linspace(0, wide_mm, _GRID + 1), np.linspace(0, tall_mm, _GRID + 1)
    grid = np.stack(np.meshgrid(u, v), axis=-1)
    spots = lens.where(grid.reshape(-1, 2)).reshape(grid.shape)
    size = lens.size
    back = _inverse(spots, u, v, size)
    soft = cv2.GaussianBlur(page, (0, 0), max(0.4, 0.45 * dpi / lens.dpi))
    px, py = np.moveaxis(back * np.float32(dpi / _INCH_MM) - np.float32(0.5), -1, 0)
    table = float(rng.uniform(60, 170))
    seen = cv2.remap(
        soft, px, py, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT,
        borderValue=table,
    )  # fmt: skip
    lit = cv2.GaussianBlur(seen.astype(float) * _light(size, rng), (0, 0), float(rng.uniform(0.5, 1.2)))
    return Picture(_jpeg(_noisy(lit, rng, float(rng.uniform(2, 6))), int(rng.integers(70, 92))), lens.where)


class _Lens:
    """Where the points of a bent page go in a photograph."""

    def __init__(self, rng: np.random.Generator, wide_mm: float, tall_mm: float) -> None:
        self._size_mm = np.array([wide_mm, tall_mm])
        self._curl = float(rng.uniform(0, 5)) * np.array([rng.choice([-1, 1]), 1.0])
        self._fold = float(rng.uniform(0, 1.5)) if rng.random() < 0.4 else 0.0
        tilt, about = np.radians(rng.uniform(0, 24)), rng.uniform(0, 2 * np.pi)
        axis = np.array([np.cos(about), np.sin(about), 0.0]) * tilt
        spin = np.array([0.0, 0.0, np.radians(rng.normal(0, 6) + 90 * int(rng.integers(0, 4)))])
        self._turn = cv2.Rodrigues(axis)[0] @ cv2.Rodrigues(spin)[0]
        self._far = 420.0
        self.dpi = float(rng.uniform(170, 260))
        self._focal = self.dpi / _INCH_MM * self._far
        corners = np.array([(0, 0), (wide_mm, 0), (wide_mm, tall_mm), (0, tall_mm)], dtype=float)
        self._shift = np.zeros(2)
        edge = self.where(corners)
        margin = 0.03 * np.ptp(edge, axis=0)
        self._shift = margin - edge.min(axis=0)
        across, down = np.ceil(np.ptp(edge, axis=0) + 2 * margin)
        self.size = int(across), int(down)

    def where(self, points: FloatArray) -> FloatArray:
        """Points of the page, mm, to pixels."""
        middle = points - self._size_mm / 2
        share = points / self._size_mm
        lift = self._curl[0] * np.sin(np.pi * share[:, 0]) + self._curl[1] * np.sin(np.pi * share[:, 1]) * 0.5
        lift = lift + self._fold * np.abs(share[:, 1] - 0.5) * 2
        space = np.column_stack([middle, lift]) @ self._turn.T
        depth = self._far + space[:, 2]
        return np.asarray(space[:, :2] / depth[:, None] * self._focal + self._shift)


def _inverse(spots: FloatArray, u: FloatArray, v: FloatArray, size: tuple[int, int]) -> np.ndarray:
    """For every pixel its point of the page, mm, between the known points of a grid; far off outside it.

    Parameters
    ----------
    spots : array, shape (rows, columns, 2)
        Where in the picture the grid's points are.
    u, v : array, shape (columns,) and (rows,)
        Where on the page.
    """
    back = np.full((size[1], size[0], 2), -1e4, dtype=np.float32)
    for i in range(len(v) - 1):
        for j in range(len(u) - 1):
            corner = spots[[i, i, i + 1, i + 1], [j, j + 1, j + 1, j]].astype(np.float32)
            (left, right), (top, bottom) = u[j : j + 2], v[i : i + 2]
            page = np.array([(left, top), (right, top), (right, bottom), (left, bottom)], dtype=np.float32)
            low = np.clip(np.floor(corner.min(axis=0) - 1), 0, None).astype(int)
            high = np.minimum(np.ceil(corner.max(axis=0) + 1).astype(int), size)
            if (high <= low).any():
                continue
            home = cv2.getPerspectiveTransform(corner, page)
            xs, ys = np.arange(low[0], high[0]) + 0.5, np.arange(low[1], high[1])[:, None] + 0.5
            px, py, w = (((a * xs).astype(np.float32) + (b * ys + c).astype(np.float32)) for a, b, c in home)
            px /= w
            py /= w
            inside = (px >= left - 1e-3) & (px <= right + 1e-3) & (py >= top - 1e-3) & (py <= bottom + 1e-3)
            part = back[low[1] : high[1], low[0] : high[0]]
            np.copyto(part[..., 0], px, where=inside)
            np.copyto(part[..., 1], py, where=inside)
    return back


def _light(size: tuple[int, int], rng: np.random.Generator) -> np.ndarray:
    """Uneven light, a ratio of linear light of at most 4:1 over the picture, and sometimes a soft shadow."""
    x, y = (np.linspace(-1, 1, one, dtype=np.float32) for one in size)
    about = rng.uniform(0, 2 * np.pi)
    ratio = float(rng.uniform(1.0, 4.0))
    linear = np.outer(ratio ** (-(y * np.sin(about) + 1.4) / 2.8), ratio ** (-x * np.cos(about) / 2.8))
    if rng.random() < 0.4:
        begins = rng.uniform(-0.5, 0.5)
        edge = np.outer(np.exp(-14 * (y * np.sin(about + 1) - begins)), np.exp(-14 * x * np.cos(about + 1)))
        linear *= 1 - 0.45 / (1 + edge)
    return np.asarray(np.clip(linear, 0.2, 1.0, dtype=np.float32) ** np.float32(1 / 2.2))


def _noisy(grey: np.ndarray, rng: np.random.Generator, level: float) -> np.ndarray:
    noise = rng.normal(0, level, grey.shape)
    return np.asarray(np.clip(np.rint(grey + noise), 0, 255).astype(np.uint8))


def _jpeg(grey: np.ndarray, quality: int) -> np.ndarray:
    _, packed = cv2.imencode(".jpg", grey, [cv2.IMWRITE_JPEG_QUALITY, quality])
    return np.asarray(cv2.imdecode(packed, cv2.IMREAD_GRAYSCALE))
