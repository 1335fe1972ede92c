"""A simulated printer: it renders a PDF to pictures, with given errors.

The margin of the paper stays white, as on real printers.
"""

from __future__ import annotations

import io
from collections.abc import Iterable
from dataclasses import dataclass

import pypdfium2
from PIL import Image

_PER_MM = 1 / 25.4
WHITE = (255, 255, 255)


@dataclass(frozen=True, slots=True)
class PrinterStandIn:
    """Prints stretched by ``across`` and ``up``, rotated by ``skew`` degrees, nothing within ``margin`` mm of the
    paper's edge, at ``dpi`` dots an inch."""

    across: float = 1.0
    up: float = 1.0
    skew: float = 0.0
    margin: float = 4.0
    dpi: int = 300

    def prints(self, data: bytes) -> Iterable[Image.Image]:
        """Every page as printed, in the size of its paper. Raises ValueError if it is no PDF."""
        try:
            document = pypdfium2.PdfDocument(data)
        except pypdfium2.PdfiumError as error:
            raise ValueError("This is no PDF that can be printed.") from error
        for page in document:
            yield self._paper(page.render(scale=self.dpi / 72).to_pil().convert("RGB"))

    def _paper(self, ideal: Image.Image) -> Image.Image:
        """Transforms a page about its center: paper is fed straight, and the driver scales it."""
        width, height = ideal.size
        scaled = ideal.resize(
            (max(round(width * self.across), 1), max(round(height * self.up), 1)), Image.Resampling.LANCZOS
        )
        if self.skew:
            scaled = scaled.rotate(self.skew, Image.Resampling.BICUBIC, fillcolor=WHITE)
        paper = Image.new("RGB", (width, height), WHITE)
        paper.paste(scaled, ((width - scaled.width) // 2, (height - scaled.height) // 2))
        rim = round(self.margin * self.dpi * _PER_MM)
        kept = Image.new("RGB", (width, height), WHITE)
        kept.paste(paper.crop((rim, rim, width - rim, height - rim)), (rim, rim))
        return kept


def png(picture: Image.Image, dpi: int) -> bytes:
    """A PNG file that states its resolution."""
    out = io.BytesIO()
    picture.save(out, "PNG", dpi=(dpi, dpi))
    return out.getvalue()
