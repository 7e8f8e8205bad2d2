"""Answers that come line by line, each a JSON document of its own, while the work goes on."""

from collections.abc import Callable, Iterator

from flask import Response, stream_with_context
from pydantic import BaseModel

from yellow_abacus.calculator import SupersededError
from yellow_abacus.counting import UnsoundPlanError
from yellow_abacus.web.context import context
from yellow_abacus.web.description import BY_LINE


def by_line(
    found: Iterator[BaseModel], what: str, stopped: Callable[[UnsoundPlanError], BaseModel] | None = None
) -> Response:
    """Long work, one turn a line; it ends when nobody listens, or the same is asked anew. stopped: the last line
    where the plan turns out to make no sense."""
    at = context()

    def lines() -> Iterator[str]:
        try:
            while True:
                with at.turn("long", what):
                    one = next(found)
                yield one.model_dump_json() + "\n"
        except (StopIteration, SupersededError):
            return
        except UnsoundPlanError as error:
            if stopped is None:
                raise
            yield stopped(error).model_dump_json() + "\n"

    return Response(stream_with_context(lines()), content_type=BY_LINE)
