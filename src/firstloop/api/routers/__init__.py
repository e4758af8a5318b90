"""One router a resource."""

from firstloop.api.routers import about, check, children, classes, letters, rows

ROUTERS = tuple(module.router for module in (about, classes, children, letters, rows, check))
