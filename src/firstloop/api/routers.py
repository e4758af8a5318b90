"""How the doors of a resource stand under ``/api``.

Each router has all of it from the start, so that its routes are served as they are. A router put into
another has every route of its worked out a second time, by the first who asks.
"""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter, Depends

from firstloop.api.deps import call_lines_as_the_class_does
from firstloop.api.server.bodies import USUAL_MOST
from firstloop.api.server.errors import EVERYWHERE


def resource(tag: str, prefix: str = "") -> APIRouter:
    """Doors whose answers call the lines as the class they are about does."""
    return router_of(tag, prefix, call_lines_as_the_class_does)


def router_of(tag: str, prefix: str, *needs: Callable[..., object]) -> APIRouter:
    """Doors that need something before anything else."""
    return APIRouter(
        prefix=f"/api{prefix}",
        tags=[tag],
        dependencies=[Depends(one) for one in needs],
        responses=EVERYWHERE,
        max_body_size=USUAL_MOST,
        generate_unique_id_function=lambda route: route.name,
    )
