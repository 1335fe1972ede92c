"""A language for tests: English with accents and longer words, between brackets.

What still stands without accents on a screen was forgotten; what is cut off would not fit in German either.
"""

from __future__ import annotations

import gettext
import re
from typing import Final

PSEUDO: Final = "en-XA"
"""The tag by which the field knows accented English."""
_ACCENTED = str.maketrans("acdegijklnorstuwyzACDEGIJKLNORSTUWYZ", "áçďéĝíĵķļñóŕšţúŵýžÁÇĎÉĜÍĴĶĻÑÓŔŠŢÚŴÝŽ")
_VALUE = re.compile(r"(\{[^{}]*\})")
_VOWEL = re.compile(r"([aeiou])(?=[a-z])")


def accented(text: str) -> str:
    """The text as the language for tests says it; values in braces stay.

    >>> accented("{count} lines left")
    '⟦{count} ļííñééš ļééfţ⟧'
    """
    parts = _VALUE.split(text)
    parts[::2] = [_VOWEL.sub(r"\1\1", part).translate(_ACCENTED) for part in parts[::2]]
    return f"⟦{''.join(parts)}⟧"


class Pseudo(gettext.NullTranslations):
    """Its catalogue: every text, made as it is asked for."""

    def gettext(self, message: str) -> str:
        """One text."""
        return accented(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        """A noun that goes with a count, in English's two forms."""
        return accented(msgid1 if n == 1 else msgid2)
