"""The catalogue: what the sources say is in it, and nothing that a person reads stands outside of it."""

from __future__ import annotations

import ast
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import get_args

import pytest
from tools import texts as tool

from kenzet import texts
from kenzet.core.balance.density import Hand
from kenzet.core.balance.threads import Look
from kenzet.core.kit.curves import Verdict
from kenzet.core.kit.kit import SewWith
from kenzet.core.kit.things.base import State
from kenzet.core.logbook.swatch import Felt
from kenzet.core.marks.tools import Shows
from kenzet.core.top.document import Use
from kenzet.core.top.zone import MarkMethod
from kenzet.texts.keys import SHOWN
from kenzet.texts.pseudo import Pseudo, accented

SRC = Path(texts.__file__).resolve().parent.parent
READ = [
    file for room in ("core", "say", "formats", "store", "web") for file in sorted((SRC / room).rglob("*.py"))
]
SENTENCE = re.compile(r"^[A-Z“][A-Za-z’]*[,:;]? [A-Za-z“{(]|[a-z] [a-z{]+.*\.$")
NO_TEXT = re.compile(r"^[A-Z]{3,}[ ,]|^IDENTIFIED BY|^[ABCx/ ]+$")
"""Of SQL, of Unicode, of a block's grid."""
NOT_READ = {"Source Sans Pro", "Source Sans Pro Bold"}
LOOKED_UP = {"tr", "told", "many", "plural", "counted"}


def bare_sentences(source):
    """Sentences in code that are not looked up, with their lines; what only a programmer reads is none."""
    tree = ast.parse(source)
    passed = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            passed.add(id(node.value))
        if isinstance(node, ast.Call):
            name = getattr(node.func, "id", getattr(node.func, "attr", ""))
            programmers = name in ("RuntimeError", "AssertionError", "Field")
            inner = ast.walk(node) if programmers else node.args[:3] if name in LOOKED_UP else ()
            passed |= {id(one) for one in inner}
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in passed:
            said = node.value.strip()
            if SENTENCE.search(said) and not NO_TEXT.match(said) and said not in NOT_READ | SHOWN:
                yield node.lineno, said


@pytest.mark.parametrize("file", READ, ids=lambda file: str(file.relative_to(SRC)))
def test_every_sentence_is_looked_up(file):
    assert list(bare_sentences(file.read_text())) == []


def test_the_check_of_sentences_sees_them():
    """The walk itself: a bare sentence, one within an f-string, one that is looked up, a key, a docstring."""
    found = bare_sentences(
        '"""A module of texts."""\nx = "Take the pins out."\ny = f"Take {n} pins out."\nz = tr("Take it.")\nkey = "all lines"'
    )
    assert [line for line, _ in found] == [2, 3]


def test_the_catalogue_is_what_the_sources_say():
    assert tool.collected(tool.all_texts()) == tool.ENGLISH.read_text(), "run tools/texts"


def test_keys_that_are_shown_have_their_words():
    shown = [Hand, Look, Use, State, SewWith, Felt, Shows, MarkMethod, Verdict]
    assert {key for kind in shown for key in get_args(kind) if key} <= SHOWN


@pytest.fixture
def sources(tmp_path, monkeypatch):
    """A file of the server and one of the pages, and the catalogue that is collected from them."""
    server, pages = tmp_path / "src", tmp_path / "ui"
    for room in (server, pages):
        room.mkdir()
    (server / "say.py").write_text(
        'x = tr("Sew {count} lines — slowly.", count=3)\ny = many(n, "patch", "patches"), many(n, "line")\n'
    )
    (pages / "Part.vue").write_text(
        "<p :title=\"tr('Don\\'t stop')\">{{ counted(all.length, 'One line', '{count} lines') }}</p>\n"
    )
    monkeypatch.setattr(tool, "ROOT", tmp_path)
    monkeypatch.setattr(tool, "SERVER", server)
    monkeypatch.setattr(tool, "PAGES", pages)
    monkeypatch.setattr(tool, "ENGLISH", tmp_path / "en.po")
    assert tool.main() == 0
    return server / "say.py", pages / "Part.vue", tmp_path / "en.po"


def edit(catalogue, before, after):
    said = catalogue.read_text()
    assert before in said
    catalogue.write_text(said.replace(before, after))


def test_what_is_edited_in_the_catalogue_is_put_back_where_it_is_used(sources):
    server, page, catalogue = sources
    edit(catalogue, 'msgstr "Sew {count} lines — slowly."', 'msgstr "Slowly sew \\"all\\" {count} lines."')
    edit(catalogue, 'msgstr[1] "lines"', 'msgstr[1] "rows"')
    edit(catalogue, 'msgstr "Don\'t stop"', 'msgstr "Don\'t \\"stop\\" yet"')
    edit(catalogue, 'msgstr[0] "One line"', 'msgstr[0] "A single line"')
    assert tool.main() == 0
    assert server.read_text() == (
        'x = tr("Slowly sew \\"all\\" {count} lines.", count=3)\ny = many(n, "patch", "patches"), many(n, "line", "rows")\n'
    )
    assert page.read_text() == (
        "<p :title=\"tr('Don\\'t &quot;stop&quot; yet')\">{{ counted(all.length, 'A single line', '{count} lines') }}</p>\n"
    )
    assert 'msgid "Slowly sew' in catalogue.read_text() and 'msgid "Sew' not in catalogue.read_text()


def test_a_value_that_is_lost_in_the_catalogue_is_refused_and_nothing_is_changed(sources):
    server, _, catalogue = sources
    before = server.read_text()
    edit(catalogue, 'msgstr "Sew {count} lines — slowly."', 'msgstr "Sew slowly."')
    with pytest.raises(SystemExit, match=r"must hold the values of “Sew \{count\} lines"):
        tool.main()
    assert server.read_text() == before


def test_a_translation_is_a_file_beside_the_english_one(tmp_path, monkeypatch):
    head = 'msgid ""\nmsgstr ""\n"Content-Type: text/plain; charset=utf-8\\n"\n"Plural-Forms: nplurals=2; plural=(n > 1);\\n"\n\n'
    body = 'msgid "Turn the quilt."\nmsgstr "Tournez le quilt."\n\nmsgid "line"\nmsgid_plural "lines"\nmsgstr[0] "ligne"\nmsgstr[1] "lignes"\n'
    (tmp_path / "fr.po").write_text(head + body)
    monkeypatch.setattr(texts, "HERE", tmp_path)
    assert texts.languages() == ["fr", "en-XA"]
    monkeypatch.setattr(texts, "_FOUND", texts.catalogue("fr"))
    assert texts.tr("Turn the quilt.") == "Tournez le quilt."
    assert texts.tr("Not translated yet, {name}.", name="Star") == "Not translated yet, Star."
    assert [texts.many(count, "line") for count in (0, 1, 2)] == ["0 ligne", "1 ligne", "2 lignes"]
    (tmp_path / "fr.po").write_text(head + 'msgid "Sew {count}."\nmsgstr "Cousez {nombre}."\n')
    monkeypatch.setattr(texts, "_FOUND", texts.catalogue("fr"))
    assert texts.tr("Sew {count}.", count=3) == "Sew 3.", "a value that it has not"
    with pytest.raises(LookupError, match="no texts in “de”; there are fr, en-XA"):
        texts.catalogue("de")


def test_a_language_that_is_not_there_stops_the_start_with_a_sentence():
    done = subprocess.run(
        [sys.executable, "-m", "kenzet", "--help"],
        env={**os.environ, "KENZET_LANGUAGE": "tlh"}, capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert (done.returncode, done.stdout) == (1, "")
    assert done.stderr == "kenzet: Kenzet has no texts in “tlh”; there are en, en-XA.\n"


def test_the_pages_get_their_own_texts_and_the_words_of_keys(monkeypatch):
    assert texts.of_pages() == {}, "English stands in the pages"
    monkeypatch.setattr(texts, "LANGUAGE", "en-XA")
    monkeypatch.setattr(texts, "_FOUND", Pseudo())
    found = texts.of_pages()
    assert found["All zones"] == accented("All zones")
    assert found["lap"] == accented("lap")
    assert found["One patch"] == {"one": accented("One patch"), "other": accented("{count} patches")}
    assert "Put the ruler’s edge on {on}." not in found, "the server's own"
