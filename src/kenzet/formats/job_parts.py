"""What a job sheet holds, before it is printed: words and drawings, block by block."""

from __future__ import annotations

from dataclasses import dataclass

from kenzet.core.geom.region import Floats, Point


@dataclass(frozen=True, eq=False)
class Picture:
    """What is drawn of a block or of the quilt: patches' outlines thin, stitched lines, marks dotted; ``numbers`` stand
    where they belong. Lines of a ``way`` have an arrow and their number, ``travels`` between them are finely dotted, and so are
    those that go ``freehand`` through a texture (their places in ``way``). mm, y up, from 0, 0 to ``size``.
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
    """A zone as it is told: its number in the picture, its name, sentences, and the strokes in order."""

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
class JobWay:
    """How a kind of block is sewn: its name, what is said of it, and its lines in order."""

    name: str
    says: tuple[str, ...]
    picture: Picture


@dataclass(frozen=True)
class JobOrder:
    """In which order the quilt is sewn: the places numbered, what it takes, and the way through each kind."""

    picture: Picture
    says: tuple[str, ...]
    ways: tuple[JobWay, ...]


@dataclass(frozen=True)
class JobLook:
    """How the quilt will look: a JPEG of its relief with its width and height in pixels, and what is said of thread and fills."""

    picture: bytes
    size: tuple[int, int]
    says: tuple[str, ...]


@dataclass(frozen=True)
class JobSheet:
    """All of it; ``totals`` are told under the quilt, and then what is done ``before`` the first stitch, in order."""

    title: str
    subtitle: str
    picture: Picture
    totals: tuple[str, ...]
    before: tuple[str, ...]
    blocks: tuple[JobBlock, ...]
    order: JobOrder | None = None
    look: JobLook | None = None
