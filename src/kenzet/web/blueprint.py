"""Blueprints of the API: the library's, but the description is only computed when it is needed."""

from __future__ import annotations

import os

from flask_openapi3 import APIBlueprint

WANTED = "KENZET_DESCRIBED"
"""Environment variable that is set while the description of the API is made. Describing every request takes one
and a half seconds, which a start should not wait for."""


class Blueprint(APIBlueprint):
    """Requests under one prefix."""

    def __init__(self, name: str, module: str, url_prefix: str) -> None:
        super().__init__(name, module, url_prefix=url_prefix, doc_ui=WANTED in os.environ)
