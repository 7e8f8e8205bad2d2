"""What the orders of a course come to: those that come anyway, those that top up, more orders, and what they cost
besides.

Every figure is linear in the sums of the states that orders meet. docs/sums.md, "A forecast" and "The bridge".
"""

from dataclasses import dataclass
from typing import get_args

import numpy as np

from yellow_abacus.core.clauses.response import Following
from yellow_abacus.core.costing.ledger import INDEX, PLAN_ROWS, ROWS
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, Flow, parts_of
from yellow_abacus.core.forecast.sums import AT, FIGURES, LEDGER
from yellow_abacus.core.ground.money import WHOLE_BP, Floats


@dataclass(frozen=True, eq=False)
class Takings:
    """One row a draw. existing, topped_up, sent: by figure of FIGURES: orders that come anyway under the plan; what
    changes as some of them top up; orders that messages bring. extra_of: by offer and figure, orders that it brings.

    borrowed_of, switched_of, winning_of: by offer, minor units lost on orders that only came sooner, lost by goods
    that others were bought in place of, and paid for winning some and for messages. reached, topped: by offer,
    existing orders it takes effect on as they are, and because they are topped up. given, uses: by offer, what it
    gives away on both, and its uses in all. won_first: first orders won, by offer. kept, worth: by offer, what the
    existing orders it takes effect on keep, and what their goods come to at standing prices.
    """

    existing: Floats
    topped_up: Floats
    extra_of: Floats
    sent: Floats
    borrowed_of: Floats
    switched_of: Floats
    winning_of: Floats
    fixed: Floats
    reached: Floats
    topped: Floats
    given: Floats
    uses: Floats
    extra_orders: Floats
    won_first: Floats
    kept: Floats
    worth: Floats
    any_reached: Floats

    @property
    def extra(self) -> Floats:
        """By figure, orders that offers bring."""
        result: Floats = self.extra_of.sum(axis=1)
        return result

    @property
    def borrowed(self) -> Floats:
        result: Floats = self.borrowed_of.sum(axis=1)
        return result

    @property
    def switched(self) -> Floats:
        result: Floats = self.switched_of.sum(axis=1)
        return result

    @property
    def winning(self) -> Floats:
        result: Floats = self.winning_of.sum(axis=1)
        return result

    @property
    def all_orders(self) -> Floats:
        """By figure, of all orders."""
        result: Floats = self.existing + self.topped_up + self.extra + self.sent
        return result

    @property
    def ledger(self) -> Floats:
        """By row of the whole ledger."""
        besides = np.zeros((len(self.existing), len(PLAN_ROWS)))
        besides[:, INDEX["borrowed"] - len(ROWS)] -= self.borrowed
        besides[:, INDEX["switched"] - len(ROWS)] -= self.switched
        besides[:, INDEX["winning"] - len(ROWS)] -= self.winning
        besides[:, INDEX["fixed"] - len(ROWS)] -= self.fixed
        return np.hstack((self.all_orders[:, LEDGER], besides))

    @property
    def profit(self) -> Floats:
        besides = self.borrowed + self.switched + self.winning + self.fixed
        result: Floats = self.all_orders[:, AT["kept"]] - besides
        return result


def takings_of(course: Course, drawn: Drawn) -> Takings:
    draws, offers = drawn.draws, len(drawn.plan.offers)
    figures, by_offer = (draws, len(FIGURES)), (draws, offers)
    found = Takings(
        **{name: np.zeros(figures) for name in ("existing", "topped_up", "sent")},
        extra_of=np.zeros((draws, offers, len(FIGURES))),
        **{name: np.zeros(draws) for name in ("fixed", "any_reached")},
        **{
            name: np.zeros(by_offer)
            for name in (
                "borrowed_of",
                "switched_of",
                "winning_of",
                "reached",
                "topped",
                "given",
                "uses",
                "extra_orders",
                "won_first",
                "kept",
                "worth",
            )
        },
    )
    for flow in course.flows:
        _add(found, flow, drawn)
    for at, offer in enumerate(drawn.plan.offers):
        found.fixed[:] += offer.response.fixed_cost
        if offer.response.sends is not None:
            found.winning_of[:, at] += offer.response.sends.paid(drawn.plan.open_for(offer)[1])
    return found


def _add(found: Takings, flow: Flow, drawn: Drawn) -> None:
    numbers = flow.state.numbers
    for sums, share, anyway in parts_of(flow.state, drawn):
        orders = flow.orders * share[:, None]
        whole = orders @ sums.total
        if not flow.wins:
            found.sent[:] += whole
        else:
            (found.existing if anyway else found.topped_up)[:] += whole
            found.any_reached[:] += orders @ sums.any_reached
        for here, at in enumerate(numbers):
            _add_of_offer(found, flow, orders, sums.reached[:, here], sums.given[:, here], at, drawn)
            if flow.wins:
                of_reached = orders @ sums.reached[:, here, AT["orders"]]
                (found.reached if anyway else found.topped)[:, at] += of_reached
                extra = orders * drawn.extra_by_cell(at)
                found.uses[:, numbers] += extra @ sums.uses[:, here]


def _add_of_offer(
    found: Takings, flow: Flow, orders: Floats, reached: Floats, given: Floats, at: int, drawn: Drawn
) -> None:
    response = drawn.plan.offers[at].response
    of_reached = orders @ reached
    partner = _partner(drawn, at)
    found.uses[:, at] += of_reached[:, AT["orders"]]
    found.winning_of[:, at] += partner * of_reached[:, AT["goods"]]
    if not flow.wins:
        return
    found.given[:, at] += orders @ given
    found.kept[:, at] += of_reached[:, AT["kept"]]
    found.worth[:, at] += of_reached[:, AT["goods_before_offers"]]
    share = drawn.extra_by_cell(at)
    if not share.any():
        return
    extra = (orders * share) @ reached
    found.extra_of[:, at] += extra
    found.extra_orders[:, at] += extra[:, AT["orders"]]
    found.won_first[:, at] += (orders * share)[:, ::2] @ reached[::2, AT["orders"]]
    borrowed = drawn.of(at, "borrowed_bp")
    if borrowed is not None:
        found.borrowed_of[:, at] += borrowed * extra[:, AT["kept_today"]]
    found.switched_of[:, at] += _switched(flow, orders * share, reached, at, drawn)
    found.winning_of[:, at] += response.extra_cost * extra[:, AT["orders"]] + partner * extra[:, AT["goods"]]


def _switched(flow: Flow, extra: Floats, reached: Floats, at: int, drawn: Drawn) -> Floats:
    """What other goods lose to orders an offer brings, minor units. extra: how many, of those it reached, by cell."""
    share, lost = drawn.of(at, "switched_bp"), flow.state.switched.get(at)
    if share is None or lost is None:
        return np.zeros(len(extra))
    result: Floats = share * (extra @ (lost * reached[:, AT["orders"]]))
    return result


def _partner(drawn: Drawn, at: int) -> float:
    """The partner's share of goods, of orders that used the offer's code."""
    offer = drawn.plan.offers[at]
    return offer.response.partner_bp / WHOLE_BP if offer.given.key is not None else 0.0


def depth_of(takings: Takings, at: int) -> float:
    """What an offer gives away, as a share of the goods at standing prices of the orders it takes effect on."""
    worth = float(takings.worth[0, at])
    return float(takings.given[0, at]) / worth if worth else 0.0


def following(course: Course, drawn: Drawn) -> dict[tuple[int, Following], float]:
    """By offer whose response follows what it gives, and figure: how many times what was said it is.

    drawn: of one value each. Nothing given brings nothing.
    """
    found: dict[tuple[int, Following], float] = {}
    for at, offer in enumerate(drawn.plan.offers):
        if not offer.response.depth_bp:
            continue
        given = worth = 0.0
        for flow in course.flows:
            if flow.wins and at in flow.state.numbers:
                here, orders = flow.state.numbers.index(at), flow.orders[0]
                given += float(orders @ flow.state.sums.given[:, here])
                worth += float(orders @ flow.state.sums.reached[:, here, AT["goods_before_offers"]])
        for figure in get_args(Following):
            found[at, figure] = offer.response.times_at(figure, given / worth) if worth else 0.0
    return found


def profit_of(course: Course, drawn: Drawn) -> Floats:
    """What `takings_of` comes to in all, one entry a draw: the short way, for many draws."""
    offers = drawn.plan.offers
    found: Floats = np.full(drawn.draws, -float(sum(map(drawn.plan.paid_for, offers))))
    extras = {at: extra for at in range(len(offers)) if (extra := drawn.extra_by_cell(at)).any()}
    for flow in course.flows:
        for sums, share, _ in parts_of(flow.state, drawn):
            orders = flow.orders * share[:, None]
            each = sums.profit
            for here, at in enumerate(flow.state.numbers):
                response, reached = offers[at].response, sums.reached[:, here]
                partner = _partner(drawn, at)
                won = reached[:, AT["kept"]] - response.extra_cost * reached[:, AT["orders"]]
                each = each - partner * reached[:, AT["goods"]]
                if flow.wins and at in extras:
                    extra = orders * extras[at]
                    found += extra @ (won - partner * reached[:, AT["goods"]])
                    if (borrowed := drawn.of(at, "borrowed_bp")) is not None:
                        found -= borrowed * (extra @ reached[:, AT["kept_today"]])
                    found -= _switched(flow, extra, reached, at, drawn)
            found += orders @ each
    return found
