"""Measure how well pages are read, on sheets that are really printed."""

from __future__ import annotations

from firstloop.core.scanning.evaluate import PaperJob, PaperTally, run_page
from firstloop.formats.sheet_pdf import page_grey


def measure_page(job: PaperJob) -> PaperTally:
    """Make one page, read it and count; for processes of their own."""
    return run_page(job, page_grey)
