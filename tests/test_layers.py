"""The walls of the house: which room may know which."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

SRC = Path(__file__).resolve().parent.parent / "src" / "kenzet"
MAY_KNOW = {
    "texts": {"texts"},
    "core": {"texts", "core"},
    "say": {"texts", "core", "say"},
    "formats": {"texts", "core", "say", "formats"},
    "store": {"texts", "core", "store"},
    "demo": {"core", "formats", "demo"},
    "standins": {"standins"},
    "web": {"texts", "core", "say", "formats", "store", "demo", "web"},
}
PURE = {
    "__future__", "abc", "ast", "bisect", "cachetools", "collections", "coloraide", "contextlib", "copy", "cv2", "dataclasses", "datetime", "decimal", "enum", "fractions", "functools", "hashlib", "heapq", "highspy",
    "importlib", "itertools", "kenzet", "math", "numpy", "pkgutil", "pydantic", "pydantic_core", "random", "re", "rustworkx",
    "shapely", "threading", "typing", "unicodedata", "weakref",
}  # fmt: skip
FILES = sorted(SRC.rglob("*.py"))
FLOORS = (
    "errors", "tolerances", "memo", "numbers", "params", "geom", "kit", "fills", "ruler", "top", "plan", "marks", "placing", "relief", "route", "sewing", "advice", "balance", "proposals", "inspect", "logbook", "bench", "changes",
)  # fmt: skip
"""The rooms of the core, lowest first: each may know those before it, and none after it."""


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


@pytest.mark.parametrize("file", sorted((SRC / "core").rglob("*.py")), ids=lambda f: str(f.relative_to(SRC)))
def test_the_core_reads_no_clock(file):
    for node in ast.walk(ast.parse(file.read_text())):
        clock = isinstance(node, ast.Attribute) and node.attr in ("now", "today", "utcnow", "time")
        assert not (clock and getattr(node.value, "id", "") in ("date", "datetime", "time")), file.name


def inner_room(name):
    """The room of the core that a module lies in, by its dotted name."""
    parts = name.split(".")
    return parts[2] if parts[:2] == ["kenzet", "core"] and len(parts) > 2 else None


def test_every_room_of_the_core_has_its_floor():
    rooms = {p.stem for p in (SRC / "core").iterdir() if p.suffix == ".py" or (p / "__init__.py").exists()}
    assert rooms - {"__init__"} == set(FLOORS)


@pytest.mark.parametrize("file", sorted((SRC / "core").rglob("*.py")), ids=lambda f: str(f.relative_to(SRC)))
def test_no_arrow_in_the_core_runs_upwards(file):
    own = file.relative_to(SRC / "core").parts[0].removesuffix(".py")
    for name in imports(file):
        other = inner_room(name)
        if other and own in FLOORS:
            assert FLOORS.index(other) <= FLOORS.index(own), f"{own} imports {name}"


TOLERANT = [f for f in FILES if f.relative_to(SRC).parts[0] in ("core", "formats", "say", "store", "web")]
OF_A_STANDARD = {0.04045, 0.0031308}  # of the colour space of screens
OF_A_UNIT = {25.4, 12.7, 304.8, 914.4, 0.3048}  # mm, and m


def floats(tree):
    """Every number with a point in code, and whether it is one side of a comparison."""
    compared = {
        id(part) for node in ast.walk(tree) if isinstance(node, ast.Compare) for part in ast.walk(node)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, float) and node.value:
            yield abs(node.value), id(node) in compared, node.lineno


@pytest.mark.parametrize("file", TOLERANT, ids=lambda f: str(f.relative_to(SRC)))
def test_tolerances_and_units_have_their_names_in_one_place(file):
    """What is compared with is named, with its unit, in ``core/tolerances.py``; what a unit is stands in ``measure``."""
    for value, compared, line in floats(ast.parse(file.read_text())):
        bare = value <= (0.1 if compared else 1e-3) and value not in OF_A_STANDARD
        assert not bare or file.name == "tolerances.py", (
            f"line {line}: {value} wants a name in core/tolerances.py"
        )
        assert value not in OF_A_UNIT or file.name == "measure.py", (
            f"line {line}: {value} is a unit: see measure"
        )


def test_the_check_of_tolerances_sees_them():
    """The walk itself: a bare one in a comparison, a bare one in a product, a share that is none."""
    found = list(floats(ast.parse("x = 0.05 * y\nif a < 0.05 * b: pass\nz = 25.4 + 1e-6")))
    assert sorted(found) == [(1e-6, False, 3), (0.05, False, 1), (0.05, True, 2), (25.4, False, 3)]


def test_no_fill_is_named_outside_its_own_file():
    """A new fill is one new file: nobody asks which kind a fill is."""
    helpers = {
        "__init__",
        "base",
        "origin",
        "turned",
        "rhythm",
        "skipping",
        "edge_remainders",
        "manual_lines",
    }
    fills = {f.stem for f in (SRC / "core" / "fills").glob("*.py")} - helpers
    for file in FILES:
        if file.parent.name == "fills":
            continue
        for name in imports(file):
            assert name.rsplit(".", 1)[-1] not in fills or "fills" not in name, f"{file.name} imports {name}"
