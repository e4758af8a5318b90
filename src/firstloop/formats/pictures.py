"""Pictures of pages: PNG, JPEG, TIFF, HEIC and PDF, opened with care and turned into grey.

What a file is is told by its content, never by its name. Of what else a picture may hold (places, cameras,
times) nothing is kept: only its pixels go on, turned as it says they are to be.
"""

from __future__ import annotations

import ctypes
import io
import time
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

import numpy as np
import pillow_heif
import pypdfium2 as pdfium
from PIL import Image, ImageOps, UnidentifiedImageError
from pypdfium2 import raw

MEGAPIXELS, PAGES, MEGABYTES = 40, 500, 200
SECONDS = 4.0  # a page of a PDF may take to be drawn
_KINDS = ("PNG", "JPEG", "TIFF", "HEIF")
_INCH_PT = 72.0
_PDF_DPI = 200.0
_PDF_LONGEST_PT = 14_400.0  # as long as PDF allows a page to be

pillow_heif.register_heif_opener()


class PictureError(ValueError):
    """A file that cannot be used as a picture of pages; the message says why, in one line."""


@dataclass(frozen=True, eq=False)
class PageShot:
    """One picture: of a file with several, the number from 1; grey, 8 bit, shape (height, width)."""

    number: int
    grey: np.ndarray


def read_pictures(data: bytes) -> Iterator[PageShot]:
    """The pictures of a file, one after the other.

    Raises
    ------
    PictureError
    """
    _checked(data)
    yield from _of_pdf(data) if _is_pdf(data) else _of_image(data)


def read_picture(data: bytes, number: int) -> np.ndarray:
    """One picture of a file, counted from 1; grey, 8 bit, shape (height, width).

    Raises
    ------
    PictureError
    """
    _checked(data)
    found = _of_pdf(data, number) if _is_pdf(data) else _of_image(data, number)
    return next(found).grey


def count_pictures(data: bytes) -> int:
    """How many pictures a file has; none of them is drawn.

    Raises
    ------
    PictureError
    """
    _checked(data)
    if _is_pdf(data):
        document = _opened(data)
        try:
            return len(document)
        finally:
            document.close()
    with _image_of(data) as image:
        count = 1
        while image.format == "TIFF" and _goes_to(image, count):
            count += 1
            if count > PAGES:
                raise PictureError(f"the file has more than {PAGES} pages")
        return count


def jpeg(grey: np.ndarray, quality: int) -> bytes:
    """A picture, grey, 8 bit, shape (height, width), as JPEG: pixels and nothing else."""
    out = io.BytesIO()
    Image.fromarray(grey).save(out, "JPEG", quality=quality)
    return out.getvalue()


def _checked(data: bytes) -> None:
    if not data:
        raise PictureError("the file is empty")
    if len(data) > MEGABYTES * 1_000_000:
        raise PictureError(f"the file has {len(data) / 1e6:.0f} MB; {MEGABYTES} MB is the most")


def _is_pdf(data: bytes) -> bool:
    return data[:1024].lstrip()[:5] == b"%PDF-"


def _of_image(data: bytes, only: int | None = None) -> Iterator[PageShot]:
    with _image_of(data) as image:
        yield from _frames(image, only)


def _goes_to(image: Image.Image, frame: int) -> bool:
    """Whether there is such a frame, counted from 0; then it is the one at hand."""
    try:
        image.seek(frame)
    except EOFError:
        return False
    return True


@contextmanager
def _image_of(data: bytes) -> Iterator[Image.Image]:
    """A picture that is no PDF; whatever is wrong with it is said in one line."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            with Image.open(io.BytesIO(data), formats=_KINDS) as image:
                yield image
        except UnidentifiedImageError:
            raise PictureError("this is no PNG, JPEG, TIFF, HEIC or PDF") from None
        except PictureError:
            raise
        except Image.DecompressionBombError:
            raise PictureError(f"the picture has more than {MEGAPIXELS} megapixels") from None
        except (OSError, ValueError, SyntaxError, EOFError, MemoryError, TypeError, KeyError) as problem:
            raise PictureError(f"the picture is damaged: {_line(problem)}") from None


def _frames(image: Image.Image, only: int | None) -> Iterator[PageShot]:
    many = image.format == "TIFF"  # of an animated picture the first is the page
    for number in [only] if only else range(1, PAGES + 2):
        if not (number == 1 or (many and _goes_to(image, number - 1))):
            return
        if number > PAGES:
            raise PictureError(f"the file has more than {PAGES} pages")
        wide, tall = image.size
        if wide * tall > MEGAPIXELS * 1_000_000:
            raise PictureError(
                f"the picture has {wide * tall / 1e6:.0f} megapixels; {MEGAPIXELS} is the most"
            )
        yield PageShot(number, _grey(image))


def _grey(frame: Image.Image) -> np.ndarray:
    """Upright and on white."""
    upright = ImageOps.exif_transpose(frame)
    if upright.mode in ("RGBA", "LA", "PA") or "transparency" in upright.info:
        clear = upright.convert("RGBA")
        paper = Image.new("RGBA", clear.size, "white")
        upright = Image.alpha_composite(paper, clear)
    if upright.mode.startswith(("I", "F")):
        values = np.asarray(upright, dtype=np.float64)
        top = 65535.0 if values.max() > 255 else 255.0  # 16 bit, or 8 in a wider box
        return np.asarray(np.rint(values.clip(0, top) / top * 255).astype(np.uint8))
    return np.array(upright.convert("L"))


def _opened(data: bytes) -> pdfium.PdfDocument:
    try:
        document = pdfium.PdfDocument(data)
    except pdfium.PdfiumError as problem:
        locked = "password" in str(problem).lower()
        why = "it asks for a password" if locked else "it is damaged"
        raise PictureError(f"the PDF cannot be opened: {why}") from None
    pages = len(document)
    if 0 < pages <= PAGES:
        return document
    document.close()
    raise PictureError(f"the file has {pages} pages; {PAGES} is the most" if pages else "the PDF has no page")


def _of_pdf(data: bytes, only: int | None = None) -> Iterator[PageShot]:
    document = _opened(data)
    try:
        for number in [only] if only else range(1, len(document) + 1):
            yield PageShot(number, _drawn(document, number - 1))
    except pdfium.PdfiumError:
        raise PictureError("the PDF is damaged") from None
    finally:
        document.close()


def _drawn(document: pdfium.PdfDocument, index: int) -> np.ndarray:
    """A page of a PDF in grey, given up when it takes too long."""
    page = document[index]
    try:
        wide, tall = page.get_size()
        if not 0 < max(wide, tall) <= _PDF_LONGEST_PT or min(wide, tall) <= 0:
            raise PictureError("a page of the PDF has no size that paper can have")
        most = (MEGAPIXELS * 1e6 / (wide * tall)) ** 0.5
        scale = min(_PDF_DPI / _INCH_PT, most)
        size = max(1, round(wide * scale)), max(1, round(tall * scale))
        bitmap = pdfium.PdfBitmap.new_native(*size, raw.FPDFBitmap_Gray)
        bitmap.fill_rect((255, 255, 255, 255), 0, 0, *size)
        _render(page, bitmap, size)
        return np.array(bitmap.to_numpy()).reshape(size[1], size[0])
    finally:
        page.close()


def _render(page: pdfium.PdfPage, bitmap: pdfium.PdfBitmap, size: tuple[int, int]) -> None:
    until = time.monotonic() + SECONDS

    asked = ctypes.CFUNCTYPE(ctypes.c_int, ctypes.POINTER(raw.IFSDK_PAUSE))
    pause = raw.IFSDK_PAUSE(version=1, NeedToPauseNow=asked(lambda _: int(time.monotonic() > until)))
    flags = raw.FPDF_GRAYSCALE | raw.FPDF_ANNOT
    state = raw.FPDF_RenderPageBitmap_Start(bitmap, page, 0, 0, *size, 0, flags, pause)
    try:
        if state != raw.FPDF_RENDER_DONE:
            raise PictureError(f"a page of the PDF takes more than {SECONDS:g} s to be drawn")
    finally:
        raw.FPDF_RenderPage_Close(page)


def _line(problem: BaseException) -> str:
    """The first line of what a library says, no longer than a line."""
    text = str(problem).splitlines()
    return text[0][:120] if text else type(problem).__name__
