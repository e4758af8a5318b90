"""Marks and codes in a picture: what they say, and where their corners are."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
import zxingcpp

from firstloop.core.curves import FloatArray
from firstloop.core.sheets.marks import CODE_LENGTH, CODE_LETTERS

MARKS = 4
_CODE = re.compile(rf"FL1:([{CODE_LETTERS}]{{{CODE_LENGTH}}}):(\d{{1,4}}):(\d{{1,4}})")
_REFINE_PX = 0.35  # of a mark's module: how far around a corner its place is looked for


@dataclass(frozen=True, eq=False)
class FoundMark:
    """A mark: its number, and its corners clockwise from its own top left, shape (4, 2), pixels."""

    number: int
    corners: FloatArray


@dataclass(frozen=True, eq=False)
class FoundCode:
    """A code: sheet, copy and page, and its corners clockwise from its own top left, shape (4, 2), pixels."""

    sheet: str
    copy: int
    page: int
    corners: FloatArray


@lru_cache(maxsize=1)
def _detector() -> cv2.aruco.ArucoDetector:
    given = cv2.aruco.DetectorParameters()
    given.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    given.relativeCornerRefinmentWinSize = _REFINE_PX
    given.adaptiveThreshWinSizeMin, given.adaptiveThreshWinSizeMax = 5, 53
    given.adaptiveThreshWinSizeStep = 16
    given.minMarkerPerimeterRate = 0.012  # 9 mm on a page that fills a third of a large picture
    dictionary = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    return cv2.aruco.ArucoDetector(dictionary, given)


def find_marks(grey: np.ndarray) -> list[FoundMark]:
    """Marks of sheets in a picture; shape (height, width), 8 bit."""
    corners, numbers, _ = _detector().detectMarkers(grey)
    if numbers is None:
        return []
    return [
        FoundMark(int(number), np.asarray(one[0], dtype=float) + 0.5)  # pixels are squares, not points
        for one, number in zip(corners, numbers.ravel(), strict=True)
        if number < MARKS
    ]


def find_codes(grey: np.ndarray) -> list[FoundCode]:
    """Codes of sheets in a picture; shape (height, width), 8 bit."""
    found = []
    wanted = zxingcpp.BarcodeFormats(zxingcpp.BarcodeFormat.QRCode)  # to look for all takes ten times as long
    for one in zxingcpp.read_barcodes(grey, wanted):
        said = _CODE.fullmatch(one.text)
        if said:
            at = one.position
            spots = (at.top_left, at.top_right, at.bottom_right, at.bottom_left)
            corners = np.array([(spot.x, spot.y) for spot in spots], dtype=float)
            found.append(FoundCode(said[1], int(said[2]), int(said[3]), corners))
    return found
