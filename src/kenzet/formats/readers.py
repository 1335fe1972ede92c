"""Reads a block from the bytes of a drawing file; runs in a separate process that loads only the reader it needs."""

from __future__ import annotations

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.top.bring import Brought, bring


def read_block(data: bytes, ending: str, width: Length | None) -> Brought:
    """The block that an SVG or DXF file (``ending`` says which) shows. Raises BadValue at ``file`` or ``width``."""
    if ending == "svg":
        from kenzet.formats.svg_in import read_svg as read_drawing
    else:
        from kenzet.formats.dxf_in import read_dxf as read_drawing
    sheet = read_drawing(data)
    try:
        return bring(sheet, width)
    except BadValue as error:  # what was left out may be why
        raise BadValue(" ".join([error.message, *sheet.said]), error.field) from error
