"""Children that were erased: for thirty days they can be brought back."""

from __future__ import annotations

from firstloop.api.deps import Db, Now
from firstloop.api.given import RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND
from firstloop.services import erased
from firstloop.services.children import ChildView
from firstloop.services.erased import ErasedView

router = resource("children", "/erased")


@router.get("")
def list_erased(session: Db, at: Now) -> list[ErasedView]:
    """Who can still be brought back, latest first."""
    return erased.every(session, at)


@router.post("/{erased_id}/bring-back", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def bring_back_child(session: Db, at: Now, erased_id: RecordId) -> ChildView:
    """Bring an erased child back into its class, with everything."""
    return erased.bring_back(session, erased_id, at)


@router.delete("/{erased_id}", status_code=204, responses=NOT_FOUND)
def forget_child(session: Db, at: Now, erased_id: RecordId) -> None:
    """Let go of an erased child now; there is no way back."""
    erased.forget(session, erased_id, at)
