"""Photographs: read, rotated upright, stripped of everything but their pixels, and straightened."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFile, ImageOps

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.texts import tr

MOST_BYTES = 25_000_000
_MOST_PIXELS = 80_000_000
_KEPT_SIDE = 3600
_MOST_KEPT = 6_000_000  # bytes: what the database takes at once, with room
_FLAT_SIDE = 2000
_COLOR_SIDE = 96


@dataclass(frozen=True, slots=True)
class Photo:
    """A JPEG encoded again from its pixels, with its size in pixels; ``scale`` is its size relative to the
    original."""

    jpeg: bytes
    width: int
    height: int
    scale: float = 1.0


def kept(data: bytes) -> Photo:
    """A photograph as it is stored: upright, at most ``_KEPT_SIDE`` pixels a side, without time or location.

    Raises BadValue at ``file``.
    """
    image = _read(data, _KEPT_SIDE, Image.Resampling.LANCZOS)
    was = max(Image.open(io.BytesIO(data)).size)
    return Photo(_jpeg(image), image.width, image.height, max(image.size) / was)


def colors(jpeg: bytes) -> NDArray[np.uint8]:
    """The pixels of a stored photograph, (rows, columns, 3)."""
    return np.asarray(Image.open(io.BytesIO(jpeg), formats=["JPEG"]).convert("RGB"))


def pixels(data: bytes) -> Floats:
    """A photograph reduced for judging its print, (rows, columns, 3), 0 to 255. Raises BadValue at ``file``."""
    image = _read(data, _COLOR_SIDE, Image.Resampling.BOX)
    found: Floats = np.asarray(image, dtype=float)
    return found


def jpeg_of(picture: NDArray[np.uint8]) -> bytes:
    """A picture (rows, columns, 3) as a JPEG file."""
    return _jpeg(Image.fromarray(picture))


def flat_size(width: float, height: float) -> tuple[int, int]:
    """The size in pixels for straightening an area of ``width`` by ``height`` mm."""
    scale = _FLAT_SIDE / max(width, height)
    return max(1, round(width * scale)), max(1, round(height * scale))


def straightened(jpeg: bytes, size: tuple[int, int], eight: Floats) -> bytes:
    """A JPEG of ``size``; pixel (x, y) is taken from the place in ``jpeg`` to which the homography ``eight`` maps
    it."""
    image = Image.open(io.BytesIO(jpeg), formats=["JPEG"])
    flat = image.transform(size, Image.Transform.PERSPECTIVE, eight.tolist(), Image.Resampling.BICUBIC)
    return _jpeg(flat)


def _read(data: bytes, side: int, by: Image.Resampling) -> Image.Image:
    """The picture, reduced while reading to at most ``side`` pixels a side, so that a large one needs its memory
    only once."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image: Image.Image = Image.open(io.BytesIO(data), formats=["JPEG", "PNG"])
        most = (
            _MOST_PIXELS if image.mode in ("RGB", "L", "P", "1") else _MOST_PIXELS // 2
        )  # see-through ones take twice the room
        if image.width * image.height > most:
            raise BadValue(
                tr(
                    "This picture has {width} million pixels; at most {most} million can be read. Save it smaller.",
                    width=f"{image.width * image.height / 1000000.0:.0f}",
                    most=f"{most / 1000000.0:.0f}",
                ),
                "file",
            )
        if isinstance(image, ImageFile.ImageFile):
            image.draft("RGB", (side, side))
        if image.mode in ("P", "PA", "1"):
            image = image.convert("RGBA" if "transparency" in image.info else "RGB")
        image.thumbnail((side, side), by)
        upright = ImageOps.exif_transpose(image)
        if upright.mode in ("RGBA", "LA", "PA", "P"):
            upright = upright.convert("RGBA")
            white = Image.new("RGBA", upright.size, "white")
            upright = Image.alpha_composite(white, upright)
        return upright.convert("RGB")
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        if isinstance(error, BadValue):
            raise
        raise BadValue(tr("This JPEG or PNG file is damaged or incomplete."), "file") from error


def _jpeg(image: Image.Image) -> bytes:
    bare = Image.new("RGB", image.size)
    bare.paste(image)  # pixels alone: neither place nor camera comes along
    data = b""
    for quality in (86, 75, 60, 45):
        out = io.BytesIO()
        bare.save(out, "JPEG", quality=quality, optimize=True)
        data = out.getvalue()
        if len(data) <= _MOST_KEPT:
            break
    return data
