"""One cart rung up under a plan beside today: each way it may go, why offers apply or not, and which were chosen."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.reasons import takes_part
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.counting import Counted
from yellow_abacus.files.cart_json import CartDoc, OutcomeDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.reason_words import ReasonWords
from yellow_abacus.files.till_json import SetDoc, TillDoc, TurnDoc, WayDoc
from yellow_abacus.ringing_up import Rung, rung_up


@dataclass(frozen=True, eq=False)
class Beside:
    """What one way of a cart comes to under the plan and today."""

    plan: OutcomeDoc
    today: OutcomeDoc


@dataclass(frozen=True, eq=False)
class Till:
    """Rings up carts under one sound plan, beside what runs already."""

    room: Counted
    doc: PlanDoc

    @cached_property
    def plan(self) -> Plan:
        return self.doc.plan().typed

    @property
    def offers(self) -> tuple[Offer, ...]:
        return self.plan.offers

    @cached_property
    def names(self) -> dict[str, str]:
        return self.doc.names

    @cached_property
    def words(self) -> ReasonWords:
        doc, loaded = self.doc, self.room.loaded
        return ReasonWords(
            self.offers, self.names, doc.first_day, doc.last_day, doc.apply, loaded.currency, loaded.minor_digits
        )

    # --- ringing up

    def ring_up(self, cart: CartDoc) -> TillDoc:
        """Raises UnsoundCartsError."""
        loaded = self.room.loaded
        return TillDoc(currency=loaded.currency, minor_digits=loaded.minor_digits, ways=self._ways(cart))

    def _ways(self, cart: CartDoc) -> list[WayDoc]:
        rung = self.rung(cart)
        if not len(rung.rows):
            return []
        priced = rung.priced()
        today = rung.today
        sets, found = _Sets(rung), dict[str, WayDoc]()
        for row, plan in enumerate(rung.outcomes(priced)):
            for reason in plan.reasons:
                reason.text = self.words.of(reason, cart, plan)
            way = WayDoc(
                share=0.0,
                plan=plan,
                today=today[row],
                steps=self._steps(rung.offers, priced, row),
                sets=sets.at(priced, row),
            )
            found.setdefault(way.model_dump_json(), way).share += float(rung.share_by_row[row])
        whole = sum(way.share for way in found.values())
        for way in found.values():
            way.share = way.plan.share = way.today.share = way.share / whole
        return sorted(found.values(), key=lambda way: -way.share)

    def likeliest(self, carts: Sequence[CartDoc]) -> list["Beside"]:
        """Each cart the way it most likely goes. Raises UnsoundCartsError."""
        found: dict[int, tuple[float, Beside]] = {}
        window = (self.doc.first_day, self.doc.last_day)
        for rung in rung_up(self.room.loaded, carts, self.offers, self.doc.apply, window, self.plan.running):
            plan = rung.outcomes(rung.priced())
            today = rung.today
            for row, at in enumerate(rung.cart_by_row):
                share = float(rung.share_by_row[row])
                if at not in found or share > found[at][0]:
                    found[at] = share, Beside(plan[row], today[row])
        for at, (_, beside) in found.items():
            for reason in beside.plan.reasons:
                reason.text = self.words.of(reason, carts[at], beside.plan)
        return [found[at][1] for at in range(len(carts))]

    def rung(self, cart: CartDoc) -> Rung:
        window = (self.doc.first_day, self.doc.last_day)
        (rung,) = rung_up(self.room.loaded, [cart], self.offers, self.doc.apply, window, self.plan.running)
        return rung

    def day_of(self, cart: CartDoc) -> date:
        return cart.time.date() if cart.time is not None else self.doc.first_day

    def _steps(self, offers: Sequence[Offer], priced: Priced, row: int) -> list[TurnDoc]:
        """Goods and things put in, those that yield last; then delivery."""
        late = {at for at, one in enumerate(offers) if one.alongside.yields_at_all and self.doc.apply == "best"}
        in_order = sorted(range(len(offers)), key=lambda at: (at in late, at))
        put_in = {gift.offer for gift, units in zip(priced.gifts, priced.put_in[:, row], strict=True) if units}
        on_goods = [at for at in in_order if priced.goods_off[at, row] or at in put_in]
        on_delivery = [at for at in in_order if priced.delivery_off[at, row]]
        return [
            *(TurnDoc(offer=offers[at].id, on="goods") for at in on_goods),
            *(TurnDoc(offer=offers[at].id, on="delivery") for at in on_delivery),
        ]


@dataclass(frozen=True, eq=False)
class _Sets:
    """The sets of offers that are held against each other, each priced once for all rows."""

    rung: Rung

    @cached_property
    def _together(self) -> Together:
        return Together(self.rung.offers, self.rung.loaded.shop.settings)

    @cached_property
    def _there(self) -> Bools:
        there = takes_part(self.rung.offers, self.rung.loaded.shop, self.rung.rows.batch)
        result: Bools = there & self.rung.is_open & self.rung.held & self.rung.planned[:, None]
        return result

    @cached_property
    def _priced(self) -> dict[tuple[int, ...], Priced]:
        return {}

    def _of(self, one: tuple[int, ...]) -> Priced:
        if one not in self._priced:
            self._priced[one] = self.rung.priced([at in one for at in range(len(self.rung.offers))])
        return self._priced[one]

    def at(self, kept: Priced, row: int) -> list[SetDoc]:
        """Of one row, those that come to something; none where there is nothing to choose."""
        if self.rung.apply == "first":
            return []
        steady = self._together.steady(np.flatnonzero(self._there[:, row]).tolist())
        found: dict[tuple[int, ...], tuple[int, int]] = {}
        rivals = self._together.largest_sets(tuple(steady))
        for one in rivals if len(rivals) > 1 else ():
            priced = self._of(one)
            works = tuple(np.flatnonzero(priced.took_effect[:, row]).tolist())
            if works:
                total = int(priced.total[row])
                found.setdefault(works, (total, total - int(priced.less_put_in[row])))
        found = {works: told for works, told in found.items() if not any(set(works) < set(other) for other in found)}
        if len(found) < 2:
            return []
        stood = set(np.flatnonzero(kept.stood[:, row]).tolist())
        in_order = sorted(found.items(), key=lambda one: (one[1][0] - one[1][1], one[0]))
        best = next((works for works, _ in in_order if set(works) <= stood), None)
        offers = self.rung.offers
        return [
            SetDoc(offers=[offers[at].id for at in works], pays=pays, put_in=worth, kept=works == best)
            for works, (pays, worth) in in_order
        ]
