"""Things put in the cart: a gift, or something more at a price. docs/sums.md, "Put in"."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED

MOST_CHOICES = 24
MOST_QUANTITY = 1000


@dataclass(frozen=True)
class PutIn:
    """`quantity` units of one of `skus`, or of any SKU of `categories`, for each time earned, at `amount` minor units
    each (0 is a gift).

    shares_bp: how many shoppers choose each of `skus`; none given means all alike. A shopper's units are all of one
    SKU. substitute: put in instead of a SKU whose stock is at its end; empty for none.
    """

    skus: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    quantity: int = 1
    amount: int = 0
    shares_bp: tuple[int, ...] = ()
    substitute: str = ""
    kind: Literal["put_in"] = "put_in"

    __pydantic_config__ = CLOSED

    def all_skus(self, goods: Goods) -> tuple[str, ...]:
        """Every SKU a shopper may choose, in stock or not."""
        if not self.categories:
            return self.skus
        inside = Scope(categories=self.categories, skus=self.skus).holds(goods)
        return tuple(sku for sku, chosen in zip(goods.skus, inside, strict=True) if chosen)

    def may_be(self, goods: Goods) -> tuple[str, ...]:
        """Every SKU it may put in, the substitute among them."""
        return (*self.all_skus(goods), *([self.substitute] if self.substitute else []))

    def may_be_of(self, skus: Collection[str], goods: Goods) -> bool:
        """Whether it may put in one of these."""
        return not set(self.may_be(goods)).isdisjoint(skus)

    def choices(self, goods: Goods) -> list[tuple[int, float]]:
        """Each SKU a shopper may choose, by index, and the share who choose it; none where stock has ended."""
        skus = self.all_skus(goods)
        shares = self.shares_bp or (1,) * len(skus)
        found: dict[int, float] = {}
        for sku, share in zip(skus, shares, strict=True):
            given = next((one for one in (sku, self.substitute) if one and goods.in_stock(one)), None)
            at = None if given is None else goods.index_of(given)
            if at is not None and share:
                found[at] = found.get(at, 0.0) + share
        whole = sum(found.values())
        return [(at, share / whole) for at, share in found.items()]

    def without(self, sku: str, goods: Goods) -> "PutIn | None":
        """The same once a SKU's stock has ended: its substitute in its place, or the other choices; None where none
        is left."""
        named = self.all_skus(goods)
        if sku not in named and sku != self.substitute:
            return self
        shares = self.shares_bp or (1,) * len(named)
        instead = "" if self.substitute == sku else self.substitute
        left = [(instead if one == sku else one, share) for one, share in zip(named, shares, strict=True)]
        left = [(one, share) for one, share in left if one]
        if not any(share for _, share in left):
            return None
        skus, shares = zip(*left, strict=True)
        return replace(self, skus=skus, categories=(), shares_bp=shares if self.shares_bp else (), substitute=instead)

    def problems(self) -> Iterator[Problem]:
        if not self.skus and not self.categories:
            yield Problem(("skus",), "Nothing is named to put in.", "Choose a product.")
        if len(self.skus) > MOST_CHOICES:
            yield Problem(("skus",), f"{len(self.skus)} SKUs are named.", f"Name {MOST_CHOICES} at most.")
        if len(set(self.skus)) < len(self.skus):
            yield Problem(("skus",), "A SKU is named twice.", "Name each once.")
        yield from amount_between("quantity", "The units put in", self.quantity, least=1, most=MOST_QUANTITY)
        yield from amount_between("amount", "The price asked", self.amount, least=0)
        fitting = not self.categories and len(self.shares_bp) == len(self.skus)
        whole = min(self.shares_bp, default=0) >= 0 and sum(self.shares_bp) == WHOLE_BP
        if self.shares_bp and not (fitting and whole):
            yield Problem(("shares_bp",), "The shares of choice do not add up to 100 %.", "Give each SKU its share.")
