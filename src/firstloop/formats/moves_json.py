"""The moves of a letter or word as JSON, ``first-loop-moves/1``: curves in xh, y upwards, and their names."""

from __future__ import annotations

import json
from typing import Any

import numpy as np

from firstloop.core.curves import Path
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import Move, MoveKind, Stroke

FORMAT = "first-loop-moves/1"


class MovesError(ValueError):
    """A document of moves that cannot be read."""


def write_moves(letter: Letter) -> str:
    """Write every stroke as a list of moves; each curve is a list of cubics of four (x, y) points."""
    strokes = [
        [
            {
                "move": str(move.kind),
                "closes": move.closes,
                "cubics": [[[round(float(v), 6) for v in p] for p in piece] for piece in move.path.cubics],
            }
            for move in stroke.moves
        ]
        for stroke in letter.strokes
    ]
    return json.dumps({"format": FORMAT, "text": letter.char, "unit": "xh", "strokes": strokes})


def read_moves(data: bytes | str) -> Letter:
    """Read what :func:`write_moves` wrote.

    Raises
    ------
    MovesError
        Not JSON, another format, a move the house does not know, or a curve that is none.
    """
    try:
        document: Any = json.loads(data)
        if document["format"] != FORMAT:
            raise MovesError(f"this is {document['format']}, not {FORMAT}")
        strokes = tuple(Stroke(tuple(_move(one) for one in stroke)) for stroke in document["strokes"])
        return Letter(str(document["text"]), strokes)
    except MovesError:
        raise
    except (ValueError, TypeError, KeyError, IndexError) as error:
        raise MovesError(f"these are no moves: {error}") from None


def _move(one: dict[str, Any]) -> Move:
    cubics = np.array(one["cubics"], dtype=np.float64)
    if cubics.ndim != 3 or cubics.shape[1:] != (4, 2) or not np.isfinite(cubics).all():
        raise MovesError("a curve is a list of cubics of four points each")
    return Move(MoveKind(one["move"]), Path(cubics), bool(one["closes"]))
