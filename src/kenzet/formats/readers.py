"""A block out of a drawing, from its bytes on: what is run in a process of its own."""

from __future__ import annotations

from kenzet.core.numbers.measure import Length
from kenzet.core.top.bring import Brought, bring
from kenzet.formats.dxf_in import read_dxf
from kenzet.formats.svg_in import read_svg


def read_block(data: bytes, ending: str, width: Length | None) -> Brought:
    """The block that an SVG or DXF file (``ending`` says which) shows. Raises BadValue at ``file`` or ``width``."""
    return bring((read_svg if ending == "svg" else read_dxf)(data), width)
