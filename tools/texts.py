"""The catalogue of all texts: collected from the sources, and what was edited in it put back to where it is used."""

from __future__ import annotations

import ast
import io
import json
import re
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from babel.messages import Catalog
from babel.messages.pofile import read_po, write_po

ROOT = Path(__file__).resolve().parent.parent
SERVER, PAGES = ROOT / "src" / "kenzet", ROOT / "ui" / "src"
ENGLISH = SERVER / "texts" / "en.po"
HEAD = "# The English of Kenzet. Edit the lines that begin with msgstr, then run tools/texts."
TEXTS, NOUNS = {"tr", "told"}, {"many", "plural", "counted"}
"""Calls on the server whose first argument is a text, and whose second and third are what is said of one and of more."""
_IN_PAGES = re.compile(r"(?<![\w.$])(?:(?:tr|told|whole)\(|(counted)\([^,()]*(?:\([^()]*\)[^,()]*)*,)\s*")
_LITERAL = re.compile(r"'((?:[^'\\\n]|\\.)*)'")
_VALUE = re.compile(r"\{\w+\}")
_OF_NOBODY = re.compile(
    '^"(Report-Msgid|Last-Translator|Language-Team|Generated-By|Project-Id|[A-Za-z-]+-Date)'
)
"""Lines of the head that would name persons, versions and days."""


@dataclass(frozen=True)
class Text:
    """A text where it is used: its one or two ``forms``, and from where to where each is written in its file, by characters.

    A noun that adds an s has two forms and is written once.
    """

    file: Path
    forms: tuple[str, ...]
    written: tuple[tuple[int, int], ...]


def in_python(file: Path) -> Iterator[Text]:
    """The texts of a file of the server."""
    source = file.read_bytes()
    lines = [0]
    for line in source.splitlines(keepends=True):
        lines.append(lines[-1] + len(line))

    def place(row: int, column: int) -> int:
        return len(source[: lines[row - 1] + column].decode())

    for node in ast.walk(ast.parse(source)):
        if not isinstance(node, ast.Call):
            continue
        name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
        wanted = node.args[:1] if name in TEXTS else node.args[1:3] if name in NOUNS else []
        said = [
            one
            for one in wanted
            if isinstance(one, ast.Constant) and isinstance(one.value, str) and one.value
        ]
        if not said or len(said) < len(wanted):
            continue
        forms = tuple(str(one.value) for one in said)
        if name in NOUNS and len(forms) == 1:
            forms = (forms[0], f"{forms[0]}s")
        written = (
            (place(one.lineno, one.col_offset), place(one.end_lineno or 0, one.end_col_offset or 0))
            for one in said
        )
        yield Text(file, forms, tuple(written))


def in_pages(file: Path) -> Iterator[Text]:
    """The texts of a file of the pages."""
    source = file.read_text()
    for call in _IN_PAGES.finditer(source):
        found = [_LITERAL.match(source, call.end())]
        if call[1] and found[0]:
            found.append(_LITERAL.match(source, re.compile(r",\s*").match(source, found[0].end()).end()))  # type: ignore[union-attr]
        said = [one for one in found if one]
        if said:
            forms = (_unquoted(one[1]) for one in said)
            yield Text(file, tuple(forms), tuple(one.span() for one in said))


def _unquoted(literal: str) -> str:
    return re.sub(r"\\(.)", lambda m: {"n": "\n"}.get(m[1], m[1]), literal).replace("&quot;", '"')


def all_texts() -> list[Text]:
    """Every text, file by file."""
    pages = sorted(file for kind in ("*.vue", "*.ts") for file in PAGES.rglob(kind))
    found = [text for file in sorted(SERVER.rglob("*.py")) for text in in_python(file)]
    return found + [
        text
        for file in pages
        if ".test." not in file.name and file.parent.name != "texts"
        for text in in_pages(file)
    ]


def collected(texts: Sequence[Text]) -> str:
    """The catalogue as a file, every text with itself as its translation, in the order of the files that use it."""
    catalog = Catalog(locale="en", project="Kenzet", fuzzy=False, header_comment=HEAD)
    for text in sorted(texts, key=lambda one: (str(one.file), one.written)):
        said = text.forms[0] if len(text.forms) == 1 else text.forms
        where = [(str(text.file.relative_to(ROOT)), 0)]
        if text.forms[0] not in catalog or len(text.forms) == 2:
            catalog.add(said, said, locations=where)
        else:
            known = catalog[text.forms[0]]
            known.locations = [*known.locations, *(one for one in where if one not in known.locations)]
    written = io.BytesIO()
    write_po(written, catalog, width=10_000, include_lineno=False, omit_header=False)
    kept = [line for line in written.getvalue().decode().splitlines() if not _OF_NOBODY.search(line)]
    return "\n".join(kept) + "\n"


def edited(kept: Path) -> dict[str, tuple[str, ...]]:
    """What was edited in the catalogue: the new forms by the old text. Raises SystemExit: a value is missing or unknown."""
    found = {}
    with kept.open("rb") as file:
        for message in read_po(file):
            before = message.id if isinstance(message.id, tuple) else (message.id,)
            after = message.string if isinstance(message.string, tuple) else (message.string,)
            if not before[0] or before == after or not all(after):
                continue
            for old, new in zip(before, after, strict=True):
                if set(_VALUE.findall(old)) != set(_VALUE.findall(new)):
                    sys.exit(f"tools/texts: “{new}” must hold the values of “{old}”, and no others")
            found[before[0]] = tuple(after)
    return found


def put_back(texts: Sequence[Text], news: dict[str, tuple[str, ...]]) -> int:
    """Writes what was edited to where it is used; how many places there were."""
    many = 0
    for file in sorted({text.file for text in texts if text.forms[0] in news}):
        source = file.read_text()
        spots = []
        for text in texts:
            if text.file == file and text.forms[0] in news:
                new = [_quoted(form, file) for form in news[text.forms[0]][: len(text.forms)]]
                if len(new) > len(text.written):
                    new = [", ".join(new)]
                spots += zip(text.written, new, strict=True)
        for (start, end), said in sorted(spots, reverse=True):
            source = source[:start] + said + source[end:]
            many += 1
        file.write_text(source)
    return many


def _quoted(said: str, file: Path) -> str:
    """A text as a literal of the file's language."""
    if file.suffix == ".py":
        return json.dumps(said, ensure_ascii=False)
    escaped = said.replace("\\", "\\\\").replace("'", "\\'").replace("\n", "\\n")
    return f"'{escaped.replace(chr(34), '&quot;') if file.suffix == '.vue' else escaped}'"


def main() -> int:
    """What was edited is put back first, then all is collected again."""
    news = edited(ENGLISH) if ENGLISH.exists() else {}
    if news:
        print(f"{put_back(all_texts(), news)} places changed")
    texts = all_texts()
    ENGLISH.write_text(collected(texts))
    print(f"{len({text.forms[0] for text in texts})} texts in {ENGLISH.relative_to(ROOT)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
