"""The report shows each letter's first and latest ink side by side, as they were written."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest

from firstloop.api.settings import Settings
from firstloop.core.letterforms.library import letter
from firstloop.formats import report_pdf as pdf
from firstloop.formats.page_pdf import HEIGHT_MM, MARGIN_MM, WIDTH_MM, Pages
from firstloop.formats.report_pdf import LetterLine, Report
from firstloop.services import report
from firstloop.services.apart import on_file
from firstloop.services.evidence import work_out_all
from firstloop.text import all_of
from firstloop.text.lines import call_lines, renamed
from tests.services.test_letter_history import BELOW, FIRST, GOOD, child, write  # noqa: F401

WORDS = all_of("report.", name="Hana O", first="Hana", class_name="One", day="1 May", since="1 March")


@pytest.fixture
def drawn(monkeypatch) -> list[tuple[tuple, float, float]]:
    """Every ink drawn on a page: its strokes, and where it stands, mm."""
    found = []

    def ink(_pages, strokes, x_mm, base_mm, _xh_mm):
        found.append((strokes, x_mm, base_mm))

    monkeypatch.setattr(Pages, "ink", ink)
    return found


def strokes_of(xs: list[float]) -> list[dict]:
    return [{"x": xs, "y": [14.0 + 2 * i for i in range(len(xs))]}]


def test_a_pair_is_the_first_and_the_latest_ink_of_a_letter(session, child, drawn):  # noqa: F811
    first = write(session, child, 0, BELOW)
    write(session, child, 7, BELOW)
    latest = write(session, child, 30, GOOD)
    first.attempts[0].ink, latest.attempts[0].ink = strokes_of([10.0, 11.0, 12.0]), strokes_of([40.0, 44.0])
    session.commit()
    made = report.child_report(session, child.id, (FIRST + timedelta(days=31)).date())
    assert made.startswith(b"%PDF")
    (one, x_one, base_one), (two, x_two, base_two) = drawn
    assert [len(one[0]), len(two[0])] == [3, 2]
    assert np.ptp(one[0][:, 0]) == pytest.approx(0.2, abs=0.02)  # 2 mm of 10
    assert np.ptp(two[0][:, 0]) == pytest.approx(0.4, abs=0.02)
    assert one[0][0, 1] > one[0][-1, 1]  # downwards on the page is downwards in letter space
    assert base_one == base_two
    assert x_one + float(one[0][:, 0].max()) < x_two + float(two[0][:, 0].min())


def test_a_letter_with_one_day_of_ink_is_no_pair(session, child, drawn):  # noqa: F811
    report.child_report(session, child.id, FIRST.date())
    assert drawn == []


def test_a_report_calls_the_lines_as_the_class_does_wherever_it_is_made(session, child, records):  # noqa: F811
    session.commit()
    call_lines(None)
    try:
        made = on_file(
            Settings(records).database, {"mid": "roof line"}, report.child_report, child.id, FIRST.date()
        )
        assert made.startswith(b"%PDF")
        assert renamed("mid line") == "roof line"
    finally:
        call_lines(None)


@pytest.mark.parametrize("count", [0, 1, 4, 5, 16, 40])
def test_pairs_stand_beside_one_another_on_the_page_and_no_more_than_fit(drawn, count):
    ink = (letter("n").sampled[0].points,)
    lines = [LetterLine("n", "secure", "", ink, ink, "1 May", "2 May") for _ in range(count)]
    pdf.report_pdf(Report(WORDS, letters=[*lines, LetterLine("m", "learning", "", ink)]))
    assert len(drawn) == 2 * min(count, 16)
    spots = [(round(x), round(base)) for _, x, base in drawn]
    assert len(set(spots)) == len(spots)
    assert all(MARGIN_MM <= x < WIDTH_MM - MARGIN_MM and base < HEIGHT_MM - 22 for x, base in spots)


def test_a_letter_is_practised_at_the_size_of_the_class(client):
    client.post("/api/classes", json={"name": "One"})
    client.patch("/api/classes/1", json={"xh_mm": 20})  # larger than two rows of it fit on a page
    page = client.get("/api/classes/1/letters/g/practice.pdf")
    assert (page.status_code, page.headers["content-type"]) == (200, "application/pdf")
    assert page.content.startswith(b"%PDF")
    assert client.get("/api/classes/2/letters/g/practice.pdf").status_code == 404


def test_a_parent_reads_of_what_is_better_in_home_words(session, child, monkeypatch):  # noqa: F811
    told = []
    monkeypatch.setattr(Pages, "text", lambda _pages, words, **_: told.append(words))
    for number in range(12):
        made = [BELOW, BELOW, BELOW] if number < 6 else [GOOD, GOOD, GOOD]
        write(session, child, 7 * number, *made)
    work_out_all(session)
    report.child_report(session, child.id, (FIRST + timedelta(days=84)).date())
    assert f"{child.first_name} now begins n at the top." in told
    for_parents = told[: told.index("First and latest, as written alone")]
    assert not any("begun at the bottom" in words for words in for_parents)
