"""Which of the shop's SKUs an order file means, that tells them or the names of their products."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from difflib import get_close_matches

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import simplify
from yellow_abacus.files.values import BadCellError

MOST_HINTS = 10
"""For so many unknown SKUs a near one is looked for: each takes a look at all SKUs of the shop."""


class MeantSkus:
    """The SKUs a shop has, and which one somebody means who writes so.

    named: those that go by each name of product and option, simplified, where a file tells goods by their names; None
    where it tells SKUs.
    """

    def __init__(self, skus: Iterable[str], named: Mapping[str, Sequence[str]] | None) -> None:
        self.names = list(skus)
        self._number = {sku: at for at, sku in enumerate(self.names)}
        self.folded = {folded(sku): at for at, sku in enumerate(self.names)}
        self._named, self.told_in = named, "sku" if named is None else "product"
        self._hints = 0

    def meant_by(self, text: str) -> int:
        """Index into `names`. Raises BadCellError."""
        at = self._number.get(text, self.folded.get(folded(text)))
        if at is not None:
            return at
        if self._named is None:
            raise BadCellError(f"Goods has no SKU “{text}”.", self._mend(text, self.folded))
        if several := self._named.get(simplify(text)):
            mend = "Bring in a column of SKUs, or one of the products' options."
            raise BadCellError(f"Goods has {len(several)} SKUs by the name “{text}”.", mend)
        raise BadCellError(f"Goods has no product “{text}”.", self._mend(text, self._named))

    def _mend(self, text: str, known: Collection[str]) -> str:
        """What to do about an unknown one; a near one is looked for a few times, and never for bare numbers."""
        hint = "Bring"
        if self._hints < MOST_HINTS and not text.isdecimal():
            self._hints += 1
            near = get_close_matches(folded(text), known, n=1)
            name = self.names[self.folded[near[0]]] if near and near[0] in self.folded else "".join(near)
            hint = f"Did you mean “{name}”? Otherwise bring" if near else hint
        return f"{hint} in its product first."
