"""Every resource of the API; one module each."""

from firstloop.api import (
    about,
    bank,
    check,
    children,
    classes,
    dictations,
    erased,
    families,
    lessons,
    letters,
    plans,
    records,
    rows,
    styles,
    watched,
    word_lists,
    words,
    written,
)

_MODULES = (
    about,
    classes,
    styles,
    families,
    words,
    word_lists,
    dictations,
    plans,
    lessons,
    bank,
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
