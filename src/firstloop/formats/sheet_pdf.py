"""A sheet as PDF, its pages to the millimetre; and as PNG, which is that PDF in pixels."""

from __future__ import annotations

from collections.abc import Iterable
from io import BytesIO

import pypdfium2 as pdfium
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
    document = pdfium.PdfDocument(sheet_pdf([page], "First Loop", printing))
    try:
        document[0].render(scale=dpi / _INCH_PT).to_pil().save(out, "PNG", dpi=(dpi, dpi))
    finally:
        document.close()
    return out.getvalue()
