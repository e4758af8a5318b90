"""Words and lines: letters set beside each other, or joined by computation.

In a joined word the exit of one letter is the entry of the next: one curve from where a letter
leaves to where the next one is met, smooth at both ends but where the model itself has a corner.
Dots and bars wait until the word is finished.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from itertools import groupby

import numpy as np

from firstloop.core.curves import FloatArray, Path, chain, cubic
from firstloop.core.letterforms.alphabets import EVERY, UnknownLetterError, plain
from firstloop.core.letterforms.joined import Arrive, Joined, Leave, joined, with_exit
from firstloop.core.letterforms.model import Letter, without_joins
from firstloop.core.letterforms.style import DEFAULT_STYLE, Dots, HouseStyle
from firstloop.core.moves import Move, MoveKind, Stroke

K = MoveKind
SIDE_XH = 0.17  # clear paper on each side of a letter that is not joined
_FINGER_LEAST_XH = 0.5  # 4 mm at an x-height of 8 mm
_CLEAR_XH = 0.24  # clear paper between the top of a letter and the tall letter after it
_GAP_XH = {
    (Leave.BASE, Arrive.STEM): 0.60,
    (Leave.BASE, Arrive.TALL): 0.58,
    (Leave.BASE, Arrive.ROUND): 0.44,
    (Leave.BASE, Arrive.LOW): 0.36,
    (Leave.MID, Arrive.STEM): 0.42,
    (Leave.MID, Arrive.TALL): 0.46,
    (Leave.MID, Arrive.ROUND): 0.30,
    (Leave.MID, Arrive.LOW): 0.48,
}
_ENTRY_XH = {Arrive.STEM: 0.50, Arrive.TALL: 0.46, Arrive.ROUND: 0.34, Arrive.LOW: 0.34}
_ENTRY_TOWARDS = np.array([0.86, 0.51])
_HANDLES = {  # control lengths out of one letter and into the next, of the size of the gap
    Arrive.STEM: (0.55, 0.40),
    Arrive.TALL: (0.62, 0.45),
    Arrive.ROUND: (0.50, 0.45),
    Arrive.LOW: (0.50, 0.40),
}


@dataclass(frozen=True)
class Span:
    """Which moves of a word belong to which of its letters.

    ``index`` counts the characters of the word; ``stroke``, ``first`` and ``last`` name its moves
    (both included). A join belongs to the letter it leaves, a first entry to the letter it leads to.
    """

    index: int
    stroke: int
    first: int
    last: int


@dataclass(frozen=True, eq=False)
class Word(Letter):
    """A word or a line as one run of strokes: whatever can be done with a letter can be done with it.

    Parameters
    ----------
    spans : tuple of Span
        In the order written.
    lefts : tuple of float
        Where the origin of each character stands, xh; of a space, where it begins.
    waiting : frozenset of int
        Strokes that are put on when the word is finished: dots and bars.
    """

    spans: tuple[Span, ...] = ()
    lefts: tuple[float, ...] = ()
    waiting: frozenset[int] = frozenset()

    def letter_at(self, index: int) -> Letter:
        """One character as it stands in the word, its join on to the next one with it, origin at x = 0."""
        strokes = [
            Stroke(self.strokes[s.stroke].moves[s.first : s.last + 1]) for s in self.spans if s.index == index
        ]
        return Letter(self.char[index], tuple(strokes)).shifted(-self.lefts[index])


@dataclass
class _Setter:
    """Puts letters down one after another."""

    style: HouseStyle
    strokes: list[Stroke] = field(default_factory=list)
    spans: list[Span] = field(default_factory=list)
    later: list[tuple[int, Stroke]] = field(default_factory=list)
    waiting: list[int] = field(default_factory=list)
    moves: list[Move] = field(default_factory=list)
    owners: list[int] = field(default_factory=list)
    lefts: list[float] = field(default_factory=list)
    last: tuple[Joined, float] | None = None  # the joined letter whose exit is still open, and its place
    x: float = 0.0  # right edge of what is set

    def lift(self) -> None:
        """Bring the pen up, with an exit into the air if one is open."""
        if self.last is not None:
            body, dx = self.last
            if body.leave is not Leave.LIFT:
                self._make(_into_the_air(body, dx), self.owners[-1])
            self.last = None
        if self.moves:
            self._keep(Stroke(tuple(self.moves)), self.owners)
            self.moves, self.owners = [], []

    def finish_word(self) -> None:
        """Lift, then write the dots and bars that waited."""
        self.lift()
        for index, stroke in self.later:
            self.waiting.append(len(self.strokes))
            self._keep(stroke, [index] * len(stroke.moves))
        self.later = []

    def add(self, char: str, index: int) -> None:
        """Set one character."""
        body = joined(char, self.style) if self.style.is_joined else None
        if body is None:
            self.lift()
            self._apart(char, index)
        else:
            self._joined(body, index)

    def _apart(self, char: str, index: int) -> None:
        form = plain(char, self.style)
        strokes = with_exit(form.strokes) if self._has_exit(char) else form.strokes
        points = np.concatenate([m.path.points(0.03) for s in strokes for m in s.moves])
        left, right = float(points[:, 0].min()), float(points[:, 0].max())
        dx = self.x + SIDE_XH - left
        self.lefts.append(dx)
        wait = self.style.dots is Dots.AFTER_WORD and char in "ijtfx"
        for number, stroke in enumerate(strokes):
            moved = stroke.shifted(dx)
            if number and wait:
                self.later.append((index, moved))
            else:
                self._keep(moved, [index] * len(moved.moves))
        self.x += right - left + 2 * SIDE_XH

    def _has_exit(self, char: str) -> bool:
        return self.style.script.flicks and char.islower()

    def _joined(self, body: Joined, index: int) -> None:
        left, right = body.body
        if self.last is not None and self.last[0].leave is not Leave.LIFT:
            before, at = self.last
            dx = self.x + _gap(before, body) - left
            self._make(_join(before, at, body, dx), self.owners[-1])
        else:
            self.lift()
            lead = self.style.entry
            room = _ENTRY_XH[body.arrive] if lead else 0.0
            dx = self.x + SIDE_XH + room - left
            if lead:
                self._make(_entry(body, dx), index)
        self.lefts.append(dx)
        first = body.moves
        if not self.moves and body.arrive is Arrive.TALL:  # no lead-in: the stem is simply come down
            first = _from_the_top(first)
        for move in first:
            self._make(move.shifted(dx), index)
        self.later += [(index, stroke.shifted(dx)) for stroke in body.after]
        self.last, self.x = (body, dx), dx + right

    def _make(self, move: Move, index: int) -> None:
        self.moves.append(move)
        self.owners.append(index)

    def _keep(self, stroke: Stroke, owners: list[int]) -> None:
        number, first = len(self.strokes), 0
        self.strokes.append(stroke)
        for i in range(1, len(owners) + 1):
            if i == len(owners) or owners[i] != owners[first]:
                self.spans.append(Span(owners[first], number, first, i - 1))
                first = i


def _gap(before: Joined, body: Joined) -> float:
    """Room between two joined letters in the middle band."""
    gap = _GAP_XH[before.leave, body.arrive]
    return max(gap, before.overhang + _CLEAR_XH) if body.arrive is Arrive.TALL else gap


def _from_the_top(moves: tuple[Move, ...]) -> tuple[Move, ...]:
    """A stem without the way up to it."""
    if moves[0].kind is K.UP:
        over_and_back = moves[1].kind is K.HOOK_RIGHT
        return moves[2:] if over_and_back else moves[1:]
    turn = Path(moves[0].path.cubics[1:])
    return Move(K.ROUND_LEFT, turn), *moves[1:]


def _curve(start: FloatArray, heading: FloatArray, body: Joined, dx: float) -> Path:
    """From a point and heading to where `body`, standing at `dx`, is met."""
    goal = body.meets + np.array([dx, 0.0])
    across = max(0.12, float(goal[0] - start[0]))
    size = 0.5 * (across + float(np.hypot(*(goal - start))))
    out, into = _HANDLES[body.arrive]
    b = start + heading * out * min(size, 1.4 * across)
    c = goal - body.towards * into * size
    return Path(np.array([[start, b, c, goal]]))


def _through_over(path: Path, body: Joined, dx: float) -> Path:
    return path if body.over is None else chain([path, body.over.shifted(dx)])


def _join(before: Joined, at: float, body: Joined, dx: float) -> Move:
    """The curve that is both the exit of one letter and the entry of the next."""
    start = before.end + np.array([at, 0.0])
    heading = before.heading
    if before.leave is Leave.MID and heading[1] > 0.2:  # up to the mid line (v w): a corner, then level
        heading = np.array([0.86, -0.5])
    kind = K.EXIT_MID if before.leave is Leave.MID else K.EXIT_BASE
    return Move(kind, _way_out(before, at, _through_over(_curve(start, heading, body, dx), body, dx)))


def _way_out(body: Joined, at: float, then: Path) -> Path:
    return then if body.out is None else chain([body.out.shifted(at), then])


def _entry(body: Joined, dx: float) -> Move:
    """Lead-in from the base line at the start of a word."""
    left = min(body.body[0], float(body.meets[0]))
    start = np.array([left + dx - _ENTRY_XH[body.arrive], 0.0])
    return Move(K.ENTRY, _through_over(_curve(start, _ENTRY_TOWARDS, body, dx), body, dx))


def _into_the_air(body: Joined, at: float) -> Move:
    """The exit of the last letter of a word."""
    x, y = body.end + np.array([at, 0.0])
    hx, hy = (float(v) for v in body.heading)
    if body.leave is Leave.MID:
        if hy > 0.2:
            hx, hy = 0.86, -0.5
        end = (x + 0.26, y + (0.0 if hy < 0 else 0.05))
        path = cubic((x, y), (x + 0.10 * hx, y + 0.10 * hy), (end[0] - 0.10, end[1] - 0.02), end)
        return Move(K.EXIT_MID, _way_out(body, at, path))
    end = (max(x + 0.26, body.body[1] + at + 0.16), y + (0.20 if hy < 0.3 else 0.26))
    reach = 0.45 * (end[0] - x)
    path = cubic((x, y), (x + reach * hx, y + reach * hy), (end[0] - 0.07, end[1] - 0.09), end)
    return Move(K.EXIT_BASE, _way_out(body, at, path))


@lru_cache(maxsize=1024)
def word(text: str, style: HouseStyle = DEFAULT_STYLE) -> Word:
    """Set a word, or several with finger spaces between them, in a house style.

    Returns
    -------
    Word
        Starting at x = 0 with its first side bearing, base line at y = 0.

    Raises
    ------
    UnknownLetterError
        If there is a character that the house cannot draw.
    """
    setter = _Setter(style)
    for index, char in enumerate(text):
        if char.isspace():
            setter.finish_word()
            setter.lefts.append(setter.x)
        elif char in EVERY:
            setter.add(char, index)
        else:
            raise UnknownLetterError(char)
    setter.finish_word()
    matrix = style.matrix
    strokes = tuple(stroke.transformed(matrix) for stroke in setter.strokes)
    lefts = tuple(float(x * matrix[0, 0]) for x in setter.lefts)
    if any(char.isspace() for char in text.strip()):
        strokes, lefts = _fingers_apart(text, strokes, lefts, setter.spans, finger_xh(style))
    return Word(text, strokes, tuple(setter.spans), lefts, frozenset(setter.waiting))


def _fingers_apart(
    text: str, strokes: tuple[Stroke, ...], lefts: tuple[float, ...], spans: list[Span], finger: float
) -> tuple[tuple[Stroke, ...], tuple[float, ...]]:
    """Move each word on until a finger of clear paper stands before it for every space, ink to ink."""
    first_of = {span.stroke: span.index for span in reversed(spans)}
    moved, places = list(strokes), list(lefts)
    right, room = 0.0, 0.0
    for is_space, run in groupby(range(len(text)), key=lambda i: text[i].isspace()):
        chars = list(run)
        if is_space:
            room = len(chars) * finger
            places[chars[0] : chars[-1] + 1] = [right + n * finger for n in range(len(chars))]
            continue
        mine = [n for n in range(len(strokes)) if chars[0] <= first_of[n] <= chars[-1]]
        x = np.concatenate([m.path.points(0.02)[:, 0] for n in mine for m in strokes[n].moves])
        dx = right + room - float(x.min()) if chars[0] else 0.0
        for n in mine:
            moved[n] = strokes[n].shifted(dx)
        places[chars[0] : chars[-1] + 1] = [lefts[n] + dx for n in chars]
        right = float(x.max()) + dx
    return tuple(moved), tuple(places)


@lru_cache(maxsize=256)
def finger_xh(style: HouseStyle) -> float:
    """A finger space: as wide as the class's o, and at least half the x-height."""
    o = np.concatenate(without_joins(word("o", style)))
    return max(float(np.ptp(o[:, 0])), _FINGER_LEAST_XH)
