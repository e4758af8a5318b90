"""One router a resource."""

from firstloop.api.routers import (
    about,
    check,
    children,
    classes,
    families,
    letters,
    records,
    rows,
    styles,
    watched,
    words,
)

_MODULES = (about, classes, styles, families, words, children, letters, rows, check, watched, records)
ROUTERS = tuple(module.router for module in _MODULES)
