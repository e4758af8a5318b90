"""Commands that read and write files, nothing kept: check, scan, sheet, letters."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from firstloop.cli.shared import CANNOT, PROCESSORS, LevelName, app, progress_of, show, stop

if TYPE_CHECKING:
    from rich.table import Table

    from firstloop.services.check_files import CheckDocument
    from firstloop.services.results import LetterView
    from firstloop.services.scan_files import ScanDocument


@app.command()
def check(
    files: Annotated[list[Path], typer.Argument(help="InkML files, and folders of such.")],
    level: Annotated[LevelName, typer.Option(help="How strict to be.")] = LevelName.GROWING,
    style: Annotated[Path | None, typer.Option(help="House style as JSON.")] = None,
    as_json: Annotated[
        bool, typer.Option("--json", help="Print one JSON document; for several files one a line.")
    ] = False,
    workers: Annotated[int, typer.Option(min=1, help="Processes to judge several files in.")] = PROCESSORS,
) -> None:
    """Judge every letter of ink files.

    Of several files each is named, and one that cannot be judged does not stop the others; the exit status
    is then 2.
    """
    from firstloop.services.check_files import check_many, ink_files  # noqa: PLC0415

    try:
        document = style.read_bytes() if style else None
        found = ink_files(files)
    except OSError as problem:
        raise stop(f"{problem.filename}: {problem.strerror}") from None
    failed = False
    alone = len(files) == 1 and found == files
    for file, one in zip(found, check_many(found, level, document, workers), strict=True):
        if isinstance(one, str):
            failed = True
            typer.echo(f"{file}: {one}" if str(file) not in one else one, err=True)
        elif as_json:
            sys.stdout.write(_json(one, None if alone else file) + "\n")
        else:
            if not alone:
                typer.echo(str(file))
            show(_check_table(one))
    if failed or not found:
        if not found:
            typer.echo("There is no ink file there.", err=True)
        raise typer.Exit(CANNOT)


def _json(document: CheckDocument, file: Path | None) -> str:
    """A document on one line; of several files each says of which it is."""
    import orjson  # noqa: PLC0415

    if file is None:
        return orjson.dumps(document).decode()
    return orjson.dumps({"file": str(file), **vars(document)}).decode()


def _check_table(document: CheckDocument) -> Table:
    from rich.table import Table  # noqa: PLC0415

    table = Table("letter", "reads as", "direction", "shape", "size", "what was seen")
    for group in document.groups:
        for one in group.letters:
            heads = one.headings
            said = "\n".join(finding.teacher for finding in one.findings) or group.note
            table.add_row(one.expected, one.reads_as, heads.direction, heads.shape, heads.size, said)
    return table


@app.command()
def letters(
    to: Annotated[Path, typer.Argument(help="SVG file to write.")],
    style: Annotated[Path | None, typer.Option(help="House style as JSON.")] = None,
    columns: Annotated[int, typer.Option(min=1, max=26)] = 9,
) -> None:
    """Write a sheet of all letters with stroke numbers, and an arrow beside every move."""
    from firstloop.core.letterforms.library import letter  # noqa: PLC0415
    from firstloop.core.letterforms.lower import LOWER  # noqa: PLC0415
    from firstloop.core.letterforms.style import DEFAULT_STYLE, StyleError  # noqa: PLC0415
    from firstloop.core.ruling import USUAL_RULING  # noqa: PLC0415
    from firstloop.core.sheets.wall import wall  # noqa: PLC0415
    from firstloop.formats.sheet_svg import page_svg  # noqa: PLC0415
    from firstloop.formats.style_json import read_style  # noqa: PLC0415

    try:
        house = read_style(style.read_bytes()) if style else DEFAULT_STYLE
        page = wall([letter(char, house) for char in LOWER], USUAL_RULING, columns)
        to.write_text(page_svg(page, "".join(LOWER)), encoding="utf-8")
    except StyleError as problem:
        raise stop(str(problem)) from None
    except OSError as problem:
        raise stop(f"{problem.filename}: {problem.strerror}") from None


@app.command()
def sheet(
    out: Annotated[Path, typer.Option(help="File to write: PDF, or the first page as SVG or PNG.")],
    letters: Annotated[str, typer.Option(help="Letters, a space between.")] = "",
    words: Annotated[str, typer.Option(help="Words, a space between.")] = "",
    line: Annotated[str, typer.Option(help="A line of text.")] = "",
    rows: Annotated[int, typer.Option(help="Rows for each letter, word or line.")] = 1,
    pattern: Annotated[
        str, typer.Option(help="From left to right: model, trace, finish, ring, alone; * fills the line.")
    ] = "model trace trace finish alone*",
    style: Annotated[Path | None, typer.Option(help="House style as JSON.")] = None,
    ruling: Annotated[str, typer.Option()] = "four-lines",
    xh: Annotated[float, typer.Option(help="x-height, mm.")] = 10.0,
    page: Annotated[str, typer.Option(help="a4 or letter")] = "a4",
    left_hand: Annotated[bool, typer.Option(help="The model once more at the right end.")] = False,
    layout: Annotated[Path | None, typer.Option(help="JSON file for what is where.")] = None,
) -> None:
    """Write a sheet to print: letters, words and lines to trace, to finish and to write alone."""
    import orjson  # noqa: PLC0415

    from firstloop.core.letterforms.style import DEFAULT_STYLE, StyleError  # noqa: PLC0415
    from firstloop.core.ruling import RulingError  # noqa: PLC0415
    from firstloop.core.sheets.wish import SheetError  # noqa: PLC0415
    from firstloop.formats.sheet_layout import write_layout  # noqa: PLC0415
    from firstloop.formats.sheet_pdf import page_png, sheet_pdf  # noqa: PLC0415
    from firstloop.formats.sheet_svg import page_svg  # noqa: PLC0415
    from firstloop.formats.style_json import read_style  # noqa: PLC0415
    from firstloop.services.sheets import Wanted, lay_out  # noqa: PLC0415

    try:
        house = read_style(style.read_bytes()) if style else DEFAULT_STYLE
        wanted = Wanted(letters.split(), words.split(), line, rows, pattern, ruling, xh, page, left_hand)
        made = lay_out(wanted, house)
        match out.suffix.lower():
            case ".svg":
                out.write_text(page_svg(made.pages[0], made.code), encoding="utf-8")
            case ".png":
                out.write_bytes(page_png(made.pages[0]))
            case _:
                out.write_bytes(sheet_pdf(made.pages, "First Loop"))
        if layout:
            layout.write_bytes(orjson.dumps(write_layout(made), option=orjson.OPT_INDENT_2))
    except (SheetError, RulingError, StyleError) as problem:
        raise stop(str(problem)) from None
    except OSError as problem:
        raise stop(f"{problem.filename}: {problem.strerror}") from None
    typer.echo(f"{out}: {len(made.pages)} pages, sheet {made.code}")


@app.command()
def scan(
    pictures: Annotated[list[Path], typer.Argument(help="Scans or photographs: PDF, PNG, JPEG, TIFF, HEIC.")],
    layout: Annotated[Path, typer.Option(help="The sheet's layout, as `sheet --layout` wrote it.")],
    style: Annotated[Path | None, typer.Option(help="House style as JSON.")] = None,
    level: Annotated[LevelName, typer.Option(help="How strict to be.")] = LevelName.GROWING,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
    ink: Annotated[Path | None, typer.Option(help="InkML file for the ways found.")] = None,
    workers: Annotated[int, typer.Option(min=1, help="Processes to read several files in.")] = PROCESSORS,
) -> None:
    """Read pages that were written on, in pictures of them.

    A picture that cannot be opened does not stop the others; the exit status is then 2.
    """
    import orjson  # noqa: PLC0415

    from firstloop.core.check.vocabulary.grades import Level  # noqa: PLC0415
    from firstloop.core.letterforms.style import DEFAULT_STYLE, StyleError  # noqa: PLC0415
    from firstloop.core.scanning.read import Terms  # noqa: PLC0415
    from firstloop.formats.inkml import write_inkml  # noqa: PLC0415
    from firstloop.formats.sheet_layout import LayoutError, read_layout  # noqa: PLC0415
    from firstloop.formats.style_json import read_style  # noqa: PLC0415
    from firstloop.services.scan_files import ScanDocument, scan_files  # noqa: PLC0415

    try:
        sheet = read_layout(orjson.loads(layout.read_bytes()))
        house = read_style(style.read_bytes()) if style else DEFAULT_STYLE
    except (LayoutError, StyleError, orjson.JSONDecodeError) as problem:
        raise stop(str(problem)) from None
    except OSError as problem:
        raise stop(f"{problem.filename}: {problem.strerror}") from None
    found = []
    with progress_of("Reading") as progress:
        for one in scan_files(pictures, sheet, Terms(house, Level(level)), workers):
            found.append(one)
            progress(len(found), len(pictures))
    document = ScanDocument([page for file in found for page in file.pages])
    if as_json:
        sys.stdout.write(orjson.dumps(document).decode() + "\n")
    else:
        show(_scan_table(document))
    inks = [one for file in found for one in file.inks]
    if ink:
        ink.write_bytes(write_inkml((group for group, _ in inks), [notes for _, notes in inks]))
    unread = [file.problem for file in found if file.problem]
    for why in unread:
        typer.echo(why, err=True)
    if unread:
        raise typer.Exit(CANNOT)


def _scan_table(document: ScanDocument) -> Table:
    from rich.table import Table  # noqa: PLC0415

    table = Table("picture", "page", "place", "found", "asked for", "verdict", "what", box=None)
    for page in document.pages:
        if not page.cells and not page.lines:
            table.add_row(page.picture, str(page.picture_page), "", str(page.status), "", "", page.why)
        for cell in page.cells:
            judged = [] if cell.letter is None else [cell.letter]
            _scan_row(table, page.picture, page.page, cell.id, str(cell.found), judged)
        for line in page.lines:
            judged = [] if line.group is None else line.group.letters
            _scan_row(table, page.picture, page.page, line.id, str(line.found), judged)
    return table


def _scan_row(
    table: Table, picture: str, page: int | None, place: str, found: str, letters: list[LetterView]
) -> None:
    said = "; ".join(f.teacher for letter in letters for f in letter.findings)
    verdicts = " ".join(str(letter.verdict) for letter in letters)
    text = "".join(letter.expected for letter in letters)
    table.add_row(picture, str(page), place, found, text, verdicts, said)
