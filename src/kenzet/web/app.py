"""The application: its settings and its parts."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from flask import Response, abort, send_from_directory
from flask_openapi3 import Info, OpenAPI

from kenzet import __version__
from kenzet.store.pool import Pool
from kenzet.texts import ENGLISH, LANGUAGE
from kenzet.web import guard
from kenzet.web.backups import backups
from kenzet.web.balance import balance
from kenzet.web.begin import begin
from kenzet.web.bench import bench
from kenzet.web.drawing import drawing
from kenzet.web.exports import EXPORTS, blueprint
from kenzet.web.inspections import inspections
from kenzet.web.inventory import inventory
from kenzet.web.job import job
from kenzet.web.kit import kit
from kenzet.web.log import log
from kenzet.web.log_import import log_import
from kenzet.web.machine import machine
from kenzet.web.marks import marks
from kenzet.web.photos import photos
from kenzet.web.pin_options import pins
from kenzet.web.printers import printers
from kenzet.web.proposals import proposals
from kenzet.web.quilts import quilts
from kenzet.web.recipes import recipes
from kenzet.web.relief import relief
from kenzet.web.route import route
from kenzet.web.route_search import search
from kenzet.web.schedule import sessions
from kenzet.web.sewing import sewing
from kenzet.web.state.cards import Cards
from kenzet.web.state.layouts import Layouts
from kenzet.web.state.logs import Logs
from kenzet.web.state.machines import Machines
from kenzet.web.state.routes import Routes
from kenzet.web.state.searches import Searches
from kenzet.web.swatches import swatches
from kenzet.web.table import table
from kenzet.web.texts import texts
from kenzet.web.top import top
from kenzet.web.variants import variants
from kenzet.web.wire.base import Problem
from kenzet.web.zones import zones


@dataclass(frozen=True, slots=True)
class Settings:
    """``pool`` reaches the database; ``pages`` has the built front end, or None; ``backups`` has the daily copies,
    ``routes`` the last route of each quilt."""

    pool: Pool | None
    pages: Path | None = None
    backups: Path | None = None
    routes: Path | None = None


def create_app(settings: Settings) -> OpenAPI:
    """A WSGI application that serves the API under /api and the front end elsewhere."""
    app = OpenAPI(
        __name__,
        info=Info(title="Kenzet", version=__version__),
        static_folder=None,
        doc_ui=False,
        validation_error_status=422,
        validation_error_model=Problem,
        validation_error_callback=guard.wrong_form,
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.extensions["pool"] = settings.pool
    app.extensions["backups"] = settings.backups
    app.extensions["layouts"] = Layouts()
    app.extensions["cards"] = Cards()
    app.extensions["logs"] = Logs()
    app.extensions["routes"] = Routes(settings.routes)
    app.extensions["searches"] = Searches()
    app.extensions["machines"] = Machines()
    guard.install(app)
    app.register_api(quilts)
    app.register_api(top)
    app.register_api(drawing)
    app.register_api(photos)
    app.register_api(zones)
    app.register_api(bench)
    app.register_api(printers)
    app.register_api(blueprint(EXPORTS))
    app.register_api(table)
    app.register_api(job)
    app.register_api(log)
    app.register_api(log_import)
    app.register_api(sessions)
    app.register_api(inspections)
    app.register_api(swatches)
    app.register_api(balance)
    app.register_api(proposals)
    app.register_api(relief)
    app.register_api(route)
    app.register_api(pins)
    app.register_api(search)
    app.register_api(sewing)
    app.register_api(machine)
    app.register_api(variants)
    app.register_api(recipes)
    app.register_api(marks)
    app.register_api(kit)
    app.register_api(inventory)
    app.register_api(backups)
    app.register_api(begin)
    app.register_api(texts)
    if settings.pages:
        _serve_pages(app, settings.pages)
    return app


def _in_language(index: str) -> Response:
    """The entry page, with the language in its ``lang`` attribute, from which the pages read it."""
    return Response(index.replace(f'lang="{ENGLISH}"', f'lang="{LANGUAGE}"', 1), mimetype="text/html")


LONGEST_NAME = 200
"""Longest name of a file or page; longer ones do not exist."""


def _serve_pages(app: OpenAPI, pages: Path) -> None:
    """Files of the built front end; every other address is a page within it."""

    def page(name: str = "index.html") -> Response:
        if max(map(len, name.split("/"))) > LONGEST_NAME:
            abort(404)
        if name.startswith("api/") or (name.startswith("assets/") and not (pages / name).is_file()):
            abort(404)
        if name == "index.html" or not (pages / name).is_file():
            response = _in_language((pages / "index.html").read_text())
        else:
            response = send_from_directory(pages, name)
        lasting = name.startswith("assets/")
        response.headers["Cache-Control"] = "max-age=31536000, immutable" if lasting else "no-cache"
        return response

    app.add_url_rule("/", "home", page)
    app.add_url_rule("/<path:name>", "page", page)
