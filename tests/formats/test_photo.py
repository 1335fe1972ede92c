"""Photographs: only their pixels are kept, the right way up; what is none is refused."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image, ImageDraw

from kenzet.core.errors import BadValue
from kenzet.core.top.ground import straightening
from kenzet.formats import photo
from tests.pictures import picture


def test_where_it_was_taken_is_not_kept_and_it_stands_upright():
    exif = Image.Exif()
    exif[0x0112] = 6  # taken with the camera on its side
    exif[0x010F] = "a camera"
    exif.get_ifd(0x8825)[1] = "N"
    found = photo.kept(picture(exif=exif))
    assert (found.width, found.height) == (40, 60)
    again = Image.open(io.BytesIO(found.jpeg))
    assert dict(again.getexif()) == {}
    assert b"a camera" not in found.jpeg
    assert again.getpixel((20, 5))[2] > 200  # what lay left is on top


def test_a_large_one_is_made_smaller_and_a_see_through_one_lies_on_white():
    assert max(photo.kept(picture(size=(5000, 100))).width, 0) == 3600
    found = photo.kept(picture("PNG", mode="RGBA"))
    assert min(Image.open(io.BytesIO(found.jpeg)).getpixel((3, 3))) > 250
    assert photo.kept(picture("PNG", mode="L")).width == 60


@pytest.mark.parametrize(
    "data",
    [b"", b"no picture", picture()[:200], picture("GIF"), picture("TIFF"), b"<svg xmlns='http://www.w3.org/2000/svg'/>"],
)  # fmt: skip
def test_what_is_no_picture_is_refused(data):
    with pytest.raises(BadValue) as error:
        photo.kept(data)
    assert error.value.field == "file"


def test_more_pixels_than_can_be_read_are_refused_before_they_are_read():
    with pytest.raises(BadValue, match="million pixels"):
        photo.kept(picture("PNG", size=(20_000, 4_500), mode="1"))


def test_a_skewed_square_comes_out_straight():
    image = Image.new("RGB", (200, 200), "white")
    corners = ((0.2, 0.1), (0.9, 0.2), (0.8, 0.95), (0.1, 0.8))
    ImageDraw.Draw(image).polygon([(x * 200, y * 200) for x, y in corners], fill="navy")
    out = io.BytesIO()
    image.save(out, "JPEG", quality=95)
    flat = photo.straightened(out.getvalue(), (120, 160), straightening(corners, (200, 200), (120, 160)))
    pixels = np.asarray(Image.open(io.BytesIO(flat)))
    assert pixels.shape == (160, 120, 3)
    assert pixels[4:-4, 4:-4, 0].max() < 60  # navy to the edges, and nothing else


def test_the_size_follows_the_quilt():
    assert photo.flat_size(1000, 500) == (2000, 1000)
    assert photo.flat_size(10, 5000) == (4, 2000)
