"""The web application: the API, its description, and the built front end."""

from pathlib import Path

from flask import request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from werkzeug.exceptions import RequestEntityTooLarge

from yellow_abacus import __version__
from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.tables import LARGEST_FILE
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web import bringing_in, carts, counting_board, delivery, frame, goods, offers, problems, tables
from yellow_abacus.web.context import Context
from yellow_abacus.web.uploads import Uploads

SITE = Path(__file__).parent / "site"

PLACES = (frame, goods, delivery, carts, counting_board, offers, bringing_in, tables)
"""One module a place; a new one joins here."""


def make_app(shop_file: ShopFile, carriers: Carriers | None = None) -> OpenAPI:
    """carriers: the quote service tariffs are fetched from, at its usual address if not said."""
    app = OpenAPI(
        __name__,
        info=Info(title="Yellow Abacus", version=__version__),
        validation_error_status=422,
        validation_error_model=problems.ProblemDoc,
        validation_error_callback=problems.on_invalid_request,
        doc_ui=False,
        static_folder=None,
    )
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_FILE + 100_000
    app.config["MAX_FORM_MEMORY_SIZE"] = 1_000_000
    app.extensions["yellow_abacus"] = Context(
        shop_file, CountingRoom(shop_file), Uploads(shop_file), carriers or Carriers()
    )
    problems.register(app)
    for place in PLACES:
        app.register_api(place.api)

    @app.route("/api/<path:anything>", methods=["GET", "POST", "PUT", "DELETE"])
    def no_such_thing(anything: str):
        raise problems.ApiError(404, "Not found", f"There is nothing at /api/{anything}.")

    @app.route("/")
    @app.route("/<path:name>")
    def site(name: str = ""):
        """The built front end; any other path is a place in it."""
        if name and (SITE / name).is_file():
            response = send_from_directory(SITE, name)
            if name.startswith("assets/"):
                response.cache_control.public = True
                response.cache_control.max_age = 31_536_000
            return response
        if not (SITE / "index.html").is_file():
            raise problems.ApiError(404, "Not built", "The front end has not been built yet: run `make build`.")
        response = send_from_directory(SITE, "index.html")
        response.cache_control.no_cache = True
        return response

    @app.before_request
    def refuse_too_large():
        """Before anything is parsed, so that the answer is the same whatever the request would hold."""
        if (request.content_length or 0) > app.config["MAX_CONTENT_LENGTH"]:
            raise RequestEntityTooLarge

    @app.after_request
    def headers(response):
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Content-Security-Policy"] = (
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'"
        )
        response.headers["Referrer-Policy"] = "same-origin"
        return response

    return app
