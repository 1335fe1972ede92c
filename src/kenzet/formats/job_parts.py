"""The parts of a job sheet before it is printed: words and drawings, block by block."""

from __future__ import annotations

from dataclasses import dataclass

from kenzet.core.geom.region import Floats, Point


@dataclass(frozen=True, eq=False)
class Picture:
    """A drawing of a block or of the quilt: patch outlines thin, stitched lines, marks dotted; ``numbers`` at their
    places.

    Lines of a ``way`` have an arrow and their number; ``travels`` between them are finely dotted, and so are
    ``freehand`` paths through a texture (indices into ``way``). mm, y up, from 0, 0 to ``size``.
    """

    size: Point
    seams: tuple[Floats, ...]
    lines: tuple[Floats, ...]
    marks: tuple[Floats, ...] = ()
    numbers: tuple[tuple[Point, str], ...] = ()
    way: tuple[Floats, ...] = ()
    travels: tuple[Floats, ...] = ()
    freehand: frozenset[int] = frozenset()


@dataclass(frozen=True)
class JobZone:
    """A zone on paper: its number in the picture, its name, sentences, and the strokes in order."""

    number: str
    name: str
    says: tuple[str, ...]
    strokes: tuple[str, ...]


@dataclass(frozen=True)
class JobBlock:
    """A kind of block with its zones."""

    name: str
    occurs: str
    picture: Picture
    zones: tuple[JobZone, ...]


@dataclass(frozen=True)
class JobRoute:
    """How a kind of block is sewn: its name, sentences, and its lines in order."""

    name: str
    says: tuple[str, ...]
    picture: Picture


@dataclass(frozen=True)
class JobOrder:
    """The sewing order of the quilt: the places numbered, the figures, and the route through each kind."""

    picture: Picture
    says: tuple[str, ...]
    ways: tuple[JobRoute, ...]


@dataclass(frozen=True)
class JobLook:
    """How the quilt will look: a JPEG of its relief with width and height in pixels, and sentences about thread
    and fills."""

    picture: bytes
    size: tuple[int, int]
    says: tuple[str, ...]


@dataclass(frozen=True)
class JobSheet:
    """The whole sheet; ``totals`` stand below the picture of the quilt, followed by the steps ``before`` the first
    stitch."""

    title: str
    subtitle: str
    picture: Picture
    totals: tuple[str, ...]
    before: tuple[str, ...]
    blocks: tuple[JobBlock, ...]
    order: JobOrder | None = None
    look: JobLook | None = None
