"""Where shoppers are, and of which group, told in a table of their own, put beside their orders.

>>> from yellow_abacus.files.tables import read_tables
>>> (orders,) = read_tables(b"order,day,customer,SKU,units\\n1,2027-03-01,C1,POT,1\\n2,2027-03-02,C2,POT,1\\n")
>>> (shoppers,) = read_tables(b"customer,name,country\\nC2,Ume,Islands\\nC1,Oto,Home\\n", "shoppers")
>>> both = with_their_shoppers(orders, shoppers)
>>> both.header[-1], [row.cells[-1] for row in both.rows], both.says[0]
('country', ['Home', 'Islands'], 'What shoppers tells of shoppers goes with their orders, by customer.')
"""

import numpy as np

from yellow_abacus.files.contents import NEARLY_ALL, columns_that_tell
from yellow_abacus.files.fields import ORDERS
from yellow_abacus.files.rows import emptied, found_in, row_of_each
from yellow_abacus.files.tables import Table

OF_SHOPPERS = ("zone", "group", "tags")
"""Fields that a table of shoppers tells of their orders; not its status, nor its days."""


def with_their_shoppers(orders: Table, shoppers: Table) -> Table | None:
    """A table of orders with what another tells of their shoppers, that they do not tell; None where it does not, or
    not of nearly all."""
    told, theirs = columns_that_tell(orders, ORDERS), columns_that_tell(shoppers, ORDERS)
    more = [at for key in OF_SHOPPERS if key in theirs and key not in told for at in theirs[key]]
    if "shopper" not in told or not more or "sku" in theirs or "number" in theirs:
        return None
    at = told["shopper"][0]
    mine = orders.rows.columns[at]
    for column in shoppers.rows.columns:
        row, filled = found_in(mine, row_of_each(column)), mine.filled
        if filled.any() and (row[filled] >= 0).mean() >= NEARLY_ALL:
            break
    else:
        return None
    none, known = row < 0, np.maximum(row, 0)
    beside = [(shoppers.header[one], emptied(shoppers.rows.columns[one].rows(known), none)) for one in more]
    says = f"What {shoppers.name} tells of shoppers goes with their orders, by {orders.header[at]}."
    return orders.with_beside(beside, says)
