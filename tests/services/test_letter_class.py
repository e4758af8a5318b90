"""Who of a class needs what of a letter."""

from __future__ import annotations

from datetime import timedelta

import pytest

from firstloop.services import letter_class, today
from firstloop.services.evidence import work_out_all
from firstloop.store.errors import NotFoundError
from tests.services.test_letter_history import BELOW, FIRST, GOOD, TALL, write
from tests.services.test_over_time import kittiwakes  # noqa: F401

ON = (FIRST + timedelta(days=60)).date()


def needed(session, class_id: int, letter: str = "n"):
    work_out_all(session)
    return letter_class.letter_in_class(session, class_id, letter, ON)


def test_who_slipped_comes_first_and_who_is_secure_last(session, kittiwakes):  # noqa: F811
    ada, ben, cleo, _ = kittiwakes
    for day in (0, 7):
        write(session, ada, day, GOOD, GOOD, GOOD)
        write(session, ben, day, GOOD, GOOD, GOOD)
    write(session, ben, 50, BELOW, BELOW, BELOW)
    write(session, cleo, 50, TALL, TALL, GOOD)
    found = needed(session, ada.class_id)
    assert [(one.child.first_name, one.state) for one in found.children] == [
        ("Ben", "slipping"),
        ("Cleo", "learning"),
        ("Dai", "not-started"),
        ("Ada", "secure"),
    ]
    assert found.children[2].latest is None
    assert found.family


def test_among_those_who_learn_the_graver_slip_comes_first(session, kittiwakes):  # noqa: F811
    ada, ben, *_ = kittiwakes
    write(session, ada, 50, TALL, TALL, TALL)
    write(session, ben, 50, BELOW, GOOD, GOOD)
    first, second = needed(session, ada.class_id).children[:2]
    assert (first.child.first_name, second.child.first_name) == ("Ben", "Ada")
    assert [(slip.code, slip.times) for slip in first.slips] == [("start.bottom", 1)]
    assert second.slips[0].code == "size.tall"


def test_slips_of_long_ago_are_told_only_where_nothing_was_written_since(session, kittiwakes):  # noqa: F811
    ada, ben, *_ = kittiwakes
    for child in (ada, ben):
        write(session, child, 0, BELOW, BELOW, BELOW)
    write(session, ben, 55, GOOD, GOOD, GOOD)
    by_name = {one.child.first_name: one for one in needed(session, ada.class_id).children}
    assert [slip.code for slip in by_name["Ada"].slips] == ["start.bottom"]
    assert by_name["Ben"].slips == []


def test_the_last_sample_is_the_latest_that_stands_for_a_day(session, kittiwakes):  # noqa: F811
    ada = kittiwakes[0]
    write(session, ada, 0, GOOD)
    last = write(session, ada, 9, BELOW)
    sample = needed(session, ada.class_id).children[0].latest
    assert (sample.row_id, sample.day) == (last.id, (FIRST + timedelta(days=9)).date())


def test_a_group_made_of_them_stands_on_today(session, kittiwakes):  # noqa: F811
    ada, ben, *_ = kittiwakes
    write(session, ada, 50, BELOW, GOOD, GOOD)
    found = needed(session, ada.class_id)
    slip = found.children[0].slips[0]
    wanted = today.WantedGroup(slip.code, found.family, found.letter, [ada.id, ben.id])
    today.keep_groups(session, ada.class_id, [wanted], FIRST)
    (group,) = today.today(session, ada.class_id, ON).groups
    assert (group.slip, group.letters, [one.first_name for one in group.children]) == (
        slip.name,
        "n",
        ["Ada", "Ben"],
    )


def test_a_class_that_is_not_there_is_named(session):
    with pytest.raises(NotFoundError):
        letter_class.letter_in_class(session, 9, "n", ON)
