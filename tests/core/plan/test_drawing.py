"""A block of her own, drawn step by step."""

from __future__ import annotations

import pytest

from kenzet.core.errors import KenzetError
from kenzet.core.top.document import read, write
from kenzet.core.top.pick import picked
from tests.tops import after, wished

IN = 25.4
OWN = {"kind": "own block", "width": "8 in", "height": "8 in"}


def side(x0, y0, x1, y1, **more):
    return {"start": (x0, y0), "end": (x1, y1), **more}


def drawn(*changes):
    laid = after(wished(columns=2, rows=2, block="8 in"), OWN, *[{"key": "my-block", **c} for c in changes])
    return after(laid, {"kind": "paint", "places": ["1-1", "2-2"], "block": "my-block"})


def areas(laid):
    return {key: round(p.area.area / IN**2, 3) for key, p in laid.top.at["1-1"].patches.items()}


def test_seams_make_patches_that_can_be_coloured_laid_and_quilted():
    laid = drawn(
        {"kind": "seams", "sides": [side(0, 2, 4, 2), side(2, 0, 2, 4)]},
        {"kind": "recolour", "patches": {"piece-1": "accent"}},
    )
    assert sorted(areas(laid).values()) == [16, 16, 16, 16]
    assert laid.quilt.blocks["my-block"].fabric_of["piece-1"] == "accent"
    laid = after(laid, {"kind": "zone", "refs": picked(laid, "1-1/piece-1", "patch")})
    [zone] = laid.quilt.zones.values()
    assert zone.patches == ("piece-1",)
    more = after(laid, {"kind": "seams", "key": "my-block", "sides": [side(0, 1, 2, 1)]})
    assert more.quilt.zones  # the patch is still there, and its zone
    assert read(write(more.quilt)) == more.quilt


def test_a_seam_is_curved_by_its_rise_and_made_straight_again():
    laid = drawn({"kind": "seams", "sides": [side(0, 2, 4, 2, rise="1 in", left=True)]})
    # the segment of chord 8 and rise 1 is taken from one half and given to the other
    radius = 8**2 / 8 + 0.5
    assert radius == 8.5
    low, high = sorted(areas(laid).values())
    assert high - 32 == pytest.approx(32 - low, abs=0.002)
    assert high - 32 == pytest.approx(5.4, abs=0.1)  # about two thirds of chord times rise
    straight = after(laid, {"kind": "seam rise", "key": "my-block", "seam": 0, "rise": None})
    assert sorted(areas(straight).values()) == [32, 32]
    gone = after(straight, {"kind": "seams gone", "key": "my-block", "seams": [0]})
    assert areas(gone) == {"piece-1": 64}


def test_the_grid_changes_and_the_drawing_stays():
    laid = drawn({"kind": "seams", "sides": [side(1, 0, 4, 3, rise="1/2 in")]})
    other = after(laid, {"kind": "drawing grid", "key": "my-block", "columns": 3, "rows": 7})
    assert areas(other) == areas(laid)


def test_a_leaf_of_two_sides_is_appliqued_and_taken_off():
    leaf = [side(1, 1, 3, 3, rise="1/2 in", left=False), side(3, 3, 1, 1, rise="1/2 in", left=False)]
    laid = drawn({"kind": "applique", "sides": leaf, "fabric": "main"})
    found = areas(laid)
    assert found["applique-1"] + found["piece-1"] == pytest.approx(64, abs=0.001)
    assert found["applique-1"] == pytest.approx(2 * 2 / 3 * 5.657 * 0.5, rel=0.03)
    assert areas(after(laid, {"kind": "applique gone", "key": "my-block", "patch": "applique-1"})) == {
        "piece-1": 64
    }


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"kind": "seams", "sides": [side(1, 1, 1, 1)]}, "two different points"),
        ({"kind": "seams", "sides": [side(0, 0, 9, 1)]}, "in the block"),
        ({"kind": "seams", "sides": [side(0, 0, 4, 0, rise="7 in")]}, "at most 6 in"),
        ({"kind": "seams", "sides": [side(0, 2, 4, 2), side(0, 2, 4, 2)]}, "already"),
        ({"kind": "seam rise", "seam": 3}, "no number 4"),
        ({"kind": "seams gone", "seams": [0]}, "no number 1"),
        ({"kind": "applique gone", "patch": "piece-1"}, "no appliqué"),
        ({"kind": "applique", "sides": [side(0, 0, 1, 1), side(1, 1, 0, 0)], "fabric": "main"}, "enclose"),
        ({"kind": "applique", "sides": [side(0, 0, 1, 1), side(2, 1, 0, 0)], "fabric": "main"}, "must close"),
    ],
)
def test_what_cannot_be_drawn_is_said(change, says):
    with pytest.raises(KenzetError) as error:
        drawn(change)
    assert says in str(error.value)


def test_a_block_from_numbers_is_not_drawn_on():
    with pytest.raises(KenzetError, match="is drawn from its numbers"):
        after(
            wished(columns=1, rows=1, block="8 in"),
            {"kind": "seams", "key": "plain", "sides": [side(0, 0, 1, 1)]},
        )
