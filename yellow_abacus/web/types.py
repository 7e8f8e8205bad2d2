"""Types of carts: found in the history, renamed, put together and split."""

from dataclasses import replace
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.forecast.known_types import KnownTypes
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.sorting_carts import sort_anew, split_type, types_seen
from yellow_abacus.store.cart_types import known_types, save_types
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError, missing
from yellow_abacus.web.routes import Routes

api = Routes("types", __name__, "Cart types")

Name = Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]


class TypeDoc(BaseModel):
    """share: of orders. average: of goods at standing prices, and kept of an order before offers, minor units.

    holds: categories with their share of the value, the largest first.
    """

    name: str
    orders: int
    share: float
    average: float
    kept: float
    holds: list[tuple[str, float]]


class TypesDoc(BaseModel):
    """explained: the share of the variance of what an order keeps that lies between types. kept: of an order, of all
    carts; kept_by_types: where each type is one typical cart. Empty where none were found yet."""

    types: list[TypeDoc]
    explained: float
    kept: float
    kept_by_types: float


class TypePath(BaseModel):
    number: Annotated[int, Field(ge=0, le=1000)]


class NameBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: Name


class IntoBody(BaseModel):
    """into: the number of the type it is put together with."""

    model_config = ConfigDict(extra="forbid")

    into: Annotated[int, Field(ge=0, le=1000)]


@api.get("/types", responses={200: TypesDoc})
def get_types():
    """The types of carts there are, and how well they stand for the orders."""
    at = context()
    with at.turn("quick", "types"):
        return _types()


def _types():
    """Without a turn: an answer to a change is not dropped for a newer look."""
    seen = types_seen(context().room.current())
    if seen is None:
        return TypesDoc(types=[], explained=0, kept=0, kept_by_types=0).model_dump(mode="json")
    whole = max(int(seen.orders.sum()), 1)
    types = [
        TypeDoc(
            name=one.name,
            orders=int(orders),
            share=int(orders) / whole,
            average=float(worth) / max(int(orders), 1),
            kept=float(kept) / max(int(orders), 1),
            holds=_holds(one.centres[0].shares),
        )
        for one, orders, worth, kept in zip(seen.known.types, seen.orders, seen.worth, seen.kept, strict=True)
    ]
    return TypesDoc(types=types, **vars(seen.standing)).model_dump(mode="json")


MOST_HELD = 3


def _holds(shares: dict[str, float]) -> list[tuple[str, float]]:
    return sorted(shares.items(), key=lambda one: (-one[1], one[0]))[:MOST_HELD]


@api.post("/types", responses={200: TypesDoc})
def post_types():
    """Find the types in the carts there are, in place of those there were."""
    at = context()
    if not sort_anew(at.shop_file, at.room):
        raise ApiError(
            409, "Too few orders", "There are too few orders to tell types of carts. Bring in 200 or more."
        )
    return _types()


@api.put("/types/<int:number>", responses={200: TypesDoc})
def put_type(path: TypePath, body: NameBody):
    """Give a type another name."""
    return _changed(
        path.number, "Rename a type of carts", lambda known: _renamed(known, path.number, body.name.strip())
    )


@api.post("/types/<int:number>/together", responses={200: TypesDoc})
def post_together(path: TypePath, body: IntoBody):
    """Put a type together with another, whose name they have then."""
    return _changed(body.into, "Put types of carts together", lambda known: _together(known, path.number, body.into))


@api.post("/types/<int:number>/split", responses={200: TypesDoc})
def post_split(path: TypePath):
    """Make two types of one."""
    at = context()
    _known(at.room.current().loaded.known, path.number)
    if not split_type(at.shop_file, at.room, path.number):
        raise ApiError(409, "It cannot be split", "Its carts are too few, or all alike.")
    return _types()


def _changed(number: int, label: str, change):
    with context().shop_file.changing(label) as session:
        known = change(_known(known_types(session), number))
        if problems := list(known.problems()):
            raise SettingsError([Problem(("name",), one.message, one.mend) for one in problems])
        save_types(session, known)
    return _types()


def _known(known: KnownTypes | None, number: int) -> KnownTypes:
    if known is None or number >= len(known.types):
        raise missing("The type of carts")
    return known


def _renamed(known: KnownTypes, number: int, name: str) -> KnownTypes:
    types = list(known.types)
    types[number] = replace(types[number], name=name)
    return KnownTypes(tuple(types))


def _together(known: KnownTypes, number: int, into: int) -> KnownTypes:
    _known(known, number)
    if number == into:
        raise SettingsError([Problem(("into",), "That is the type itself.", "Choose another one.")])
    types = list(known.types)
    types[into] = replace(types[into], centres=(*types[into].centres, *types[number].centres))
    return KnownTypes(tuple(one for at, one in enumerate(types) if at != number))
