"""Photographs and the colors of fabrics."""

from __future__ import annotations

from typing import Literal

from kenzet.web.wire import base as m


class PhotoOfHers(m.Wire):
    """Identifies a photograph."""

    photo: m.QuiltId


class PhotoView(m.Wire):
    """A stored photograph with its size in pixels."""

    id: str
    width: int
    height: int


class FabricColorView(m.Wire):
    """The color and print of a fabric's picture."""

    colour: str
    print: Literal["calm", "busy"]


class GroundQuery(m.Wire):
    """``of`` only makes the address differ between grounds."""

    version: str = ""
