"""Everything that is said of ink, letters and progress: to the teacher, the child and the parent.

The core gives codes and data; here they become sentences, where they are shown and not before. All
words stand in one catalogue a language (``text.english``); the modules beside it only choose an entry
and fill its places. Another language is another catalogue. Labels of screens stay in the screens.
"""

from firstloop.text.catalogue import Catalogue
from firstloop.text.english import ENGLISH

catalogue: Catalogue = ENGLISH
"""The language in use."""

say = catalogue.say
put = catalogue.put
all_of = catalogue.all_of

__all__ = ["all_of", "catalogue", "put", "say"]
