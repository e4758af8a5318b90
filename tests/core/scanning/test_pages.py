"""Pages in pictures: found however they lie, known by their code, straight to a fraction of a millimetre."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.scanning import find
from firstloop.core.scanning.find import FoundPage, Status, find_pages, through
from firstloop.core.scanning.marks import FoundCode, FoundMark
from firstloop.core.scanning.straighten import PX_MM, Straight, straightened
from firstloop.core.sheets.blocks import Printed
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing, SheetWish, WritingRow
from firstloop.core.simulate.camera import Device, Picture, take
from firstloop.formats.sheet_pdf import page_grey

DPI = 200.0
ROWS = (WritingRow(("n", "g")), WritingRow(("mast",), "model trace alone*"), WritingRow(("e",), "alone*", 2))
GOAL_MM = {  # median, 95 %: the goals for printed points after straightening
    Device.SCANNER: (0.10, 0.25),
    Device.COPIER: (0.15, 0.35),
    Device.PHONE: (0.25, 0.60),
}


def page(code: str = "K7Q2M9", number: int = 1) -> Page:
    return compose(
        SheetWish(ROWS, xh_mm=9), DEFAULT_STYLE, code, number, Printed("Name", bar="100 mm")
    ).pages[0]


def paper(one: Page, dpi: float = DPI) -> np.ndarray:
    return page_grey(one, Printing.COLOUR, dpi)


@pytest.fixture(scope="module")
def usual() -> Page:
    return page()


@pytest.fixture(scope="module")
def printed(usual) -> np.ndarray:
    return paper(usual)


def known(*pages: Page):
    """Look a page up by what its codes say."""
    by_text = {one.codes[0].text: one for one in pages}
    return lambda sheet, copy, number: by_text.get(f"FL1:{sheet}:{copy}:{number}")


def turned(printed: np.ndarray, deg: float) -> np.ndarray:
    """The page turned clockwise on a white table."""
    size = round(np.hypot(*printed.shape)) + 40
    tall, wide = printed.shape
    affine = cv2.getRotationMatrix2D((wide / 2, tall / 2), -deg, 1.0)
    affine[:, 2] += size / 2 - np.array([wide / 2, tall / 2])
    return cv2.warpAffine(printed, affine, (size, size), flags=cv2.INTER_LINEAR, borderValue=255)


def errors_mm(straight: Straight, found: FoundPage, picture: Picture, one: Page) -> np.ndarray:
    """How far printed points are from where they should be, mm."""
    spots = [point for entry in one.entries for stroke in entry.printed for point in stroke][::15]
    spots += [(x, y) for entry in one.entries for x in entry.box[::2] for y in entry.lines.lines_mm]
    cells = np.floor(np.array(spots) * PX_MM).astype(int)
    middles = (cells + 0.5) / PX_MM
    there = np.stack([m[cells[:, 1], cells[:, 0]] for m in (straight.from_x, straight.from_y)], axis=1) + 0.5
    return np.hypot(*(there - picture.where(middles)).T) * 25.4 / found.dpi


@pytest.mark.parametrize("deg", [0, 37, 90, 143, 180, 251, 359])
def test_a_page_is_found_and_known_at_any_angle(printed, usual, deg):
    (found,) = find_pages(turned(printed, deg), known(usual))
    assert (found.status, found.page, found.marks) == (Status.READ, usual, 4)
    assert (found.turned_deg - deg + 180) % 360 - 180 == pytest.approx(0, abs=0.2)
    assert found.dpi == pytest.approx(DPI, rel=0.01)
    assert found.residual_mm < 0.1


@pytest.mark.parametrize("device", Device)
def test_printed_points_are_where_they_should_be_after_straightening(device, usual):
    sharp = paper(usual, 300)
    medians, most = [], []
    for seed in range(3):
        picture = take(device, sharp, 300, np.random.default_rng((seed, 11)))
        (found,) = find_pages(picture.grey, known(usual))
        errors = errors_mm(straightened(picture.grey, found), found, picture, usual)
        medians.append(np.median(errors))
        most.append(np.quantile(errors, 0.95))
    assert np.median(medians) < GOAL_MM[device][0]
    assert np.median(most) < GOAL_MM[device][1]


def test_the_printed_lines_take_out_what_the_marks_cannot_see(usual):
    picture = take(Device.PHONE, paper(usual, 300), 300, np.random.default_rng((3, 7)))
    (found,) = find_pages(picture.grey, known(usual))
    straight = straightened(picture.grey, found)
    lines = np.array([(x, one.lines.base_mm) for one in usual.entries for x in one.box[::2]])
    by_marks = np.hypot(*(through(found.to_px, lines) - picture.where(lines)).T) * 25.4 / found.dpi
    assert straight.curl_mm > 0.1
    assert np.quantile(errors_mm(straight, found, picture, usual), 0.95) < np.quantile(by_marks, 0.95)


@pytest.mark.parametrize("ruling", ["blank", "word-boxes"])
def test_rings_take_out_what_the_lines_cannot_see(ruling):
    """What curls a page draws its places together across, where no line tells of it."""
    (one,) = compose(SheetWish(ROWS, xh_mm=9, ruling=ruling), DEFAULT_STYLE, "K7Q2M9").pages
    sharp = paper(one, 300)
    for seed in (5, 6):
        picture = take(Device.PHONE, sharp, 300, np.random.default_rng((seed, 13)))
        (found,) = find_pages(picture.grey, known(one))
        assert np.quantile(errors_mm(straightened(picture.grey, found), found, picture, one), 0.95) < 0.2


def test_paper_that_was_damp_is_made_flat_where_its_lines_tell(usual):
    def lower_mm(x: np.ndarray, y: np.ndarray) -> np.ndarray:
        return 0.5 * np.sin(x / 10) * np.cos(y / 15)  # waves of 6 cm and more

    def where(points: np.ndarray) -> np.ndarray:
        return (points + np.stack([np.zeros(len(points)), lower_mm(*points.T)], axis=1)) * DPI / 25.4 - 0.5

    flat = paper(usual)
    y, x = (np.indices(flat.shape) + 0.5) / DPI * 25.4
    above = y
    for _ in range(5):  # what is seen there stood above it by as much as it was moved
        above = y - lower_mm(x, above)
    at_x, at_y = ((one * DPI / 25.4 - 0.5).astype(np.float32) for one in (x, above))
    picture = Picture(cv2.remap(flat, at_x, at_y, cv2.INTER_LINEAR, borderValue=255), where)
    (found,) = find_pages(picture.grey, known(usual))
    errors = errors_mm(straightened(picture.grey, found), found, picture, usual)
    assert np.median(errors) < 0.15
    assert np.quantile(errors, 0.95) < 0.3


def test_two_pages_in_one_picture_are_two(usual, printed):
    other = page(number=2)
    both = np.hstack([turned(printed, 5), turned(paper(other), 183)])
    found = find_pages(both, known(usual, other))
    assert {one.page for one in found} == {usual, other}
    assert sorted(round(one.turned_deg) for one in found) == [5, 183]


@pytest.mark.parametrize("corner", range(4))
def test_a_page_with_a_corner_torn_off_is_known_all_the_same(printed, usual, corner):
    torn, cut = printed.copy(), round(42 / 25.4 * DPI)
    rows = slice(None, cut) if corner in (0, 1) else slice(-cut, None)
    columns = slice(None, cut) if corner in (0, 3) else slice(-cut, None)
    torn[rows, columns] = 255
    (found,) = find_pages(torn, known(usual))
    assert (found.status, found.marks) == (Status.READ, 3)
    assert found.residual_mm < 0.1


SEEN_ASLANT = {  # the corners of marks on a bent page photographed from its foot
    0: [[2147, 2649], [2055, 2645], [2052, 2549], [2143, 2553]],
    1: [[258, 2560], [162, 2555], [176, 2457], [270, 2462]],
    2: [[556, 211], [481, 204], [489, 141], [564, 149]],
    3: [[2054, 316], [1981, 313], [1979, 251], [2052, 254]],
}
CODES_ASLANT = (
    [[1949, 340], [1844, 335], [1844, 247], [1947, 250]],
    [[435, 2569], [300, 2562], [318, 2421], [451, 2429]],
)


@pytest.mark.parametrize("seen", [CODES_ASLANT, CODES_ASLANT[:1], CODES_ASLANT[1:]])
def test_a_bent_page_seen_aslant_is_one_page_by_either_of_its_codes(monkeypatch, usual, seen):
    marks = [FoundMark(number, np.array(corners, dtype=float)) for number, corners in SEEN_ASLANT.items()]
    stranger = [
        FoundMark(one.number, one.corners + np.array([2600.0, 40.0])) for one in marks
    ]  # on the next page
    codes = [FoundCode("K7Q2M9", 1, 1, np.array(corners, dtype=float)) for corners in seen]
    monkeypatch.setattr(find, "find_marks", lambda grey: [*stranger, *marks])
    monkeypatch.setattr(find, "find_codes", lambda grey: codes)
    known_page = find_pages(np.empty((0, 0), np.uint8), known(usual))[0]
    assert (known_page.status, known_page.page, known_page.marks) == (Status.READ, usual, 4)
    assert known_page.residual_mm < 0.5


def test_a_sheet_that_is_not_known_here_is_said_to_be_another(printed):
    (found,) = find_pages(printed, lambda *_: None)
    assert (found.status, found.page) == (Status.OTHER_SHEET, None)
    assert (found.code.sheet, found.code.copy, found.code.page) == ("K7Q2M9", 1, 1)


def test_a_page_whose_codes_are_lost_is_the_only_one_it_can_be_or_nobodys(printed, usual):
    lost = printed.copy()
    for code in usual.codes:
        left, top, right, bottom = (round(one / 25.4 * DPI) for one in (*code.corners[0], *code.corners[2]))
        lost[top - 2 : bottom + 2, left - 2 : right + 2] = 255
    (found,) = find_pages(lost, known(usual))
    assert (found.status, found.page) == (Status.UNNAMED, None)
    (found,) = find_pages(lost, known(usual), only=usual)
    assert (found.status, found.page) == (Status.UNNAMED, usual)
    assert found.residual_mm < 0.1


def test_where_there_is_no_page_none_is_found(usual):
    rng = np.random.default_rng(3)
    noise = cv2.GaussianBlur(rng.integers(0, 255, (900, 700), dtype=np.uint8), (0, 0), 3)
    for nothing in (np.full((900, 700), 255, np.uint8), noise, np.zeros((40, 40), np.uint8)):
        assert find_pages(nothing, known(usual), only=usual) == []
