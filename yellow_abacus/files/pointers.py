"""Figures of a plan by where they stand in its JSON, and the plan with others in their place."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from pydantic import Field, ValidationError

from yellow_abacus.files.plan_json import PlanDoc

LARGEST_FIGURE = 2**53
"""No larger whole number can be told apart in a browser."""

Pointer = Annotated[str, Field(max_length=200, pattern=r"^(/[a-z_0-9]{1,40}){1,12}$")]


class NoFigureError(Exception):
    """There is no figure at `pointer`, the `number`th that was named."""

    def __init__(self, number: int, pointer: str) -> None:
        super().__init__(f"There is no figure at {pointer} in the plan.")
        self.number, self.pointer = number, pointer


class Figures:
    """Figures of a plan that can be set to others."""

    def __init__(self, plan: PlanDoc, pointers: Sequence[str]) -> None:
        """Raises NoFigureError."""
        self._told = plan.model_dump(mode="json")
        self._slots = {one: _slot(self._told, one, number) for number, one in enumerate(pointers)}

    def __getitem__(self, pointer: str) -> int | None:
        place, name = self._slots[pointer]
        found: int | None = place[name]
        return found

    def plan_with(self, values: Mapping[str, int]) -> PlanDoc | None:
        """The plan with other figures by pointer; None where that is no plan at all. Those that are not named keep
        what they were set to last."""
        for pointer, value in values.items():
            place, name = self._slots[pointer]
            place[name] = value
        try:
            return PlanDoc.model_validate(self._told)
        except ValidationError:
            return None


def _slot(told: Any, pointer: str, number: int) -> tuple[Any, str | int]:
    """What holds the figure, and its name there."""
    place: Any = None
    name: str | int = ""
    for part in pointer[1:].split("/"):
        place = told
        name = int(part) if isinstance(place, list) and part.isdigit() else part
        try:
            told = place[name]
        except (KeyError, IndexError, TypeError):
            place = None
        if place is None:
            break
    if place is None or not isinstance(told, int | None) or isinstance(told, bool):
        raise NoFigureError(number, pointer)
    return place, name
