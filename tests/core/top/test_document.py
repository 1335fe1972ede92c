"""The plan format: what is read, what is refused, and where the fault is said to lie."""

from __future__ import annotations

import copy
import json
from pathlib import Path

import pytest

from kenzet.core.errors import BadValue
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.document import read, write
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats import plan_file
from tests.conftest import DEMO


def test_a_plan_file_comes_back_as_it_was(demo):
    assert plan_file.load(plan_file.dump(demo)) == demo
    assert read(write(demo)) == demo


def test_lengths_without_a_unit_are_in_the_readers_unit(demo):
    data = write(demo)
    data["zones"]["sashing"]["fill"]["spacing"] = "12"
    assert read(data, "mm").zones["sashing"].fill.spacing.text == "12 mm"


def put(data, path, value):
    *way, last = path
    for step in way:
        data = data[step]
    if value is None:
        del data[last]
    else:
        data[last] = value


@pytest.mark.parametrize(
    ("path", "value", "field", "says"),
    [
        (["format"], "other", "format", "kenzet.plan"),
        (["version"], 4, "version", "versions 1 to 3"),
        (["name"], "", "name", "at least 1"),
        (["name"], None, "name", "missing"),
        (["surprise"], 1, "surprise", "no setting called “surprise”"),
        (["fabrics", "cream", "colour"], "red", "fabrics.cream.colour", "hexadecimal"),
        (["blocks", "star", "width"], "0 in", "blocks.star.width", "between"),
        (["blocks", "star", "art", "fabrics", "centre"], "silk", "fabrics", "no fabric called silk"),
        (["layout", "rows"], [[{"block": "moon"}]], "layout", "no block called moon"),
        (["layout", "rows"], [[{"block": "star"}], [{"block": "star"}] * 2], "layout.rows", "same number"),
        (["layout", "rows", 0, 0, "turns"], 4, "layout.rows.0.0.turns", "must be 3 or less"),
        (["zones", "border", "patches"], ["nothing"], "zones.border", "not there"),
        (["zones", "border", "part"], "star", "zones.border", "not there"),
        (["zones", "star-centre", "patches"], ["corner-nw"], "zones.star-centre", "another zone"),
        (["zones", "sashing", "fill", "spacing"], "1/0", "zones.sashing.fill.spacing", "divided by 0"),
        (["zones", "sashing", "fill", "kind"], "fur", "zones.sashing.fill", "fur"),
        (["kit", "foot", "offset"], "0 mm", "kit.foot.offset", "between 1.6 mm and 25.4 mm"),
        (
            ["kit", "rulers", "straight-ruler", "etched"],
            "thirds",
            "kit.rulers.straight-ruler.etched",
            "not a length",
        ),
        (["kit", "rulers", "straight-ruler", "etched"], [], "kit.rulers.straight-ruler.etched", "quarters"),
        (["kit", "marking_step"], 0.125, "kit.marking_step", "text with its unit"),
        (["name"], "Star\nof Ella", "name", "one line"),
        (["name"], "Star\u202eallE", "name", "one line"),
        (["use"], "x" * 500, "use", "“x{40}…” was given"),
        (["blocks"], 7, "blocks", "^Enter settings by their names.$"),
        (["layout"], {"kind": "spiral"}, "layout", "^It must be one of .*; “spiral” was given.$"),
    ],
)
def test_a_fault_is_said_at_its_field(demo, path, value, field, says):
    data = copy.deepcopy(write(demo))
    put(data, path, value)
    with pytest.raises(BadValue, match=says) as error:
        read(data)
    assert error.value.field == field


@pytest.mark.parametrize("data", [b"", b"{", b"[]", b"null", b"7", b"[" * 100_000, b"\xff\xfe"])
def test_what_is_not_a_plan_is_said(data):
    with pytest.raises(BadValue):
        plan_file.load(data)


def test_too_large_a_file_is_refused_unread():
    with pytest.raises(BadValue, match="4 MB"):
        plan_file.load(b" " * (plan_file.MOST_BYTES + 1))


def test_the_demo_is_written_as_we_write_plans(demo):
    assert json.loads(DEMO.read_bytes()).keys() == write(demo).keys()


def test_a_plan_of_version_1_is_read_as_the_same_quilt():
    quilt = plan_file.load((Path(__file__).parent / "plan-version-1.json").read_bytes())
    laid = QuiltLayout(quilt)
    assert quilt.version == 3
    assert (laid.top.width / 25.4, laid.top.height / 25.4) == pytest.approx((52, 66))
    assert list(quilt.blocks["star"].fabric_of)[:2] == ["corner-nw", "corner-ne"]
    held = sum(s.region.area.area * len(s.places) for z in quilt.zones.values() for s in laid.shapes(z))
    assert held == pytest.approx(laid.top.width * laid.top.height)  # every patch of it was in a zone
    assert plan_quilt(laid).keys() == {key for key, zone in quilt.zones.items() if zone.fill}
    assert quilt.edge.mm == 0  # lines that reached the edge still do
