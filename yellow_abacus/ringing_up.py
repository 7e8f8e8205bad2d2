"""Single carts rung up under offers: what each line comes to, what is kept, and why each offer applied or not."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, CartTooLargeError, make_batch
from yellow_abacus.core.carts.facts import UNKNOWN, Facts, codes, labels, tags
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.forecast.plan import both_sides
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Bools, Floats, foot
from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.ground.problem import Path, Problem
from yellow_abacus.core.offers import Offer, PutIn, Reward
from yellow_abacus.core.offers.gifts import TooMuchPutInError
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reasons import MEASURES, REASONS, Reason
from yellow_abacus.core.pricing.rows import Rows, by_payment, rows_of
from yellow_abacus.core.pricing.why import NOBODY, Why, why
from yellow_abacus.files.cart_json import (
    AmountDoc,
    CartDoc,
    OutcomeDoc,
    PricedCartDoc,
    PricedCartsDoc,
    PricedLineDoc,
    PutInDoc,
    ReasonDoc,
    TakenOffDoc,
)
from yellow_abacus.files.reasons_json import IN_WORDS, size_in_words
from yellow_abacus.store.loading import LoadedShop

Window = tuple[date | None, date | None]
ALWAYS: Window = (None, None)


class UnsoundCartsError(Exception):
    """Carts that cannot be priced; `problems` tell where and why."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{problem.message} {problem.mend}" for problem in problems))
        self.problems = problems


def ring_up(
    loaded: LoadedShop,
    carts: Sequence[CartDoc],
    offers: Sequence[Offer],
    apply: Apply = "best",
    window: Window = ALWAYS,
) -> PricedCartsDoc:
    """Price the carts with every offer that is open at their time and whose code they hold.

    window: first and last day of the plan, which close what the offers leave open. Raises UnsoundCartsError.
    """
    found: list[dict[str, OutcomeDoc]] = [{} for _ in carts]
    for rung in rung_up(loaded, carts, offers, apply, window):
        told = zip(rung.cart_by_row, rung.share_by_row, rung.outcomes(rung.priced()), strict=True)
        for cart, share, outcome in told:
            same = found[cart].setdefault(outcome.model_dump_json(), outcome)
            same.share += float(share)
    return PricedCartsDoc(
        currency=loaded.currency,
        minor_digits=loaded.minor_digits,
        carts=[
            PricedCartDoc(id=cart.id, outcomes=_weighted(list(outcomes.values())))
            for cart, outcomes in zip(carts, found, strict=True)
        ],
    )


def rung_up(
    loaded: LoadedShop,
    carts: Sequence[CartDoc],
    offers: Sequence[Offer],
    apply: Apply,
    window: Window,
    running: Sequence[Offer] = (),
) -> list["Rung"]:
    """The carts, those together that have the same prices and offers. running: offers that run today. Raises
    UnsoundCartsError."""
    every = both_sides(running, offers)
    planned, now = (np.array([one in some for one in every], dtype=np.bool_) for some in (offers, running))
    alike: dict[tuple[int, tuple[Offer, ...]], tuple[Goods, list[int]]] = {}
    problems = list(_unknown_choices(loaded.batch.goods, carts, every))
    for at, cart in enumerate(carts):
        day = cart.time.date() if cart.time is not None else window[0] or date.today()
        goods = loaded.batch.goods.on_day(day)
        alike.setdefault((id(goods), _as_chosen(goods, cart, every)), (goods, []))[1].append(at)
    batches = [_batch(loaded, goods, carts, some, problems) for goods, some in alike.values()]
    if problems:
        raise UnsoundCartsError(problems)
    found = []
    for (_, chosen), (_, some), batch in zip(alike, alike.values(), batches, strict=True):
        assert batch is not None
        found.append(replace(_rung(loaded, batch, carts, some, chosen, apply, window), planned=planned, runs=now))
    return found


@dataclass(frozen=True, eq=False)
class Rung:
    """Carts at the till under some offers, a row a way each may go.

    offers: those that run today, and those of the plan. planned, runs: which of them are in force under the plan, and
    which today. cart_by_row: which of the carts given. is_open, held: one row an offer, one column a row: whether its
    days hold the cart's, and whether the shopper holds its code.
    """

    loaded: LoadedShop
    offers: Sequence[Offer]
    apply: Apply
    rows: Rows
    cart_by_row: list[int]
    share_by_row: Floats
    is_open: Bools
    held: Bools
    planned: Bools
    runs: Bools

    @property
    def today(self) -> list[OutcomeDoc]:
        """The outcomes with the offers that run today, over the same rows."""
        if self.runs.any():
            return self.outcomes(self.priced(self.runs.tolist()), with_reasons=False)
        bare = replace(self, offers=(), rows=self.rows.plain, is_open=self.is_open[:0], held=self.held[:0])
        return bare.outcomes(bare.priced([]), with_reasons=False)

    def priced(self, among: Sequence[bool] | None = None) -> Priced:
        """among: whether each offer is there at all; None for those of the plan. Raises UnsoundCartsError."""
        mine = self.planned if among is None else np.array(among, dtype=np.bool_)
        there = self.is_open & self.held & mine[:, None]
        try:
            return price(self.loaded.shop, self.rows, self.offers, self.apply, there, traced=True)
        except TooMuchPutInError as error:
            message = f"The offer “{error.offer}” puts in more than any cart can hold."
            problem = Problem(("carts", self.cart_by_row[0]), message, "Limit how many times it is given.")
            raise UnsoundCartsError([problem]) from error

    def outcomes(self, priced: Priced, *, with_reasons: bool = True) -> list[OutcomeDoc]:
        """One a row; their shares are not told."""
        shop, reasons = self.loaded.shop, self._why(priced) if with_reasons else []
        ledger = cost(shop, self.rows, priced)
        found = [
            _outcome(self.loaded, self.rows, self.offers, priced, reasons, ledger[:, at], at)
            for at in range(len(self.rows))
        ]
        for outcome in found if with_reasons and not self.planned.all() else ():
            outcome.reasons = [one for one, mine in zip(outcome.reasons, self.planned, strict=True) if mine]
        return found

    def reason(self, at: int) -> Reason:
        """Why an offer, by number, applies or not, the way that is likeliest."""
        (told,) = self._why(self.priced(), [at])
        return REASONS[int(told.reason[int(np.argmax(self.share_by_row))])]

    def _why(self, priced: Priced, among: Sequence[int] | None = None) -> list[Why]:
        held = self.held & self.planned[:, None]  # what is dropped is in nobody's way
        return why(self.loaded.shop, self.rows, self.offers, priced, self.apply, self.is_open, held, among)


def _unknown_choices(goods: Goods, carts: Sequence[CartDoc], offers: Sequence[Offer]) -> Iterator[Problem]:
    """Choices of what an offer does not put in."""
    for at, cart in enumerate(carts):
        for offer in offers:
            wanted = cart.chooses.get(offer.id)
            if wanted is None:
                continue
            gifts = [sku for one in offer.rewards() if isinstance(one, PutIn) for sku in one.all_skus(goods)]
            meant = goods.meant_by(wanted)
            if meant is None or goods.skus[meant] not in gifts:
                mend = f"Choose one of {', '.join(dict.fromkeys(gifts))}." if gifts else "Take the choice out."
                yield Problem(("carts", at, "chooses", offer.id), f"The offer does not put in “{wanted}”.", mend)


def _as_chosen(goods: Goods, cart: CartDoc, offers: Sequence[Offer]) -> tuple[Offer, ...]:
    """The offers with what this shopper chooses in place of what can be chosen."""
    return tuple(
        _with_choice(offer, goods, goods.meant_by(cart.chooses[offer.id])) if offer.id in cart.chooses else offer
        for offer in offers
    )


def _with_choice(offer: Offer, goods: Goods, meant: int | None) -> Offer:
    def chosen(gives: tuple[Reward, ...]) -> tuple[Reward, ...]:
        return tuple(
            replace(one, skus=(goods.skus[meant],), categories=(), shares_bp=())
            if meant is not None and isinstance(one, PutIn) and goods.skus[meant] in one.all_skus(goods)
            else one
            for one in gives
        )

    steps = tuple(replace(step, gives=chosen(step.gives)) for step in offer.steps)
    return replace(offer, gives=chosen(offer.gives), steps=steps)


def _rung(
    loaded: LoadedShop,
    batch: CartBatch,
    carts: Sequence[CartDoc],
    some: Sequence[int],
    offers: Sequence[Offer],
    apply: Apply,
    window: Window,
) -> Rung:
    """Some of the carts, by index; `batch` is those."""
    paid = by_payment(loaded.shop, batch, offers)
    ways = rows_of(loaded.shop, paid.batch, offers)
    cart_of = paid.cart[ways.cart_by_row]
    share = ways.share_by_row * paid.share[ways.cart_by_row]
    is_open, held = (of_carts[:, cart_of] for of_carts in _open_and_held([carts[at] for at in some], offers, window))
    everywhere = np.ones(len(offers), dtype=np.bool_)
    of_carts = [some[at] for at in cart_of]
    return Rung(loaded, offers, apply, ways.apart(), of_carts, share, is_open, held, everywhere, ~everywhere)


def _weighted(outcomes: list[OutcomeDoc]) -> list[OutcomeDoc]:
    whole = sum(outcome.share for outcome in outcomes)
    return [outcome.model_copy(update={"share": outcome.share / whole}) for outcome in outcomes]


def _batch(
    loaded: LoadedShop, goods: Goods, every: Sequence[CartDoc], some: Sequence[int], problems: list[Problem]
) -> CartBatch | None:
    """Some of the carts, by index, at the prices of `goods`; what is wrong with them joins `problems`."""
    zones = {folded(name): number for number, name in reversed(list(enumerate(loaded.shop.zone_names)))}
    carts, before = [every[at] for at in some], len(problems)
    rows: list[tuple[int, int, int, int]] = []
    zone_by_cart = []
    for place, (at, cart) in enumerate(zip(some, carts, strict=True)):
        for number, line in enumerate(cart.lines):
            sku = goods.meant_by(line.sku)
            if sku is None:
                path: Path = ("carts", at, "lines", number, "sku")
                problems.append(Problem(path, f"The shop has no SKU “{line.sku}”.", "Choose a SKU that Goods has."))
                continue
            if goods.skus[sku] in goods.gift_only:
                path = ("carts", at, "lines", number, "sku")
                problems.append(Problem(path, f"“{line.sku}” is only given as a gift.", "Take it out of the cart."))
            rows.append((place, sku, line.quantity, line.unit_price or 0))
        if cart.zone and folded(cart.zone) not in zones:
            message = f"The shop does not deliver to “{cart.zone}”."
            mend = f"Choose one of {', '.join(loaded.shop.zone_names)}."
            problems.append(Problem(("carts", at, "zone"), message, mend))
        zone_by_cart.append(zones.get(folded(cart.zone), 0))
    if not zones:
        problems.append(Problem(("carts",), "The shop has no zone to deliver to.", "Add one at Delivery."))
    if len(problems) > before:
        return None
    cart_of, sku_of, quantity, paid = np.array(rows, dtype=np.int64).reshape(-1, 4).T
    facts = _facts(carts, loaded.currency)
    try:
        return make_batch(goods, np.array(zone_by_cart, dtype=np.int64), cart_of, sku_of, quantity, paid, facts)
    except CartTooLargeError as error:
        where = ("carts", some[error.cart], "lines")
        problems.append(Problem(where, "It is worth more than any cart can be.", "Lower a quantity."))
        return None


def _facts(carts: Sequence[CartDoc], currency: str) -> Facts:
    def known(values: Sequence[int | None]) -> np.ndarray:
        return np.array([UNKNOWN if value is None else value for value in values], dtype=np.int64)

    times = [cart.time for cart in carts]
    return Facts(
        weekday_by_cart=known([None if time is None else time.weekday() for time in times]),
        minute_by_cart=known([None if time is None else time.hour * 60 + time.minute for time in times]),
        orders_before_by_cart=known([cart.shopper.orders_before for cart in carts]),
        days_since_by_cart=known([cart.shopper.days_since for cart in carts]),
        shopper=labels([cart.shopper.id for cart in carts]),
        group=labels([cart.shopper.group for cart in carts]),
        tags=tags([cart.shopper.tags for cart in carts]),
        channel=labels([cart.channel for cart in carts]),
        payment=labels([cart.payment for cart in carts]),
        currency=labels([cart.currency or currency for cart in carts]),
        option=labels([cart.option for cart in carts]),
        code=codes(["" for _ in carts]),
    )


def _open_and_held(carts: Sequence[CartDoc], offers: Sequence[Offer], window: Window) -> tuple[Bools, Bools]:
    first, last = window
    whens = [
        replace(offer.when, first_day=offer.when.first_day or first, last_day=offer.when.last_day or last)
        for offer in offers
    ]
    is_open = np.ones((len(offers), len(carts)), dtype=np.bool_)
    held = np.ones_like(is_open)
    for at, cart in enumerate(carts):
        codes = all_folded(cart.codes)
        for number, offer in enumerate(offers):
            if cart.time is not None:
                is_open[number, at] = whens[number].open_at(cart.time.replace(tzinfo=None))
            held[number, at] = offer.given.key is None or not codes.isdisjoint(offer.given.accepted)
    return is_open, held


def _outcome(
    loaded: LoadedShop,
    rows: Rows,
    offers: Sequence[Offer],
    priced: Priced,
    reasons: Sequence[Why],
    ledger: Floats,
    at: int,
) -> OutcomeDoc:
    """One row, which has a cart of its own."""
    batch = rows.batch
    first, last = (int(line) for line in batch.axes.first_line_by_cart[at : at + 2])
    amounts = foot(ledger.tolist())
    return OutcomeDoc(
        share=0.0,
        lines=[
            PricedLineDoc(
                sku=batch.goods.skus[int(batch.sku_by_line[line])],
                quantity=int(batch.quantity_by_line[line]),
                standing=int(batch.standing_by_line[line]),
                net=int(priced.by_line.net[line]),
                taken_off=_taken(offers, priced.by_line.off[:, line]),
            )
            for line in range(first, last)
        ],
        put_in=[
            PutInDoc(
                offer=offers[gift.offer].id,
                sku=batch.goods.skus[int(priced.sku_of(number)[at])],
                quantity=int(units[at]),
                asked=gift.asked * int(units[at]),
                saved=int(gift.saving[priced.choice_by_row[number, at]]) * int(units[at]),
            )
            for number, (gift, units) in enumerate(zip(priced.gifts, priced.put_in, strict=True))
            if units[at]
        ],
        goods=int(priced.goods_by_row[at]),
        delivery_before_offers=int(priced.charge_before_offers[at]),
        delivery=int(priced.charge_by_row[at]),
        delivery_taken_off=_taken(offers, priced.delivery_off[:, at]),
        option=loaded.shop.delivery.name_of(int(rows.option_by_row[at])),
        surcharges=int(priced.surcharge_by_row[at]),
        surcharges_by_choice=float(priced.chosen_by_row[at]),
        tax=int(priced.goods_tax[at] + priced.delivery_tax[at] + priced.surcharge_tax[at]),
        total=int(priced.total[at]),
        reasons=[_reason(loaded, offers, offer, told, at) for offer, told in zip(offers, reasons, strict=False)],
        ledger=[
            AmountDoc(key=row.key, label=row.label, amount=amount) for row, amount in zip(ROWS, amounts, strict=True)
        ],
        kept=sum(amounts),
    )


def _taken(offers: Sequence[Offer], amounts: np.ndarray) -> list[TakenOffDoc]:
    found = zip(offers, amounts, strict=True)
    return [TakenOffDoc(offer=offer.id, amount=int(amount)) for offer, amount in found if amount]


def _reason(loaded: LoadedShop, offers: Sequence[Offer], offer: Offer, told: Why, at: int) -> ReasonDoc:
    reason = REASONS[int(told.reason[at])]
    doc = ReasonDoc(offer=offer.id, reason=reason, text=IN_WORDS[reason])
    if reason == "short":
        of, by = MEASURES[int(told.short_of[at])], int(told.short_by[at])
        text = f"short by {size_in_words(of, by, loaded.currency, loaded.minor_digits)}"
        return doc.model_copy(update={"short_by": by, "short_of": of, "text": text})
    if reason == "shut_out" and told.shut_out_by[at] != NOBODY:
        return doc.model_copy(update={"shut_out_by": offers[int(told.shut_out_by[at])].id})
    return doc
