"""A pseudo-language for tests: English with accents and longer words, in brackets.

Text without accents on a screen was not looked up; text that is cut off would not fit in other languages either.
"""

from __future__ import annotations

import gettext
import re
from typing import Final

PSEUDO: Final = "en-XA"
"""The usual tag for accented English."""
_ACCENTED = str.maketrans("acdegijklnorstuwyzACDEGIJKLNORSTUWYZ", "áçďéĝíĵķļñóŕšţúŵýžÁÇĎÉĜÍĴĶĻÑÓŔŠŢÚŴÝŽ")
_VALUE = re.compile(r"(\{[^{}]*\})")
_VOWEL = re.compile(r"([aeiou])(?=[a-z])")


def accented(text: str) -> str:
    """The text in the pseudo-language; values in braces do not change.

    >>> accented("{count} lines left")
    '⟦{count} ļííñééš ļééfţ⟧'
    """
    parts = _VALUE.split(text)
    parts[::2] = [_VOWEL.sub(r"\1\1", part).translate(_ACCENTED) for part in parts[::2]]
    return f"⟦{''.join(parts)}⟧"


class Pseudo(gettext.NullTranslations):
    """A catalog that makes every text on demand."""

    def gettext(self, message: str) -> str:
        """One text."""
        return accented(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        """The form of a noun for a count, as in English."""
        return accented(msgid1 if n == 1 else msgid2)
