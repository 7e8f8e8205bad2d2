"""Who may ask, and what a request may hold: checked before anything is done.

Only pages that this server gave out may change a shop, and only under the names it was started for: otherwise any
page in the browser could. What a body holds is text that every screen and file can show, and figures that every sum
can carry.
"""

from collections.abc import Collection
from dataclasses import dataclass
from ipaddress import ip_address
from urllib.parse import urlsplit

from flask import Flask, request
from werkzeug.exceptions import BadRequest

from yellow_abacus.files.sound_json import unsound
from yellow_abacus.listening import LOOPBACK
from yellow_abacus.web.problems import MOST_TOLD, ApiError, and_more, told

METHODS = ("GET", "POST", "PUT", "PATCH", "DELETE")
CHANGES = frozenset(["POST", "PUT", "PATCH", "DELETE"])
BODY_TYPES = frozenset(["application/json", "multipart/form-data"])


@dataclass(frozen=True)
class Hosts:
    """Names the server answers to. any_address: also to every address written in figures."""

    names: Collection[str] = LOOPBACK
    any_address: bool = False

    def has(self, host: str) -> bool:
        """host: as a request names it, with or without a port."""
        name = urlsplit(f"//{host}").hostname or ""
        return name in self.names or (self.any_address and _is_address(name))


THIS_MACHINE = Hosts()


def _is_address(name: str) -> bool:
    try:
        ip_address(name)
    except ValueError:
        return False
    return True


def register(app: Flask, hosts: Hosts) -> None:
    @app.before_request
    def only_ours() -> None:
        if not hosts.has(request.host):
            raise ApiError(421, "Not this server", f"This server does not answer to the name {request.host}.")
        if request.method in CHANGES:
            _refuse_other_pages()
            _refuse_other_bodies()


def _refuse_other_pages() -> None:
    origin, site = request.headers.get("Origin"), request.headers.get("Sec-Fetch-Site")
    same = origin is None or origin == f"{request.scheme}://{request.host}"
    if not same or site not in (None, "same-origin", "none"):
        raise ApiError(403, "Another page asks", "Only a page of Yellow Abacus itself may change the shop.")


def _refuse_other_bodies() -> None:
    has_body = bool(request.content_length) or "Transfer-Encoding" in request.headers
    if has_body and request.mimetype not in BODY_TYPES:
        raise ApiError(415, "Another kind of body", "Send JSON, or a form with a file.")
    if has_body and request.mimetype == "application/json":
        try:
            body = request.get_json()
            faults = list(unsound(body))
        except RecursionError:
            raise ApiError(422, "The request is not sound", "It is nested too deep to be read.") from None
        except BadRequest as error:
            raise ApiError(400, "Not JSON", "The request's body is not JSON that can be read.") from error
        if faults:
            detail = f"{faults[0].message} {faults[0].mend}{and_more(faults, MOST_TOLD)}"
            raise ApiError(422, "The request is not sound", detail, told(faults))
