"""The API description: what the code says of itself, with what is true of every answer."""

import copy
from typing import Any

from flask_openapi3 import OpenAPI

from yellow_abacus.web.attachments import KINDS, Kind
from yellow_abacus.web.routes import Routes

PROBLEMS = {
    400: "Not a request that can be read",
    403: "Another page asks",
    404: "There is no such thing",
    405: "It is asked in another way",
    409: "It does not fit what the shop has",
    410: "It is gone",
    413: "Too large",
    415: "Another kind of body",
    421: "Another server is meant",
    422: "It makes no sense; every field at fault is named",
    500: "Something went wrong here",
    502: "A service that was asked did not answer as agreed",
    503: "The shop cannot be written just now",
    507: "There is no room to write",
}
"""What any request may be answered with; all in one shape."""

BY_LINE = "application/x-ndjson"
COME_BY_LINE = ("/api/leaks", "/api/history-says", "/api/better")
"""What is answered line by line, each a JSON document of its own."""

_PROBLEM = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/ProblemDoc"}}}


def file_of(*kinds: Kind) -> dict[str, Any]:
    """The answer that is a file of one of the kinds."""
    content = {KINDS[one]: {"schema": {"type": "string", "format": "binary"}} for one in kinds}
    return {"description": "A file", "content": content}


def description(app: OpenAPI) -> dict[str, Any]:
    """The API as OpenAPI describes it."""
    for routes in app.blueprints.values():
        if isinstance(routes, Routes):
            routes.describe()
            app.paths |= routes.paths
            app.components_schemas |= routes.components_schemas
            app.tags += [tag for tag in routes.tags if tag not in app.tags]
    told: dict[str, Any] = copy.deepcopy(app.api_doc)
    told["components"] = {key: value for key, value in told["components"].items() if value is not None}
    told["components"]["responses"] = {
        f"Problem{status}": {"description": says, "content": _PROBLEM} for status, says in PROBLEMS.items()
    }
    for name, path in told["paths"].items():
        for operation in path.values():
            answers = operation["responses"]
            if name in COME_BY_LINE:
                answers["200"]["content"] = {BY_LINE: answers["200"]["content"].pop("application/json")}
            answers |= {str(status): {"$ref": f"#/components/responses/Problem{status}"} for status in PROBLEMS}
            operation["responses"] = dict(sorted(answers.items()))
    return told
