"""The catalogue has a sentence for everything the core can say, and the core says none itself."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import firstloop.core
from firstloop.core import patter as patter_module
from firstloop.core.check.recognise.differences import difference
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Unit
from firstloop.core.families import SCHEMES
from firstloop.core.families.rules import CLAUSES, WORDS
from firstloop.core.heights import HEIGHTS
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.parts import MEASURES as PART_MEASURES
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.message import message
from firstloop.core.patter import patter
from firstloop.core.progress.mastery import State, Sureness
from firstloop.core.progress.trends import MEASURES
from firstloop.core.ruling import RULINGS
from firstloop.core.sheets.wish import Help
from firstloop.text import catalogue, put, say
from firstloop.text.catalogue import Catalogue, NoWordsError, Plural, Select, places, sentences
from firstloop.text.findings import slip_name, to_child, to_teach, to_teacher
from firstloop.text.movement import sentence, short

CORE = Path(firstloop.core.__file__).parent
LETTERS = [char for key in ("lower case", "capitals", "digits") for char in ALPHABETS[key]]
STYLES = [DEFAULT_STYLE, HouseStyle(script=Script.PRINT_EXITS), HouseStyle(script=Script.CURSIVE)]
# what is no sentence although it has spaces: a language of rules that teachers type, patterns of help, names
RULE_LANGUAGE = re.compile(rf"(({'|'.join(CLAUSES)}): .+)|{'|'.join(map(re.escape, WORDS))}")
HELPS = re.compile(rf"({'|'.join(Help)}|\*|/| )+")
KNOWN = {*ALPHABETS, *CLAUSES, "any other"}


def spoken_strings(tree: ast.Module) -> list[tuple[int, str]]:
    """Every string of a module but docstrings, what an exception says, and type expressions."""
    left_out: set[ast.AST] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            left_out.add(node.value)
        if isinstance(node, ast.Raise) or (
            isinstance(node, ast.ClassDef) and any("Error" in ast.unparse(base) for base in node.bases)
        ):
            left_out.update(ast.walk(node))
        if isinstance(node, ast.AnnAssign) and "TypeAlias" in ast.unparse(node.annotation):
            left_out.update(ast.walk(node))
    return [
        (node.lineno, node.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and node not in left_out
    ]


def is_sentence(text: str) -> bool:
    """Three words or more, or the end of a sentence: more than a name or a key."""
    words = re.findall(r"[^\W\d_]{2,}", text)
    return " " in text.strip() and (len(words) >= 3 or text.rstrip().endswith((".", "!", "?")))


@pytest.mark.parametrize("module", sorted(CORE.rglob("*.py")), ids=lambda path: str(path.relative_to(CORE)))
def test_no_module_of_the_core_holds_a_sentence(module):
    rules = module.parent.name == "families" and module.stem == "rules"
    said = [
        (line, text)
        for line, text in spoken_strings(ast.parse(module.read_text(encoding="utf-8")))
        if is_sentence(text)
        and text not in KNOWN
        and not rules
        and not RULE_LANGUAGE.fullmatch(text)
        and not HELPS.fullmatch(text)
    ]
    assert said == []


def test_what_would_be_a_sentence_is_seen_as_one():
    source = (
        'WORDS = {"a": "Start at the mid line."}\ndef f(x):\n    """Start at the mid line."""\n    return x'
    )
    assert [is_sentence(text) for _, text in spoken_strings(ast.parse(source))] == [False, True]


@pytest.mark.parametrize("code", CODES)
def test_every_code_is_worded_and_blames_nobody(code):
    assert slip_name(code)
    assert to_teach(code)
    for one in sentences(catalogue.entries[f"finding.{code}.child"]):
        assert not any(word in one.lower() for word in ("wrong", "bad", "fail", "naughty"))
    for one in sentences(catalogue.entries[f"finding.{code}.teacher"]):
        assert one.endswith(".")


@pytest.mark.parametrize("code", CODES)
def test_a_sentence_asks_for_nothing_but_the_facts_its_code_lists(code):
    shares = {"share"} if CODES[code].unit in (Unit.PERCENT, Unit.RATIO) else set()
    given = {"value", "mm", "times"} | shares | set(CODES[code].facts)
    given |= {f"at_{fact}" for fact in CODES[code].facts} | {f"{fact}_said" for fact in CODES[code].facts}
    for to in ("teacher", "child"):
        assert places(catalogue.entries[f"finding.{code}.{to}"]) <= given


def test_every_phrase_of_every_letter_has_its_words():
    for style in STYLES:
        for char in LETTERS:
            for phrase in patter(letter(char, style)):
                assert sentence(phrase).endswith(".")
                assert 1 <= len(short(phrase).split()) <= 5


def test_every_difference_between_two_letters_has_words():
    found = {difference(a, b, DEFAULT_STYLE) for a in LETTERS for b in LETTERS if a != b}
    assert all(catalogue.has(f"why.{key}") for key in found)
    assert len(found) >= 9


def test_everything_with_a_key_in_the_core_is_named():
    keys = [f"height.{one}" for one in HEIGHTS] + [f"at.{one}" for one in HEIGHTS]
    keys += [f"choice.{one.key}" for one in CHOICES.values()]
    keys += [f"choice.{one.key}.{option}" for one in CHOICES.values() for option in one.options]
    keys += [f"measure.{key}" for key in PART_MEASURES] + [f"measured.{key}" for key in MEASURES]
    keys += [f"ruling.{key}" for key in RULINGS] + [f"state.{state}" for state in State]
    keys += [f"sureness.{one}" for one in Sureness] + [f"scheme.{key}" for key in SCHEMES]
    keys += [f"family.{s.key}.{family.key}" for s in SCHEMES.values() for family in s.families]
    keys += [f"rule-word.{word.replace(' ', '-')}" for word in WORDS]
    keys += [f"clause.{clause.replace(' ', '-')}" for clause in CLAUSES]
    assert [key for key in keys if not catalogue.has(key)] == []


@given(st.sampled_from(sorted(SCHEMES)), st.sampled_from(LETTERS), st.sampled_from(STYLES))
def test_every_reason_for_a_family_can_be_said(scheme, char, style):
    found = SCHEMES[scheme].place(plain(char, style), style)
    if found is not None:
        said = put(found[1])
        assert said.startswith(char)
        assert said.endswith(".")
        assert "{" not in said


def test_an_old_result_without_its_facts_is_said_by_its_name():
    assert to_teacher("shape.reach", 60.0, {}, 10.0) == "An arm too long or too short."
    assert to_child("shape.reach", 60.0, {}, 10.0) == "Where the arm stops."


def test_a_length_is_told_in_the_millimetres_of_its_own_lines():
    facts = {"letter": "n", "start": "mid"}
    assert "3.5 mm" in to_teacher("start.high", 0.5, facts, 7.0)
    assert "6.0 mm" in to_teacher("start.high", 0.5, facts, 12.0)


class TestCatalogue:
    BOOK = Catalogue(
        "xx",
        {
            "letters": Plural("count", {"one": "1 letter", "few": "{count} (few)", "other": "{count}"}),
            "way": Select("way", {"up": "up {by}", "down": Plural("by", {"other": "down {by}"})}),
            "whole": "{part}!",
        },
        lambda number: "one" if number == 1 else "few" if number < 5 else "other",
    )

    def test_a_plural_is_the_languages_own(self):
        assert [self.BOOK.say("letters", count=n) for n in (1, 3, 9)] == ["1 letter", "3 (few)", "9"]

    def test_a_choice_may_hold_another(self):
        assert self.BOOK.say("way", way="down", by=2) == "down 2"

    def test_a_message_in_a_message_is_said_first(self):
        inner = message("way", way="up", by=3)
        assert self.BOOK.put(message("whole", part=inner)) == "up 3!"

    @pytest.mark.parametrize(("key", "values"), [("none", {}), ("way", {"way": "left"})])
    def test_what_has_no_words_says_so(self, key, values):
        with pytest.raises(NoWordsError):
            self.BOOK.say(key, **values)

    def test_its_places_are_known(self):
        assert places(self.BOOK.entries["way"]) == {"by"}


def test_every_move_key_of_the_patter_is_in_the_catalogue():
    source = Path(patter_module.__file__).read_text(encoding="utf-8")
    said = set(re.findall(r'"([a-z]+(?:-[a-z]+)+)"', source))
    assert {key for key in said if not catalogue.has(f"move.{key}.text")} == set()
    assert say("move.down.short") == "Down"
