"""Small files that would stop the house are refused in seconds, and what reads them is ended."""

from __future__ import annotations

import io
import time

import pytest
from PIL import Image

from kenzet.core.errors import BadValue
from kenzet.formats import photo
from kenzet.formats.apart import MEMORY, apart
from kenzet.formats.readers import read_block

SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">{}</svg>'


def sleeping(seconds):
    time.sleep(seconds)
    return "awake"


def greedy(many):
    return len(bytearray(many))


def hostile(name):
    if name == "transforms":
        return SVG.format(f'<path d="M0 0H9V9Z" transform="{"translate(" * 18_000}"/>'), "svg"
    if name == "styles":
        return SVG.format(f"<style>{'.a{' * 60_000}</style><path class='a' d='M0 0H9V9Z'/>"), "svg"
    if name == "crossing lines":
        return SVG.format(
            "".join(f'<path d="M{k / 2} 0L{100 - k / 2} 100" stroke="#000"/>' for k in range(200))
        ), "svg"
    if name == "points":
        return SVG.format(f'<path d="M0 0{"".join(f"L{k % 97} {k % 89}" for k in range(300_000))}Z"/>'), "svg"
    nested = "".join(
        f"0\nBLOCK\n2\nB{k}\n70\n0\n10\n0\n20\n0\n"
        + f"0\nINSERT\n2\nB{k + 1}\n10\n0\n20\n0\n" * 10
        + "0\nENDBLK\n"
        for k in range(10)
    )
    return (
        f"0\nSECTION\n2\nBLOCKS\n{nested}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nB0\n10\n0\n20\n0\n0\nENDSEC\n0\nEOF\n",
        "dxf",
    )


@pytest.mark.parametrize("name", ["transforms", "styles", "crossing lines", "points", "nested inserts"])
def test_a_hostile_drawing_is_refused_or_read_within_the_limit(name):
    data, ending = hostile(name)
    began = time.monotonic()
    said = ""
    try:
        apart(read_block, data.encode(), ending, None, what="This drawing")
    except BadValue as error:
        said = error.message
    assert len(said) < 300
    assert time.monotonic() - began < 45  # the process is ended, however busy this machine is


def test_what_takes_too_long_is_ended():
    assert apart(sleeping, 0.01) == "awake"
    with pytest.raises(BadValue, match=r"takes longer than 0\.5 seconds"):
        apart(sleeping, 60, seconds=0.5)


def test_what_takes_too_much_room_is_refused():
    assert apart(greedy, 1000) == 1000
    with pytest.raises(BadValue, match="more memory"):
        apart(greedy, 2 * MEMORY)


@pytest.mark.parametrize("mode", ["RGB", "P"])
def test_a_picture_of_79_megapixels_is_made_smaller_within_the_limit(mode):
    out = io.BytesIO()
    Image.new(mode, (8900, 8900)).save(out, "PNG")
    assert len(out.getvalue()) < 1_000_000
    found = apart(photo.kept, out.getvalue(), what="This picture", seconds=60.0)
    assert max(found.width, found.height) == 3600


def test_a_see_through_picture_as_large_is_refused_by_its_size():
    out = io.BytesIO()
    Image.new("RGBA", (8900, 8900)).save(out, "PNG")
    with pytest.raises(BadValue, match="79 million pixels; at most 40 million"):
        apart(photo.kept, out.getvalue(), what="This picture")


@pytest.mark.parametrize("size", ["1e308", "inf", "nan", "1e30"])
def test_a_circle_without_end_is_no_fault_of_ours(size):
    data = f"0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n{size}\n0\nENDSEC\n0\nEOF\n"
    with pytest.raises(BadValue):
        apart(read_block, data.encode(), "dxf", None)
