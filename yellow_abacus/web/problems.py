"""Every error the API answers has one shape: problem details (RFC 9457) with a pointer to each field at fault."""

from collections.abc import Callable, Sequence
from typing import Any

from flask import Flask, Response, make_response, request
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import HTTPException, MethodNotAllowed

from yellow_abacus.bring_in import RejectedRowsError
from yellow_abacus.calculator import SupersededError
from yellow_abacus.carrier_tariffs import NoSuchServiceError
from yellow_abacus.core.ground.problem import Path, Problem
from yellow_abacus.counting import NothingToCountError, UnsoundPlanError
from yellow_abacus.files.tables import UnreadableFileError
from yellow_abacus.outside import ServiceDownError
from yellow_abacus.ringing_up import UnsoundCartsError
from yellow_abacus.store.faults import ShopFileError, ShopFullError
from yellow_abacus.store.plans import PlanChangedError
from yellow_abacus.store.reading_back import NotReadBackError
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.web.sent_file import bound_of

MOST_TOLD = 100
"""Faults told in one answer; how many more there are is said."""
LONGEST_TOLD = 300
"""Letters of what a fault says: it may quote what was sent."""


class FieldProblem(BaseModel):
    """pointer: where, as a JSON pointer into the request."""

    pointer: str
    message: str
    mend: str


class ProblemDoc(BaseModel):
    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []


class ApiError(Exception):
    """Answered as a problem with this status."""

    def __init__(self, status: int, title: str, detail: str, errors: list[FieldProblem] | None = None) -> None:
        super().__init__(detail)
        self.problem = ProblemDoc(title=title, status=status, detail=detail, errors=errors or [])


def missing(what: str) -> ApiError:
    return ApiError(404, "Not found", f"{what} is not here any more. It may have been deleted.")


def _short(text: str) -> str:
    return text if len(text) <= LONGEST_TOLD else text[: LONGEST_TOLD - 1] + "…"


def and_more(found: Sequence[object], shown: int) -> str:
    """How many of what was found are not among the first that are shown."""
    return f" And {len(found) - shown} more." if len(found) > shown else ""


def told(problems: Sequence[Problem]) -> list[FieldProblem]:
    """The first problems, as they are answered."""
    return [
        FieldProblem(pointer=pointer(one.path), message=_short(one.message), mend=_short(one.mend))
        for one in problems[:MOST_TOLD]
    ]


def pointer(path: Path) -> str:
    return "".join("/" + str(step).replace("~", "~0").replace("/", "~1") for step in path)


def answer_problem(problem: ProblemDoc) -> Response:
    response = make_response(problem.model_dump_json(), problem.status)
    response.content_type = "application/problem+json"
    return response


def on_invalid_request(error: ValidationError) -> Response:
    """Answers what does not have the shape the API description asks for."""
    body = request.get_json(silent=True)
    found = error.errors(include_url=False)
    errors = [_told(one, body) for one in found[:MOST_TOLD]]
    detail = f"{errors[0].message} {errors[0].mend}{and_more(found, MOST_TOLD)}"
    return answer_problem(ProblemDoc(title="The request is not sound", status=422, detail=detail, errors=errors))


def register(app: Flask) -> None:
    def problem(status: int, title: str, detail: str, errors: list[FieldProblem] | None = None) -> Response:
        return answer_problem(ProblemDoc(title=title, status=status, detail=detail, errors=errors or []))

    _register_unsound(app, problem)
    _register_shop_file(app, problem)
    _register_counting(app, problem)

    @app.errorhandler(ApiError)
    def _api(error: ApiError) -> Response:
        return answer_problem(error.problem)

    @app.errorhandler(ServiceDownError)
    def _outside(error: ServiceDownError) -> Response:
        return problem(502, "A service outside cannot be asked", str(error))

    @app.errorhandler(PlanChangedError)
    def _changed(_: PlanChangedError) -> Response:
        return problem(409, "Changed elsewhere", "The plan was changed in another window. Load it again.")

    @app.errorhandler(UnreadableFileError)
    def _file(error: UnreadableFileError) -> Response:
        wrong = Problem(("file",), error.message, error.mend)
        return problem(422, "The file cannot be read", str(error), told([wrong]))

    @app.errorhandler(RejectedRowsError)
    def _rejected(error: RejectedRowsError) -> Response:
        return problem(409, "Some rows are not good", f"{error} Mend them, or bring in the good rows.")

    @app.errorhandler(413)
    def _large(_: HTTPException) -> Response:
        bound = bound_of(request.path)
        told = f"Up to {bound.most / 1e6:,.0f} MB can be brought in at a time. {bound.mend}"
        return problem(413, "The file is too large", told)

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Response:
        answer = problem(error.code or 500, error.name, error.description or error.name)
        if isinstance(error, MethodNotAllowed) and error.valid_methods:
            answer.headers["Allow"] = ", ".join(sorted(error.valid_methods))
        return answer

    @app.errorhandler(Exception)
    def _unforeseen(error: Exception) -> Response:
        app.logger.error("%s %s failed", request.method, request.path, exc_info=error)
        reads = request.method in ("GET", "HEAD")
        changed = "Nothing was changed." if reads else "Look whether it was changed before you change it again."
        return problem(500, "Something went wrong here", f"{changed} The server's log tells more.")


def _register_unsound(app: Flask, problem: Callable[[int, str, str, list[FieldProblem]], Response]) -> None:
    """What has the right shape and makes no sense: a plan, a shop's settings."""

    def summary(problems: Sequence[Problem]) -> str:
        first = " ".join(f"{_short(one.message)} {_short(one.mend)}" for one in problems[:3])
        return first + and_more(problems, 3)

    @app.errorhandler(UnsoundCartsError)
    def _cart(error: UnsoundCartsError) -> Response:
        one = [Problem(("cart", *problem.path[2:]), problem.message, problem.mend) for problem in error.problems]
        return problem(422, "The cart cannot be rung up", summary(one), told(one))

    @app.errorhandler(UnsoundPlanError)
    def _plan(error: UnsoundPlanError) -> Response:
        return problem(422, "The plan makes no sense yet", summary(error.problems), told(error.problems))

    @app.errorhandler(NoSuchServiceError)
    def _service(error: NoSuchServiceError) -> Response:
        wrong = Problem(("services",), str(error), "Choose from what they have.")
        return problem(422, "No such service", str(error), told([wrong]))

    @app.errorhandler(SettingsError)
    def _settings(error: SettingsError) -> Response:
        return problem(422, "This cannot be changed", summary(error.problems), told(error.problems))


def _register_counting(app: Flask, problem: Callable[..., Response]) -> None:
    @app.errorhandler(SupersededError)
    def _superseded(_: SupersededError) -> Response:
        return problem(409, "Asked anew", "A newer question of the same board took its place.")

    @app.errorhandler(NothingToCountError)
    def _nothing(error: NothingToCountError) -> Response:
        return problem(409, "Nothing to count", str(error))


def _register_shop_file(app: Flask, problem: Callable[..., Response]) -> None:
    """What the shop file does not take, and where it cannot be written."""

    @app.errorhandler(ShopFileError)
    def _shop_file(error: ShopFileError) -> Response:
        status = 507 if isinstance(error, ShopFullError) else 503
        answer = problem(status, "The shop cannot be written just now", str(error))
        answer.headers["Retry-After"] = "2"
        return answer

    @app.errorhandler(NotReadBackError)
    def _not_read_back(_: NotReadBackError) -> Response:
        return problem(422, "This cannot be kept", "A figure in it is larger than any can be. Nothing was changed.")


_MENDS = {
    "missing": "Add it.",
    "extra_forbidden": "Leave it out.",
    "unexpected_keyword_argument": "Leave it out.",
    "union_tag_not_found": "Say which kind it is.",
}


def _told(error: Any, body: Any) -> FieldProblem:
    path = _in_body(error["loc"], body)
    name = str(path[-1]) if path else "The request"
    kind = error["type"]
    if kind == "union_tag_invalid":
        return FieldProblem(
            pointer=pointer((*path, "kind")),
            message=_short(f"There is no kind “{error['ctx']['tag']}”."),
            mend=f"Use one of {error['ctx']['expected_tags']}.",
        )
    message = str(error["msg"]).removeprefix("Value error, ").replace("Input should", "It should")
    return FieldProblem(
        pointer=pointer(path), message=_short(f"{name}: {message}."), mend=_MENDS.get(kind, "Mend it.")
    )


def _in_body(loc: Path, body: Any) -> Path:
    """The location without the steps that only name a kind and are not keys of the request."""
    path: list[str | int] = []
    for number, step in enumerate(loc):
        at_end = number == len(loc) - 1
        inside = (isinstance(body, dict) and step in body) or (isinstance(body, list) and isinstance(step, int))
        if inside or at_end:
            path.append(step)
            if inside and not at_end:
                body = body[step]
    return tuple(path)
