"""A file in a form."""

from typing import Annotated, Any

from flask_openapi3 import FileStorage
from pydantic import BeforeValidator


def _is_file(value: Any) -> Any:
    if isinstance(value, str):
        raise ValueError("It is text where a file is meant")
    return value


SentFile = Annotated[FileStorage, BeforeValidator(_is_file)]
