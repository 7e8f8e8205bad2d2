"""What is wrong with one offer: a sentence that cannot work says so in place."""

from collections.abc import Collection, Iterator
from itertools import combinations, pairwise

import numpy as np

from yellow_abacus.core.clauses.conditions import Measured
from yellow_abacus.core.goods.goods import Goods, Names
from yellow_abacus.core.goods.scope import KINDS, Scope
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP
from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.ground.problem import Path, Problem, amount_between
from yellow_abacus.core.offers import (
    AmountOff,
    AmountOffEach,
    BuyGet,
    DeliveryLoweredTo,
    GoodsReward,
    GoodsSet,
    Offer,
    PercentOff,
    PutIn,
    Reward,
    UnitPrice,
)
from yellow_abacus.core.shop.shop import Shop

MOST_PARTS = 8
MOST_STEPS = 12
MOST_NAMES = 1000
MOST_RETURNED_BP = 10 * WHOLE_BP
MOST_USES = 1_000_000_000

ONE_OF: dict[Names, str] = {
    "categories": "category",
    "products": "product",
    "brands": "brand",
    "tags": "tag",
    "skus": "SKU",
}

Picking = PercentOff | AmountOff | AmountOffEach | UnitPrice
UnitReward = BuyGet | GoodsSet


def too_many(path: Path, what: str, count: int, most: int) -> Iterator[Problem]:
    if count > most:
        yield Problem(path, f"There are {count} {what}.", f"Keep {most} at most.")


def check_offer(offer: Offer, shop: Shop, goods: Goods) -> Iterator[Problem]:
    zones = [zone.name for zone in shop.zones]
    yield from _earned(offer)
    yield from _steps(offer)
    for number, gives in enumerate(offer.gives_by_step[: MOST_STEPS + 1]):
        path: Path = ("gives",) if number == 0 else ("steps", number - 1, "gives")
        yield from _gives(path, gives, zones, goods)
    yield from _scopes(offer, goods)
    yield from (problem.inside("given") for problem in offer.given.problems())
    yield from (problem.inside("when") for problem in offer.when.problems())
    yield from (problem.inside("who") for problem in offer.who.problems())
    yield from _where(offer, zones)
    yield from _limits(offer, shop, goods)
    yield from (problem.inside("funded") for problem in offer.funded.problems())
    if not 0 <= offer.returned_bp <= MOST_RETURNED_BP:
        yield Problem(("returned_bp",), "No goods come back so often.", "Choose from 0 to 10 times as much.")
    yield from (problem.inside("response") for problem in offer.response.problems())
    yield from _response(offer, goods)


def _response(offer: Offer, goods: Goods) -> Iterator[Problem]:
    response = offer.response
    for number, sku in enumerate(response.top_up_skus):
        if goods.index_of(sku) is None:
            path: Path = ("response", "top_up_skus", number)
            yield Problem(path, f"There is no SKU {sku}.", "Choose another, or bring it in at Goods.")
    if response.sends is not None and offer.given.key is None:
        yield Problem(("response", "sends"), "There is no code to send.", "Give the offer a code, or send nothing.")


def _earned(offer: Offer) -> Iterator[Problem]:
    earned = offer.earned
    yield from too_many(("earned", "conditions"), "conditions", len(earned.conditions), MOST_PARTS)
    for at, condition in enumerate(earned.conditions[:MOST_PARTS]):
        yield from (problem.inside("earned", "conditions", at) for problem in condition.problems())
    rewards = list(offer.rewards())
    if earned.repeat == "each_time":
        counts = any(condition.bound != "at_most" for condition in earned.conditions)
        bounded = counts or (not earned.conditions and all(isinstance(one, UnitReward) for one in rewards))
        if not bounded:
            yield Problem(("earned", "repeat"), "“Each time” has nothing to count.", "Say what must be reached.")
        elif not any(isinstance(one, AmountOff | UnitReward | PutIn) for one in rewards):
            yield Problem(
                ("earned", "repeat"), "“Each time” changes nothing here.", "Use it with an amount, units or a gift."
            )
    counts_units = any(condition.kind == "units" for condition in earned.conditions)
    if earned.counted != "pooled" and not counts_units and not any(isinstance(one, UnitReward) for one in rewards):
        yield Problem(
            ("earned", "counted"),
            "There are no units to count by themselves.",
            "Ask for units, or count them together.",
        )


def _steps(offer: Offer) -> Iterator[Problem]:
    steps, conditions = offer.steps, offer.earned.conditions
    yield from too_many(("steps",), "steps", len(steps), MOST_STEPS)
    if offer.every_step and not all(isinstance(one, PutIn) for one in offer.rewards()):
        yield Problem(
            ("every_step",), "Only things put in can come with every step.", "Let the highest step count alone."
        )
    if not steps or len(steps) > MOST_STEPS:
        return
    if not conditions or conditions[0].bound == "at_most" or offer.earned.need == "any":
        yield Problem(("steps",), "Steps have nothing to rise by.", "Let one thing be reached first, and all of it.")
        return
    if offer.earned.repeat == "each_time":
        yield Problem(("earned", "repeat"), "Steps cannot count “each time”.", "Let them count once.")
    for at, (n, above) in enumerate(pairwise([conditions[0].n, *(step.n for step in steps)])):
        if above <= n:
            yield Problem(("steps", at, "n"), "This step is not above the one before.", "Choose a higher figure.")
        elif isinstance(conditions[0], Measured):
            yield from amount_between("n", "The step", above, least=1, most=conditions[0].most)
    for at, (below, gives) in enumerate(pairwise(offer.gives_by_step)):
        if len(below) == len(gives) == 1 and _gives_less(gives[0], below[0]):
            yield Problem(
                ("steps", at, "gives"), "This step gives less than the one below it.", "Give more, or take it off."
            )


def _gives_less(reward: Reward, below: Reward) -> bool:
    """Whether one reward of the same kind is plainly worth less to the shopper."""
    if reward.kind != below.kind:
        return False
    dear = isinstance(reward, UnitPrice | DeliveryLoweredTo)
    for name in ("percent_bp", "amount"):
        value, before = getattr(reward, name, None), getattr(below, name, None)
        if value is not None and before is not None and not isinstance(reward, PutIn):
            return bool(value > before if dear else value < before)
    return False


def _gives(path: Path, gives: Collection[Reward], zones: list[str], goods: Goods) -> Iterator[Problem]:
    if not gives:
        yield Problem(path, "The offer gives nothing.", "Say what shoppers get.")
    yield from too_many(path, "rewards", len(gives), MOST_PARTS)
    for at, reward in enumerate(list(gives)[:MOST_PARTS]):
        where = (*path, at)
        yield from (problem.inside(*where) for problem in reward.problems())
        for zone in getattr(reward, "zones", ()):
            if zone not in zones:
                yield Problem((*where, "zones"), *_no_zone(zone))
        if isinstance(reward, PutIn):
            yield from _put_in(where, reward, goods)
        if isinstance(reward, GoodsSet):
            yield from _parts_apart(where, reward, goods)


def _no_zone(zone: str) -> tuple[str, str]:
    return f"The shop does not deliver to “{zone}”.", "Choose a zone from Delivery."


def _put_in(path: Path, reward: PutIn, goods: Goods) -> Iterator[Problem]:
    for field, names in (("skus", reward.skus), ("substitute", (reward.substitute,) if reward.substitute else ())):
        for sku in names[:MOST_NAMES]:
            if goods.index_of(sku) is None:
                yield Problem((*path, field), f"The shop has no SKU “{sku}”.", "Choose a SKU that Goods has.")
    known = [at for at in map(goods.index_of, reward.all_skus(goods)) if at is not None]
    worth = [max(int(goods.standing_price[at]), reward.amount) for at in known]
    if max(worth, default=0) * reward.quantity > LARGEST_CHARGE:
        yield Problem((*path, "quantity"), "That is worth more than can be put in one cart.", "Put in fewer.")
    for name in reward.categories[:MOST_NAMES]:
        if folded(name) not in all_folded(goods.categories):
            yield Problem((*path, "categories"), f"The shop has no category “{name}”.", "Choose one that Goods has.")


def _parts_apart(path: Path, reward: GoodsSet, goods: Goods) -> Iterator[Problem]:
    holds = [part.of.holds(goods) for part in reward.parts[:MOST_STEPS]]
    for (_, one), (at, other) in combinations(enumerate(holds), 2):
        shared = np.flatnonzero(one & other)
        if len(shared):
            yield Problem(
                (*path, "parts", at, "of"),
                f"{goods.skus[int(shared[0])]} is in two parts of the set.",
                "Let the parts share nothing, or raise the count of one part.",
            )


def _scopes(offer: Offer, goods: Goods) -> Iterator[Problem]:
    scopes: list[tuple[Path, Scope]] = [
        (("on",), offer.on),
        (("response", "switched_of"), offer.response.switched_of),
    ]
    scopes += [(("earned", "conditions", at, "of"), one.of) for at, one in enumerate(offer.earned.conditions)]
    for number, gives in enumerate(offer.gives_by_step):
        path: Path = ("gives",) if number == 0 else ("steps", number - 1, "gives")
        for at, reward in enumerate(gives):
            if isinstance(reward, BuyGet):
                scopes.append(((*path, at, "of"), reward.of))
            if isinstance(reward, GoodsSet):
                scopes += [((*path, at, "parts", n, "of"), part.of) for n, part in enumerate(reward.parts)]
    for path, scope in scopes[:100]:
        for kind, clause in ((kind, prefix + kind) for kind in KINDS for prefix in ("", "except_")):
            names = getattr(scope, clause)
            if not names:
                continue
            what, known = ONE_OF[kind], goods.known(kind)
            yield from too_many((*path, clause), "names in one list", len(names), MOST_NAMES)
            for name in _not_among(names[:MOST_NAMES], known, exactly=kind == "skus"):
                yield Problem(
                    (*path, clause), f"The shop has no {what} “{name}”.", f"Choose a {what} that Goods has."
                )


def _not_among(names: Collection[str], known: Collection[str], *, exactly: bool) -> list[str]:
    """The names nothing is known by. exactly: as SKUs are named; others in any case and spelling."""
    meant = frozenset(known) if exactly else all_folded(known)
    return sorted({name for name in names if (name if exactly else folded(name)) not in meant})


def _where(offer: Offer, zones: list[str]) -> Iterator[Problem]:
    where = offer.where
    for clause in ("zones", "except_zones"):
        for zone in getattr(where, clause):
            if zone not in zones:
                yield Problem(("where", clause), *_no_zone(zone))
    if zones and all((where.zones and zone not in where.zones) or zone in where.except_zones for zone in zones):
        yield Problem(("where", "zones"), "It holds in no zone at all.", "Leave at least one zone in.")


def _limits(offer: Offer, shop: Shop, goods: Goods) -> Iterator[Problem]:
    limits, rewards = offer.limits, list(offer.rewards())
    for field, what in (
        ("times", "The number of times"),
        ("units", "The number of units"),
        ("amount", "The most it takes off"),
        ("uses_per_shopper", "The uses by one shopper"),
        ("uses", "The uses in all"),
        ("spending", "The spending in all"),
    ):
        value = getattr(limits, field)
        if value is not None:
            for problem in amount_between(field, what, value, least=1, most=MOST_USES):
                yield problem.inside("limits")
    if limits.units is not None and not any(isinstance(one, Picking) for one in rewards):
        yield Problem(("limits", "units"), "There are no units to limit.", "Take this limit off.")
    if limits.amount is not None and not any(isinstance(one, GoodsReward) for one in rewards):
        yield Problem(("limits", "amount"), "Nothing is taken off goods.", "Take this limit off.")
    elif limits.amount is not None:
        smallest = min(_smallest_off(offer, reward, shop, goods) for reward in offer.gives)
        if limits.amount < smallest:
            yield Problem(
                ("limits", "amount"),
                "It is under the smallest discount, so it alone decides.",
                "Raise it, or take an amount off instead.",
            )


def _smallest_off(offer: Offer, reward: Reward, shop: Shop, goods: Goods) -> int:
    """The least the reward takes off whenever it is earned, as far as that can be told; minor units.

    A threshold tells it only where it counts nothing but goods that the reward takes from.
    """
    if isinstance(reward, AmountOffEach):
        return reward.amount
    if isinstance(reward, AmountOff):
        return reward.amount
    some_stay = bool((offer.on.holds(goods) & ~goods.may_be_discounted).any())
    if some_stay or shop.settings.percent_of == "standing" or offer.earned.counted != "pooled":
        return 0
    on_net = [one for one in offer.earned.conditions if one.kind == "spend" and one.at == "net"]
    spends = [one.n for one in on_net if one.of == offer.on]
    spends = [] if offer.earned.need == "any" and len(offer.earned.conditions) > len(spends) else spends
    if isinstance(reward, PercentOff) and offer.limits.units is None:
        bounds = [one.bound for one in offer.earned.conditions if one.kind == "spend"]
        return max(spends, default=0) * reward.percent_bp // WHOLE_BP if "at_most" not in bounds else 0
    return 0
