"""What is known of tablets while First Loop runs."""

from __future__ import annotations

from firstloop.services.presence import AWAY_S, Presence


def test_it_is_news_when_a_tablet_comes_back_or_keeps_more_and_not_that_it_is_still_there():
    presence = Presence()
    assert presence.hear(7, 0.0)
    assert not presence.hear(7, 10.0)
    assert presence.hear(7, 20.0, unsent=3)
    assert not presence.hear(7, 30.0)
    assert presence.of(7).unsent == 3
    assert presence.hear(7, 30.0 + AWAY_S)


def test_a_tablet_is_here_until_it_has_said_nothing_for_a_while():
    presence = Presence()
    assert not presence.of(7).is_here(0.0)
    presence.hear(7, 100.0)
    assert presence.of(7).is_here(100.0 + AWAY_S - 1)
    assert not presence.of(7).is_here(100.0 + AWAY_S)
    presence.forget(7)
    assert not presence.of(7).is_here(101.0)
