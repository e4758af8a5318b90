"""A catalogue: sentences by key, with named places, plurals, and ways to choose between sentences."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from string import Formatter
from typing import TypeAlias

from firstloop.core.message import Message, Value


@dataclass(frozen=True)
class Select:
    """One of several sentences, by the value of a place; `other` where none is named for it."""

    on: str
    cases: Mapping[str, Entry]
    other: Entry | None = None


@dataclass(frozen=True)
class Plural:
    """One of several sentences, by the plural form that the language has for a number."""

    on: str
    forms: Mapping[str, Entry]


Entry: TypeAlias = "str | Select | Plural"


class NoWordsError(LookupError):
    """The catalogue has no sentence for a key, or for the values it was given."""


@dataclass(frozen=True)
class Catalogue:
    """The sentences of one language.

    Parameters
    ----------
    language : str
        As in a web page: ``en``.
    entries : mapping
        Sentences by key. A place is written ``{name}``.
    plural : callable
        Which plural form the language has for a number: ``one``, ``other`` ...
    """

    language: str
    entries: Mapping[str, Entry]
    plural: Callable[[float], str]

    def say(self, key: str, **values: Value) -> str:
        """The sentence of a key.

        Raises
        ------
        NoWordsError
        """
        if key not in self.entries:
            raise NoWordsError(f"the catalogue {self.language!r} has nothing for {key!r}")
        said = {name: self.put(one) if isinstance(one, Message) else one for name, one in values.items()}
        return self._chosen(key, self.entries[key], said).format_map(said)

    def put(self, message: Message) -> str:
        """A message in words.

        Raises
        ------
        NoWordsError
        """
        return self.say(message.key, **dict(message.values))

    def all_of(self, prefix: str, **values: Value) -> dict[str, str]:
        """Every sentence whose key begins so, by the rest of its key; places without a value stay empty."""
        filled = defaultdict(str, values)
        return {
            key.removeprefix(prefix): self._chosen(key, entry, filled).format_map(filled)
            for key, entry in self.entries.items()
            if key.startswith(prefix)
        }

    def has(self, key: str) -> bool:
        """Whether there is a sentence of this key."""
        return key in self.entries

    def _chosen(self, key: str, entry: Entry, values: Mapping[str, object]) -> str:
        if isinstance(entry, str):
            return entry
        value = values.get(entry.on, "")
        if isinstance(entry, Plural):
            form = self.plural(float(str(value)))
            found = entry.forms.get(form, entry.forms.get("other"))
        else:
            found = entry.cases.get(str(value), entry.other)
        if found is None:
            raise NoWordsError(f"the catalogue {self.language!r} has nothing for {key!r} of {value!r}")
        return self._chosen(key, found, values)


def sentences(entry: Entry) -> list[str]:
    """Every sentence that an entry may come to."""
    if isinstance(entry, str):
        return [entry]
    if isinstance(entry, Plural):
        return [one for form in entry.forms.values() for one in sentences(form)]
    cases = [*entry.cases.values(), *([] if entry.other is None else [entry.other])]
    return [one for case in cases for one in sentences(case)]


def places(entry: Entry) -> set[str]:
    """Names of all places of an entry."""
    return {name for one in sentences(entry) for _, name, _, _ in Formatter().parse(one) if name}
