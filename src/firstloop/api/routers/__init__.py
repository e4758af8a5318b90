"""One router a resource."""

from firstloop.api.routers import about, check, children, classes, families, letters, rows, styles, words

ROUTERS = tuple(
    module.router for module in (about, classes, styles, families, words, children, letters, rows, check)
)
