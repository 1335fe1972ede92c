"""The message catalog: every sentence that a person reads is looked up here, in the language of this process.

English is written where it is used, as the first argument of ``tr``, ``many``, ``plural`` and ``told``.
``tools/texts`` collects all of it, that of the pages too, in one file, ``en.po``. A translation is a copy of that
file beside it, named by its language.

Glossary: a *text* is a sentence or a label in the catalog, with its values in braces: ``{count} lines in
“{zone}”``.
"""

from __future__ import annotations

import gettext
import os
import re
from collections.abc import Sequence
from datetime import date, datetime
from io import BytesIO
from pathlib import Path
from typing import Final

from babel import Locale
from babel.dates import format_date, format_skeleton
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from babel.numbers import format_decimal

from kenzet.texts.pseudo import PSEUDO, Pseudo

HERE = Path(__file__).resolve().parent
ENGLISH = "en"
_VALUE = re.compile(r"\{[^{}]*\}")
PAGES = ("ui/", "src/kenzet/texts/keys.py")
"""Prefixes of the files whose texts are looked up in the browser."""
_COUNTED = 201
"""All plural forms of a language for whole numbers occur below this number."""
LANGUAGE: Final = os.environ.get("KENZET_LANGUAGE") or ENGLISH
"""Set before Kenzet starts; one language for each run."""


def languages() -> list[str]:
    """The available languages: English, those with a file beside this one, and the pseudo-language."""
    return [*sorted(file.stem for file in HERE.glob("*.po")), PSEUDO]


def catalogue(language: str) -> gettext.NullTranslations:
    """The texts of a language; English is as written. Raises LookupError for a language without a file."""
    if language == PSEUDO:
        return Pseudo()
    if language == ENGLISH:
        return gettext.NullTranslations()
    if language not in languages():
        raise LookupError(f"Kenzet has no texts in “{language}”; there are {', '.join(languages())}.")
    with (HERE / f"{language}.po").open("rb") as file:
        found = read_po(file, locale=language)
    for message in found:
        if not _has_its_values(message.id, message.string):
            message.string = ""  # English says it
    compiled = BytesIO()
    write_mo(compiled, found)
    compiled.seek(0)
    return gettext.GNUTranslations(compiled)


def _has_its_values(text: str | Sequence[str], said: str | Sequence[str] | None) -> bool:
    """Whether a translation has no value that its text lacks; such a value could not be filled in."""
    texts, forms = ((one,) if isinstance(one, str) else one or () for one in (text, said))
    known = set(_VALUE.findall(" ".join(texts)))
    return all(set(_VALUE.findall(form)) <= known for form in forms)


try:
    _FOUND = catalogue(LANGUAGE)
except LookupError as error:
    raise SystemExit(f"kenzet: {error.args[0]}") from None
LOCALE = Locale.parse(ENGLISH if LANGUAGE == PSEUDO else LANGUAGE, sep="-")


def tr(text: str, **values: object) -> str:
    """A text in the current language, with its values filled in.

    >>> tr("Sew {count} of {zone}.", count=3, zone="Star")
    'Sew 3 of Star.'
    """
    found = _FOUND.gettext(text) if text else text
    return found.format_map(values) if values else found


def of_pages() -> dict[str, str | dict[str, str]]:
    """The texts that the pages look up themselves, by their English; without those that do not differ.

    For a text with a count every form, by its name in this language's plurals: "one", "other", …
    """
    if LANGUAGE == ENGLISH:
        return {}
    forms = {LOCALE.plural_form(count): count for count in reversed(range(_COUNTED))}
    found: dict[str, str | dict[str, str]] = {}
    with (HERE / f"{ENGLISH}.po").open("rb") as file:
        for message in read_po(file):
            if not any(name.startswith(PAGES) for name, _ in message.locations):
                continue
            if isinstance(message.id, str):
                found[message.id] = _FOUND.gettext(message.id)
            else:
                one, other = message.id
                found[one] = {form: _FOUND.ngettext(one, other, count) for form, count in forms.items()}
    return found


def on_day(day: date, weekday: bool = False, year: bool = False) -> str:
    """A date in words.

    >>> on_day(date(2026, 11, 30)), on_day(date(2026, 11, 30), weekday=True)
    ('November 30', 'Monday, November 30')
    >>> on_day(date(2026, 11, 30), weekday=True, year=True)
    'Monday, November 30, 2026'
    """
    if weekday and year:
        return format_date(day, "full", locale=LOCALE)
    bare = format_skeleton("MMMMd", datetime(day.year, day.month, day.day), locale=LOCALE)
    named = (
        tr("{weekday}, {day}", weekday=format_date(day, "EEEE", locale=LOCALE), day=bare) if weekday else bare
    )
    return tr("{day}, {year}", day=named, year=day.year) if year else named


def number(count: int) -> str:
    """A whole number with its separators.

    >>> number(1284)
    '1,284'
    """
    return format_decimal(count, locale=LOCALE)


def many(count: int, one: str, other: str = "") -> str:
    """A count and its noun; ``other`` is the plural if it is not ``one`` with an s.

    >>> many(1, "line"), many(1200, "line"), many(2, "patch", "patches")
    ('1 line', '1,200 lines', '2 patches')
    """
    return f"{number(count)} {plural(count, one, other)}"


def counted(count: int, one: str, other: str, **values: object) -> str:
    """A text with a count: ``one`` for a count of one, ``other`` for others; ``{count}`` is the formatted count.

    >>> counted(1, "One zone is open.", "{count} zones are open."), counted(3, "One zone is open.", "{count} zones are open.")
    ('One zone is open.', '3 zones are open.')
    """
    return _FOUND.ngettext(one, other, count).format_map({"count": number(count), **values})


def plural(count: int, one: str, other: str = "") -> str:
    """The form of a noun for a count.

    >>> plural(1, "bobbin"), plural(0, "bobbin")
    ('bobbin', 'bobbins')
    """
    return _FOUND.ngettext(one, other or f"{one}s", count)
