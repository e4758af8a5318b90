"""Results kept while their sentences stood in them say the same when they are read back."""

from __future__ import annotations

import copy
import json
import re
from pathlib import Path

import pytest

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.formats.old_results import (
    group_without_sentences,
    letter_without_sentences,
    without_sentences,
)
from firstloop.text.amounts import share
from firstloop.text.findings import to_child, to_teacher

XH_MM = 10.0
KEPT = json.loads(Path(__file__).with_name("old_sentences.json").read_text(encoding="utf-8"))
"""Findings of every code as they were kept, each with other words, judged on bands of 10 mm."""


NOW = [
    (r"\bat (just|halfway)", r"\1"),
    (r"(\d+) % (too \w+ for the band)\.", r"\2, by {share}."),
    (r"(\d+) % (too long|too short)\.", r"\2, by {share}."),
    (r"^(\d+) % (wider|narrower) (.*)\.", lambda said: f"{said[2].title()} {said[3]}, by {{share}}."),
    (r"(\d+) % (longer than the shortest)\.", r"\2, by {share}."),
    (r"The largest (.*), against (\w), is (\d+) % (.* smallest)\.", r"One \1 is \4 (\2), by {share}."),
    (r"The largest (.*) (\d+) % (larger than the smallest)\.", r"One \1 \3, by {share}."),
    (r"differ by \d\d?\d % of a gap", "differ by a gap or more"),
    (r": \d+ degrees off", ""),
    (r"The shape is (.* mm) off the model on average", r"All along, the line runs \1 beside the model’s"),
    (r"stand 0\.\d+ of a finger space apart", "stand much closer than a finger space"),
    (r"stand (\d\.\d)\d finger", r"stand \1 finger"),
    (r"At 0?\.\d+ of this child's", "At {share} of this child’s"),
]
"""How what was said is said now: shares by name, and no number that tells nothing."""


def mended(sentence: str, value: float) -> str:
    for was, now in NOW:
        sentence = re.sub(was, now, sentence)
    return sentence.replace("{share}", share(value if value > 1 else 100 * value))


def finding(of: dict) -> dict:
    rest = {"severity": "near", "stroke": 0, "move": 0, "tolerance": 0.3, "at": [0.1, 0.9], "goal": None}
    return {**rest, **of, "span": [[0.01 * i, 0.9] for i in range(100)]}


def letter(*findings: dict) -> dict:
    measures = {"top_xh": 1.0, "lifts": None}
    return {"verdict": "near", "reads_as": "n", "findings": list(findings), "measures": measures}


def test_nearly_every_code_is_here():
    assert len(set(CODES) - {one["code"] for one in KEPT}) <= 2


@pytest.mark.parametrize("old", KEPT, ids=lambda one: one["code"])
def test_what_was_said_is_said_again_from_codes_and_facts(old):
    (now,) = letter_without_sentences(letter(finding(old)))["findings"]
    assert not {"teacher", "child"} & set(now)
    assert len(now["span"]) <= 16
    said = [say(now["code"], now["value"], now.get("facts", {}), XH_MM) for say in (to_teacher, to_child)]
    assert said == [mended(old[to], old["value"]) for to in ("teacher", "child")]


def test_the_result_of_a_word_is_read_back_with_its_note():
    whole = finding(next(one for one in KEPT if one["code"] == "spacing.wide"))
    word = {"truth": "no", "letters": [letter(finding(KEPT[0]))], "findings": [whole], "measures": {}}
    now = group_without_sentences({**word, "note": "The house cannot judge §."})
    assert now["note"] == {"key": "note.unknown", "values": {"chars": "§"}}
    assert set(now["findings"][0]["facts"]) == {"before", "after"}
    assert "teacher" not in now["letters"][0]["findings"][0]
    assert group_without_sentences({**word, "note": ""})["note"] is None
    assert group_without_sentences(copy.deepcopy(now)) == now  # and once is enough


def test_a_file_that_does_not_hold_together_is_left_for_who_checks_it():
    broken = {"rows": [{"attempts": [{"results": [{"document": {"findings": "none"}}]}]}]}
    kept = copy.deepcopy(broken)
    without_sentences(broken)
    assert broken == kept
    result = {"document": letter(finding(KEPT[0]))}
    records = {"rows": [{"attempts": [{"results": [result]}]}], "words": []}
    without_sentences(records)
    assert "teacher" not in json.dumps(records)
