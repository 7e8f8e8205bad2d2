"""What changes where shoppers add something to their carts: as sums, to be taken as often as they do.

Each cart with something added is priced once, beside the cart as it was; what it comes to more, or less, is a sum
like any other. A cart that adds something to no effect adds one unit more, once, or else nothing. docs/sums.md,
"Top-ups" and "Take-up".
"""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import cast

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.adding import Added, Near, Short, near, rewards_missing, short_of, with_added
from yellow_abacus.core.forecast.costed import Costed, end_to_end
from yellow_abacus.core.forecast.from_stock import Taking
from yellow_abacus.core.forecast.known_sets import at_most_one_apart
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Bare, Outlook, costed_rows, other_day_of
from yellow_abacus.core.forecast.sums import Sums
from yellow_abacus.core.forecast.variants import apart, at_once, differ_in, side_by_side
from yellow_abacus.core.ground.axes import among, summed_by
from yellow_abacus.core.ground.keeper import size_of
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of

MOST_LOOKED_AT = 4
"""So many tries, the newest, are looked at for one that still holds."""
MOST_TOGETHER = 40_000
"""Carts with something added that are priced ahead."""
MORE = 1e-6
"""Minor units: an offer that gives more than so much more has come to something."""


@dataclass(frozen=True, eq=False)
class Scene:
    """Carts of a mix under some offers. today: those that run today."""

    outlook: Outlook
    mix: Mix
    offers: tuple[Offer, ...]
    apply: Apply
    today: tuple[Offer, ...] = ()

    def key(self, *rest: object) -> tuple[object, ...]:
        """What tells it, and the carts' weights, from others."""
        parts, today = (tuple(one.priced_part for one in some) for some in (self.offers, self.today))
        return (self.mix.weights, self.mix.key, self.apply, today, parts, *rest)

    @property
    def as_today(self) -> Bare:
        return self.outlook.as_today(self.mix, self.today, self.apply).kept

    @property
    def other_day(self) -> "Scene | None":
        """The same on a day from which its carts can be told."""
        there = other_day_of(self.mix, (*self.offers, *self.today))
        return None if there is None else replace(self, mix=there.mix)

    def as_on_other_day(self, added: Added) -> Bools:
        """Which of what carts add comes to the same on the other day: neither they nor it cost something else."""
        there = self.mix.other_day
        assert there is not None, "it was asked for"
        goods = self.mix.batch.goods
        differs = goods.with_any("skus", there.skus)
        result: Bools = ~(there.otherwise[added.cart] | differs[added.sku])
        return result


def taken_up(scene: Scene, places: Sequence[int]) -> Sums | None:
    """What changes where shoppers add the rewards of some of the offers; None where none can be added."""
    key = scene.key("taken up", tuple((at, scene.offers[at].response.top_up_skus) for at in places))
    return scene.outlook.kept(key, lambda: _taken_up(scene, places)) if places else None


def _taken_up(scene: Scene, places: Sequence[int]) -> Sums | None:
    changes = [one for at in places if (one := _taken_up_of(scene, at)) is not None]
    return sum(changes[1:], start=changes[0]) if changes else None


def _taken_up_of(scene: Scene, at: int) -> Sums | None:
    adding = _taking(scene, at)
    there = scene.other_day
    if there is None:
        return _change(scene, at, adding)
    return _as_on(there, scene, at, adding, _taking(there, at), taken_up(there, [at]))


def _taking(scene: Scene, at: int) -> "_Adding | None":
    """Carts that add what an offer's reward lacks; None where none do."""
    added = rewards_missing(scene.outlook.shop, scene.mix, scene.offers[at])
    return None if added is None or not len(added.cart) else _Adding(added, np.ones(len(added.cart)), once_more=False)


def topped_up(scene: Scene, places: Sequence[int]) -> dict[int, Sums]:
    """By offer that shoppers top up to: what changes where all who are near enough do, each as its reach says."""
    if not places:
        return {}
    return scene.outlook.kept(_topped_key(scene, places), lambda: _topped_up(scene, places))


def _topped_key(scene: Scene, places: Sequence[int]) -> tuple[object, ...]:
    return scene.key("topped up", _told(scene, places))


def _told(scene: Scene, places: Sequence[int]) -> tuple[object, ...]:
    """What tells how shoppers top up to offers."""
    told = (scene.offers[at].response for at in places)
    return tuple(
        (at, one.top_up_reach, one.top_up_falls, one.top_up_skus) for at, one in zip(places, told, strict=True)
    )


def _topped_up(scene: Scene, places: Sequence[int]) -> dict[int, Sums]:
    adding, there = _topping(scene, places), scene.other_day
    if there is None:
        found = {at: _change(scene, at, one) for at, one in adding.items()}
    else:
        theirs, known = _topping(there, places), topped_up(there, places)
        found = {
            at: _as_on(there, scene, at, adding.get(at), theirs.get(at), known.get(at)) for at in {**theirs, **adding}
        }
    return {at: one for at, one in found.items() if one is not None}


def _topping(scene: Scene, places: Sequence[int]) -> "dict[int, _Adding]":
    """By offer, the carts that top up to it, if any do; kept with what they come to."""
    return scene.outlook.kept(scene.key("topping", _told(scene, places)), lambda: dict(_find_topping(scene, places)))


def _find_topping(scene: Scene, places: Sequence[int]) -> "Iterator[tuple[int, _Adding]]":
    found = [(at, _near(scene, at)) for at in places]
    nearest = _nearest([one for _, one in found], scene.mix.batch.axes.carts)
    for (at, one), mine in zip(found, nearest, strict=True):
        if mine.any():
            response = scene.offers[at].response
            gap, reach = one.gap[mine], response.top_up_reach
            factor = 1 - gap / reach if response.top_up_falls else np.ones(len(gap))
            yield at, _Adding(Added(one.cart[mine], one.sku[mine], one.units[mine]), factor, once_more=True)


def _near(scene: Scene, at: int) -> Near:
    """As `near`, kept: how much comes off for an offer seldom changes who is near it."""
    offers, response = scene.offers, scene.offers[at].response
    others = offers[:at] if offers[at].works_on_goods else (*offers[:at], *offers[at + 1 :])
    told = tuple(one.priced_part for one in others), offers[at].earning_part, response.top_up_reach
    key = ("near", scene.mix.weights, scene.mix.key, *told, response.top_up_skus)
    return scene.outlook.kept(key, lambda: near(scene.mix, offers[at], _short(scene, at, told)))


def _short(scene: Scene, at: int, told: tuple[object, ...]) -> Short:
    """As `short_of`, from another day where its carts can be told from that. told: all that it depends on besides
    them."""
    shop, batch, reach = scene.outlook.shop, scene.mix.batch, scene.offers[at].response.top_up_reach
    there = scene.mix.other_day
    if there is None:
        key = ("short", scene.mix.key, *told)
        return scene.outlook.kept(key, lambda: short_of(shop, batch, scene.offers, at, reach))
    carts = np.flatnonzero(there.otherwise)
    part = short_of(shop, batch.part(carts), scene.offers, at, reach)
    return _short(replace(scene, mix=there.mix), at, told).with_carts(carts, part)


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
    there: Scene, scene: Scene, at: int, adding: _Adding | None, theirs: _Adding | None, known: Sums | None
) -> Sums | None:
    """What changes, told from what does on another day, there, where carts add and cost the same on both.

    known: what changes there. adding, theirs: what carts add here and there.
    """
    if adding is None or theirs is None:
        return _change(scene, at, adding)
    assert known is not None, "they add something"
    carts = scene.mix.batch.axes.carts
    same = _the_same(adding, theirs) & scene.as_on_other_day(adding.added)
    alike = among(adding.added.cart[same], carts)
    here, was = _change(scene, at, adding.some(~same)), _change(there, at, theirs.some(~alike[theirs.added.cart]))
    known = known if here is None else known + here
    return known if was is None else known - was


def _change(scene: Scene, at: int, adding: _Adding | None) -> Sums | None:
    """What carts come to with something added, less what they come to without. at: the offer it is added for. None
    where none adds anything."""
    if adding is None:
        return None
    added = adding.added
    before = scene.outlook.costed(scene.mix, scene.offers, scene.apply, added.cart, scene.today)
    had = _given_by_cart(before, at, scene.mix)[added.cart]
    after, works = _tried(scene, added, at, had)
    topped = _of_carts(after, added.cart[works], scene.mix)
    if adding.once_more and not works.all():
        rest = np.flatnonzero(~works)
        one_more = Added(added.cart[rest], added.sku[rest], added.units[rest] + 1)
        again, of_those = _tried(scene, one_more, at, had[rest])
        topped = end_to_end([topped, _of_carts(again, one_more.cart[of_those], scene.mix)])
        works[rest[of_those]] = True
    by_cart = np.zeros(scene.mix.batch.axes.carts)
    by_cart[added.cart] = adding.factor * works
    as_they_were = _of_carts(before, added.cart[works], scene.mix)
    return _as_often(topped, by_cart).less(_as_often(as_they_were, by_cart), scene.mix)


@dataclass(frozen=True, eq=False)
class _Try:
    """Carts with something added, costed under some offers, each cart once."""

    offers: tuple[Offer, ...]
    added: Added
    costed: Costed

    @property
    def kept_bytes(self) -> int:
        return size_of(self.added) + size_of(self.costed)


def try_together(scenes: Sequence[Scene], places: Sequence[int]) -> None:
    """Price all that carts may add to reach offers, under sets that differ in one offer alone, in one walk, and keep
    it until they are asked for. places: of the offers that shoppers top up to."""
    scenes = [one for one in scenes if not one.outlook.keeps(_topped_key(one, places))]
    at = differ_in([scene.offers for scene in scenes]) if places else None
    if at is None or any(scene.mix.key != scenes[0].mix.key for scene in scenes):
        return
    for place in places:
        tries = [(scene, added) for scene in scenes for added in _to_try(scene, place, places)]
        if sum(len(added.cart) for _, added in tries) > MOST_TOGETHER:
            return  # more than are kept until they are asked for
        found = defaultdict[tuple[object, ...], list[_Try]](list)
        for (scene, _), one in zip(tries, _priced_together(tries, at), strict=True):
            found[scene.key()].append(one)
        for key, some in found.items():
            scenes[0].outlook.tries_ahead.put((*key, place), some)


def _to_try(scene: Scene, at: int, places: Sequence[int]) -> Iterator[Added]:
    """What carts add to reach an offer, and one unit more of it; on a day that is told from another, those alone for
    which that does not tell."""
    adding, there = _topping(scene, places).get(at), scene.other_day
    theirs = None if there is None else _topping(there, places).get(at)
    if adding is not None and theirs is not None:
        adding = adding.some(~(_the_same(adding, theirs) & scene.as_on_other_day(adding.added)))
    if adding is not None:
        yield adding.added
        if adding.once_more:
            yield replace(adding.added, units=adding.added.units + 1)


def _tried(scene: Scene, added: Added, at: int, had: Floats) -> tuple[Costed, Bools]:
    """Carts with something added, costed; and for which of them the offer then gives more than it did."""
    costed = _tried_ahead(scene, added, at) or _tried_now(scene, added, at)
    return costed, _given_by_cart(costed, at, scene.mix)[added.cart] > had + MORE


def _tried_ahead(scene: Scene, added: Added, at: int) -> Costed | None:
    """From what `try_together` found; None where that does not tell of all of it."""
    tries = cast(list[_Try], scene.outlook.tries_ahead.known((*scene.key(), at)) or [])
    known = next((one for one in tries if _same_added(added, one.added).all()), None)
    return None if known is None else _of_carts(known.costed, added.cart, scene.mix)


def _tried_now(scene: Scene, added: Added, at: int) -> Costed:
    """By itself, but for what a try under nearly the same offers tells."""
    outlook, mix = scene.outlook, scene.mix
    batch = _added_to(outlook, mix, added)
    there = reached(scene.offers, outlook.shop, batch)
    known, same, source = _like(scene, added, batch, there)
    rest = np.flatnonzero(~same)
    parts = []
    if known is not None and same.any():
        parts.append(known.costed.some(_rows_of(known.costed, added.cart[same], mix), source))
    if len(rest) or not parts:
        some, here = batch.part(rest), there[:, rest]
        rows_there = rows_of(outlook.shop, some, scene.offers, here)
        kept_today = scene.as_today.kept_as_they_were(added.cart[rest], rows_there)
        found = costed_rows(outlook.shop, rows_there, scene.offers, scene.apply, here, kept_today)
        found = replace(found, cart_by_row=added.cart[rest][found.cart_by_row])
        parts.append(replace(found, taking=found.taking.beside(_from_stock(found, added, mix))))
    costed = end_to_end(parts)
    if len(rest):
        outlook.tries.put(scene.key(at, added.cart.tobytes()), _Try(scene.offers, added, costed))
    return costed


def _priced_together(tries: Sequence[tuple[Scene, Added]], at: int) -> Iterator[_Try]:
    """Each of them costed, under its own scene. at: the offer in which scenes differ."""
    lines = max((int(scene.mix.batch.axes.lines_by_cart[added.cart].sum()) for scene, added in tries), default=1)
    for some in at_once(len(tries), lines):
        here = tries[some]
        scene = here[0][0]
        carts, skus, units = (
            np.concatenate([getattr(added, name) for _, added in here]) for name in ("cart", "sku", "units")
        )
        batch = with_added(scene.mix.batch.some(carts), Added(np.arange(len(carts)), skus, units))
        sizes = [len(added.cart) for _, added in here]
        parts = map(batch.part, np.split(np.arange(len(carts)), np.cumsum(sizes)[:-1]))
        reaches = [reached(own.offers, scene.outlook.shop, part) for (own, _), part in zip(here, parts, strict=True)]
        offers, there = side_by_side([own.offers for own, _ in here], at, reaches)
        rows = rows_of(scene.outlook.shop, batch, offers, there)
        kept_today = scene.as_today.kept_as_they_were(carts, rows)
        costed = costed_rows(scene.outlook.shop, rows, offers, scene.apply, there, kept_today)
        for (own, added), copy in zip(here, apart(costed, at, len(scene.offers), sizes), strict=True):
            mine = replace(copy, cart_by_row=added.cart[copy.cart_by_row])
            mine = replace(mine, taking=mine.taking.beside(_from_stock(mine, added, scene.mix)))
            yield _Try(own.offers, added, mine)


def _from_stock(found: Costed, added: Added, mix: Mix) -> Taking:
    """What is added to carts of goods whose stock is known, by row."""
    place = np.zeros(mix.batch.axes.carts, dtype=np.int64)
    place[added.cart] = np.arange(len(added.cart))
    at = place[found.cart_by_row]
    row = np.flatnonzero(mix.batch.goods.stock[added.sku[at]] >= 0)
    return Taking(row, added.sku[at[row]], added.units[at[row]].astype(np.float64))


def _added_to(outlook: Outlook, mix: Mix, added: Added) -> CartBatch:
    """The carts with what is added, kept: a changed number seldom changes what that is."""
    key = ("added", mix.key, *(one.tobytes() for one in (added.cart, added.sku, added.units)))
    own = Added(np.arange(len(added.cart)), added.sku, added.units)
    return outlook.tries_on.get(key, lambda: with_added(mix.batch.some(added.cart), own))


def _like(
    scene: Scene, added: Added, batch: CartBatch, there: Bools
) -> tuple[_Try | None, Bools, tuple[int | None, ...]]:
    """A try with offers that differ in one alone, and the carts for which it holds: what was added is the same, and
    neither the offer as it was nor as it is can reach them. Each offer's number there, as in `Sums.with_offers`."""
    best: tuple[_Try | None, Bools, tuple[int | None, ...]] = (None, np.zeros(len(added.cart), dtype=np.bool_), ())
    looked_at, mine = 0, scene.key()[1:4]
    for key, found in scene.outlook.tries.newest_first():
        one = cast(_Try, found)
        if looked_at == MOST_LOOKED_AT:
            break
        if cast(tuple[object, ...], key)[1:4] != mine:
            continue
        differs = at_most_one_apart(one.offers, scene.offers)
        if differs is None:
            continue
        looked_at += 1
        here, was, source = differs
        same = _same_added(added, one.added)
        if here is not None:
            same &= ~there[here]
        if was is not None:
            same &= ~reached(one.offers, scene.outlook.shop, batch)[was]
        if same.sum() > best[1].sum():
            best = one, same, source
    return best


def _the_same(adding: _Adding, other: _Adding) -> Bools:
    """Which carts add the same in the other, as often."""
    at = np.minimum(np.searchsorted(other.added.cart, adding.added.cart), len(other.added.cart) - 1)
    same: Bools = _same_added(adding.added, other.added) & (adding.factor == other.factor[at])
    return same


def _same_added(added: Added, other: Added) -> Bools:
    """Which of what is added is added in the other too."""
    at = np.minimum(np.searchsorted(other.cart, added.cart), max(len(other.cart) - 1, 0))
    if not len(other.cart):
        return np.zeros(len(added.cart), dtype=np.bool_)
    result: Bools = (other.cart[at] == added.cart) & (other.sku[at] == added.sku) & (other.units[at] == added.units)
    return result


def _given_by_cart(costed: Costed, at: int, mix: Mix) -> Floats:
    given = costed.given[at] * costed.share_by_row
    return summed_by(costed.cart_by_row, given, mix.batch.axes.carts)


def _of_carts(costed: Costed, carts: Ints, mix: Mix) -> Costed:
    return costed.some(_rows_of(costed, carts, mix), range(len(costed.given)))


def _rows_of(costed: Costed, carts: Ints, mix: Mix) -> Ints:
    return np.flatnonzero(among(carts, mix.batch.axes.carts)[costed.cart_by_row])


def _as_often(costed: Costed, by_cart: Floats) -> Costed:
    return replace(costed, share_by_row=costed.share_by_row * by_cart[costed.cart_by_row])
