"""Finding the types of a shop's carts and keeping them: what the web and the demo shop both call."""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.cart_types import BY_TYPE
from yellow_abacus.core.forecast.known_types import KnownTypes, Standing, places, standing
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.counting import Counted, CountingRoom
from yellow_abacus.store.cart_types import save_types
from yellow_abacus.store.shop_file import ShopFile


@dataclass(frozen=True, eq=False)
class TypesSeen:
    """One entry a type: how many orders are of it; what they are worth and what is kept of them in all, before
    offers, minor units."""

    known: KnownTypes
    orders: Ints
    worth: Floats
    kept: Floats
    standing: Standing


def kept_by_cart(at: Counted) -> Floats:
    """What each cart of the history keeps before offers, at the prices of no day."""
    found: Floats = at.forecaster.outlook.bare(at.forecaster.mix).figures.by_cart[AT["kept"]]
    return found


def types_seen(at: Counted) -> TypesSeen | None:
    """None where no types are known, or there are no carts."""
    known, batch = at.loaded.known, at.loaded.batch
    if known is None or not batch.axes.carts:
        return None
    types, kept, size = at.forecaster.mix.types[BY_TYPE], kept_by_cart(at), len(known.types)

    def by_type(figures: Floats | None = None) -> Floats:
        return np.bincount(types.type_by_cart, weights=figures, minlength=size)  # type: ignore[return-value]

    found = standing(types, places(batch, known.categories), kept)
    return TypesSeen(
        known, by_type().astype(np.int64), by_type(batch.worth_by_cart.astype(np.float64)), by_type(kept), found
    )


def sort_anew(shop_file: ShopFile, room: CountingRoom) -> bool:
    """Find the types in the carts there are; False where there are too few carts."""
    from yellow_abacus.learning.cart_types import find_types  # takes seconds to load, and is asked for seldom

    at = room.current()
    known = find_types(at.loaded.batch, kept_by_cart(at))
    if known is None:
        return False
    with shop_file.changing("Sort the carts into types") as session:
        save_types(session, known)
    return True


def split_type(shop_file: ShopFile, room: CountingRoom, number: int) -> bool:
    """Make one type two; False where its carts are too few or all alike."""
    from yellow_abacus.learning.cart_types import split  # as above

    at = room.current()
    known = None if at.loaded.known is None else split(at.loaded.known, number, at.loaded.batch)
    if known is None:
        return False
    with shop_file.changing("Split a type of carts") as session:
        save_types(session, known)
    return True
