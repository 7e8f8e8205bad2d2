"""From a shop file to what its history says of response: what the command line and the web both call."""

from collections.abc import Iterator, Sequence
from datetime import date

from yellow_abacus.counting import Counted, UnsoundPlanError
from yellow_abacus.files.learned_json import HistorySaysDoc, LookedDoc, history_says
from yellow_abacus.files.plan_json import OfferDoc
from yellow_abacus.files.short_tests import ShortTestDoc, short_tests
from yellow_abacus.learning.free_standing import FreeStanding, free_standing, many_values
from yellow_abacus.learning.how_long import spread_of
from yellow_abacus.learning.learned import Learned, learn
from yellow_abacus.learning.next_offers import next_of_each
from yellow_abacus.learning.ran import past_of, past_problems
from yellow_abacus.learning.untold import untold
from yellow_abacus.store.mixes import USUAL


def look_back(
    at: Counted, until: date | None = None, sent: Sequence[int] = ()
) -> Iterator[LookedDoc | HistorySaysDoc]:
    """How far the look is, and last what history says. until: the day from which on orders are left out. sent: of so
    many next messages too. Raises UnsoundPlanError before it begins."""
    loaded = at.loaded
    past = [one.offer() for one in at.past]
    problems = [one.inside("past") for one in past_problems(past, loaded.shop, loaded.batch.goods)]
    if problems:
        raise UnsoundPlanError(problems)
    return _look(at, until, sent)


def _look(at: Counted, until: date | None, sent: Sequence[int]) -> Iterator[LookedDoc | HistorySaysDoc]:
    loaded = at.loaded
    before = None if until is None else until.toordinal()
    orders = loaded.orders
    past = past_of(loaded.history, orders.charged, before, orders.delivery_paid, loaded.going_price)
    told: list[tuple[OfferDoc, bool]] = [*((one, False) for one in at.past), *((one, True) for one in at.running)]
    named = loaded.mixes[USUAL].named
    learned, standing = list[Learned](), list[FreeStanding]()
    steps = len(told) + many_values(past)

    def looked_at(many: float) -> LookedDoc:
        return LookedDoc(kind="looked", share=many / steps if steps else 1.0)

    for one in learn(past, [doc.offer() for doc, _ in told], named):
        if isinstance(one, Learned):
            learned.append(one)
        else:
            yield looked_at(one * len(told))
    ran = [one.ran for one in learned]
    found = untold(past, ran)
    yield looked_at(len(told))
    for value in free_standing(past, ran, found.freed):
        standing.append(value)
        yield looked_at(len(told) + len(standing))
    yield history_says(
        past,
        learned,
        next_of_each(learned),
        sent,
        found,
        standing,
        [doc.name or f"offer {number}" for number, (doc, _) in enumerate(told, start=1)],
        [running for _, running in told],
        loaded.currency,
        loaded.minor_digits,
        tests_of(at),
    )


def tests_of(at: Counted) -> list[ShortTestDoc]:
    """What a short test would tell of each figure, with as many orders as usually come. None where none came."""
    expected = at.forecaster.expected
    if not expected.has_carts or not len(expected.counted.days):
        return []
    before = at.loaded.batch.facts.orders_before_by_cart
    known = before >= 0
    first = float((before[known] == 0).mean()) if known.any() else 0.0
    a_day = expected.volume.base
    return short_tests(a_day, a_day * first, spread_of(expected), len(expected.counted.days))
