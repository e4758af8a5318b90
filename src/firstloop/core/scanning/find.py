"""Pages in a picture: which marks belong together, whose code that is, and how the page lies."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

import cv2
import numpy as np

from firstloop.core.curves import FloatArray
from firstloop.core.scanning.marks import FoundCode, FoundMark, find_codes, find_marks
from firstloop.core.sheets.marks import codes as codes_of
from firstloop.core.sheets.marks import marks as marks_of
from firstloop.core.sheets.scene import Page

MARKS_LEAST = 2  # so many tell how a page lies; one alone does not
_FITS_MM = 3.0  # what a curled page may leave of its code and marks; a mark of another leaves far more
_SAME_MM = 20.0  # between two codes of one page that are one
_INCH_MM = 25.4


_A4_MM = 210.0, 297.0
_STRANGE = Page(1, _A4_MM, (), (), marks_of(_A4_MM), codes_of("", 1, 1, _A4_MM))


class Status(StrEnum):
    """What a page in a picture turned out to be."""

    READ = "read"
    OTHER_SHEET = "other-sheet"
    UNNAMED = "unnamed"
    REPEATED = "repeated"
    NOT_A_SHEET = "not-a-sheet"
    UNREADABLE = "unreadable"


@dataclass(frozen=True, eq=False)
class FoundPage:
    """A page as it lies in a picture.

    Parameters
    ----------
    page : Page or None
        What is on it; None where nothing is known of its sheet.
    to_px : array, shape (3, 3)
        Homography from page millimetres to pixels.
    marks : int
        How many of its marks were seen.
    residual_mm : float
        How far the corners of its marks are from where they should be (root of the mean square).
    """

    status: Status
    page: Page | None
    code: FoundCode | None
    to_px: FloatArray
    marks: int
    residual_mm: float

    @property
    def turned_deg(self) -> float:
        """How far the page lies turned clockwise in the picture, 0 to 360."""
        (ax, ay), (bx, by) = through(self.to_px, np.array([[20.0, 100.0], [180.0, 100.0]]))
        return float(np.degrees(np.arctan2(by - ay, bx - ax)) % 360)

    @property
    def dpi(self) -> float:
        """How many pixels an inch of the page has, in its middle."""
        spots = np.array([[100.0, 140.0], [110.0, 140.0], [100.0, 150.0]])
        middle, right, below = through(self.to_px, spots)
        return float(np.hypot(*(right - middle)) + np.hypot(*(below - middle))) / 20 * _INCH_MM


PageOf = Callable[[str, int, int], Page | None]
"""The page of a sheet's code, copy and page number; None where it is not known."""


def through(homography: FloatArray, points: FloatArray) -> FloatArray:
    """Points, shape (n, 2), through a homography."""
    return np.asarray(cv2.perspectiveTransform(points[None].astype(float), homography)[0])


def _back(homography: FloatArray) -> FloatArray:
    return np.asarray(np.linalg.inv(homography), dtype=float)


def find_pages(grey: np.ndarray, page_of: PageOf, only: Page | None = None) -> list[FoundPage]:
    """All pages of sheets in a picture.

    Parameters
    ----------
    grey : array, shape (height, width), 8 bit
    only : Page, optional
        The page that one is taken for whose codes are lost, where no other can be meant.
    """
    marks, codes = find_marks(grey), find_codes(grey)
    free = list(marks)
    found: list[FoundPage] = []
    for code in codes:
        if any(_lies_on(one, code) for one in found):
            continue  # the other of a page's two codes
        page = page_of(code.sheet, code.copy, code.page)
        made = _by_code(code, page, free)
        if made is not None:
            one, used = made
            found.append(one)
            free = [mark for mark in free if mark not in used]
    if len({mark.number for mark in free}) >= MARKS_LEAST and len(free) <= 4:
        found.append(_unnamed(free, only))
    if not found and codes:  # a page of which too little is seen
        found.append(FoundPage(Status.UNREADABLE, None, codes[0], np.eye(3), len(marks), 0.0))
    return found


def _lies_on(found: FoundPage, code: FoundCode) -> bool:
    """Whether a code is the other one of a page that was found already."""
    if found.code is None or (found.code.sheet, found.code.copy, found.code.page) != (
        code.sheet,
        code.copy,
        code.page,
    ):
        return False
    if found.page is None:
        return True
    back = through(_back(found.to_px), code.corners.mean(axis=0)[None])[0]
    places = [np.mean(one.corners, axis=0) for one in found.page.codes]
    return bool(min(np.hypot(*(back - place)) for place in places) < _SAME_MM)


def _by_code(
    code: FoundCode, page: Page | None, marks: Sequence[FoundMark]
) -> tuple[FoundPage, list[FoundMark]] | None:
    """The page that a code stands on, with those of the marks that are its own."""
    seen = _STRANGE if page is None else page  # sheets have their marks in much the same places
    pairs = max((_placed(code, np.array(place.corners), seen, marks) for place in seen.codes), key=len)
    if len(pairs) < MARKS_LEAST:
        return None
    to_px, residual = fitted(pairs)
    status = Status.OTHER_SHEET if page is None else Status.READ
    return FoundPage(status, page, code, to_px, len(pairs), residual), [mark for mark, _ in pairs]


Pair = tuple[FoundMark, FloatArray]
"""A mark and the corners, mm, that it has on its page."""


def _placed(code: FoundCode, place: FloatArray, page: Page, marks: Sequence[FoundMark]) -> list[Pair]:
    """The marks of a page, were this its code at this place: the nearest first, each helps with the next."""
    pairs: list[Pair] = []
    there, here = place, code.corners
    wanted = sorted(
        page.marks, key=lambda one: float(np.hypot(*(np.mean(one.corners, axis=0) - place.mean(0))))
    )
    for one in wanted:
        known = np.concatenate([there, np.array(one.corners)])
        fits = [
            (_homography(known, np.concatenate([here, mark.corners]))[1], mark)
            for mark in marks
            if mark.number == one.number
        ]
        residual, mark = min(fits, key=lambda fit: fit[0], default=(np.inf, None))
        if mark is not None and residual < _FITS_MM:
            pairs.append((mark, np.array(one.corners)))
            there, here = known, np.concatenate([here, mark.corners])
    return pairs


def _homography(there: FloatArray, here: FloatArray) -> tuple[FloatArray, float]:
    """Homography from page millimetres to pixels, and what it leaves, mm; infinite where there is none."""
    made = cv2.findHomography(there, here, 0)[0]
    if made is None or not np.linalg.det(made):
        return np.eye(3), np.inf
    to_px = np.asarray(made, dtype=float)
    left = through(_back(to_px), here) - there
    return to_px, float(np.sqrt((left**2).sum(axis=1).mean()))


def fitted(pairs: Sequence[Pair]) -> tuple[FloatArray, float]:
    """Homography from page millimetres to pixels through the corners of marks, and what it leaves, mm."""
    return _homography(
        np.concatenate([corners for _, corners in pairs]), np.concatenate([mark.corners for mark, _ in pairs])
    )


def _unnamed(marks: Sequence[FoundMark], only: Page | None) -> FoundPage:
    """A page whose codes are lost, taken for the only one it can be."""
    if only is None:
        return FoundPage(Status.UNNAMED, None, None, np.eye(3), len(marks), 0.0)
    corners = {one.number: np.array(one.corners) for one in only.marks}
    to_px, residual = fitted([(mark, corners[mark.number]) for mark in marks])
    return FoundPage(Status.UNNAMED, only, None, to_px, len(marks), residual)
