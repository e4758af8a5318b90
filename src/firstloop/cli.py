"""The command line: serve, demo, check, recheck, scan, evaluate, sheet, letters, backup, restore.

What only one command needs is imported there, so that asking for help, or judging a file, waits for nothing
else.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

if TYPE_CHECKING:
    from rich.table import Table

    from firstloop.api.settings import Settings
    from firstloop.services.check_files import CheckDocument
    from firstloop.services.recheck import Recheck
    from firstloop.services.results import LetterView
    from firstloop.services.scan_files import ScanDocument
    from firstloop.store.backup import Contents

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
    help="Models letters, catches how children write them, and remembers who needs what.",
)
CANNOT = 2
PROCESSORS = os.cpu_count() or 1
JUDGES = max(1, min(4, PROCESSORS - 1))


class LevelName(StrEnum):
    """How strict to be, as of :class:`firstloop.core.check.vocabulary.grades.Level`."""

    STARTING = "starting"
    GROWING = "growing"
    SETTLED = "settled"


DataDir = Annotated[Path | None, typer.Option("--data", help="Folder that holds the records.")]
Host = Annotated[str, typer.Option(help="Address to listen on.")]
Port = Annotated[int, typer.Option(help="Port to listen on.")]
IKnow = Annotated[
    bool, typer.Option("--i-know", help="Yes: whoever is on the network may read and erase the records.")
]
OPEN_TO_ALL = (
    "Everyone on this network will be able to read, change and erase all children's records: there is no "
    "password yet, and what is sent can be listened to. Do this only on a network that you alone use."
)


def _stop(message: str) -> typer.Exit:
    typer.echo(message, err=True)
    return typer.Exit(CANNOT)


def _settings(data: Path | None, **choices: Any) -> Settings:
    from firstloop.api.settings import Settings, default_data_dir  # noqa: PLC0415

    return Settings(data or default_data_dir(), **choices)


@contextmanager
def _alone_with(data_dir: Path) -> Iterator[None]:
    """Be the only First Loop that serves these records, or puts others in their place."""
    from filelock import Timeout  # noqa: PLC0415

    from firstloop.store.places import one_server  # noqa: PLC0415

    try:
        with one_server(data_dir):
            yield
    except Timeout:
        raise _stop(f"Another First Loop is using the records in {data_dir}. Close it first.") from None
    except OSError as problem:
        raise _stop(
            f"The records cannot be written: {data_dir} cannot ({problem.strerror}). Nothing was changed. "
            "Give leave or make room there and start again."
        ) from None


@contextmanager
def _progress(what: str) -> Iterator[Any]:
    """Something to call with (done, of all) while long work goes on."""
    from rich.console import Console  # noqa: PLC0415
    from rich.progress import Progress  # noqa: PLC0415

    with Progress(console=Console(stderr=True), transient=True) as progress:
        task = progress.add_task(what, total=None)
        yield lambda done, total: progress.update(task, completed=done, total=total)


def _print(table: Table) -> None:
    from rich.console import Console  # noqa: PLC0415

    Console().print(table)


def _run(settings: Settings, host: str, port: int, i_know: bool) -> None:
    import gc  # noqa: PLC0415
    from dataclasses import replace  # noqa: PLC0415

    import uvicorn  # noqa: PLC0415

    from firstloop.api.app import create_app  # noqa: PLC0415
    from firstloop.api.server.reach import is_loopback, listening_addresses  # noqa: PLC0415
    from firstloop.store.errors import RecordsError  # noqa: PLC0415

    reached: tuple[str, ...] = ()
    if not is_loopback(host):
        typer.echo(OPEN_TO_ALL, err=True)
        if not i_know:
            raise _stop("Not started. If that is what you want, say so: --i-know")
        reached = listening_addresses(host)
    with _alone_with(settings.data_dir):
        try:
            application = create_app(replace(settings, judges=JUDGES, listens_on=reached))
        except RecordsError as problem:
            raise _stop(str(problem)) from None
        for name in reached or (host,):
            shown = f"[{name}]" if ":" in name else name
            typer.echo(f"First Loop is ready at http://{shown}:{port}")
        typer.echo(f"The records are in {settings.data_dir}")
        gc.freeze()  # what is loaded by now stays; looking through it again and again makes answers late
        uvicorn.run(application, host=host, port=port, log_level="warning", server_header=False)


@app.command()
def serve(data: DataDir = None, host: Host = "127.0.0.1", port: Port = 8000, i_know: IKnow = False) -> None:
    """Serve the application on this machine."""
    _run(_settings(data, offers_demo=True), host, port, i_know)


@app.command()
def demo(
    data: DataDir = Path("data/demo"),
    host: Host = "127.0.0.1",
    port: Port = 8000,
    i_know: IKnow = False,
    fresh: Annotated[bool, typer.Option(help="Throw the demo school away and make it again.")] = False,
    seed_only: Annotated[bool, typer.Option(help="Make the demo school and stop.")] = False,
) -> None:
    """Make the demo school, if it is not there yet, and serve it."""
    from firstloop.demo.build import ensure_demo  # noqa: PLC0415

    settings = _settings(data or Path("data/demo"), simulated_pen=True)
    with _progress("Twelve weeks of writing") as progress:
        made = ensure_demo(settings, date.today(), fresh, progress)
    if made:
        typer.echo(f"Saltmarsh Row is ready: {made} letters written and judged.")
    if not seed_only:
        _run(settings, host, port, i_know)


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
        raise _stop(f"{problem.filename}: {problem.strerror}") from None
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
            _print(_check_table(one))
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
def recheck(
    data: DataDir = None,
    keep: Annotated[
        bool, typer.Option(help="Let the new results hold from now on; earlier ones are kept beside them.")
    ] = False,
    workers: Annotated[int, typer.Option(min=1, help="Processes to judge in.")] = PROCESSORS,
) -> None:
    """Judge stored ink again with the present checker and show what would change."""
    from firstloop.core.check.letter import CHECKER_VERSION  # noqa: PLC0415
    from firstloop.services.recheck import recheck as look_again  # noqa: PLC0415
    from firstloop.store.database import sessions  # noqa: PLC0415
    from firstloop.store.errors import RecordsError  # noqa: PLC0415
    from firstloop.store.opening import open_records  # noqa: PLC0415

    settings = _settings(data)
    if not settings.database.is_file():
        raise _stop(f"There are no records in {settings.data_dir}.")
    try:
        engine = open_records(settings.database)
    except RecordsError as problem:
        raise _stop(str(problem)) from None
    with sessions(engine)() as session, _progress("Judging again") as progress:
        found = look_again(session, keep, workers, progress)
    engine.dispose()
    _print(recheck_table(found))
    was = ", ".join(f"{count} times by checker {name}" for name, count in sorted(found.checkers.items()))
    typer.echo(
        f"{found.attempts} attempts and {found.words} words ({was}); "
        f"{found.changed} judged otherwise by checker {CHECKER_VERSION}."
    )
    typer.echo(
        "The new results hold from now on." if keep else "Nothing was changed; --keep makes them hold."
    )


@app.command()
def backup(
    file: Annotated[Path, typer.Argument(help="File to write.")],
    data: DataDir = None,
) -> None:
    """Write everything in the records to one file."""
    import sqlite3  # noqa: PLC0415

    from firstloop.store.backup import backup as write_backup  # noqa: PLC0415

    settings = _settings(data)
    if not settings.database.is_file():
        raise _stop(f"There are no records in {settings.data_dir}.")
    try:
        made = write_backup(settings.database, file, datetime.now(UTC))
    except OSError as problem:
        raise _stop(f"{problem.filename or file}: {problem.strerror}") from None
    except sqlite3.DatabaseError as problem:
        raise _stop(f"The records in {settings.data_dir} cannot be read ({problem}).") from None
    typer.echo(f"{file}: {_counted(made)}.")


@app.command()
def restore(
    file: Annotated[Path, typer.Argument(help="A file that `first-loop backup` or the screen wrote.")],
    data: DataDir = None,
    yes: Annotated[bool, typer.Option("--yes", help="Do not ask.")] = False,
) -> None:
    """Check a backup, then put it in place of the records; what was there is kept in a file beside."""
    from firstloop.store import backup as backups  # noqa: PLC0415
    from firstloop.store.places import backups_folder, clear_left_over  # noqa: PLC0415

    settings = _settings(data)
    with _alone_with(settings.data_dir):
        clear_left_over(settings.data_dir)
        try:
            with backups.checked(file, settings.data_dir) as found:
                typer.echo(f"{file} is whole: {_counted(found.contents)}.")
                if not yes:
                    typer.confirm(f"Put it in place of the records in {settings.data_dir}?", abort=True)
                folder = backups_folder(settings.data_dir)
                aside = backups.replace(found, settings.database, folder, datetime.now(UTC))
        except (backups.BackupError, backups.NoRoomError) as problem:
            raise _stop(f"{file}: {problem}") from None
    typer.echo(f"Restored. What was there before is in {aside}.")


def _counted(contents: Contents) -> str:
    return (
        f"{contents.classes} classes, {contents.children} children, {contents.attempts} letters written, "
        f"made {contents.made_at:%Y-%m-%d %H:%M} UTC"
    )


def recheck_table(found: Recheck) -> Table:
    """What the present checker says otherwise: verdicts first, then codes."""
    from rich.table import Table  # noqa: PLC0415

    table = Table("what", "before", "now", "times")
    for (before, now), count in found.verdicts.most_common():
        table.add_row("verdict", before, now, str(count))
    for code in sorted(set(found.gained) | set(found.lost)):
        for count, before, now in ((found.gained[code], "-", "told"), (found.lost[code], "told", "-")):
            if count:
                table.add_row(code, before, now, str(count))
    return table


@app.command()
def evaluate(
    repeats: Annotated[int, typer.Option(min=1, help="Letters of each kind.")] = 2,
    seed: Annotated[int, typer.Option(min=0, help="Of the simulated writers.")] = 1,
    write: Annotated[Path | None, typer.Option(help="Write the tables to this file, as Markdown.")] = None,
    misses: Annotated[
        Path | None, typer.Option(help="Draw a hundred of what was missed to this file, as SVG.")
    ] = None,
    paper: Annotated[
        bool, typer.Option("--paper", help="Measure pages that are printed, written on and photographed.")
    ] = False,
    pages: Annotated[int, typer.Option(min=1, help="Of paper: pages for each hand and device.")] = 12,
    workers: Annotated[int, typer.Option(min=1, help="Processes to work in.")] = PROCESSORS,
) -> None:
    """Measure the checker on the simulated writers: recall and false alarms a code, script and style."""
    from concurrent.futures import ProcessPoolExecutor  # noqa: PLC0415

    from firstloop.core.simulate.evaluate import evaluate as measure  # noqa: PLC0415
    from firstloop.core.simulate.evaluate import jobs  # noqa: PLC0415
    from firstloop.formats.evaluation_md import evaluation_markdown, paper_part  # noqa: PLC0415
    from firstloop.formats.samples_svg import sample_sheet  # noqa: PLC0415

    if paper:
        _evaluate_paper(pages, seed, write, workers)
        return
    with ProcessPoolExecutor(workers) as pool, _progress("Writing and checking") as progress:
        result = measure(jobs(repeats, seed), progress, pool.map)
    text = evaluation_markdown(result, repeats, seed)
    if write:
        _, before = paper_part(write)
        write.write_text(text + before, encoding="utf-8")
    if misses:
        samples = result.where(lambda job: job.hand == "kept").samples
        misses.write_text(sample_sheet(samples[:: max(1, len(samples) // 100)][:100]), encoding="utf-8")
    typer.echo(text)


def _evaluate_paper(pages: int, seed: int, write: Path | None, workers: int) -> None:
    from concurrent.futures import ProcessPoolExecutor  # noqa: PLC0415

    from firstloop.core.scanning.evaluate import evaluate_paper, paper_jobs  # noqa: PLC0415
    from firstloop.formats.evaluation_md import paper_markdown, paper_part  # noqa: PLC0415
    from firstloop.services.paper_evaluation import measure_page  # noqa: PLC0415

    with ProcessPoolExecutor(workers) as pool, _progress("Writing, photographing and reading") as progress:
        table = evaluate_paper(paper_jobs(pages, seed), measure_page, progress, pool.map)
    text = paper_markdown(table, pages, seed)
    if write:
        ink, _ = paper_part(write)
        write.write_text(ink + text, encoding="utf-8")
    typer.echo(text)


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
        raise _stop(str(problem)) from None
    except OSError as problem:
        raise _stop(f"{problem.filename}: {problem.strerror}") from None


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
        raise _stop(str(problem)) from None
    except OSError as problem:
        raise _stop(f"{problem.filename}: {problem.strerror}") from None
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
        raise _stop(str(problem)) from None
    except OSError as problem:
        raise _stop(f"{problem.filename}: {problem.strerror}") from None
    found = []
    with _progress("Reading") as progress:
        for one in scan_files(pictures, sheet, Terms(house, Level(level)), workers):
            found.append(one)
            progress(len(found), len(pictures))
    document = ScanDocument([page for file in found for page in file.pages])
    if as_json:
        sys.stdout.write(orjson.dumps(document).decode() + "\n")
    else:
        _print(_scan_table(document))
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


if __name__ == "__main__":
    app()
