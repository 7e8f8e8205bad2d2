"""What changes where shoppers add something to their carts: as sums, to be taken as often as they do.

Each cart with something added is priced once, beside the cart as it was; what it comes to more, or less, is a sum
like any other. A cart that adds something to no effect adds one unit more, once, or else nothing. docs/sums.md,
"Top-ups" and "Take-up".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import cast

import numpy as np

from yellow_abacus.core.forecast.adding import Added, Near, Short, near, rewards_missing, short_of
from yellow_abacus.core.forecast.costed import Costed, end_to_end
from yellow_abacus.core.forecast.sums import Sums
from yellow_abacus.core.forecast.trying import (
    NOT_THERE,
    Setup,
    entries_in,
    entries_with_one_more,
    priced_together,
    tried,
)
from yellow_abacus.core.forecast.variants import differ_in
from yellow_abacus.core.ground.axes import among, run_begins, summed_by
from yellow_abacus.core.ground.money import Bools, Floats, Ints

MOST_TOGETHER = 40_000
"""Carts with something added that are priced ahead."""
MORE = 1e-6
"""Minor units: an offer that gives more than so much more has come to something."""


def taken_up(setup: Setup, places: Sequence[int]) -> Sums | None:
    """What changes where shoppers add the rewards of some of the offers; None where none can be added."""
    key = setup.key("taken up", tuple((at, setup.offers[at].response.top_up_skus) for at in places))
    return setup.outlook.kept(key, lambda: _taken_up(setup, places)) if places else None


def _taken_up(setup: Setup, places: Sequence[int]) -> Sums | None:
    changes = [one for at in places if (one := _taken_up_of(setup, at)) is not None]
    return sum(changes[1:], start=changes[0]) if changes else None


def _taken_up_of(setup: Setup, at: int) -> Sums | None:
    adding = _taking(setup, at)
    there = setup.other_day
    if there is None:
        return _change(setup, at, adding)
    return _as_on(there, setup, at, adding, _taking(there, at), taken_up(there, [at]))


def _taking(setup: Setup, at: int) -> "_Adding | None":
    """Carts that add what an offer's reward lacks; None where none do."""
    added = rewards_missing(setup.outlook.shop, setup.mix, setup.offers[at])
    return None if added is None or not len(added.cart) else _Adding(added, np.ones(len(added.cart)), once_more=False)


def topped_up(setup: Setup, places: Sequence[int]) -> dict[int, Sums]:
    """By offer that shoppers top up to: what changes where all who are near enough do, each as its reach says."""
    if not places:
        return {}
    return setup.outlook.kept(_topped_key(setup, places), lambda: _topped_up(setup, places))


def _topped_key(setup: Setup, places: Sequence[int]) -> tuple[object, ...]:
    return setup.key("topped up", _told(setup, places))


def _told(setup: Setup, places: Sequence[int]) -> tuple[object, ...]:
    """What tells how shoppers top up to offers."""
    told = (setup.offers[at].response for at in places)
    return tuple(
        (at, one.top_up_reach, one.top_up_falls, one.top_up_skus) for at, one in zip(places, told, strict=True)
    )


def _topped_up(setup: Setup, places: Sequence[int]) -> dict[int, Sums]:
    adding, there = _topping(setup, places), setup.other_day
    if there is None:
        found = {at: _change(setup, at, one) for at, one in adding.items()}
    else:
        theirs, known = _topping(there, places), topped_up(there, places)
        found = {
            at: _as_on(there, setup, at, adding.get(at), theirs.get(at), known.get(at)) for at in {**theirs, **adding}
        }
    return {at: one for at, one in found.items() if one is not None}


def _topping(setup: Setup, places: Sequence[int]) -> "dict[int, _Adding]":
    """By offer, the carts that top up to it, if any do; kept with what they come to."""
    return setup.outlook.kept(setup.key("topping", _told(setup, places)), lambda: dict(_find_topping(setup, places)))


def _find_topping(setup: Setup, places: Sequence[int]) -> "Iterator[tuple[int, _Adding]]":
    found = [(at, _near(setup, at)) for at in places]
    nearest = _nearest([one for _, one in found], setup.mix.batch.axes.carts)
    for (at, one), mine in zip(found, nearest, strict=True):
        if mine.any():
            response = setup.offers[at].response
            gap, reach = one.gap[mine], response.top_up_reach
            factor = 1 - gap / reach if response.top_up_falls else np.ones(len(gap))
            yield at, _Adding(Added(one.cart[mine], one.sku[mine], one.units[mine]), factor, once_more=True)


def _near(setup: Setup, at: int) -> Near:
    """As `near`, kept: how much comes off for an offer seldom changes who is near it."""
    offers, response = setup.offers, setup.offers[at].response
    others = offers[:at] if offers[at].works_on_goods else (*offers[:at], *offers[at + 1 :])
    told = tuple(one.priced_part for one in others), offers[at].earning_part, response.top_up_reach
    key = ("near", setup.mix.weights, setup.mix.key, *told, response.top_up_skus)
    return setup.outlook.kept(key, lambda: near(setup.mix, offers[at], _short(setup, at, told)))


def _short(setup: Setup, at: int, told: tuple[object, ...]) -> Short:
    """As `short_of`, from another day where its carts can be told from that. told: all that it depends on besides
    them."""
    shop, batch, reach = setup.outlook.shop, setup.mix.batch, setup.offers[at].response.top_up_reach
    there = setup.mix.other_day
    if there is None:
        key = ("short", setup.mix.key, *told)
        return setup.outlook.kept(key, lambda: short_of(shop, batch, setup.offers, at, reach))
    carts = np.flatnonzero(there.otherwise)
    part = short_of(shop, batch.part(carts), setup.offers, at, reach)
    return _short(replace(setup, mix=there.mix), at, told).with_carts(carts, part)


def _nearest(found: Sequence[Near], carts: int) -> list[Bools]:
    """Which carts top up to each of the offers: to the one that asks the least spend, ties to the first."""
    least = np.full(carts, np.iinfo(np.int64).max)
    for one in found:
        least[one.cart] = np.minimum(least[one.cart], one.spend)
    free, result = np.ones(carts, dtype=np.bool_), []
    for one in found:
        mine = free[one.cart] & (one.spend == least[one.cart])
        free[one.cart[mine]] = False
        result.append(mine)
    return result


@dataclass(frozen=True, eq=False)
class _Adding:
    """What carts add, by rising index. factor: how often each does so. once_more: whether a cart it does nothing for
    adds one unit more."""

    added: Added
    factor: Floats
    once_more: bool

    def some(self, here: Bools) -> "_Adding | None":
        """Of some of its carts; None where there are none."""
        if not here.any():
            return None
        added = Added(self.added.cart[here], self.added.sku[here], self.added.units[here])
        return _Adding(added, self.factor[here], self.once_more)


def _as_on(
    there: Setup, setup: Setup, at: int, adding: _Adding | None, theirs: _Adding | None, known: Sums | None
) -> Sums | None:
    """What changes, told from what does on another day, there, where carts add and cost the same on both.

    known: what changes there. adding, theirs: what carts add here and there.
    """
    if adding is None or theirs is None:
        return _change(setup, at, adding)
    assert known is not None, "they add something"
    carts = setup.mix.batch.axes.carts
    same = _the_same(adding, theirs) & setup.as_on_other_day(adding.added)
    alike = among(adding.added.cart[same], carts)
    here, was = _change(setup, at, adding.some(~same)), _change(there, at, theirs.some(~alike[theirs.added.cart]))
    known = known if here is None else known + here
    return known if was is None else known - was


def _change(setup: Setup, at: int, adding: _Adding | None) -> Sums | None:
    """What carts come to with something added, less what they come to without. at: the offer it is added for. None
    where none adds anything."""
    if adding is None:
        return None
    added, mix = adding.added, setup.mix
    carts = mix.batch.axes.carts
    before = setup.outlook.costed(mix, setup.offers, setup.apply, added.cart, setup.today)
    chosen = _chosen(setup, at, adding, _given(before, at, carts)[added.cart])
    topped = end_to_end([_as_carts(costed, which, added) for costed, which, added in chosen])
    adds: Ints = np.concatenate([entries.cart[which] for _, which, entries in chosen])
    by_cart = np.zeros(carts)
    by_cart[added.cart] = adding.factor * among(adds, carts)[added.cart]
    as_they_were = before.some(np.flatnonzero(among(adds, carts)[before.cart_by_row]), range(len(before.given)))
    return _as_often(topped, by_cart).less(_as_often(as_they_were, by_cart), mix)


def _chosen(setup: Setup, at: int, adding: _Adding, had: Floats) -> list[tuple[Costed, Ints, Added]]:
    """What is tried, costed by entry; and which of the entries shoppers add, so that the offer gives more than it did
    (`had`): as many units as bring them to it, or else one more.

    Carts for which the first came to nothing when they were last looked at try both at once.
    """
    added, nothing, size = adding.added, setup.outlook.came_to_nothing, len(had)
    key = (setup.mix.key, setup.apply, at)
    known = cast(Ints | None, nothing.known(key)) if adding.once_more else None
    idle = np.zeros(0, dtype=np.int64) if known is None else known
    again = np.isin(added.cart, idle)
    of, entries = entries_with_one_more(added, again)
    costed = tried(setup, entries, at)
    first, gives = run_begins(of), _given(costed, at, len(of)) > had[of] + MORE
    suffices = among(of[gives & first], size)
    found = [(costed, np.flatnonzero(gives & (first | ~suffices[of])), entries)]
    if not adding.once_more:
        return found
    nothing.put(key, np.union1d(np.setdiff1d(idle, added.cart), added.cart[~suffices]))
    rest = np.flatnonzero(~suffices & ~again)
    if len(rest):
        one_more = Added(added.cart[rest], added.sku[rest], added.units[rest] + 1)
        costed = tried(setup, one_more, at)
        found.append((costed, np.flatnonzero(_given(costed, at, len(rest)) > had[rest] + MORE), one_more))
    return found


def try_together(setups: Sequence[Setup], places: Sequence[int]) -> None:
    """Price all that carts may add to reach offers, under sets that differ in one offer alone, in one walk, and keep
    it until they are asked for. places: of the offers that shoppers top up to."""
    setups = [one for one in setups if not one.outlook.keeps(_topped_key(one, places))]
    at = differ_in([setup.offers for setup in setups]) if places else None
    if at is None or any(setup.mix.key != setups[0].mix.key for setup in setups):
        return
    for place in places:
        tries = [(setup, added) for setup in setups if (added := _to_try(setup, place, places)) is not None]
        if sum(len(added.cart) for _, added in tries) > MOST_TOGETHER:
            return  # more than are kept until they are asked for
        for (setup, _), one in zip(tries, priced_together(tries, at), strict=True):
            setup.outlook.tries_ahead.put((*setup.key(), place), one)


def _to_try(setup: Setup, at: int, places: Sequence[int]) -> Added | None:
    """What carts add to reach an offer, and one unit more of it; on a day that is told from another, those alone for
    which that does not tell. None where none adds anything."""
    adding, there = _topping(setup, places).get(at), setup.other_day
    theirs = None if there is None else _topping(there, places).get(at)
    if adding is not None and theirs is not None:
        adding = adding.some(~(_the_same(adding, theirs) & setup.as_on_other_day(adding.added)))
    if adding is None:
        return None
    return entries_with_one_more(adding.added, np.full(len(adding.factor), adding.once_more))[1]


def _the_same(adding: _Adding, other: _Adding) -> Bools:
    """Which carts add the same in the other, as often."""
    at = entries_in(adding.added, other.added)
    result: Bools = (at != NOT_THERE) & (adding.factor == other.factor[at])
    return result


def _given(costed: Costed, at: int, size: int) -> Floats:
    """What an offer gives, by what rows are numbered by."""
    return summed_by(costed.cart_by_row, costed.given[at] * costed.share_by_row, size)


def _as_carts(costed: Costed, which: Ints, added: Added) -> Costed:
    """Rows of some entries as those of their carts."""
    rows = np.flatnonzero(among(which, len(added.cart))[costed.cart_by_row])
    found = costed.some(rows, range(len(costed.given)))
    return replace(found, cart_by_row=added.cart[found.cart_by_row])


def _as_often(costed: Costed, by_cart: Floats) -> Costed:
    return replace(costed, share_by_row=costed.share_by_row * by_cart[costed.cart_by_row])
