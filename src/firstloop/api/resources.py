"""Every resource of the API; one module each."""

from firstloop.api import (
    about,
    check,
    children,
    classes,
    erased,
    families,
    letters,
    records,
    rows,
    styles,
    watched,
    words,
    written,
)

_MODULES = (
    about,
    classes,
    styles,
    families,
    words,
    children,
    erased,
    letters,
    rows,
    written,
    check,
    watched,
    records,
)
ROUTERS = tuple(module.router for module in _MODULES)
