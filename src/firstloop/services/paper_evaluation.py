"""Measure how well pages are read, on sheets that are really printed."""

from __future__ import annotations

from io import BytesIO

import numpy as np
from PIL import Image

from firstloop.core.scanning.evaluate import PaperJob, PaperTally, run_page
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing
from firstloop.formats.sheet_pdf import page_png


def printed(page: Page, printing: Printing, dpi: float) -> np.ndarray:
    """A page of a sheet as the printer leaves it: 8 bit grey, shape (height, width)."""
    return np.array(Image.open(BytesIO(page_png(page, printing, dpi))).convert("L"))


def measure_page(job: PaperJob) -> PaperTally:
    """Make one page, read it and count; for processes of their own."""
    return run_page(job, printed)
