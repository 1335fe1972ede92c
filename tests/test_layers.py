"""The walls of the house: which room may know which."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

SRC = Path(__file__).resolve().parent.parent / "src" / "kenzet"
MAY_KNOW = {
    "core": {"core"},
    "formats": {"core", "formats"},
    "store": {"core", "store"},
    "demo": {"core", "formats", "demo"},
    "standins": {"standins"},
    "web": {"core", "formats", "store", "demo", "web"},
}
PURE = {
    "__future__", "abc", "ast", "bisect", "collections", "coloraide", "contextlib", "copy", "dataclasses", "decimal", "enum", "fractions", "functools", "hashlib", "heapq", "highspy",
    "importlib", "itertools", "kenzet", "math", "numpy", "pkgutil", "pydantic", "pydantic_core", "random", "re", "rustworkx",
    "shapely", "threading", "typing", "unicodedata", "weakref",
}  # fmt: skip
FILES = sorted(SRC.rglob("*.py"))


def imports(file):
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            yield from (name.name for name in node.names)
        elif isinstance(node, ast.ImportFrom):
            assert node.level == 0, "imports name the whole path"
            yield node.module


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(SRC)))
def test_a_room_knows_only_what_it_may(file):
    room = file.relative_to(SRC).parts[0]
    for name in imports(file):
        parts = name.split(".")
        if parts[0] == "kenzet" and len(parts) > 1 and room in MAY_KNOW:
            assert parts[1] in MAY_KNOW[room], f"{file.name} imports {name}"
        if room == "core":
            assert parts[0] in PURE, f"core imports {name}"


def test_no_fill_is_named_outside_its_own_file():
    """A new fill is one new file: nobody asks which kind a fill is."""
    helpers = {"__init__", "base", "origin", "turned", "rhythm", "skipping"}
    fills = {f.stem for f in (SRC / "core" / "fills").glob("*.py")} - helpers
    for file in FILES:
        if file.parent.name == "fills":
            continue
        for name in imports(file):
            assert name.rsplit(".", 1)[-1] not in fills or "fills" not in name, f"{file.name} imports {name}"
