"""Cart types found in a history: 5 to 10 of them a merchant recognises, by what is in the carts, their size and
value.

Carts are set in groups around centres (k-means), the same on every run and in whatever order the carts come.
docs/sums.md, "Cart types".
"""

from collections.abc import Sequence

import numpy as np
from sklearn.cluster import KMeans

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.known_types import UNITS_WEIGH, VALUE_WEIGHS, Centre, KnownType, KnownTypes, places
from yellow_abacus.core.ground.money import Floats, Ints

FEWEST, MOST = 5, 10
FEWEST_CARTS = 200
"""Fewer carts tell no types."""
MOST_CATEGORIES = 24
MOST_LOOKED_AT = 20_000
SEED, STARTS = 11, 4
WORTH_ONE_MORE = 0.01
"""One more type has to explain so much more of the variance of what is kept."""
LEAST_SHARE = 0.005
MOSTLY, PARTLY = 0.6, 0.25


def find_types(batch: CartBatch, kept_by_cart: Floats) -> KnownTypes | None:
    """None where there are too few carts. kept_by_cart: minor units, before offers."""
    if batch.axes.carts < FEWEST_CARTS:
        return None
    categories = _largest_categories(batch)
    where, kept = _in_order(places(batch, categories), kept_by_cart)
    best, best_score = None, -np.inf
    for many in range(FEWEST, MOST + 1):
        found = KMeans(many, n_init=STARTS, random_state=SEED).fit(where)
        score = _explained(found.labels_, kept) - WORTH_ONE_MORE * many
        if score > best_score:
            best, best_score = found, score
    assert best is not None
    return _named(best.cluster_centers_, best.labels_, categories)


def split(known: KnownTypes, number: int, batch: CartBatch) -> KnownTypes | None:
    """The types with one of them made two; None where its carts are too few or all alike."""
    mine = np.flatnonzero(known.sort(batch).type_by_cart == number)
    if len(mine) < 2:
        return None
    categories = _largest_categories(batch)
    some = batch.some(mine)
    where, _ = _in_order(places(some, categories), np.zeros(len(mine)))
    if len(np.unique(where, axis=0)) < 2:
        return None
    found = KMeans(2, n_init=STARTS, random_state=SEED).fit(where)
    halves = _named(found.cluster_centers_, found.labels_, categories).types
    taken = {one.name.casefold() for at, one in enumerate(known.types) if at != number}
    renamed = []
    for half in halves:
        name, more = half.name, 2
        while name.casefold() in taken:
            name, more = f"{half.name} {more}", more + 1
        taken.add(name.casefold())
        renamed.append(KnownType(name, half.centres))
    return KnownTypes((*known.types[:number], *renamed, *known.types[number + 1 :]))


def _largest_categories(batch: CartBatch) -> tuple[str, ...]:
    """The categories with the greatest value in all carts."""
    worth = np.bincount(batch.sku_by_line, weights=batch.worth_by_line, minlength=len(batch.goods.skus))
    by_category = batch.goods.in_category @ worth
    most = np.argsort(-by_category, kind="stable")[:MOST_CATEGORIES]
    return tuple(sorted(batch.goods.categories[at] for at in most if by_category[at] > 0))


def _in_order(where: Floats, kept: Floats) -> tuple[Floats, Floats]:
    """As many carts as are looked at, in an order of their own, so that that of the orders does not matter."""
    where = np.round(where, 9)
    order = np.lexsort((kept, *where.T))
    if len(order) > MOST_LOOKED_AT:
        order = order[np.linspace(0, len(order) - 1, MOST_LOOKED_AT).astype(np.int64)]
    return where[order], kept[order]


def _explained(labels: Ints, kept: Floats) -> float:
    counts = np.bincount(labels)
    means = np.bincount(labels, weights=kept) / np.maximum(counts, 1)
    whole = kept.var()
    return float(means[labels].var() / whole) if whole else 0.0


def _named(centres: Floats, labels: Ints, categories: Sequence[str]) -> KnownTypes:
    """Types named by what is in them, the largest first; those alike also by their value."""
    order = np.argsort(-np.bincount(labels, minlength=len(centres)), kind="stable")
    found = []
    for at in order:
        told = zip(categories, centres[at].tolist(), strict=False)
        shares = {name: round(share, 4) for name, share in told if share > LEAST_SHARE}
        units, value = 2 ** (centres[at][-2] / UNITS_WEIGH), 2 ** (centres[at][-1] / VALUE_WEIGHS)
        found.append(Centre(shares, round(float(units), 3), round(float(value), 1)))
    names = [_content(one) for one in found]
    return KnownTypes(
        tuple(KnownType(name, (one,)) for name, one in zip(_told_apart(names, found), found, strict=True))
    )


def _content(centre: Centre) -> str:
    by_share = sorted(centre.shares.items(), key=lambda one: (-one[1], one[0]))
    main = [name for name, share in by_share if share >= PARTLY][:2]
    if not main:
        return "A bit of everything"
    if by_share[0][1] >= MOSTLY or len(main) == 1:
        return main[0]
    return f"{main[0]} with {main[1].lower()}"


def _told_apart(names: Sequence[str], centres: Sequence[Centre]) -> list[str]:
    found = list(names)
    for name in set(names):
        alike = [at for at, one in enumerate(names) if one == name]
        if len(alike) == 1:
            continue
        by_value = sorted(alike, key=lambda at: centres[at].value)
        sizes = SIZES.get(len(alike)) or [f"size {number}" for number in range(1, len(alike) + 1)]
        for at, size in zip(by_value, sizes, strict=True):
            found[at] = f"{name}, {size}"
    return found


SIZES = {2: ["small", "large"], 3: ["small", "middling", "large"], 4: ["very small", "small", "large", "very large"]}
