"""The job sheet and the work before the first stitch."""

from __future__ import annotations

from kenzet.core.top.document import Basted, Layered
from kenzet.formats.placement import Paper
from kenzet.web.wire import base as m


class PrepView(m.Wire):
    """How the layers are joined, and the steps before the first stitch, in order."""

    layered: Layered
    basted: Basted
    steps: list[str]


class JobQuery(m.Reading):
    """The paper, and whether to use large type."""

    paper: Paper = "letter"
    large: bool = False
