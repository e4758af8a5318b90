"""Letters inside words count towards how a letter stands, by a written rule."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.progress.coverage import not_yet_secure
from firstloop.core.progress.evidence import Aspect, Day, from_token, in_word_evidence, weighed
from firstloop.core.progress.mastery import State, standing, standings

SECURE, FIX = from_token("ssss"), from_token("ffff")
HEADINGS = {"direction": "secure", "shape": "secure", "size": "secure", "flow": "secure"}


def seen(shape="secure", size="secure", *found: tuple[str, Severity], read=True) -> str:
    return in_word_evidence({**HEADINGS, "shape": shape, "size": size}, found, read).token


def test_what_neighbours_may_have_caused_says_nothing_and_the_rest_as_it_was():
    near, fix = Severity.NEAR, Severity.FIX
    assert seen() == "ssss"
    assert seen("fix", "secure", ("shape.width", fix)) == "ss-s"  # squeezed for room
    assert seen("fix", "secure", ("shape.width", fix), ("shape.open", near)) == "nsns"  # its own slip counts
    assert seen("secure", "near", ("size.tall", near)) == "nssn"
    assert seen("near", "near", ("join.crossing", near), ("spacing.tight", near)) == "ss--"
    assert seen("fix", "secure", ("shape.form", Severity.TOLD)) == "ss-s"
    assert seen("fix", "fix", read=False) == "----"


def test_a_letter_in_a_word_weighs_a_third_and_its_direction_whole():
    day = Day(1, (SECURE,), (SECURE, SECURE))
    assert [one.weight for one in weighed([day], Aspect.ALL)] == [1, 1 / 3, 1 / 3]
    assert [one.weight for one in weighed([day], Aspect.DIRECTION)] == [1, 1, 1]


def test_a_child_who_writes_words_daily_does_not_stay_learning():
    begun = Day(1, (SECURE, SECURE))
    words = [Day(day, (), (SECURE, SECURE)) for day in range(2, 7)]
    stood = [one.state for one in standings([begun, *words], Aspect.ALL)]
    assert stood[-1] is State.SECURE  # two letters alone and nine in words are worth five
    assert stood[3] is State.LEARNING
    last = standing([begun, *words], Aspect.ALL)
    assert (last.letters, last.in_words, last.in_words_secure) == (2, 9 + 1, 10)
    assert last.days == 6


def test_a_word_begins_no_letter():
    words = [Day(day, (), (SECURE,) * 9) for day in (1, 2, 3)]
    assert standing(words, Aspect.ALL).state is State.NOT_STARTED
    assert standing([*words, Day(4, (SECURE,))], Aspect.ALL).state is State.LEARNING


def test_a_secure_letter_that_fails_in_words_slips_only_by_three_letters_worth():
    secure = [Day(day, (SECURE,) * 3) for day in (1, 2)]
    assert standing([*secure, Day(3, (), (FIX,) * 3)], Aspect.ALL).state is State.SECURE
    assert standing([*secure, Day(3, (), (FIX,) * 9)], Aspect.ALL).state is State.SLIPPING
    assert standing([*secure, Day(3, (), (FIX,) * 3)], Aspect.DIRECTION).state is State.SLIPPING


@given(st.lists(st.lists(st.sampled_from(["ssss", "nnnn", "ffff", "s-s-"]), max_size=4), max_size=6))
def test_without_words_the_rule_is_what_it_was_and_with_them_days_can_still_be_folded(days):
    alone = [Day(i, tuple(map(from_token, some))) for i, some in enumerate(days)]
    mixed = [Day(i, one.evidence, one.evidence[:2]) for i, one in enumerate(alone)]
    for history in (alone, mixed):
        for end in range(len(history) + 1):
            folded = standings(history, Aspect.ALL)[end - 1] if end else None
            assert folded is None or folded == standing(history[:end], Aspect.ALL)


def test_a_class_is_getting_wrong_what_a_third_of_it_does_not_have():
    secure, learning, slipping = State.SECURE, State.LEARNING, State.SLIPPING
    states = {"a": [secure, secure, learning], "b": [secure] * 3 + [slipping], "c": [secure], "d": [learning]}
    assert not_yet_secure(states) == {"a", "d"}
