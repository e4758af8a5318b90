"""The command that measures how well ink and paper are judged."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from firstloop.cli.shared import PROCESSORS, app, progress_of


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
    with ProcessPoolExecutor(workers) as pool, progress_of("Writing and checking") as progress:
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

    with ProcessPoolExecutor(workers) as pool, progress_of("Writing, photographing and reading") as progress:
        table = evaluate_paper(paper_jobs(pages, seed), measure_page, progress, pool.map)
    text = paper_markdown(table, pages, seed)
    if write:
        ink, _ = paper_part(write)
        write.write_text(ink + text, encoding="utf-8")
    typer.echo(text)
