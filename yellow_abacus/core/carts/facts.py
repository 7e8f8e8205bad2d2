"""What is known of each order besides its goods: who placed it, when, and by which way.

Offers may be held to shoppers, places and hours; these are the facts they are held against. A fact that is not
known passes no clause that asks for it. docs/sums.md, "Who, where, when".
"""

import re
from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.naming import all_folded, folded

UNKNOWN = -1
_PARTED = re.compile(r"[,;|]")


@dataclass(frozen=True, eq=False)
class Labels:
    """At most one of `names` for each cart. number_by_cart: index into names, UNKNOWN where there is none."""

    names: tuple[str, ...]
    number_by_cart: Ints

    def among(self, wanted: Collection[str]) -> Bools:
        """Whether each cart's name is one of those wanted; case is ignored."""
        meant = all_folded(wanted)
        known = [folded(name) in meant for name in self.names]
        result: Bools = np.array([*known, False])[self.number_by_cart]
        return result

    def some(self, carts: Ints | slice) -> Self:
        return replace(self, number_by_cart=self.number_by_cart[carts])

    def together(self) -> Self:
        """With names that differ in case alone as one, written as the first of them.

        >>> labels(["post", "Post", "", "Sea"]).together().number_by_cart.tolist()
        [0, 0, -1, 1]
        """
        first: dict[str, int] = {}
        same = [first.setdefault(folded(name), at) for at, name in enumerate(self.names)]
        return replace(self, number_by_cart=np.array([*same, UNKNOWN])[self.number_by_cart])


@dataclass(frozen=True, eq=False)
class Codes(Labels):
    """The codes each cart used: a name is one, or several parted by commas, semicolons or bars.

    >>> Codes(("LEAF, POST", "Leaf"), np.array([0, 1, UNKNOWN])).among(["leaf"]).tolist()
    [True, True, False]
    """

    def among(self, wanted: Collection[str]) -> Bools:
        """Whether each cart used one of the codes wanted; case is ignored."""
        meant = all_folded(wanted)
        known = [not meant.isdisjoint(map(folded, codes_in(name))) for name in self.names]
        result: Bools = np.array([*known, False])[self.number_by_cart]
        return result

    @property
    def carts_by_code(self) -> dict[str, Ints]:
        """The carts that used each code, which is written as it was first met, whatever its case."""
        written, names = dict[str, str](), defaultdict[str, list[int]](list)
        for at, name in enumerate(self.names):
            for code in dict.fromkeys(codes_in(name)):
                written.setdefault(folded(code), code)
                names[folded(code)].append(at)
        in_order = np.argsort(self.number_by_cart, kind="stable")
        ends = np.searchsorted(self.number_by_cart[in_order], np.arange(len(self.names) + 1))
        return {
            code: np.sort(np.concatenate([in_order[ends[at] : ends[at + 1]] for at in names[key]]))
            for key, code in written.items()
        }


def codes_in(text: str) -> list[str]:
    """The codes of a cell that may hold several, none of which has such a mark in it."""
    return [code for part in _PARTED.split(text) if (code := part.strip())]


@dataclass(frozen=True, eq=False)
class Tags:
    """Any number of `names` for each cart. has: one row a name, one column a cart."""

    names: tuple[str, ...]
    has: Bools

    def among(self, wanted: Collection[str]) -> Bools:
        meant = all_folded(wanted)
        rows = [at for at, name in enumerate(self.names) if folded(name) in meant]
        result: Bools = np.any(self.has[rows], axis=0)
        return result

    def some(self, carts: Ints | slice) -> "Tags":
        return Tags(self.names, self.has[:, carts])


@dataclass(frozen=True, eq=False)
class Facts:
    """One entry a cart, on the shop's own clock; UNKNOWN where a fact is not known.

    weekday_by_cart: 0 is Monday. minute_by_cart: of the day. orders_before_by_cart: earlier orders of the shopper.
    days_since_by_cart: since the shopper's last order; UNKNOWN for a first order too. option: of delivery. code: that
    the order used.
    """

    weekday_by_cart: Ints
    minute_by_cart: Ints
    orders_before_by_cart: Ints
    days_since_by_cart: Ints
    shopper: Labels
    group: Labels
    tags: Tags
    channel: Labels
    payment: Labels
    currency: Labels
    option: Labels
    code: Codes

    def some(self, carts: Ints | slice) -> "Facts":
        """The facts of some carts, by index."""
        return Facts(
            weekday_by_cart=self.weekday_by_cart[carts],
            minute_by_cart=self.minute_by_cart[carts],
            orders_before_by_cart=self.orders_before_by_cart[carts],
            days_since_by_cart=self.days_since_by_cart[carts],
            shopper=self.shopper.some(carts),
            group=self.group.some(carts),
            tags=self.tags.some(carts),
            channel=self.channel.some(carts),
            payment=self.payment.some(carts),
            currency=self.currency.some(carts),
            option=self.option.some(carts),
            code=self.code.some(carts),
        )


def labels(name_by_cart: Collection[str]) -> Labels:
    """Labels from one name a cart; an empty name is not known."""
    names = tuple(sorted(set(name_by_cart) - {""}))
    number = {name: at for at, name in enumerate(names)} | {"": UNKNOWN}
    return Labels(names, np.fromiter(map(number.__getitem__, name_by_cart), np.int64, len(name_by_cart)))


def codes(told_by_cart: Collection[str]) -> Codes:
    """Codes from what is told of each cart; empty for none."""
    found = labels(told_by_cart)
    return Codes(found.names, found.number_by_cart)


def tags(names_by_cart: Collection[Collection[str]]) -> Tags:
    """Tags from the names of each cart."""
    names = tuple(sorted({name for some in names_by_cart for name in some}))
    has = np.zeros((len(names), len(names_by_cart)), dtype=np.bool_)
    number = {name: at for at, name in enumerate(names)}
    for cart, some in enumerate(names_by_cart):
        for name in some:
            has[number[name], cart] = True
    return Tags(names, has)


def nothing_known(carts: int) -> Facts:
    """Facts of carts of which only the goods and the zone are known."""
    unknown = np.full(carts, UNKNOWN, dtype=np.int64)
    nobody = Labels((), unknown)
    no_tags = Tags((), np.zeros((0, carts), dtype=np.bool_))
    no_codes = Codes((), unknown)
    return Facts(
        unknown, unknown, unknown, unknown, nobody, nobody, no_tags, nobody, nobody, nobody, nobody, no_codes
    )
