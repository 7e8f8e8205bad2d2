"""What tables of their own tell of orders: how they were paid and delivered and where to, by whom and where they were
placed, the code used, what came off and what was given back; put on the first row of each.

>>> from yellow_abacus.files.tables import read_tables
>>> (orders,) = read_tables(b"order,day,SKU,units\\n1,2027-03-01,POT,1\\n1,2027-03-01,FERN,1\\n2,2027-03-02,POT,1\\n")
>>> (paid,) = read_tables(b"order,payment method,status\\n1,card,failed\\n1,wallet,paid\\n2,card,paid\\n", "payments")
>>> both = with_facts(orders, paid)
>>> both.header[-1], [row.cells[-1] for row in both.rows]
('Payment method: payment method', ['wallet', '', 'card'])
>>> both.says[0]
'What payments tells of orders goes with them, by order: payment method.'
"""

from collections import defaultdict
from collections.abc import Callable, Container, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

import numpy as np
from babel.lists import format_list

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.files.columns import Columns, answering, match_columns
from yellow_abacus.files.contents import NEARLY_ALL, Contents, columns_that_tell
from yellow_abacus.files.fields import BESIDE_ORDERS, OF_ORDERS, ORDERS
from yellow_abacus.files.headings import is_called, says_percent, simplify, tells_an_amount
from yellow_abacus.files.lines_apart import SOME, bare_number
from yellow_abacus.files.order_shapes import first_row_of_order
from yellow_abacus.files.order_statuses import rows_of, says_left_out, says_refused
from yellow_abacus.files.rows import Coded, Codes, coded, emptied, found_in
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import guess_decimal_mark, is_currency_sign, number_if_any
from yellow_abacus.files.words import so_many

HOW = "Order status"
"""A heading for statuses, those of orders that tell some already, too."""
OF_LINES = ("sku", "product", "items", "quantity")


@dataclass(frozen=True, eq=False)
class OfOrders:
    """Whose orders the rows of another table are. heading: by which it is known; row: the first row of the order, for
    each row of the other; -1 where there is none."""

    heading: str
    row: Codes

    def of_none(self, other: Table) -> list[str]:
        """How many rows of the other table are of no order, in words where some are."""
        many = int((self.row < 0).sum())
        are = "is" if many == 1 else "are"
        return [f"{so_many(many, 'row')} of {other.name} {are} of no order here."] if many else []


def with_facts(orders: Table, other: Table) -> Table | None:
    """A table of orders with what another tells of them, that they do not tell; None where it does not."""
    theirs = columns_that_tell(headed_in_full(other), ORDERS)
    if not theirs.keys().isdisjoint(OF_LINES):
        return None
    told = columns_that_tell(orders, ORDERS)
    tell = () if is_called(other.name, "left_out") else ("refunded",) if is_called(other.name, "sent_back") else _TELL
    known = told.keys() | orders.tells
    theirs = _with_costs(other, theirs, known)
    if _of_payments_or_returns(other, theirs):
        theirs = {key: at for key, at in theirs.items() if key not in _OF_ORDERS_ALONE}
    places = [(key, at) for key in tell if _MEANT.get(key, key) not in known for at in theirs.get(key, ())]
    of_orders = answering(other.header, BESIDE_ORDERS["status"])
    how, of_parcels = _how_they_went(other, theirs, of_orders), not OF_PARCELS.isdisjoint(theirs)
    if (how is None and not places) or (of := whose(orders, other, told)) is None:
        return None
    statuses = {"status": (*theirs.get("status", ()), *of_orders)}
    counts = (of.row >= 0) & ~left_out(other, statuses)
    beside = dict[str, Coded]()
    if how is not None:
        every = counts if of_parcels else of.row >= 0
        beside[f"{HOW}: {other.header[how]}"] = _last_told(orders, of, other, how, every)
    for key, at in places:
        column = _TELL[key](orders, of, other, at, counts)
        if column is None:
            return None
        beside[f"{OF_ORDERS[_MEANT.get(key, key)].label}: {other.header[at]}"] = column
    told_by = [*([] if how is None else [how]), *(at for _, at in places)]
    headings = format_list([other.header[at] for at in told_by], locale="en")
    says = f"What {other.name} tells of orders goes with them, by {of.heading}: {headings}."
    return orders.with_beside([*beside.items()], says, *of.of_none(other))


def _how_they_went(other: Table, theirs: Columns, of_orders: Sequence[int]) -> int | None:
    """The column that tells how orders went, of which some were refused, or cancelled if what is so is no parcel.
    of_orders: those whose headings say so; others may be of payments, or of what came back."""
    headed, header = [*of_orders], other.header
    came_back = any(is_called(one, "sent_back") for one in (other.name, *header))
    of_others = came_back or is_called(other.name, "of_payment")
    if not of_others and theirs.keys() & _TELL.keys() <= OF_PARCELS | _OF_ORDERS_ALONE:
        headed += theirs.get("status", ())

    def tells(at: int) -> bool:
        texts = other.rows.columns[at].used
        return any(map(says_refused, texts)) or (OF_PARCELS.isdisjoint(theirs) and any(map(says_left_out, texts)))

    return next((at for at in headed if tells(at) and not is_called(header[at], "of_payment")), None)


def _of_payments_or_returns(other: Table, theirs: Columns) -> bool:
    """Whether a table is of payments, or of what was given back: a country there may be that of a card."""
    called = (is_called(other.name, kind) for kind in ("of_payment", "sent_back"))
    return any(called) or not theirs.keys().isdisjoint(["payment_cost", "refunded"])


def _with_costs(other: Table, theirs: Columns, known: Container[str]) -> Columns:
    """A column that may tell what shoppers paid or what carriers asked tells the latter, where orders tell the one
    already; where they do not, neither."""
    if "delivery_paid" not in theirs:
        return theirs
    (at,) = theirs["delivery_paid"]
    if "delivery_cost" not in match_columns([OF_ORDERS["delivery_paid"].label, other.header[at]], ORDERS):
        return theirs
    others = {key: some for key, some in theirs.items() if key != "delivery_paid"}
    return {"delivery_cost": (at,), **others} if "delivery_paid" in known else others


def headed_in_full(table: Table) -> Table:
    """The table with what it is called before headings that tell something only so: `method` of *payments*."""
    names = simplify(table.name).split()
    names += [name.removesuffix("s") for name in names]

    def says(heading: str, keys: Iterable[str]) -> bool:
        return any(answering([heading], OF_ORDERS[key]) for key in keys)

    def in_full(heading: str) -> str:
        if says(heading, ("number", "date", "status", *_TELL)):
            return heading
        return next((one for one in (f"{name} {heading}" for name in names) if says(one, _TELL)), heading)

    return replace(table, header=[*map(in_full, table.header)])


def whose(orders: Table, other: Table, told: Columns) -> OfOrders | None:
    """told: the columns of orders. None where the other table is not of these."""
    if "number" not in told:
        return None
    first = np.unique(of_each_order(orders, told))
    numbered, headed = answering(orders.header, OF_ORDERS["number"]), list(_headed(other))
    for one in dict.fromkeys([*numbered, *sorted(orders.of_orders)]):
        column = orders.rows.columns[one].rows(first)
        texts = [bare_number(text) for text in column.cells]
        rows = {text: row for text, row in zip(texts, first.tolist(), strict=True) if text}
        if len(rows) < NEARLY_ALL * len(first):
            continue
        for place in headed or range(len(other.header)):
            theirs = other.rows.columns[place]
            row, filled = found_in(theirs, rows, bare_number), theirs.filled
            least = SOME if headed and one in numbered else NEARLY_ALL
            if filled.mean() >= NEARLY_ALL and (row[filled] >= 0).mean() >= least:
                return OfOrders(other.header[place] or orders.header[one], row)
    return None


def of_each_order(orders: Table, told: Columns) -> Codes:
    """For each row the first of its order. told: the columns, that of numbers among them."""
    number = orders.rows.columns[told["number"][0]]
    _, first, order = np.unique(number.codes[first_row_of_order(number)], return_index=True, return_inverse=True)
    return first[order]


def _headed(other: Table) -> Iterator[int]:
    tells = Contents(other).tells
    return (at for at in answering(other.header, OF_ORDERS["number"]) if tells(at, OF_ORDERS["number"]))


def left_out(other: Table, theirs: Columns) -> Bools:
    """The rows that a status of theirs leaves out."""
    found = np.zeros(len(other.rows), dtype=np.bool_)
    for at in theirs.get("status", ()):
        found |= rows_of(other.rows.columns[at], says_left_out)
    return found


def _last_told(orders: Table, of: OfOrders, other: Table, at: int, counts: Bools) -> Coded:
    """For each row of orders what the last row of theirs tells."""
    column = other.rows.columns[at]
    rows = np.flatnonzero(counts & column.filled)
    last = np.full(len(orders.rows), -1)
    last[of.row[rows]] = rows
    return emptied(column.rows(np.maximum(last, 0)), last < 0)


def _all_told(orders: Table, of: OfOrders, other: Table, at: int, counts: Bools) -> Coded:
    """For each row of orders all that theirs tell, parted by a comma."""
    return _gathered(orders, of, other.rows.columns[at], counts, lambda texts: ", ".join(dict.fromkeys(texts)))


def added_up(orders: Table, of: OfOrders, other: Table, at: int, counts: Bools) -> Coded | None:
    """For each row of orders the sum of amounts, without their sign, or of rates; None where some are neither, or may
    be either. counts: the rows of the other table that do, all of them of orders."""
    column = other.rows.columns[at]
    mark = guess_decimal_mark(column.used, other.separator)
    told = [text.strip() for text in column.used if text.strip()]
    read = ((text, number_if_any(text.rstrip("% "), mark, is_currency_sign)) for text in told)
    amount = {text: abs(number) for text, number in read if number is not None}
    are_rates = {text.endswith("%") for text in told}
    may_be_rates = _tells_rates(other) and not tells_an_amount(other.header[at])
    if len(amount) < len({*told}) or len(are_rates) > 1 or may_be_rates:
        return None

    def together(texts: list[str]) -> str:
        found = sum((amount[text] for text in texts), Decimal(0))
        return texts[0] if len(texts) == 1 else f"{found:f}".replace(".", mark) + "%" * (are_rates == {True})

    return _gathered(orders, of, column, counts, together)


def _tells_rates(other: Table) -> bool:
    """Whether some column says in words that what others tell are percentages."""
    return any(
        not any(map(str.isdigit, text)) and says_percent(text)
        for column in other.rows.columns
        for text in column.used
    )


def _gathered(
    orders: Table, of: OfOrders, column: Coded, counts: Bools, together: Callable[[list[str]], str]
) -> Coded:
    rows = np.flatnonzero(counts & column.filled)
    told = defaultdict[int, list[str]](list)
    for row, code in zip(of.row[rows].tolist(), column.codes[rows].tolist(), strict=True):
        told[row].append(column.texts[code].strip())
    return coded([together(told[row]) if row in told else "" for row in range(len(orders.rows))])


_TELL = {
    "payment": _last_told,
    "option": _last_told,
    "zone": _last_told,
    "shopper": _last_told,
    "group": _last_told,
    "channel": _last_told,
    "delivery_paid": added_up,
    "code": _all_told,
    "order_discount": added_up,
    "line_discount": added_up,
    "refunded": added_up,
    "delivery_cost": added_up,
    "payment_cost": added_up,
}
"""The fields it may tell, and how: a payment that failed is tried again, two codes both come off."""
_OF_ORDERS_ALONE = frozenset(["zone", "shopper", "group", "channel", "delivery_paid"])
"""What is not theirs in a table of payments, or of what was given back."""
OF_PARCELS = frozenset(["delivery_cost", "option"])
"""What tables of parcels tell: in one of payments or refunds a status is that of those."""
_MEANT = {"line_discount": "order_discount"}
"""What a field means where no line is told."""
