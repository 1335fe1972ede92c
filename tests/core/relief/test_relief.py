"""How high the cloth stands: closed forms, the loft as a limit, symmetry, and a quilt's own picture of it."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image
from scipy.sparse import diags, identity, kron
from scipy.sparse.linalg import spsolve

from kenzet.core.relief.cloth import Raster, cloth_heights, lit
from kenzet.core.relief.heights import CHANNEL, SHARE, heights
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.formats.relief_picture import relief_picture, with_thread
from tests.jobs import block, whole

IN = 25.4
PIXEL = IN / 20
LOFT = 3.2
PRESSURE = 8 * SHARE * LOFT / CHANNEL**2


def strip(pixels, far=300):
    """Everything held but a channel of so many pixels from line to line."""
    held = np.ones((pixels + 41, far), dtype=bool)
    held[21 : 20 + pixels] = False
    return held


@pytest.mark.parametrize("pixels", [6, 10, 15, 20])
def test_a_strip_between_two_lines_is_a_parabola(pixels):
    found = heights(strip(pixels), PIXEL, LOFT)[:, 150]
    x = (np.arange(len(found)) - 20) * PIXEL
    wide = pixels * PIXEL
    wanted = np.where((x > 0) & (x < wide), PRESSURE * x * (wide - x) / 2, 0.0)
    assert found == pytest.approx(wanted, abs=0.01 * PRESSURE * wide**2 / 8)


def test_an_inch_rises_to_its_share_and_a_wide_channel_to_the_loft():
    assert heights(strip(20), PIXEL, LOFT).max() == pytest.approx(SHARE * LOFT, rel=0.01)
    assert heights(strip(80), PIXEL, LOFT).max() == pytest.approx(LOFT)


def test_a_square_is_what_a_direct_solution_of_the_same_sheet_is():
    many = 15
    held = np.ones((71, 71), dtype=bool)
    held[20 : 20 + many, 20 : 20 + many] = False
    line = diags([1.0, -2.0, 1.0], [-1, 0, 1], shape=(many, many))
    laplace = kron(line, identity(many)) + kron(identity(many), line)
    wanted = spsolve(laplace.tocsr(), np.full(many * many, -PRESSURE * PIXEL**2)).reshape(many, many)
    found = heights(held, PIXEL, LOFT)[20 : 20 + many, 20 : 20 + many]
    assert found == pytest.approx(wanted, abs=0.01 * wanted.max())


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_it_is_never_above_the_loft_and_lies_on_every_stitch(seed):
    held = np.random.default_rng(seed).random((130, 170)) < 0.01
    found = heights(held, PIXEL, LOFT)
    assert found.max() <= LOFT + 1e-6
    assert found.min() >= 0
    assert not found[held].any()
    assert found[~held].min() > 0


def test_alike_on_both_sides_where_the_stitches_are():
    held = np.zeros((120, 120), dtype=bool)
    held[:, 20::20] = True
    held[20::20] = True
    held |= held[::-1] | held[:, ::-1]
    found = heights(held, PIXEL, LOFT)
    for other in (found[::-1], found[:, ::-1], found.T):
        assert found == pytest.approx(other, abs=0.01 * LOFT)


def laid(spacing):
    return whole(block("Plain", "8 in"), {"kind": "lines", "spacing": spacing, "angle": 0})


def test_a_block_of_lines_an_inch_apart_rises_between_them():
    one = laid("1 in")
    raster = Raster.over(one, 160)
    assert (raster.rows, raster.columns) == (160, 160)
    found, held = cloth_heights(one, raster)
    loft = float(one.quilt.kit.batting.thickness.mm)
    middle = found[:, 80]
    assert held[:, 80].sum() >= 7
    assert middle[25:135].max() == pytest.approx(SHARE * loft, rel=0.12)  # lines fall on whole pixels
    closer, _ = cloth_heights(laid("1/2 in"), raster)
    assert closer.mean() < 0.5 * found.mean()


def test_light_falls_from_its_side_and_the_back_is_mirrored():
    one = laid("1 in")
    raster = Raster.over(one, 160)
    found, held = cloth_heights(one, raster)
    gray = np.full((160, 160, 3), 150, dtype=np.uint8)
    lines = np.flatnonzero(held[:, 80])
    below, over = lines[1:-2] + 3, lines[2:-1] - 3  # what rises from a line, and what falls to the next
    for light, brighter, darker in (("above", over, below), ("left", over, below)):
        shown = lit(gray, found, held, raster.wide, light)[:, 80, 0].astype(int)
        if light == "above":
            assert abs(shown[brighter].mean() - shown[darker].mean()) > 20
        else:  # it falls along the lines: both flanks are lit alike
            assert shown[brighter].mean() == pytest.approx(shown[darker].mean(), abs=4)
    held[:, :40] = True
    back = lit(gray, found, held, raster.wide, "above", back=True)
    assert (back[:, -40:] < 150).any()


@pytest.mark.parametrize("kind", ["png", "jpeg"])
def test_a_picture_is_as_large_as_it_is_asked_for_and_never_finer_than_a_stitch(kind):
    one = laid("1/2 in")
    picture = Image.open(io.BytesIO(relief_picture(one, 100, kind=kind)))
    assert picture.size == (100, 100)
    assert Image.open(io.BytesIO(relief_picture(one, 2000))).size == (160, 160)


def test_a_freehand_texture_is_held_as_it_is_drawn_and_an_open_block_is_not():
    raster = Raster.over(laid("1 in"), 160)
    texture, held = cloth_heights(whole(block("Plain", "8 in"), {"kind": "texture"}), raster)
    open_, free = cloth_heights(whole(block("Plain", "8 in"), {"kind": "grid", "use": "drawn"}), raster)
    assert held.sum() > 500
    assert not free.any()
    assert texture.mean() < 0.8 * open_.mean()


def test_stitches_take_the_color_of_the_thread_as_far_as_it_covers_a_pixel():
    fabric = np.full((4, 4, 3), 200, dtype=np.uint8)
    sewn = np.eye(4, dtype=bool)
    fine, coarse = with_thread(fabric, sewn, "#ff0000", 0.3), with_thread(fabric, sewn, "#ff0000", 6.0)
    assert (fine[sewn] == (255, 0, 0)).all() and (fine[~sewn] == 200).all()
    assert (coarse[sewn] == (205, 180, 180)).all()


def test_a_busy_print_is_mottled_and_a_calm_one_is_not():
    """The ground of the demo, calm and busy, where no stitch and no seam lies."""
    calm = demo_quilts()[0]
    ground = {
        **calm.fabrics,
        **{key: one.model_copy(update={"print": "busy"}) for key, one in calm.fabrics.items()},
    }
    busy = calm.model_copy(update={"fabrics": ground, "zones": {}})
    spread = []
    for quilt in (calm.model_copy(update={"zones": {}}), busy):
        picture = Image.open(io.BytesIO(relief_picture(QuiltLayout(quilt), 660, kind="png"))).convert("L")
        spread.append(float(np.asarray(picture, dtype=float)[8:32, 60:460].std()))  # in the border
    assert 2 * spread[0] < 4.0 < spread[1]
