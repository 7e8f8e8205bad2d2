"""How a plan goes, day by day: which orders meet which set of offers, until limits and stock end.

A course is told for one value of every response figure, or for many at once (draws). Uses in all, spending in all
and the stock of things put in run down by what is expected of each day; the day one ends is split by weight, and
from then on orders meet what is left of the offers. docs/sums.md, "Limits over time".
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np

from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.chances import Available, Drawn, available_sets
from yellow_abacus.core.forecast.groups import COHORTS
from yellow_abacus.core.forecast.may_end import Ended, Limit, gone_of, limits_of, open_after, taken_of
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.states import Span, State
from yellow_abacus.core.forecast.sums import AT, Sums
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property

CELLS = WEEKDAYS * COHORTS
AT_ONCE = 400_000
"""Uses of limits run down by so many figures at a time."""
LEAST_LEFT = 1e-9
"""Of a day, or of a limit: less is nothing."""


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


def run(finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> Course:
    """The course of a plan over the spans, which hold each of its days once for each source of carts."""
    return _Running(finder, plan, spans, drawn).run()


def by_day(finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> Iterator[tuple[int, Course]]:
    """The course of a plan day by day, each an ordinal, in order. drawn: of one value each."""
    running = _Running(finder, plan, spans, drawn)
    whole = running.run()
    for at, day in enumerate(running.days):
        yield day, replace(whole, flows=list(running.flows(running.on_day(at))))


@dataclass(frozen=True, eq=False)
class _Stretch:
    """A time in which some limits had ended, and no others, of some draws (index). part: how much of each day it
    holds: [day, draw]."""

    ended: Ended
    here: Ints
    part: Floats


class _Met:
    """orders: by weekday, [draw, weekday], of each span while some limits have ended. sent: by offer, the share of
    those who answer."""

    def __init__(self) -> None:
        self.orders: dict[tuple[int, Ended], Floats] = {}
        self.sent: dict[tuple[int, Ended], dict[int, Floats]] = {}


class _Running:
    """days: ordinals. stretches: what the days fall into, by which limits have ended."""

    def __init__(self, finder: Finder, plan: Plan, spans: Sequence[Span], drawn: Drawn) -> None:
        self.finder, self.plan, self.spans, self.drawn = finder, plan, spans, drawn
        self.limits = limits_of(plan, spans)
        self.days: list[int] = sorted({day for span in spans for day in span.days.tolist()})
        whole = np.ones((len(self.days), drawn.draws))
        self.stretches = [_Stretch(frozenset(), np.arange(drawn.draws), whole)]
        self._states_known: dict[tuple[int, Ended, str | None, Whose | None], list[tuple[State, Floats]]] = {}
        self._uses: dict[tuple[int, Ended], list[tuple[Floats, Floats]]] = {}
        self._uses_of_sent: dict[tuple[int, Ended, int, int], Floats] = {}

    @cached_property
    def _places(self) -> list[Ints]:
        """Which of the days those of each span are."""
        return [np.searchsorted(self.days, span.days) for span in self.spans]

    @cached_property
    def _weekdays(self) -> list[Floats]:
        """By span, [day, weekday]: whether each of its days is one."""
        return [np.eye(WEEKDAYS)[(span.days - 1) % WEEKDAYS] for span in self.spans]

    def run(self) -> Course:
        draws = self.drawn.draws
        ends = np.full((len(self.limits), draws), np.nan)
        used = np.zeros((len(self.limits), draws))
        met = self._met_in(self.stretches)
        if self.limits:
            without_end = self._used_whole(met)
            if (without_end > self._most).any():
                self.stretches = list(self._run_down(ends, used))
                met = self._met_in(self.stretches)
            else:
                used = without_end
        return Course(list(self.flows(met)), self.limits, list(ends), list(used), tuple(met.orders))

    @property
    def _most(self) -> Floats:
        """Of each limit, one below the other."""
        return np.array([limit.most for limit in self.limits], dtype=np.float64)[:, None]

    def _used_whole(self, met: _Met) -> Floats:
        """How much of each limit all orders use if none ends: [limit, draw]."""
        found = np.zeros((len(self.limits), self.drawn.draws))
        for (number, ended), orders in met.orders.items():
            for weight, each in self._uses_of(number, ended):
                found += (_cells(orders, weight) @ each).T
        for (number, ended), by_offer in met.sent.items():
            for at, share in by_offer.items():
                for weekday in np.flatnonzero(share.any(axis=0)).tolist():
                    found += self._use_of_sent(number, ended, at, weekday) * share[:, weekday]
        return found

    # --- orders that meet states

    def _states(
        self, number: int, ended: Ended, key: str | None = None, whose: Whose | None = None
    ) -> list[tuple[State, Floats]]:
        """The states of a span and the chance of each: [draw, cohort]. key: of a code that everybody holds. whose: of
        orders by some shoppers alone."""
        known = self._states_known.get((number, ended, key, whose))
        if known is None:
            whole = self.spans[number] if whose is None else self.spans[number].only(whose)
            span = whole.sold_out(gone_of(whole, self.limits, ended))
            drawn = self.drawn if key is None else self.drawn.everybody_holds(key)
            opened = open_after(span, self.limits, ended)
            sets = available_sets(opened, drawn)
            sets = _with_sharp(self.plan, opened, sets) if key is None else sets
            known = [(self.finder.state(span, one, self.plan), one.chance) for one in sets]
            self._states_known[number, ended, key, whose] = known
        return known

    def _sends(self) -> Iterator[int]:
        """Numbers of the offers that are sent to shoppers."""
        for at, offer in enumerate(self.plan.offers):
            if offer.response.sends is not None and offer.given.key is not None:
                yield at

    def _sends_of(self, at: int) -> Sends:
        sends = self.plan.offers[at].response.sends
        assert sends is not None, "an offer of `_sends`"
        return sends

    def _sent_on(self, span: Span, at: int) -> Floats:
        """Of those who answer, how many come on each of the span's days, in times those of one day's messages."""
        sends = self._sends_of(at)
        opens, days = self.plan.open_for(self.plan.offers[at])
        comes, day = sends.coming(days), span.days - opens
        open_then = (day >= 0) & (day < days)
        result: Floats = np.where(open_then, comes[np.clip(day, 0, days - 1)], 0.0) * span.share_of(sends.among)
        return result

    def _answers(self, at: int) -> tuple[Floats, float]:
        """How many answer what was sent, one entry a draw, and the share of them who come anyway."""
        sends = self._sends_of(at)
        response = self.drawn.of(at, "send_response_bp")
        assert response is not None
        return sends.size * response, sends.anyway_bp / WHOLE_BP

    def flows(self, met: _Met) -> Iterator[Flow]:
        for (number, ended), orders in met.orders.items():
            if not orders.any():
                continue
            for state, chance in self._states(number, ended):
                yield Flow(state, _cells(orders, chance), wins=True)
        for (number, ended), by_offer in met.sent.items():
            for at, share in by_offer.items():
                if not share.any():
                    continue
                answers, anyway = self._answers(at)
                coming = share * answers[:, None]
                for state, weight in self._sent_states(number, ended, at, coming, self.plan.offers[at].given.key):
                    yield Flow(state, weight * (1 - anyway), wins=False)
                    if anyway:
                        yield Flow(state, weight * anyway, wins=True)
                if anyway:
                    for state, weight in self._sent_states(number, ended, at, coming, None):
                        yield Flow(state, -anyway * weight, wins=True)

    def _sent_states(
        self, number: int, ended: Ended, at: int, coming: Floats, key: str | None
    ) -> Iterator[tuple[State, Floats]]:
        """What those meet who answer, and how many of them: [draw, cell]. key: of the code they hold; None as if
        nothing had been sent to them."""
        to, among = self._to(at), self._sends_of(at).among
        for state, chance in self._states(number, ended, key, among):
            yield state, _cells(coming, chance[:, None, :] * to(state))

    def _to(self, at: int) -> Callable[[State], Floats]:
        """What turns an order of anybody into one of those it is sent to: by state, [weekday, cohort]."""
        sends = self._sends_of(at)
        meant = np.array([sends.to != "returning", sends.to != "first"], dtype=np.float64)

        def share(state: State) -> Floats:
            of_cell = state.share_by_cell
            of_those = (of_cell * meant).sum(axis=1, keepdims=True)
            result: Floats = np.where(of_those > 0, meant / np.where(of_those > 0, of_those, 1.0), 1.0)
            return result

        return share

    # --- limits that run down

    def _run_down(self, ends: Floats, used: Floats) -> Iterator[_Stretch]:
        """What the days fall into. ends, used: [limit, draw], filled in.

        Draws in which the same limits have ended go on together, each from where it is, to where the next one ends.
        """
        draws = self.drawn.draws
        waiting: dict[Ended, list[tuple[Ints, Floats]]] = {frozenset(): [(np.arange(draws), np.zeros(draws))]}
        while waiting:
            ended = min(waiting, key=len)  # all that come to be where these limits have ended are there by now
            parts = waiting.pop(ended)
            every, since = np.concatenate([one for one, _ in parts]), np.concatenate([one for _, one in parts])
            together = max(AT_ONCE // max(len(self.days) * len(self.limits), 1), 1)
            for first in range(0, len(every), together):
                some = slice(first, first + together)
                here, begins = every[some], since[some]
                next_ended, stops = self._until_next(ended, here, begins, ends, used)
                yield _Stretch(ended, here, _between(begins, stops, len(self.days)))
                for more, mine in _alike(next_ended):
                    waiting.setdefault(ended | more, []).append((here[mine], stops[mine]))

    def _until_next(
        self, ended: Ended, here: Ints, begins: Floats, ends: Floats, used: Floats
    ) -> tuple[Bools, Floats]:
        """Which limits end next, [limit, draw], and when, in days from the first: of some draws from where they are,
        which is where some limits have ended. None for those in which no other ends."""
        use, size, draw = self._use_by_day(ended, here), len(self.days), np.arange(len(here))
        upto = np.concatenate((np.zeros((1, *use.shape[1:])), np.cumsum(use, axis=0)))
        day = np.minimum(begins.astype(np.int64), size - 1)
        before = upto[day, :, draw].T + use[day, :, draw].T * (begins - day)
        aim = before + np.maximum(self._most - used[:, here], 0.0)
        may_end = (use > 0) & (np.arange(size)[:, None, None] >= day)
        may_end[:, sorted(ended)] = False
        passes = may_end & (upto[1:] - aim >= -LEAST_LEFT * use)
        first = passes.argmax(axis=0)
        limit = np.arange(len(use[0]))[:, None]
        of_day = use[first, limit, draw]
        part = np.clip((aim - upto[first, limit, draw]) / np.where(of_day > 0, of_day, 1.0), 0.0, 1.0)
        moment = np.where(passes.any(axis=0), np.maximum(first + part, begins), np.inf)
        soonest = moment.min(axis=0)
        stops, ends_now = np.minimum(soonest, float(size)), moment <= soonest + LEAST_LEFT
        ends_now &= np.isfinite(moment)
        day = np.minimum(stops.astype(np.int64), size - 1)
        used[:, here] += upto[day, :, draw].T + use[day, :, draw].T * (stops - day) - before
        ordinal = np.array(self.days)[first] + (moment - first)
        ends[:, here] = np.where(ends_now, ordinal, ends[:, here])
        return ends_now, stops

    def on_day(self, at: int) -> _Met:
        """The orders that come on one of the days, by its number."""
        only = (np.arange(len(self.days)) == at)[:, None]
        return self._met_in([replace(one, part=one.part * only) for one in self.stretches])

    def _met_in(self, stretches: Sequence[_Stretch]) -> _Met:
        """The orders that come in some stretches."""
        met = _Met()
        for stretch in stretches:
            self._meet(stretch, met)
        return met

    def _meet(self, stretch: _Stretch, met: _Met) -> None:
        """The orders that come in a stretch."""
        here, volume = stretch.here, self.drawn.volume[stretch.here, None]
        for number, span in enumerate(self.spans):
            part = stretch.part[self._places[number]]
            if not part.any():
                continue
            key, weekdays = (number, stretch.ended), self._weekdays[number]
            orders = met.orders.setdefault(key, np.zeros((self.drawn.draws, WEEKDAYS)))
            orders[here] += ((part.T * span.orders) @ weekdays) * volume
            for offer in self._sends():
                sent = met.sent.setdefault(key, {}).setdefault(offer, np.zeros((self.drawn.draws, WEEKDAYS)))
                sent[here] += (part.T * self._sent_on(span, offer)) @ weekdays

    def _use_by_day(self, ended: Ended, here: Ints) -> Floats:
        """How much of each limit a whole day uses while some have ended: [day, limit, draw], of some draws."""
        found = np.zeros((len(self.days), len(self.limits), len(here)))
        for number, span in enumerate(self.spans):
            weekday, places = (span.days - 1) % WEEKDAYS, self._places[number]
            each = self._use(number, ended, here)[weekday]
            found[places] += each * span.orders[:, None, None] * self.drawn.volume[here]
            for offer in self._sends():
                share = self._sent_on(span, offer)
                for day in np.flatnonzero(share).tolist():
                    use = self._use_of_sent(number, ended, offer, int(weekday[day]))
                    found[places[day]] += use[:, here] * share[day]
        return found

    def _use(self, number: int, ended: Ended, here: Ints) -> Floats:
        """How much of each limit one order of a weekday uses, those it brings included: [weekday, limit, draw], of
        some draws."""
        limits = len(self.limits)
        found = np.zeros((len(here), WEEKDAYS * limits))
        for weight, each in self._uses_of(number, ended):
            by_cohort = each.reshape(WEEKDAYS, COHORTS, -1).transpose(1, 0, 2)
            found += weight[here] @ by_cohort.reshape(COHORTS, -1)
        result: Floats = found.reshape(-1, WEEKDAYS, limits).transpose(1, 2, 0)
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
            met = _Met()
            met.sent[number, ended] = {at: np.eye(WEEKDAYS)[None, weekday]}
            known = self._uses_of_sent[key] = sum(
                (self._used_by_flow(flow) for flow in self.flows(met)),
                start=np.zeros((len(self.limits), self.drawn.draws)),
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
                for units in taken_of(limit, sums.from_stock, self.spans[0].mix.batch.goods):
                    each[:, number] += units[:, 0]
                    of_reached[..., number] += units[:, 1:]
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


def _between(begins: Floats, stops: Floats, days: int) -> Floats:
    """How much of each day lies between two moments, in days from the first: [day, draw].

    >>> _between(np.array([0.5]), np.array([2.25]), 3).ravel().tolist()
    [0.5, 1.0, 0.25]
    """
    day = np.arange(days)[:, None]
    result: Floats = np.clip(stops - day, 0.0, 1.0) - np.clip(begins - day, 0.0, 1.0)
    return result


def _alike(ends: Bools) -> Iterator[tuple[Ended, Ints]]:
    """The draws (last axis) in which the same limits end, where any do."""
    some = np.flatnonzero(ends.any(axis=0))
    kinds, kind = np.unique(ends[:, some], axis=1, return_inverse=True)
    for number, one in enumerate(kinds.T):
        yield frozenset(np.flatnonzero(one).tolist()), some[kind.ravel() == number]
