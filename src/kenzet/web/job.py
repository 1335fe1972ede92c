"""The job sheet of a quilt: everything that the plan says, put into sentences for paper."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue
from kenzet.formats.job_content import job_content, prep_steps
from kenzet.formats.job_sheet import job_pdf
from kenzet.web.request_context import answer, file_answer, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.job import JobQuery, PrepView

job = APIBlueprint("job", __name__, url_prefix="/api/quilts/<quilt>")


@job.get("/job.pdf")
def job_sheet(path: m.QuiltKey, query: JobQuery) -> Response:
    """One PDF for the sewing room."""
    kept, laid = laid_quilt(path.quilt)
    try:
        route = routes().soon(kept, laid).route
    except BadValue:  # nothing can be sewn yet
        route = None
    sheet = job_content(laid, route, kept.revision, query.unit, query.paper)
    return file_answer(job_pdf(sheet, query.paper, query.large), "application/pdf", "job-sheet.pdf")


@job.post("/prep", responses={200: PrepView})
def prep_view(path: m.QuiltKey) -> Response:
    """From the pressed top to the basted quilt."""
    _, laid = laid_quilt(path.quilt)
    quilt = laid.quilt
    return answer(PrepView(layered=quilt.layered, basted=quilt.basted, steps=prep_steps(laid)))
