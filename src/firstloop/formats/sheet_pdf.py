"""A sheet as PDF, its pages to the millimetre; and as a picture, which is that PDF in pixels."""

from __future__ import annotations

from collections.abc import Iterable
from io import BytesIO

import numpy as np
import pypdfium2 as pdfium
from PIL import Image
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing
from firstloop.formats.scene_pdf import SceneDrawing

PNG_DPI = 150
_INCH_PT = 72.0


def sheet_pdf(pages: Iterable[Page], title: str, printing: Printing = Printing.COLOUR) -> bytes:
    """Pages, of one sheet or of several.

    Parameters
    ----------
    title : str
        Of the document; no name of a child.
    """
    out = BytesIO()
    canvas = Canvas(out, invariant=True, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("First Loop")
    for page in pages:
        wide, tall = page.size_mm
        canvas.setPageSize((wide * mm, tall * mm))
        SceneDrawing(canvas, tall, printing).page(page)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def page_png(page: Page, printing: Printing = Printing.COLOUR, dpi: float = PNG_DPI) -> bytes:
    """One page as a picture."""
    out = BytesIO()
    _drawn(page, printing, dpi).save(out, "PNG", dpi=(dpi, dpi))
    return out.getvalue()


def page_grey(page: Page, printing: Printing, dpi: float) -> np.ndarray:
    """One page as the printer leaves it: 8 bit grey, shape (height, width)."""
    return np.array(_drawn(page, printing, dpi).convert("L"))


def _drawn(page: Page, printing: Printing, dpi: float) -> Image.Image:
    document = pdfium.PdfDocument(sheet_pdf([page], "First Loop", printing))
    try:
        picture: Image.Image = document[0].render(scale=dpi / _INCH_PT).to_pil()
        return picture
    finally:
        document.close()
