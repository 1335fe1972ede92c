"""Photographs and the colors of fabrics."""

from __future__ import annotations

from typing import Literal

from kenzet.web.wire import base as m


class PhotoOfHers(m.Wire):
    """Which photograph."""

    photo: m.QuiltId


class PhotoView(m.Wire):
    """A photograph that is kept, with its size in pixels."""

    id: str
    width: int
    height: int


class FabricColorView(m.Wire):
    """What a picture of a fabric tells."""

    colour: str
    print: Literal["calm", "busy"]


class GroundQuery(m.Wire):
    """``of`` tells one ground from another; nothing is done with it."""

    version: str = ""
