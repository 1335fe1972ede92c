"""The texts of the pages, in the language of this process."""

from __future__ import annotations

from flask import Response

from kenzet.texts import of_pages
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer
from kenzet.web.wire import base as m

texts = Blueprint("texts", __name__, url_prefix="/api")


class TextsView(m.Wire):
    """For each text of the pages its translation; for a text with a count its plural forms by name. Empty for
    English, which is in the pages."""

    texts: dict[str, str | dict[str, str]]


@texts.get("/texts", responses={200: TextsView})
def spoken() -> Response:
    """The texts of the pages."""
    return answer(TextsView(texts=of_pages()))
