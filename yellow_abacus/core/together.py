"""Which offers go together on one cart.

So far one rule keeps offers apart: an order takes at most so many different codes. The cart is priced for
each largest set that keeps the rule, and the best for the shopper is kept. docs/sums.md, "Together".
"""

from collections.abc import Sequence
from itertools import combinations

from yellow_abacus.core.offers import Offer


def largest_sets(offers: Sequence[Offer], codes_per_order: int) -> list[tuple[int, ...]]:
    """The largest sets of offers that may apply together, each as indices into `offers` in plan order."""
    keys = [offer.given.key for offer in offers]
    codes = list(dict.fromkeys(key for key in keys if key is not None))
    return [
        tuple(at for at, key in enumerate(keys) if key is None or key in chosen)
        for chosen in combinations(codes, min(codes_per_order, len(codes)))
    ]
