"""Why an offer applied on a cart, or why not: one reason for every cart and offer, the first that fits.

Here is what an offer must pass to take part at all (`gates`), and what it met at its turn once it did (`verdict`).
`why` puts both together. docs/sums.md, "Why, and why not".
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import Facts
from yellow_abacus.core.clauses.where import Kept
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import BuyGet, DeliveryReward, GoodsSet, Offer, PutIn, Reward
from yellow_abacus.core.offers.allowance import earned, portions
from yellow_abacus.core.shop.shop import Shop

Reason = Literal[
    "applied",
    "out_of_dates",
    "wrong_hours",
    "not_this_shopper",
    "not_this_destination",
    "not_this_channel",
    "not_this_payment",
    "not_this_currency",
    "no_code",
    "used_up",
    "gift_out_of_stock",
    "nothing_in_scope",
    "short",
    "over",
    "reward_not_in_cart",
    "not_taken",
    "nothing_left",
    "shut_out",
]
REASONS: tuple[Reason, ...] = get_args(Reason)
NUMBER: dict[Reason, int] = {reason: at for at, reason in enumerate(REASONS)}

Measure = Literal["spend", "units", "weight", "products"]
MEASURES: tuple[Measure, ...] = get_args(Measure)


def gates(offer: Offer, shop: Shop, batch: CartBatch) -> list[tuple[Reason, Bools]]:
    """What an offer must pass on each cart to take part at all: the reason if it fails, and where it passes.

    Days and codes are not among them: which offers are open and held is for whoever prices to say. But what runs
    already is held by the orders that used its code.
    """
    facts, lets_in = batch.facts, offer.where.lets_in(shop.zone_names, batch.zone_by_cart, batch.facts)
    return [
        ("wrong_hours", offer.when.passes(facts)),
        ("not_this_shopper", offer.who.passes(facts)),
        *((NOT_THIS[kept], into) for kept, into in lets_in),
        *_used(offer, facts),
        ("gift_out_of_stock", np.full(batch.axes.carts, any(_is_there(one, batch.goods) for one in offer.rewards()))),
    ]


def _used(offer: Offer, facts: Facts) -> list[tuple[Reason, Bools]]:
    """Of an offer that runs already, the orders that used its code."""
    return [("no_code", facts.code.among(offer.given.accepted))] if offer.runs and offer.given.key else []


NOT_THIS: dict[Kept, Reason] = {
    "destination": "not_this_destination",
    "channel": "not_this_channel",
    "payment": "not_this_payment",
    "currency": "not_this_currency",
}


def _all_ended(offer: Offer, batch: CartBatch, times: Ints, step: Ints) -> Bools:
    """Where the offer is earned, and nothing of the step reached is left to give."""
    gone = np.array([not any(_is_there(one, batch.goods) for one in gives) for gives in offer.gives_by_step])
    if offer.every_step:
        gone = np.logical_and.accumulate(gone)
    result: Bools = (times > 0) & gone[step]
    return result


def _is_there(reward: Reward, goods: Goods) -> bool:
    """Whether the reward can be given at all: things put in whose stock has ended cannot."""
    return not isinstance(reward, PutIn) or bool(reward.choices(goods))


def takes_part(offers: Sequence[Offer], shop: Shop, batch: CartBatch) -> Bools:
    """One row an offer, one column a cart: whether the offer passes every gate there."""
    return all_passed([gates(offer, shop, batch) for offer in offers], batch.axes.carts)


def all_passed(told: Sequence[list[tuple[Reason, Bools]]], carts: int) -> Bools:
    """As `takes_part`, from the gates of each offer."""
    rows = [np.logical_and.reduce([passes for _, passes in one]) for one in told]
    return np.array(rows, dtype=np.bool_).reshape(len(told), carts)


@dataclass(frozen=True, eq=False)
class Verdict:
    """One entry a cart. reason: number in REASONS.

    short_by: how much is missing where that is `short`, in minor units, units, grams or products, as short_of (number
    in MEASURES) says.
    """

    reason: Ints
    short_by: Ints
    short_of: Ints


class _Judge:
    """Writes reasons from the last to the first, so that the first that fits stands."""

    def __init__(self, carts: int) -> None:
        self.reason = np.full(carts, NUMBER["nothing_left"])
        self.short_by = np.zeros(carts, dtype=np.int64)
        self.short_of = np.zeros(carts, dtype=np.int64)

    def say(self, reason: Reason, where: Bools) -> None:
        self.reason[where] = NUMBER[reason]

    def say_short(self, where: Bools, by: Ints, of: Measure) -> None:
        self.say("short", where)
        self.short_by[where] = by[where]
        self.short_of[where] = MEASURES.index(of)


def verdict(offer: Offer, batch: CartBatch, net: Ints) -> Verdict:
    """Why the offer took no effect on carts where it had its turn and nothing shut it out.

    net: what each line still cost at its turn.
    """
    judge = _Judge(batch.axes.carts)
    told = [earned(offer, batch, net, among) for among in portions(offer, batch)]
    held = np.max([times for times, _ in told], axis=0)
    there = np.logical_or.reduce([_reward_there(one, offer, batch) for one in offer.rewards()])
    judge.say("reward_not_in_cart", ~there)
    _over_and_short(judge, offer, batch, net, held)
    judge.say("nothing_in_scope", ~np.logical_or.reduce([_any_line(batch, scope) for scope in _earning(offer)]))
    judge.say("gift_out_of_stock", np.logical_or.reduce([_all_ended(offer, batch, *one) for one in told]))
    return Verdict(judge.reason, judge.short_by, judge.short_of)


def delivers(offer: Offer, shop: Shop, zone_by_row: Ints, option_by_row: Ints) -> Bools:
    """Whether each row goes where, and by what, an offer on delivery alone can lower the charge; true for others."""
    rewards = [one for one in offer.rewards() if isinstance(one, DeliveryReward)]
    if offer.works_on_goods or not rewards:
        return np.ones(len(zone_by_row), dtype=np.bool_)
    served: Bools = np.logical_or.reduce([one.serves(shop.delivery, zone_by_row, option_by_row) for one in rewards])
    return served


def _any_line(batch: CartBatch, scope: Scope) -> Bools:
    return _units(batch, batch.lines_in(scope)) > 0


def _units(batch: CartBatch, lines: Bools) -> Ints:
    return batch.axes.sum_by_cart(batch.quantity_by_line * lines)


def _earning(offer: Offer) -> list[Scope]:
    """The goods by which the offer is earned: those of its conditions, else those its rewards work on."""
    scopes = [one.of for one in offer.earned.conditions if one.bound != "at_most"]
    if scopes:
        return scopes
    for reward in offer.rewards():
        if isinstance(reward, GoodsSet):
            scopes += [part.of for part in reward.parts]
        elif isinstance(reward, BuyGet):
            scopes.append(reward.of if reward.buy else offer.on)
        else:
            scopes.append(EVERYTHING if isinstance(reward, PutIn | DeliveryReward) else offer.on)
    return scopes


def _reward_there(reward: Reward, offer: Offer, batch: CartBatch) -> Bools:
    """Whether the units a reward works on are in the cart, used by others or not."""
    if isinstance(reward, PutIn | DeliveryReward | GoodsSet):
        return np.ones(batch.axes.carts, dtype=np.bool_)
    gets = batch.lines_in(offer.on)
    if batch.may_be_discounted_by_line is not None:
        gets = gets & batch.may_be_discounted_by_line
    if not isinstance(reward, BuyGet):
        return _units(batch, gets) > 0
    buys = batch.lines_in(reward.of) if reward.buy else np.zeros_like(gets)
    found: Bools = np.zeros(batch.axes.carts, dtype=np.bool_)
    for among in portions(offer, batch):
        mine = among if among is not None else np.ones_like(gets)
        enough = _units(batch, mine & (gets | buys)) >= reward.buy + reward.get
        found |= enough & (_units(batch, mine & gets) >= reward.get)
    return found


def _over_and_short(judge: _Judge, offer: Offer, batch: CartBatch, net: Ints, held: Ints) -> None:
    """A condition that does not hold, or units missing of a reward that uses units up: the first written counts."""
    conditions = offer.earned.conditions
    unmet = held == 0
    delivery = [reward for reward in offer.rewards() if isinstance(reward, DeliveryReward)]
    if delivery and not offer.works_on_goods:
        light = [reward.light_enough(batch.weight_by_cart) for reward in delivery]
        judge.say("over", ~unmet & ~np.logical_or.reduce(light))
    measures = [
        np.max([one.measure_by_cart(batch, net, among) for among in portions(offer, batch)], axis=0)
        for one in conditions
    ]
    for one, measure in zip(conditions, measures, strict=True):
        if one.bound == "at_most":
            judge.say("over", unmet & ~one.reached(measure, one.n))
    for reward in reversed(list(offer.rewards())):
        missing = _units_missing(reward, offer, batch)
        judge.say_short(~unmet & (missing > 0), missing, "units")
    for one, measure in reversed(list(zip(conditions, measures, strict=True))):
        if one.bound != "at_most" and one.kind != "only":
            judge.say_short(unmet & ~one.reached(measure, one.n), one.missing(measure), one.kind)


def _units_missing(reward: Reward, offer: Offer, batch: CartBatch) -> Ints:
    """Units missing to earn a reward that uses units up: of one set, or of what has to be bought; else 0."""
    if isinstance(reward, BuyGet) and reward.buy:
        return _fewest(offer, batch, [(reward.buy, batch.lines_in(reward.of))])
    if isinstance(reward, GoodsSet):
        return _fewest(offer, batch, [(part.count, batch.lines_in(part.of)) for part in reward.parts])
    return np.zeros(batch.axes.carts, dtype=np.int64)


def _fewest(offer: Offer, batch: CartBatch, wanted: Sequence[tuple[int, Bools]]) -> Ints:
    """The fewest units missing of what is wanted, over the lines the offer takes one after another."""
    found = []
    for among in portions(offer, batch):
        missing = [
            np.maximum(count - _units(batch, lines if among is None else lines & among), 0) for count, lines in wanted
        ]
        found.append(np.sum(missing, axis=0))
    result: Ints = np.min(found, axis=0).astype(np.int64)
    return result
