"""Made histories with known answers: states, trends, turning points."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.progress.evidence import Aspect, Day, Source, evidence_of, from_token, watched
from firstloop.core.progress.habits import Course, Seen, habit
from firstloop.core.progress.mastery import LEAST_LETTERS, State, standing, standings
from firstloop.core.progress.steps import most_urgent, to_do
from firstloop.core.progress.trends import (
    MEASURES,
    Trend,
    Turn,
    change,
    is_better,
    shares,
    trend,
    turning_point,
    turning_points,
    within_letters,
)
from firstloop.text import progress

MONDAY = 739_000
SECURE, FIX = from_token("ssss"), from_token("ffss")
ALL = Aspect.ALL


def term(weeks: int, chance, rng: np.random.Generator, a_week: int = 6) -> list[tuple[int, float]]:
    """Letters on two days a week, each secure by the chance of its week, else to fix."""
    return [
        (MONDAY + 7 * week + 2 * (k % 2), float(rng.random() < chance(week)))
        for week in range(weeks)
        for k in sorted(range(a_week), key=lambda k: k % 2)
    ]


def days_of(credited: list[tuple[int, float]]) -> list[Day]:
    return [
        Day(day, tuple(SECURE if credit else FIX for at, credit in credited if at == day))
        for day in sorted({day for day, _ in credited})
    ]


class TestEvidence:
    @given(st.text("snf-", min_size=4, max_size=4))
    def test_a_piece_comes_back_from_its_token(self, token):
        assert from_token(token).token == token

    @pytest.mark.parametrize("token", ["", "sss", "sssss", "sxss"])
    def test_what_is_no_token_is_refused(self, token):
        with pytest.raises(ValueError, match="no piece"):
            from_token(token)

    def test_a_mark_of_secure_wins_for_every_heading_that_was_seen(self):
        seen = evidence_of("fix", {"direction": "fix", "shape": "secure", "size": "not-seen"}, "secure")
        assert seen.token == "sss-"

    def test_a_mark_of_fix_holds_for_the_letter_and_blames_no_heading(self):
        headings = dict.fromkeys(("direction", "shape", "size"), "secure")
        assert evidence_of("secure", headings, "fix").token == "fsss"

    def test_a_scan_says_nothing_of_direction(self):
        headings = dict.fromkeys(("direction", "shape", "size"), "secure")
        assert evidence_of("secure", headings, None, Source.SCAN).token == "s-ss"

    def test_what_was_watched_speaks_of_direction_alone(self):
        assert watched(fine=True).token == "-s--"
        assert watched(fine=False).token == "-f--"


class TestState:
    def test_nothing_written_is_not_started(self):
        assert progress.why(standing([], ALL)) == "not started: nothing written yet"

    def test_traced_letters_do_not_count_as_alone(self):
        found = standing([Day(MONDAY, (), helped=12)], ALL)
        assert found.state is State.LEARNING
        assert progress.why(found) == "learning: nothing written alone yet"

    def test_secure_says_how_many_and_on_how_many_days(self):
        days = [Day(MONDAY + d, (SECURE,) * 4) for d in (0, 2, 7)]
        days[0] = Day(MONDAY, (FIX, SECURE, SECURE, SECURE))
        assert progress.why(standing(days, ALL)) == "secure: 11 of the last 12 alone, on 3 days"
        assert standing(days, ALL).since == MONDAY + 2

    def test_one_good_day_is_not_enough_for_a_claim(self):
        found = standing([Day(MONDAY, (SECURE,) * 10)], ALL)
        assert found.state is State.LEARNING
        assert progress.why(found).endswith("to be sure takes 2 days")

    def test_few_letters_are_not_enough_for_a_claim(self):
        found = standing([Day(MONDAY, (SECURE,)), Day(MONDAY + 2, (SECURE,))], ALL)
        assert found.state is State.LEARNING
        assert "to be sure takes 5 letters" in progress.why(found)

    def test_what_was_secure_slips_after_a_break(self):
        days = [Day(MONDAY + 7 * w, (SECURE,) * 3) for w in range(4)]
        after = Day(MONDAY + 49, (FIX, SECURE, FIX))
        found = standings([*days, after], ALL)
        assert [one.state for one in found][-2:] == [State.SECURE, State.SLIPPING]
        assert found[-1].since == after.day

    def test_a_slip_lasts_until_the_letter_is_secure_again(self):
        days = [Day(MONDAY + 7 * w, (SECURE,) * 3) for w in range(4)]
        days += [Day(MONDAY + 49, (FIX,) * 4)]
        days += [Day(MONDAY + 56 + 7 * w, (SECURE,) * 3) for w in range(4)]
        states = [one.state for one in standings(days, ALL)]
        assert states[4:6] == [State.SLIPPING, State.SLIPPING]
        assert states[-1] is State.SECURE

    def test_one_bad_letter_does_not_make_a_slip(self):
        days = [Day(MONDAY + 7 * w, (SECURE,) * 3) for w in range(4)]
        assert standing([*days, Day(MONDAY + 28, (SECURE, FIX, SECURE))], ALL).state is State.SECURE

    def test_recent_letters_weigh_more(self):
        bad, good = (FIX,) * 4, (SECURE,) * 8
        up = standing([Day(MONDAY, bad), Day(MONDAY + 7, good)], ALL)
        down = standing([Day(MONDAY, good), Day(MONDAY + 7, bad)], ALL)
        assert up.share > 2 / 3 > down.share

    def test_the_more_letters_the_surer(self):
        few = standing([Day(MONDAY + d, (SECURE,) * 3) for d in (0, 7)], ALL)
        many = standing([Day(MONDAY + d, (SECURE,) * 6) for d in (0, 7)], ALL)
        assert many.chance > few.chance
        assert progress.sureness(many) == "sure"

    def test_headings_stand_apart(self):
        floats = from_token("fssf")
        days = [Day(MONDAY + d, (floats,) * 4) for d in (0, 2, 7)]
        assert standing(days, Aspect.DIRECTION).state is State.SECURE
        assert standing(days, Aspect.SIZE).state is State.LEARNING

    def test_watched_on_paper_counts_for_direction(self):
        days = [Day(MONDAY + d, (watched(True),) * 2) for d in (0, 2, 7)]
        assert standing(days, Aspect.DIRECTION).state is State.SECURE
        assert standing(days, Aspect.SHAPE).state is State.LEARNING

    @given(st.lists(st.lists(st.sampled_from("snf"), max_size=5), max_size=12))
    def test_no_claim_without_its_numbers(self, verdicts):
        days = [Day(MONDAY + i, tuple(from_token(v * 4) for v in day)) for i, day in enumerate(verdicts)]
        for i, found in enumerate(standings(days, ALL)):
            written = sum(len(day.evidence) for day in days[: i + 1])
            assert found.letters == min(12, written)
            if found.state is State.SECURE:
                assert written >= LEAST_LETTERS
            if found.share is not None:
                assert 0 <= found.share <= 1
                assert 0 <= found.chance <= 1

    @given(st.lists(st.sampled_from("snf"), min_size=6, max_size=12))
    def test_a_better_letter_never_lowers_the_share(self, verdicts):
        def share(run):
            return standing([Day(MONDAY, tuple(from_token(v * 4) for v in run))], ALL).share

        better = ["s", *verdicts[1:]]
        assert share(better) >= share(verdicts)


class TestTurningPoints:
    def test_a_cure_at_week_six_is_found_within_one_week(self):
        found = []
        for seed in range(100):
            run = term(12, lambda week: 0.15 if week < 6 else 0.95, np.random.default_rng(seed))
            turn = turning_point(*zip(*run, strict=True), worth=0.25)
            found.append(turn is not None and abs(turn.day - (MONDAY + 42)) <= 7 and turn.after > turn.before)
        assert sum(found) >= 95

    def test_a_slip_after_a_break_is_found(self):
        found = []
        for seed in range(100):
            run = term(14, lambda week: 0.95 if week < 8 else 0.3, np.random.default_rng(seed))
            run = [(day, credit) for day, credit in run if not 56 <= day - MONDAY < 70]  # two weeks away
            turn = turning_point(*zip(*run, strict=True), worth=0.25)
            found.append(turn is not None and turn.after < turn.before and turn.day >= MONDAY + 49)
        assert sum(found) >= 95

    def test_noise_alone_raises_no_claim(self):
        silent = 0
        for seed in range(100):
            run = term(12, lambda week: 0.7, np.random.default_rng(seed))
            silent += turning_point(*zip(*run, strict=True), worth=0.25) is None
        assert silent >= 95

    def test_two_turning_points_are_both_found(self):
        run = term(30, lambda week: 0.95 if 10 <= week < 20 else 0.1, np.random.default_rng(1))
        turns = turning_points(*zip(*run, strict=True), worth=0.25)
        assert [round((turn.day - MONDAY) / 7) for turn in turns] == pytest.approx([10, 20], abs=1)

    def test_too_little_says_nothing(self):
        assert turning_point([MONDAY, MONDAY + 30], [0.0, 1.0], 0.25) is None


class TestTrends:
    @staticmethod
    def run(slope_mm_week: float, seed: int, noise: float = 0.4):
        rng = np.random.default_rng(seed)
        days = [MONDAY + 7 * (k // 2) + 2 * (k % 2) for k in range(24)]
        return days, [0.5 + slope_mm_week * (d - MONDAY) / 7 + noise * rng.normal() for d in days]

    def test_a_drift_is_found_with_its_slope_inside_the_interval(self):
        hits = 0
        for seed in range(50):
            found = trend(*self.run(0.15, seed), worth=0.8)
            hits += found is not None and found.low < 0.15 < found.high
        assert hits >= 46

    def test_noise_alone_raises_no_claim(self):
        assert sum(trend(*self.run(0.0, seed), worth=0.8) is None for seed in range(100)) >= 95

    def test_one_wild_day_does_not_make_a_trend(self):
        days, values = self.run(0.0, 3, noise=0.1)
        values[-1] = 9.0
        assert trend(days, values, worth=0.8) is None

    def test_no_trend_from_too_little(self):
        days, values = self.run(0.3, 1)
        assert trend(days[:6], values[:6], 0.8) is None
        assert trend([MONDAY + k // 4 for k in range(24)], values, 0.8) is None

    def test_a_trend_in_words(self):
        found = trend(*self.run(0.06, 2, noise=0.05), worth=0.3)
        assert progress.named_change("place", progress.change("place", found)) == (
            "place on the line: 1.2 mm above the line, 0.5 mm at first"
        )

    def test_a_fault_that_went_away_in_words(self):
        days, values = self.run(-0.125, 2, noise=0.05)
        found = trend(days, [v + 1.0 for v in values], worth=0.8)
        assert progress.named_change("place", progress.change("place", found)) == (
            "place on the line: as it should be now, 1.5 mm above the line at first"
        )

    @pytest.mark.parametrize(
        ("key", "value", "said"),
        [
            ("height", 3.9, "as the model"),
            ("height", 11.0, "a tenth taller than the model"),
            ("width", -24.0, "a quarter narrower than the model"),
            ("place", -1.24, "1.2 mm below the line"),
            ("spread", 19.0, "a fifth"),
        ],
    )
    def test_a_measure_is_told_in_parts_and_millimetres(self, key, value, said):
        assert progress.measured(key, value) == said

    @pytest.mark.parametrize(
        ("key", "then", "now", "better"),
        [
            ("height", 20, -5, True),
            ("height", 5, -20, False),
            ("spread", 30, 20, True),
            ("speed", 1, 2, True),
        ],
    )
    def test_what_is_better_is_nearer_the_model_and_quicker(self, key, then, now, better):
        assert is_better(MEASURES[key], Turn(MONDAY, then, now, 0.01)) is better

    def test_a_change_at_one_point_is_told_with_its_week_and_a_drift_is_not(self):
        steps = drifts = 0
        for seed in range(50):
            days, flat = self.run(0.0, seed, noise=0.25)
            stepped = [v + (1.2 if day >= MONDAY + 42 else 0.0) for day, v in zip(days, flat, strict=True)]
            found = change(days, stepped, worth=0.8)
            steps += isinstance(found, Turn) and abs(found.day - MONDAY - 42) <= 7
            drifts += isinstance(change(*self.run(0.15, seed, noise=0.25), worth=0.8), Trend)
        assert steps >= 45
        assert drifts >= 45

    def test_no_change_is_told_from_noise(self):
        assert sum(change(*self.run(0.0, seed), worth=0.8) is None for seed in range(100)) >= 95

    def test_a_harder_letter_begun_later_is_no_change(self):
        rng = np.random.default_rng(5)
        easy = [(MONDAY + k, "l", 3 + 0.2 * rng.normal()) for k in range(0, 60, 4)]
        hard = [(MONDAY + k, "g", 9 + 0.2 * rng.normal()) for k in range(40, 80, 4)]
        written = sorted(easy + hard)
        assert isinstance(change([d for d, _, _ in written], [v for *_, v in written], 1.5), Trend | Turn)
        assert change(*zip(*within_letters(written), strict=True), 1.5) is None

    @given(st.lists(st.tuples(st.integers(0, 60), st.sampled_from("ab"), st.floats(0, 9)), max_size=30))
    def test_letters_seen_on_one_day_say_nothing_of_change(self, written):
        found = within_letters(sorted(written))
        days = {char: {day for day, one, _ in written if one == char} for char in "ab"}
        assert len(found) == sum(len(days[char]) > 1 for _, char, _ in written)

    def test_a_turn_in_words(self):
        turn = Turn(date(2026, 10, 12).toordinal(), before=2.4, after=3.1, chance=0.001)
        assert progress.change("speed", turn) == (
            "quicker, 3.1 letter heights a second now, 2.4 letter heights a second before, since 12 October"
        )

    @given(st.lists(st.tuples(st.integers(0, 80), st.sampled_from([0.0, 0.5, 1.0])), min_size=1))
    def test_shares_hold_every_letter_and_lie_in_their_interval(self, run):
        run = sorted((MONDAY + day, credit) for day, credit in run)
        weeks = shares(run)
        assert sum(week.letters for week in weeks) == len(run)
        assert all(0 <= week.low < week.high <= 1 and 0 <= week.share <= 1 for week in weeks)


class TestHabits:
    @staticmethod
    def run(weeks, chance, seed, a_week=3):
        rng = np.random.default_rng(seed)
        return [
            Seen(MONDAY + 7 * week, int((rng.random(a_week) < chance(week)).sum()), a_week)
            for week in range(weeks)
        ]

    def test_a_habit_cured_at_week_six_has_gone_since_then(self):
        found = [habit(self.run(12, lambda week: 0.85 if week < 6 else 0.03, seed)) for seed in range(100)]
        right = [one.course is Course.GONE and abs(one.since - (MONDAY + 42)) <= 7 for one in found]
        assert sum(right) >= 90

    def test_a_new_slip_is_new(self):
        found = habit(self.run(12, lambda week: 0.0 if week < 7 else 0.9, 1))
        assert (found.course, found.since) == (Course.NEW, MONDAY + 49)

    def test_a_steady_habit_has_not_changed(self):
        found = [habit(self.run(12, lambda week: 0.6, seed)) for seed in range(100)]
        assert sum(one.course is Course.STEADY and one.since is None for one in found) >= 95

    def test_a_slip_made_now_and_then_is_no_habit(self):
        assert habit([Seen(MONDAY, 1, 3), Seen(MONDAY + 7, 2, 3)]) is None

    @given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3)), max_size=14))
    def test_every_letter_is_counted_once(self, run):
        days = [Seen(MONDAY + i, min(a, b), b) for i, (a, b) in enumerate(run)]
        found = habit(days)
        if found is not None:
            assert found.before[0] + found.after[0] == sum(day.slips for day in days)
            assert found.before[1] + found.after[1] == sum(day.letters for day in days)


class TestWhatToDoFirst:
    def test_the_letter_that_slipped_comes_before_those_being_learned(self):
        assert most_urgent({"a": "secure", "c": "learning", "d": "slipping"}) == "d"
        assert most_urgent({"a": "secure", "c": "learning"}) == "c"
        assert most_urgent({}) is None

    @given(st.lists(st.sampled_from(["learning", "secure", "slipping"])))
    def test_a_letter_made_secure_leaves_less_to_do(self, states):
        assert to_do([*states, "secure"]) == to_do(states)
        assert to_do([*states, "slipping"]) > to_do([*states, "learning"]) > to_do(states)
