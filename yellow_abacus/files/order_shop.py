"""What reading an order file takes of the shop."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from yellow_abacus.core.shop.tax import Taxes


@dataclass(frozen=True)
class OrderShop:
    """list_prices: of its SKUs; prices: the same, and tax: as in `guess_columns`; tax_classes: of those that name
    one.

    named: finds the SKUs that go by each name of product and option, simplified.
    zones: the zone that each folded name of a zone or place stands for.
    """

    list_prices: Mapping[str, int | None]
    digits: int
    currency: str
    taxes: Taxes
    tax_classes: Mapping[str, str]
    zones: Mapping[str, str]
    named: Callable[[], Mapping[str, Sequence[str]]]
    prices: Mapping[str, float]
    tax: Mapping[str, float]
