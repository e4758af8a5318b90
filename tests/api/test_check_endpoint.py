"""``POST /api/check`` and ``first-loop check`` give one document for one file."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from firstloop.cli import app
from firstloop.core.simulate.writer import write
from firstloop.formats.inkml import write_inkml
from tests.formats.test_inkml import BAD

run = CliRunner()


@pytest.fixture
def ink(tmp_path: Path, rng) -> Path:
    path = tmp_path / "ink.inkml"
    path.write_bytes(write_inkml([write("m", rng, fault="start.bottom", size=1), write("o", rng)]))
    return path


def test_command_and_endpoint_agree(client, ink):
    said = run.invoke(app, ["check", str(ink), "--json"])
    assert said.exit_code == 0
    answer = client.post("/api/check", content=ink.read_bytes())
    assert answer.status_code == 200
    assert answer.json() == json.loads(said.stdout)
    assert [g["letters"][0]["verdict"] for g in answer.json()["groups"]] == ["fix", "secure"]


def test_a_level_and_a_style_are_followed(client, tmp_path, rng):
    ink = tmp_path / "floating.inkml"
    ink.write_bytes(write_inkml([write("n", rng, fault="position.floating", size=0.25)]))
    style = tmp_path / "style.json"
    style.write_text('{"slant_deg": 4, "width": "narrow"}')
    for level, verdict in (("starting", "secure"), ("growing", "near")):
        said = run.invoke(app, ["check", str(ink), "--json", "--level", level])
        assert json.loads(said.stdout)["groups"][0]["letters"][0]["verdict"] == verdict
        answer = client.post("/api/check", params={"level": level}, content=ink.read_bytes())
        assert answer.json()["groups"][0]["letters"][0]["verdict"] == verdict
    assert run.invoke(app, ["check", str(ink), "--json", "--style", str(style)]).exit_code == 0


def test_without_json_a_table_is_printed_for_reading(ink):
    said = run.invoke(app, ["check", str(ink)])
    assert said.exit_code == 0
    assert "Began at the" in said.stdout


@pytest.mark.parametrize("name", BAD)
def test_a_bad_file_is_refused_by_both_in_one_line(client, tmp_path, name):
    text, why = BAD[name]
    path = tmp_path / "bad.inkml"
    path.write_text(text)
    said = run.invoke(app, ["check", str(path), "--json"])
    assert said.exit_code == 2
    assert said.stdout == ""
    assert why in said.stderr
    assert len(said.stderr.strip().splitlines()) == 1
    answer = client.post("/api/check", content=text.encode())
    assert answer.status_code == 400
    assert why in answer.json()["detail"]


def test_a_file_that_is_not_there_and_a_style_that_is_none(ink, tmp_path):
    missing = run.invoke(app, ["check", str(tmp_path / "nowhere.inkml")])
    assert missing.exit_code == 2
    assert "No such file" in missing.stderr
    style = tmp_path / "style.json"
    style.write_text("{")
    said = run.invoke(app, ["check", str(ink), "--style", str(style)])
    assert said.exit_code == 2
    assert "style is not JSON" in said.stderr


def test_the_endpoint_refuses_a_style_it_cannot_follow(client, ink):
    answer = client.post("/api/check", params={"style": '{"slant_deg": 60}'}, content=ink.read_bytes())
    assert answer.status_code == 400
    assert "slant" in answer.json()["detail"]


def test_a_sheet_of_letters_is_written(tmp_path):
    to = tmp_path / "letters.svg"
    assert run.invoke(app, ["letters", str(to)]).exit_code == 0
    assert to.read_text().startswith("<svg")
    assert run.invoke(app, ["letters", str(tmp_path / "no" / "letters.svg")]).exit_code == 2


LINES = "".join(
    f'<annotation type="ruling.{name}">{y}</annotation>'
    for name, y in (("rise", 10), ("mid", 18), ("base", 26), ("drop", 34))
)
STROKE = "<trace>20 18, 20 26, 21 20, 24 18, 25 26</trace>"


def ink_file(inside: str = STROKE, truth: str = "m", lines: str = LINES) -> bytes:
    group = f'<traceGroup><annotation type="truth">{truth}</annotation>{inside}</traceGroup>'
    return f'<ink xmlns="http://www.w3.org/2003/InkML">{lines}{group}</ink>'.encode()


@pytest.mark.parametrize(
    ("body", "said"),
    [
        (ink_file("<trace>1e308 18, -1e308 26</trace>"), "corner of the page"),
        (ink_file("<trace>20 18, '1e300 '1e300, " + ", ".join(['"1e305 "1e305'] * 50) + "</trace>"), "page"),
        (ink_file('<trace>20 18, "1 "1, ' + ", ".join(["1 1"] * 2000) + "</trace>"), "corner of the page"),
        (ink_file("<traceGroup>" * 2000 + STROKE + "</traceGroup>" * 2000), "deep in one another"),
        (ink_file(truth="m" * 5000), "5,000 characters"),
        (ink_file(lines=LINES.replace("18", "25.9999999")), "apart"),
        (ink_file(lines=LINES.replace("34", "1e300")), "lie on a page"),
    ],
)
def test_a_file_that_no_page_could_hold_is_one_line(client, body, said):
    answer = client.post("/api/check", content=body)
    assert answer.status_code == 400
    assert said in answer.json()["detail"]
    assert "\n" not in answer.json()["detail"]


@pytest.mark.parametrize("style", ['{"a":' * 2000 + "1" + "}" * 2000, "[" * 20_000, "[[[]]]", "7"])
def test_a_style_of_another_shape_is_one_line(client, style):
    answer = client.post("/api/check", params={"style": style}, content=ink_file())
    assert answer.status_code == 400
    assert "style" in answer.json()["detail"]


@pytest.mark.parametrize("truth", ["😀😀", "👩‍👩‍👧", "a😀b", "é"])
def test_a_truth_that_the_house_does_not_draw_is_not_judged_and_says_so(client, truth):
    (group,) = client.post("/api/check", content=ink_file(truth=truth)).json()["groups"]
    assert {one["verdict"] for one in group["letters"]} == {"not-seen"}
    assert "cannot judge" in group["note"]


@pytest.fixture
def many(tmp_path: Path, rng) -> Path:
    """A folder in a folder with two files that can be judged and one that cannot."""
    inner = tmp_path / "school" / "spring"
    inner.mkdir(parents=True)
    for name, char in (("a", "n"), ("c", "o")):
        (inner / f"{name}.inkml").write_bytes(write_inkml([write(char, rng)]))
    (inner / "b.inkml").write_text("<ink")
    (inner / "notes.txt").write_text("no ink")
    return tmp_path / "school"


@pytest.mark.parametrize("workers", ["1", "2"])
def test_many_files_and_folders_are_judged_in_order_and_a_bad_one_stops_none(many, ink, workers):
    said = run.invoke(app, ["check", str(many), str(ink), "--json", "--workers", workers])
    assert said.exit_code == 2
    found = [json.loads(line) for line in said.stdout.splitlines()]
    assert [Path(one["file"]).name for one in found] == ["a.inkml", "c.inkml", "ink.inkml"]
    assert [one["groups"][0]["truth"] for one in found] == ["n", "o", "m"]
    (line,) = said.stderr.strip().splitlines()
    assert line.startswith(f"{many / 'spring' / 'b.inkml'}: the file is not XML")
    alone = json.loads(run.invoke(app, ["check", str(ink), "--json"]).stdout)
    assert {**alone, "file": str(ink)} == found[-1]


def test_a_folder_without_ink_says_so(tmp_path):
    said = run.invoke(app, ["check", str(tmp_path)])
    assert said.exit_code == 2
    assert "There is no ink file there." in said.stderr
