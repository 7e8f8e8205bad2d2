"""The routes of a place. What they take and answer is worked out for the API description when that is asked for.

It takes seconds, which a server that starts need not wait for.
"""

from collections.abc import Callable
from typing import Any

from flask_openapi3 import APIBlueprint, Tag


class Routes(APIBlueprint):
    """A blueprint under /api whose description waits. place: what its routes are listed under."""

    def __init__(self, name: str, import_name: str, place: str) -> None:
        super().__init__(name, import_name, url_prefix="/api", abp_tags=[Tag(name=place)])
        self._waiting: list[tuple[str, Callable[..., Any], dict[str, Any]]] = []

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **told: Any) -> Any:
        """What each decorator of a route calls: the types it takes. Described or not, they are the same."""
        self._waiting.append((rule, func, told))
        return super()._collect_openapi_info(rule, func, **{**told, "doc_ui": False})

    def describe(self) -> None:
        """Work out what waits, once."""
        waiting, self._waiting = self._waiting, []
        for rule, func, told in waiting:
            super()._collect_openapi_info(rule, func, **told)
