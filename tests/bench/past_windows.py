"""How near forecasts of the demo shop came to what then happened: fortnights, each from the history before it."""

from datetime import date, timedelta

import numpy as np

from tests.bench.core_speed import demo_shop
from tests.bench.timing import judge
from yellow_abacus.core.forecast.expected import History, MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix_seen import seen
from yellow_abacus.demo.generate import DAYS as DRAWN_DAYS
from yellow_abacus.demo.generate import FIRST_DAY, OF_THE_WEEK, OF_THE_YEAR, ORDERS
from yellow_abacus.store.loading import LoadedShop

WINDOWS, DAYS = 8, 14
GOES_BY = MixTerms(counted="last", last_days=56)
"""The shop has one year: what comes after it falls in months not seen yet, so the last weeks tell most."""
NEAR, FEWEST_NEAR = 0.10, 7


def run() -> None:
    loaded = demo_shop()
    day = loaded.orders.day
    near = knowing = 0
    whole = Forecaster(expect(loaded.history))
    each = whole.outlook.bare(whole.mix).profit / len(day)
    for number in range(WINDOWS):
        last = int(day.max()) - number * DAYS
        first = last - DAYS + 1
        window = date.fromordinal(first), date.fromordinal(last)
        told = seen(Forecaster(expect(part(loaded, day < first), GOES_BY, window)), window)
        came = Forecaster(expect(part(loaded, (day >= first) & (day <= last))))
        orders, kept = came.batch.axes.carts, came.outlook.bare(came.mix).profit
        off = told.orders / orders - 1, told.kept / kept - 1
        near += max(map(abs, off)) <= NEAR
        known = drawn(*window)
        knowing += max(abs(known / orders - 1), abs(known * each / kept - 1)) <= NEAR
        print(f"  {window[0]} to {window[1]}: {orders} orders came, {off[0]:+.1%}; kept before offers {off[1]:+.1%}")
    print(f"  who knew the rates that orders were drawn from: {WINDOWS - knowing} windows not within {NEAR:.0%}")
    judge(f"windows of {WINDOWS} not within {NEAR:.0%}", WINDOWS - near, WINDOWS - FEWEST_NEAR, unit="")


def drawn(first: date, last: date) -> float:
    """The orders to expect from the rates that the demo shop's generator draws them from."""
    every = [FIRST_DAY + timedelta(days=number) for number in range(DRAWN_DAYS)]
    weight = {day: OF_THE_WEEK[day.weekday()] * OF_THE_YEAR[day.month - 1] for day in every}
    return ORDERS * sum(weight[day] for day in every if first <= day <= last) / sum(weight.values())


def part(loaded: LoadedShop, where: np.ndarray) -> History:
    carts = np.flatnonzero(where)
    return History(loaded.shop, loaded.batch.remade(carts, loaded.batch.goods), loaded.orders.day[carts])
