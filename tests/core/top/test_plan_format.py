"""The page about the plan format says what the code means: its version, and every field of the document."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.top.document import VERSION, Quilt
from kenzet.core.top.ground import Ground
from kenzet.core.top.stitching import Pace, Stitching
from kenzet.core.top.zone import Zone

PAGE = (Path(__file__).resolve().parents[3] / "docs" / "plan-format.md").read_text()


def test_the_page_names_the_version_that_is_written_and_those_that_are_read():
    assert PAGE.startswith(f"# The plan format, version {VERSION}\n")
    assert f"`version` is `{VERSION}`" in PAGE
    older = re.search(r"Versions (.+?) are read", PAGE).group(1)
    assert {int(number) for number in re.findall(r"\d+", older)} == set(range(1, VERSION))


@pytest.mark.parametrize(
    "model", [Quilt, Zone, Stitching, Pace, Kit, Ground], ids=lambda model: model.__name__
)
def test_the_page_names_every_field(model):
    assert [name for name in model.model_fields if f"`{name}`" not in PAGE] == []


def test_what_the_page_says_of_fills_is_there():
    """Each parameter that the table names belongs to some fill."""
    table = PAGE[PAGE.index("| fills | parameters |") :].split("\n\n", 1)[0]
    told = {
        name
        for row in table.splitlines()[2:]
        if row.startswith("|")
        for name in re.findall(r"`(\w+)`", row.split("|")[2])
    }
    known = {name for fill in FILLS.values() for name in fill.model_fields}
    values = {
        "true",
        "step",
        "centre",
        "edge",
        "corner",
        "point",
        "all",
        "outline",
        "inner",
        "mitred",
        "bevelled",
        "round",
    }
    assert told & known
    assert told - known - values == set()
