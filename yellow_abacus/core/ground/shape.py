"""Marks on the core's dataclasses for whoever reads them from outside (JSON, the API description).

They are plain data and one duck-typed method, so that the core imports nothing for them and no shape is written
twice: `files.plan_json` takes these dataclasses as they are.
"""

from typing import Any, get_args

CLOSED = {"extra": "forbid"}
"""Unknown fields are refused."""


class OneOfKinds:
    """On a union of dataclasses: their `kind` tells which one is meant, so that errors point to the right one."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        choices = {kind.kind: handler(kind) for kind in get_args(source)}
        return {"type": "tagged-union", "choices": choices, "discriminator": "kind"}
