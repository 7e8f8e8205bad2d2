"""The web application: the API, its description, and the built front end."""

from pathlib import Path

from flask import request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from werkzeug.exceptions import HTTPException, MethodNotAllowed, RequestEntityTooLarge

from yellow_abacus import __version__
from yellow_abacus.calculator import Calculator
from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.counting import CountingRoom
from yellow_abacus.giving_back import share_pools
from yellow_abacus.listening import SAFE_HEADERS
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web import (
    afterwards,
    bringing_in,
    carts,
    counting_board,
    delivery,
    frame,
    goods,
    guard,
    mixes,
    offers,
    orders,
    problems,
    running,
    side_by_side,
    tables,
    till,
    told_of_delivery,
    types,
    whole_files,
    year,
)
from yellow_abacus.web.context import Context
from yellow_abacus.web.sent_file import bound_of
from yellow_abacus.web.uploads import Uploads

AROUND = 100_000
"""Bytes of a request around a file in it."""

SITE = Path(__file__).parent / "site"

PLACES = (
    frame,
    goods,
    delivery,
    told_of_delivery,
    carts,
    mixes,
    types,
    orders,
    counting_board,
    offers,
    running,
    till,
    side_by_side,
    year,
    whole_files,
    afterwards,
    bringing_in,
    tables,
)
"""One module a place; a new one joins here."""


def _answers(app: OpenAPI, method: str) -> bool:
    """Whether the path asked for is something of ours when asked with this method."""
    try:
        endpoint, _ = app.url_map.bind_to_environ(request.environ).match(request.path, method=method)
    except HTTPException:
        return False
    return str(endpoint) != "no_such_thing"


def _is_file(path: Path) -> bool:
    try:
        return path.is_file()
    except (OSError, ValueError):  # names no file can have
        return False


def make_app(
    shop_file: ShopFile,
    carriers: Carriers | None = None,
    hosts: guard.Hosts = guard.THIS_MACHINE,
    feed: Feed | None = None,
) -> OpenAPI:
    """carriers: the quote service tariffs are fetched from, and feed: where orders are, at their usual addresses if
    not said. hosts: its names."""
    share_pools()
    app = OpenAPI(
        __name__,
        info=Info(title="Yellow Abacus", version=__version__),
        validation_error_status=422,
        validation_error_model=problems.ProblemDoc,
        validation_error_callback=problems.on_invalid_request,
        doc_ui=False,
        static_folder=None,
    )
    app.config["MAX_FORM_MEMORY_SIZE"] = 1_000_000
    app.extensions["yellow_abacus"] = Context(
        shop_file, CountingRoom(shop_file), Uploads(shop_file), carriers or Carriers(), feed or Feed(), Calculator()
    )
    problems.register(app)

    @app.before_request
    def refuse_too_large():
        """Before anything is parsed, so that the answer is the same whatever the request would hold."""
        most = request.max_content_length = bound_of(request.path).most + AROUND
        if (request.content_length or 0) > most:
            raise RequestEntityTooLarge

    guard.register(app, hosts)
    for place in PLACES:
        app.register_api(place.api)

    @app.route("/api/", defaults={"anything": ""}, methods=["GET", "POST", "PUT", "PATCH", "DELETE"])
    @app.route("/api/<path:anything>", methods=["GET", "POST", "PUT", "PATCH", "DELETE"])
    def no_such_thing(anything: str):
        allowed = [method for method in guard.METHODS if _answers(app, method)]
        if allowed:
            raise MethodNotAllowed(allowed)
        raise problems.ApiError(404, "Not found", f"There is nothing at /api/{anything[:200]}.")

    @app.route("/")
    @app.route("/<path:name>")
    def site(name: str = ""):
        """The built front end; any other path is a place in it."""
        if name and _is_file(SITE / name):
            response = send_from_directory(SITE, name)
            if name.startswith("assets/"):
                response.cache_control.public = True
                response.cache_control.max_age = 31_536_000
            return response
        if name.startswith("assets/"):
            raise problems.ApiError(404, "Not found", f"There is no /{name[:200]} any more: load the page again.")
        if not (SITE / "index.html").is_file():
            raise problems.ApiError(404, "Not built", "The front end has not been built yet: run `make build`.")
        response = send_from_directory(SITE, "index.html")
        response.cache_control.no_cache = True
        return response

    @app.after_request
    def headers(response):
        response.headers.update(SAFE_HEADERS)
        return response

    return app
