"""Shapes as pydantic reads them: unknown fields are refused, and an error is told of the kind that was meant."""

from dataclasses import dataclass
from typing import Annotated, Literal

import pytest
from pydantic import TypeAdapter, ValidationError

from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds


@dataclass(frozen=True)
class Round:
    across: int
    kind: Literal["round"] = "round"

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Square:
    side: int
    kind: Literal["square"] = "square"

    __pydantic_config__ = CLOSED


EITHER = TypeAdapter(Annotated[Round | Square, OneOfKinds()])


def test_the_kind_tells_which_one_is_meant():
    assert EITHER.validate_python({"kind": "square", "side": 3}) == Square(3)
    assert EITHER.validate_json('{"kind": "round", "across": 4}') == Round(4)


@pytest.mark.parametrize(
    ("told", "where"),
    [
        ({"kind": "square", "side": "three"}, ("square", "side")),
        ({"kind": "round", "across": 1, "side": 1}, ("round", "side")),
        ({"kind": "oval"}, ()),
    ],
)
def test_an_error_points_to_the_field_of_the_kind_that_was_meant(told, where):
    with pytest.raises(ValidationError) as error:
        EITHER.validate_python(told)
    assert [one["loc"] for one in error.value.errors()] == [where]
