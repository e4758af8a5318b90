"""What a sheet is laid out from, as JSON: kept in the records, exported, and brought in elsewhere."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any

import orjson
from pydantic import TypeAdapter, ValidationError

from firstloop.core.ruling import RulingError
from firstloop.core.sheets.wish import SheetError, SheetWish

FORMAT = "first-loop-sheet-wish/1"
NAME_LONGEST = 60
FILE_MOST = 200_000


@dataclass(frozen=True)
class NamedSheet:
    """A sheet under its name."""

    name: str
    wish: SheetWish

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > NAME_LONGEST or not self.name.isprintable():
            raise SheetError(f"a sheet has a name of 1 to {NAME_LONGEST} characters")


@lru_cache(maxsize=1)
def _adapter() -> TypeAdapter[SheetWish]:
    return TypeAdapter(SheetWish)


def write_wish(wish: SheetWish) -> dict[str, Any]:
    """A wish as JSON."""
    return asdict(wish)


def read_wish(document: Any) -> SheetWish:
    """What :func:`write_wish` wrote; what is left out is as usual.

    Raises
    ------
    SheetError
        With what is wrong first.
    """
    try:
        return _adapter().validate_json(orjson.dumps(document), strict=True)
    except orjson.JSONEncodeError:
        raise SheetError("the sheet holds characters that cannot be kept") from None
    except ValidationError as problem:
        first = problem.errors()[0]
        for one in problem.errors():
            why = one.get("ctx", {}).get("error")
            if isinstance(why, SheetError | RulingError):
                raise SheetError(str(why)) from None
        where = ".".join(str(one) for one in first["loc"])
        raise SheetError(f"the sheet's “{where}” cannot be used: {first['msg'].lower()}") from None


def write_sheet(named: NamedSheet) -> bytes:
    """A sheet as a file."""
    whole = {"format": FORMAT, "name": named.name, "wish": write_wish(named.wish)}
    return orjson.dumps(whole, option=orjson.OPT_INDENT_2)


def read_sheet(raw: bytes) -> NamedSheet:
    """Read a file that :func:`write_sheet` wrote.

    Raises
    ------
    SheetError
        If it is too large, no such file, or holds what no page can meet.
    """
    if len(raw) > FILE_MOST:
        raise SheetError(f"a sheet's file has at most {FILE_MOST // 1000} kB")
    try:
        whole = orjson.loads(raw)
    except orjson.JSONDecodeError:
        raise SheetError("this is no file of a sheet: it is not JSON") from None
    if not isinstance(whole, dict) or whole.get("format") != FORMAT or not isinstance(whole.get("name"), str):
        raise SheetError(f"this is no file of a sheet: it does not say “{FORMAT}” and its name")
    return NamedSheet(whole["name"], read_wish(whole.get("wish")))
