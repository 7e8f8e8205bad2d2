"""How a plan goes, day by day: which orders meet which set of offers, until limits and stock end.

A course is told for one value of every response figure, or for many at once (draws). Uses in all, spending in all
and the stock of things put in run down by what is expected of each day; the day one ends is split by weight, and
from then on orders meet what is left of the offers. docs/sums.md, "Limits over time".
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, Protocol

import numpy as np

from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.forecast.chances import Available, Drawn, available_sets
from yellow_abacus.core.forecast.groups import COHORTS
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.states import Span, State
from yellow_abacus.core.forecast.sums import AT, Sums
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats
from yellow_abacus.core.offers import Offer, PutIn

CELLS = WEEKDAYS * COHORTS
FEW_DRAWS = 1_000
"""What is used of limits is kept by weekday for so many draws, and found for those asked where there are more."""
LEAST_LEFT = 1e-9
"""Of a day, or of a limit: less is nothing."""

Ended = frozenset[int]
"""The numbers of the limits that have ended."""


@dataclass(frozen=True)
class Limit:
    """What may end while the plan runs: uses or spending (minor units) of an offer, by its number, or units of a SKU
    that offers put in or that may sell out. most: how much there is. put_in: whether offers put it in."""

    of: Literal["uses", "spending", "stock"]
    most: float
    offer: int = -1
    sku: int = -1
    put_in: bool = False


@dataclass(frozen=True, eq=False)
class Flow:
    """Orders that meet a state: [draw, cell], a cell being a weekday and a cohort.

    wins: whether the offers they meet bring more orders like them: so do those that come anyway, not those that a
    message brought.
    """

    state: State
    orders: Floats
    wins: bool


@dataclass(frozen=True, eq=False)
class Course:
    """flows: all orders of the plan's time. ends: by limit, the ordinal of the day it ends and the part of it gone
    by, one entry a draw; nan where it does not end. used: by limit, how much of it, one entry a draw. met: by
    number of the span, the limits that had ended while some of its orders came.
    """

    flows: list[Flow]
    limits: list[Limit]
    ends: list[Floats]
    used: list[Floats]
    met: tuple[tuple[int, Ended], ...]


class Finder(Protocol):
    """What a course asks for: the states of a span."""

    def state(self, span: Span, available: Available, plan: Plan) -> State: ...


def limits_of(plan: Plan, spans: Sequence[Span]) -> list[Limit]:
    """Everything of the plan's offers that may end."""
    found = []
    for at, offer in enumerate(plan.offers):
        uses = [one for one in (offer.limits.uses, len(offer.given.codes) or None) if one is not None]
        if uses:
            found.append(Limit("uses", float(min(uses)), offer=at))
        if offer.limits.spending is not None:
            found.append(Limit("spending", float(offer.limits.spending), offer=at))
    if not spans:
        return found
    goods = spans[0].mix.batch.goods
    rewards = [one for offer in plan.offers for one in offer.rewards() if isinstance(one, PutIn)]
    named = dict.fromkeys(sku for one in rewards for sku in (*one.all_skus(goods), one.substitute) if sku)
    put_in = (goods.index_of(sku) for sku in named)
    of_stock = [sku for sku in put_in if sku is not None and goods.stock[sku] > 0]
    found += [
        Limit("stock", float(goods.stock[sku]), sku=sku, put_in=sku in of_stock)
        for sku in dict.fromkeys((*of_stock, *spans[0].mix.may_sell_out))
    ]
    return found


def gone_of(span: Span, limits: Sequence[Limit], ended: Ended) -> int:
    """Which of the goods that may sell out are gone once some limits have ended: bits, as in `Mix.sold_out`."""
    bit = {sku: 1 << at for at, sku in enumerate(span.mix.may_sell_out)}
    return sum(bit.get(limits[number].sku, 0) for number in ended)


def open_after(span: Span, limits: Sequence[Limit], ended: Ended) -> Opened:
    """The offers open in a span once some limits have ended."""
    goods = span.mix.batch.goods
    found = []
    for at, offer in span.opened:
        left: Offer | None = offer
        for number in sorted(ended):
            limit = limits[number]
            if limit.of != "stock":
                left = None if limit.offer == at else left
            elif left is not None:
                left = left.without(goods.skus[limit.sku], goods)
        if left is not None:
            found.append((at, left))
    return tuple(found)


def run(finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> Course:
    """The course of a plan over the spans, which hold each of its days once for each source of carts."""
    return _Running(finder, plan, spans, drawn).run()


def by_day(finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> Iterator[tuple[int, Course]]:
    """The course of a plan day by day, each an ordinal, in order. drawn: of one value each."""
    running = _Running(finder, plan, spans, drawn)
    whole = running.run()
    for day in sorted(running.on):
        weekday = (day - 1) % WEEKDAYS
        orders: dict[tuple[int, Ended], Floats] = {}
        sent: dict[tuple[int, Ended], dict[int, Floats]] = {}
        for ended, part in running.parts.get(day, {frozenset(): np.ones(1)}).items():
            running.note(day, weekday, ended, np.ones(1, dtype=np.bool_), part, orders, sent)
        yield day, replace(whole, flows=list(running.flows(orders, sent)))


class _Running:
    """parts: of the days on which limits had ended, how much of the day went by with which, one entry a draw."""

    def __init__(self, finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> None:
        self.finder, self.plan, self.spans, self.drawn = finder, plan, spans, drawn
        self.limits = limits_of(plan, spans)
        self._met: dict[tuple[int, Ended, str | None], list[tuple[State, Floats]]] = {}
        self._uses: dict[tuple[int, Ended], list[tuple[Floats, Floats]]] = {}
        self._use_by_weekday: dict[tuple[int, Ended], Floats] = {}
        self._uses_of_sent: dict[tuple[int, Ended, int, int], Floats] = {}
        self.parts: dict[int, dict[Ended, Floats]] = {}

    @cached_property
    def on(self) -> dict[int, list[tuple[int, int]]]:
        """By day, the spans that hold it, by number, and which of their days it is."""
        found: dict[int, list[tuple[int, int]]] = {}
        for number, span in enumerate(self.spans):
            for at, day in enumerate(span.days.tolist()):
                found.setdefault(day, []).append((number, at))
        return found

    def run(self) -> Course:
        draws = self.drawn.draws
        ends = np.full((len(self.limits), draws), np.nan)
        used = np.zeros((len(self.limits), draws))
        whole: Ended = frozenset()
        spans, volume = list(enumerate(self.spans)), self.drawn.volume[:, None]
        by_span = {(number, whole): span.by_weekday * volume for number, span in spans}
        sent = {(number, whole): self._sent_by_weekday(span) for number, span in spans}
        if self.limits:
            without_end = self._used_whole(by_span, sent)
            if (without_end > self._most).any():
                by_span, sent = self._day_by_day(ends, used)
            else:
                used = without_end
        return Course(list(self.flows(by_span, sent)), self.limits, list(ends), list(used), tuple(by_span))

    @property
    def _most(self) -> Floats:
        """Of each limit, one below the other."""
        return np.array([limit.most for limit in self.limits], dtype=np.float64)[:, None]

    def _used_whole(
        self, by_span: dict[tuple[int, Ended], Floats], sent: dict[tuple[int, Ended], dict[int, Floats]]
    ) -> Floats:
        """How much of each limit all orders use if none ends: [limit, draw]."""
        found = np.zeros((len(self.limits), self.drawn.draws))
        for (number, ended), orders in by_span.items():
            for weight, each in self._uses_of(number, ended):
                found += (_cells(orders, weight) @ each).T
            for at, share in sent[number, ended].items():
                for weekday in np.flatnonzero(share.any(axis=0)).tolist():
                    found += self._use_of_sent(number, ended, at, weekday) * share[:, weekday]
        return found

    # --- orders that meet states

    def _states(self, number: int, ended: Ended, key: str | None = None) -> list[tuple[State, Floats]]:
        """The states of a span and the chance of each: [draw, cohort]. key: of a code that everybody holds."""
        known = self._met.get((number, ended, key))
        if known is None:
            whole = self.spans[number]
            span = whole.sold_out(gone_of(whole, self.limits, ended))
            drawn = self.drawn if key is None else self.drawn.everybody_holds(key)
            opened = open_after(span, self.limits, ended)
            sets = available_sets(opened, drawn)
            sets = _with_sharp(self.plan, opened, sets) if key is None else sets
            known = [(self.finder.state(span, one, self.plan), one.chance) for one in sets]
            self._met[number, ended, key] = known
        return known

    def _sends(self) -> Iterator[int]:
        """Numbers of the offers that are sent to shoppers."""
        for at, offer in enumerate(self.plan.offers):
            if offer.response.sends is not None and offer.given.key is not None:
                yield at

    def _sent_on(self, span: Span, at: int) -> Floats:
        """The share of those who answer that come on each of the span's days."""
        sends, offer = self.plan.offers[at].response.sends, self.plan.offers[at]
        assert sends is not None
        opens = max(self.plan.first_day, offer.when.first_day or self.plan.first_day).toordinal()
        closes = min(self.plan.last_day, offer.when.last_day or self.plan.last_day).toordinal()
        days = max(min(sends.days, closes - opens + 1), 1)
        comes = (span.days >= opens) & (span.days < opens + days)
        result: Floats = comes / days * span.source.share
        return result

    def _sent_by_weekday(self, span: Span) -> dict[int, Floats]:
        weekday = (span.days - 1) % WEEKDAYS
        return {at: summed_by(weekday, self._sent_on(span, at), WEEKDAYS)[None, :] for at in self._sends()}

    def _answers(self, at: int) -> tuple[Floats, float]:
        """How many answer what was sent, one entry a draw, and the share of them who come anyway."""
        sends = self.plan.offers[at].response.sends
        response = self.drawn.of(at, "send_response_bp")
        assert sends is not None
        assert response is not None
        return sends.size * response, sends.anyway_bp / WHOLE_BP

    def flows(
        self,
        by_span: dict[tuple[int, Ended], Floats],
        sent: dict[tuple[int, Ended], dict[int, Floats]],
    ) -> Iterator[Flow]:
        """by_span: orders by weekday, [draw, weekday], of each span while some limits have ended. sent: by offer, the
        share of those who answer."""
        for (number, ended), orders in by_span.items():
            if not orders.any():
                continue
            for state, chance in self._states(number, ended):
                yield Flow(state, _cells(orders, chance), wins=True)
        for (number, ended), by_offer in sent.items():
            for at, share in by_offer.items():
                if not share.any():
                    continue
                answers, anyway = self._answers(at)
                coming = share * answers[:, None]
                for state, weight in self._sent_states(number, ended, at, coming):
                    yield Flow(state, weight * (1 - anyway), wins=False)
                    if anyway:
                        yield Flow(state, weight * anyway, wins=True)
                if anyway:
                    to = self._to(at)
                    for state, chance in self._states(number, ended):
                        yield Flow(state, -anyway * _cells(coming, chance[:, None, :] * to(state)), wins=True)

    def _sent_states(self, number: int, ended: Ended, at: int, coming: Floats) -> Iterator[tuple[State, Floats]]:
        to = self._to(at)
        for state, chance in self._states(number, ended, self.plan.offers[at].given.key):
            yield state, _cells(coming, chance[:, None, :] * to(state))

    def _to(self, at: int) -> Callable[[State], Floats]:
        """What turns an order of anybody into one of those it is sent to: by state, [weekday, cohort]."""
        sends = self.plan.offers[at].response.sends
        assert sends is not None
        meant = np.array([sends.to != "returning", sends.to != "first"], dtype=np.float64)

        def share(state: State) -> Floats:
            of_cell = state.share_by_cell
            of_those = (of_cell * meant).sum(axis=1, keepdims=True)
            result: Floats = np.where(of_those > 0, meant / np.where(of_those > 0, of_those, 1.0), 1.0)
            return result

        return share

    # --- limits, day by day

    def _day_by_day(
        self, ends: Floats, used: Floats
    ) -> tuple[dict[tuple[int, Ended], Floats], dict[tuple[int, Ended], dict[int, Floats]]]:
        """As `flows` takes them. ends, used: [limit, draw], filled in."""
        draws, most = self.drawn.draws, self._most
        orders: dict[tuple[int, Ended], Floats] = {}
        sent: dict[tuple[int, Ended], dict[int, Floats]] = {}
        is_ended = np.zeros((len(self.limits), draws), dtype=np.bool_)
        for day in sorted(self.on):
            weekday, gone_by = (day - 1) % WEEKDAYS, np.zeros(draws)
            while (open_yet := gone_by < 1 - LEAST_LEFT).any():
                for ended, here in _by_ended(is_ended, open_yet):
                    use = self._use_on(day, ended, here)
                    left = np.maximum(most - used[:, here], 0.0)
                    until = np.where(use > 0, left / np.where(use > 0, use, 1.0), np.inf)
                    until[sorted(ended)] = np.inf
                    first = np.minimum(until.min(axis=0), 1 - gone_by[here])
                    used[:, here] += use * first
                    stops = until <= first * (1 + LEAST_LEFT)
                    if stops.any():
                        ends[:, here] = np.where(stops, day + gone_by[here] + first, ends[:, here])
                        is_ended[:, here] |= stops
                    self.note(day, weekday, ended, here, first, orders, sent)
                    self.parts.setdefault(day, {}).setdefault(ended, np.zeros(draws))[here] += first
                    gone_by[here] += first
        return orders, sent

    def note(
        self,
        day: int,
        weekday: int,
        ended: Ended,
        here: Bools,
        part: Floats,
        orders: dict[tuple[int, Ended], Floats],
        sent: dict[tuple[int, Ended], dict[int, Floats]],
    ) -> None:
        """A part of a day went by while some limits had ended."""
        draws = self.drawn.draws
        for number, at in self.on[day]:
            key, span = (number, ended), self.spans[number]
            if key not in orders:
                orders[key] = np.zeros((draws, WEEKDAYS))
            orders[key][here, weekday] += span.orders[at] * part * self.drawn.volume[here]
            for offer in self._sends():
                share = self._sent_on(span, offer)[at]
                mine = sent.setdefault(key, {}).setdefault(offer, np.zeros((draws, WEEKDAYS)))
                mine[here, weekday] += share * part

    def _use_on(self, day: int, ended: Ended, here: Bools) -> Floats:
        """How much of each limit a whole day uses while some have ended: [limit, draw], of some draws."""
        weekday, volume = (day - 1) % WEEKDAYS, self.drawn.volume[here]
        found = np.zeros((len(self.limits), len(volume)))
        for number, at in self.on[day]:
            span = self.spans[number]
            found += self._use(number, ended, weekday, here) * (span.orders[at] * volume)
            for offer in self._sends():
                share = self._sent_on(span, offer)[at]
                if share:
                    found += self._use_of_sent(number, ended, offer, weekday)[:, here] * share
        return found

    def _use(self, number: int, ended: Ended, weekday: int, here: Bools) -> Floats:
        """How much of each limit one order of a weekday uses, those it brings included: [limit, draw], of some
        draws."""
        parts = self._uses_of(number, ended)
        if self.drawn.draws > FEW_DRAWS:
            found, mine = np.zeros((here.sum(), len(self.limits))), slice(weekday * COHORTS, (weekday + 1) * COHORTS)
            for weight, each in parts:
                found += weight[here] @ each[mine]
            return found.T
        known = self._use_by_weekday.get((number, ended))
        if known is None:
            known = np.zeros((self.drawn.draws, WEEKDAYS * len(self.limits)))
            for weight, each in parts:
                by_cohort = each.reshape(WEEKDAYS, COHORTS, -1).transpose(1, 0, 2)
                known += weight @ by_cohort.reshape(COHORTS, -1)
            self._use_by_weekday[number, ended] = known
        result: Floats = known.reshape(-1, WEEKDAYS, len(self.limits))[here, weekday].T
        return result

    def _uses_of(self, number: int, ended: Ended) -> list[tuple[Floats, Floats]]:
        """How likely orders are of each cohort, [draw, cohort], and what one of a weekday uses: [cell, limit]."""
        known = self._uses.get((number, ended))
        if known is None:
            known = self._uses[number, ended] = list(self._find_uses(number, ended))
        return known

    def _find_uses(self, number: int, ended: Ended) -> Iterator[tuple[Floats, Floats]]:
        for state, chance in self._states(number, ended):
            for sums, share, _ in parts_of(state, self.drawn):
                each, of_reached = self._per_order(state.numbers, sums)
                weight = chance * share[:, None]
                yield weight, each
                for place, at in enumerate(state.numbers):
                    extra = self.drawn.extra_followed(at)
                    if extra.any():
                        yield weight * extra, of_reached[:, place]

    def _use_of_sent(self, number: int, ended: Ended, at: int, weekday: int) -> Floats:
        """How much of each limit all those use who answer what an offer sent, if they come on a weekday: [limit,
        draw]."""
        key = (number, ended, at, weekday)
        known = self._uses_of_sent.get(key)
        if known is None:
            one = np.zeros((1, WEEKDAYS))
            one[0, weekday] = 1.0
            flows = self.flows({}, {(number, ended): {at: one}})
            known = self._uses_of_sent[key] = sum(
                (self._used_by_flow(flow) for flow in flows), start=np.zeros((len(self.limits), self.drawn.draws))
            )
        return known

    def _used_by_flow(self, flow: Flow) -> Floats:
        """How much of each limit some orders use: [limit, draw]."""
        found = np.zeros((len(self.limits), self.drawn.draws))
        for sums, share, _ in parts_of(flow.state, self.drawn):
            each, of_reached = self._per_order(flow.state.numbers, sums)
            orders = flow.orders * share[:, None]
            found += (orders @ each).T
            for place, at in enumerate(flow.state.numbers) if flow.wins else ():
                found += ((orders * self.drawn.extra_by_cell(at)) @ of_reached[:, place]).T
        return found

    def _per_order(self, numbers: list[int], sums: Sums) -> tuple[Floats, Floats]:
        """What an order uses of each limit, [cell, limit]; and one that each offer took effect on, [cell, offer,
        limit]."""
        each = np.zeros((CELLS, len(self.limits)))
        of_reached = np.zeros((CELLS, len(numbers), len(self.limits)))
        for number, limit in enumerate(self.limits):
            if limit.of == "stock":
                units = sums.from_stock.of(limit.sku)
                if units is not None:
                    each[:, number], of_reached[..., number] = units[:, 0], units[:, 1:]
            elif limit.offer in numbers:
                at = numbers.index(limit.offer)
                if limit.of == "uses":
                    each[:, number] = sums.reached[:, at, AT["orders"]]
                    of_reached[..., number] = sums.uses[..., at]
                else:
                    each[:, number], of_reached[..., number] = sums.given[:, at], sums.spent[..., at]
        return each, of_reached


def _with_sharp(plan: Plan, opened: Opened, sets: list[Available]) -> list[Available]:
    """The sets, a share of them in favour of those whose shoppers bring the cart they built."""
    sharp = plan.sharp
    there = None if sharp is None else sharp.there(opened)
    if sharp is None or there is None:
        return sets
    others = [replace(one, chance=one.chance * (1 - sharp.share)) for one in sets]
    chance = np.sum([one.chance for one in sets], axis=0) * sharp.share
    return [*others, Available(there, (), chance, sharp=True)]


def parts_of(state: State, drawn: Drawn) -> Iterator[tuple[Sums, Floats, bool]]:
    """The sums of a state, and what changes where shoppers choose another option, or top up, with the share who do:
    one entry a draw. And whether it is of orders as they come anyway: not what is topped up."""
    yield state.sums, np.ones(drawn.draws), True
    for at, change in state.shifted.items():
        share = drawn.of(at, "shift_bp")
        if share is not None:
            yield change, share, True
    for at, change in state.topped_up.items():
        share = drawn.of(at, "top_up_bp")
        if share is not None:
            yield change, np.minimum(share * drawn.follows(at, "top_up_bp"), 1.0), False


def _cells(orders: Floats, chance: Floats) -> Floats:
    """Orders by weekday, [draw, weekday], times a chance by cohort, [draw, cohort], or [draw, weekday, cohort]."""
    found = orders[:, :, None] * (chance[:, None, :] if chance.ndim == 2 else chance)
    result: Floats = found.reshape(len(found), CELLS)
    return result


def _by_ended(is_ended: Bools, here: Bools) -> list[tuple[Ended, Bools]]:
    """The draws among some in which the same limits have ended."""
    found: list[tuple[Ended, Bools]] = [(frozenset(), here)]
    for number, stopped in enumerate(is_ended):
        split = [
            part for ended, mine in found for part in ((ended, mine & ~stopped), (ended | {number}, mine & stopped))
        ]
        found = [(ended, mine) for ended, mine in split if mine.any()]
    return found
