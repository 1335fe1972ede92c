"""The work before the first stitch."""

from __future__ import annotations

from flask import Response

from kenzet.formats.job_content import prep_steps
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire.job import PrepView

job = Blueprint("job", __name__, url_prefix="/api/quilts/<quilt>")


@job.post("/prep", responses={200: PrepView})
def prep_view(path: m.QuiltKey) -> Response:
    """From the pressed top to the basted quilt."""
    _, laid = laid_quilt(path.quilt)
    quilt = laid.quilt
    return answer(PrepView(layered=quilt.layered, basted=quilt.basted, steps=prep_steps(laid)))
