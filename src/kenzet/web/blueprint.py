"""How the parts of the API are made: as the library's, but described only where a description is wanted."""

from __future__ import annotations

import os

from flask_openapi3 import APIBlueprint

WANTED = "KENZET_DESCRIBED"
"""Environment variable: set while the description of the API is made. To describe every request takes a second and a half, which a
start would wait for.
"""


class Blueprint(APIBlueprint):
    """Requests under one prefix."""

    def __init__(self, name: str, module: str, url_prefix: str) -> None:
        super().__init__(name, module, url_prefix=url_prefix, doc_ui=WANTED in os.environ)
