"""Keeping a forecast, and holding it against what came: what the command line and the web both call."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, timedelta

import numpy as np

from yellow_abacus.being_paid import being_paid_beside_settings
from yellow_abacus.core.forecast.outcome import averages_of
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.ground.money import Floats, foot, shown
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.counting import Counted, CountingRoom, UnsoundPlanError, fresh
from yellow_abacus.delivery_cost import cost_beside_tariffs
from yellow_abacus.files.kept_json import (
    MOST_BEHIND,
    MOST_ODD,
    SAYS,
    AgainstDoc,
    BecameDoc,
    BehindDayDoc,
    BehindDoc,
    BehindOrderDoc,
    CameBackDoc,
    CostToldDoc,
    DifferenceDoc,
    HeldDayDoc,
    HeldOfferDoc,
    KeptDoc,
    KeptLineDoc,
    OddDoc,
    PartDoc,
    RecordDoc,
    UnknownCodeDoc,
    came_back_doc,
    cost_told_doc,
    difference_doc,
    held,
    part_docs,
    sentence,
    to_come,
)
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.learning.came import Came, came
from yellow_abacus.learning.kept_out import DAYS_BEFORE, read
from yellow_abacus.learning.ran import Past, all_ran
from yellow_abacus.learning.splitting import Each, Key, behind, split
from yellow_abacus.still_to_come import still_to_come
from yellow_abacus.store.kept import keep
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.mixes import USUAL
from yellow_abacus.store.models import KeptForecastRow
from yellow_abacus.store.orders import numbers_of, refunded_over
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.told_by_orders import came_back

NEAR = 0.01
"""Costs so near to what is set for them need no word."""


class NothingCameError(Exception):
    """No order of a plan's days has come yet."""


def kept_doc(room: CountingRoom, plan: PlanDoc) -> KeptDoc:
    """A plan's forecast, as it is kept. Raises UnsoundPlanError and NothingToCountError."""
    at = room.current()
    forecast = room.whole(plan)
    last = at.loaded.orders.last_day
    return KeptDoc(
        plan=plan,
        running=at.running,
        mix=at.loaded.mixes[plan.mix or USUAL],
        until=plan.first_day if last is None else last + timedelta(days=1),
        forecast=forecast,
        expects=room.outcome(plan),
    )


def keep_forecast(shop_file: ShopFile, room: CountingRoom, plan: PlanDoc) -> int:
    """Keep what a plan's forecast says now; the id it is kept by. Raises UnsoundPlanError and NothingToCountError."""
    told = kept_doc(room, plan)
    with shop_file.changing(f"Keep the forecast of {plan.name}") as session:
        return keep(session, plan.name, plan.first_day, plan.last_day, told.model_dump(mode="json")).id


def listed(row: KeptForecastRow, last: date | None) -> KeptLineDoc:
    """last: the day of the last order there is."""
    told = row.told
    over, begun = last is not None and last >= row.last_day, last is not None and last >= row.first_day
    return KeptLineDoc(
        id=row.id,
        plan=row.plan,
        at=row.at.replace(tzinfo=UTC),
        first_day=row.first_day,
        last_day=row.last_day,
        answer=told["forecast"]["answer_text"],
        profit=shown(told["expects"]["profit"]["likely"]),
        knew=date.fromisoformat(told["until"]) > row.first_day,
        state="over" if over else "under_way" if begun else "to_come",
    )


def against(shop_file: ShopFile, room: CountingRoom, row: KeptForecastRow) -> AgainstDoc:
    """A kept forecast against the orders of its days. Raises NothingCameError, and UnsoundPlanError where its plan
    makes no sense in the shop any more."""
    return _against(shop_file, row, _see(room, row))


@dataclass(frozen=True, eq=False)
class _Seen:
    """A kept forecast, and the orders that came of its days, of which `gone` are."""

    at: Counted
    kept: KeptDoc
    plan: Plan
    real: Came
    gone: int

    @property
    def part(self) -> float:
        """Of the orders expected, those of the days gone."""
        window = self.kept.forecast.over_time.days
        whole = sum(one.orders for one in window)
        return sum(one.orders for one in window[: self.gone]) / whole if whole else 1.0

    @property
    def then(self) -> Each:
        """As it was forecast."""
        return Each(self.kept.expects.today_each, self.kept.expects.planned_each)

    @cached_property
    def before(self) -> LoadedShop:
        """The shop of now, with the orders the forecast was made from."""
        return self.at.loaded.before(self.kept.until)

    @cached_property
    def now(self) -> Each:
        """The same forecast, of the same orders, at the prices and costs of now."""
        kept, loaded = self.kept, self.before
        if not loaded.batch.axes.carts and not kept.mix.sketched:
            return self.then
        before = fresh(loaded)
        window = (kept.plan.first_day, kept.plan.last_day)
        found = averages_of(before.expecting_terms(kept.mix, window), self.plan)
        return Each(found.today_each, found.planned_each)

    @property
    def parts(self) -> list[PartDoc]:
        """Why what came differs: see `splitting`. Empty where nothing came."""
        real, orders = self.real, len(self.real.carts)
        if not orders:
            return []
        as_came = Each(float(real.as_today.mean()), float(real.planned.mean()))
        expected = self.kept.expects.orders.likely * self.part
        return part_docs(split(expected, self.then, self.now, orders, as_came, float(real.charged.mean())))


def _see(room: CountingRoom, row: KeptForecastRow) -> _Seen:
    """Raises as `against`."""
    kept, at = KeptDoc.model_validate(row.told), room.current()
    last = at.loaded.orders.last_day
    if last is None or last < row.first_day:
        raise NothingCameError(f"No order of {row.first_day} to {row.last_day} has come yet. Bring them in at Carts.")
    gone = (min(last, row.last_day) - row.first_day).days + 1
    plan = _as_kept(at, kept)
    return _Seen(at, kept, plan, _came(at, plan, last), gone)


def _came(at: Counted, plan: Plan, last_day: date | None = None) -> Came:
    """What came on a plan's days."""
    loaded = at.loaded
    orders = loaded.orders
    return came(loaded.history, orders.charged, plan, last_day, orders.delivery_paid, loaded.going_price)


def _as_kept(at: Counted, kept: KeptDoc) -> Plan:
    doc = kept.plan.beside(kept.running)
    problems = doc.problems(at.loaded.shop, at.loaded.batch.goods)
    if problems:
        raise UnsoundPlanError(problems)
    return doc.plan()


def _against(shop_file: ShopFile, row: KeptForecastRow, seen: _Seen) -> AgainstDoc:
    at, kept, plan, real, gone, part = seen.at, seen.kept, seen.plan, seen.real, seen.gone, seen.part
    loaded, expects, window = at.loaded, kept.expects, kept.forecast.over_time.days
    orders = len(real.carts)
    besides = expects.besides * part
    profit = held("profit", "You keep", expects.profit, float(real.charged.sum()) - besides, part)
    figures = [
        held("orders", "Orders", expects.orders, float(orders), part),
        held("sales", "Goods sold, with tax", expects.sales, float(real.sales_charged.sum()), part),
        held("off", "Came off goods", expects.off, float(real.off_charged.sum()), part),
    ]
    if expects.delivery:
        came_in = float(real.delivery.sum())
        figures.append(held("delivery", "Delivery, without tax", expects.delivery, came_in, part))
    if expects.put_in and (expects.put_in.high or real.put_in.any()):
        figures.append(held("put_in", "Things put in, at cost", expects.put_in, float(real.put_in.sum()), part))
    figures.append(profit)
    parts = seen.parts
    digits = loaded.minor_digits
    odd, others = _odd(shop_file, at, real)
    return AgainstDoc(
        plan=row.plan,
        kept_at=row.at.replace(tzinfo=UTC),
        first_day=row.first_day,
        last_day=row.last_day,
        days=len(window),
        days_gone=gone,
        currency=loaded.currency,
        minor_digits=digits,
        to_come=_to_come(seen),
        sentence=sentence(profit, parts, len(window), gone, loaded.currency, digits),
        figures=figures,
        offers=_offers(kept, real, part),
        split=parts,
        by_day=_by_day(kept, real, gone),
        unknown_codes=_unknown(at, plan, real),
        odd=odd,
        others=others,
        difference=_kept_out(at, plan, real, gone),
        told=float(real.told.mean()) if orders else 0.0,
        came_back=_came_back(shop_file, at, row, real),
        costs=_costs(at, real),
    )


def behind_part(shop_file: ShopFile, room: CountingRoom, row: KeptForecastRow, key: Key) -> BehindDoc:
    """What a part of the difference is made of. Raises as `against`."""
    seen = _see(room, row)
    part = next((one for one in seen.parts if one.key == key), None)
    if part is None:
        raise NothingCameError("No order of the days gone has come: there is nothing behind it.")
    then, now, real = seen.then, seen.now, seen.real
    each = {"volume": then.plan, "mix": now.today, "response": now.plan - now.today}.get(key)
    days = _days_behind(_by_day(seen.kept, real, seen.gone), then, part.amount) if key == "volume" else []
    adds = behind(key, then, now, real.as_today, real.planned, real.charged)
    orders = [] if key in ("volume", "prices") else _orders_behind(shop_file, seen.at, real, adds)
    told_of = sum(one.amount for one in days) + sum(one.amount for one in orders)
    return BehindDoc(
        key=key,
        label=part.label,
        amount=part.amount,
        says=SAYS[key],
        each=None if each is None else shown(each),
        days=days,
        orders=orders,
        others=0 if key == "volume" else len(adds) - len(orders),
        others_amount=part.amount - told_of,
    )


def _days_behind(by_day: Sequence[HeldDayDoc], then: Each, amount: int) -> list[BehindDayDoc]:
    """Days, each with what its orders add, together `amount`."""
    cents = foot([(one.orders - one.orders_expected) * then.plan for one in by_day[:-1]])
    return [
        BehindDayDoc(day=one.day, orders_expected=one.orders_expected, orders=one.orders, amount=adds)
        for one, adds in zip(by_day, [*cents, amount - sum(cents)], strict=True)
    ]


def _orders_behind(shop_file: ShopFile, at: Counted, real: Came, adds: Floats) -> list[BehindOrderDoc]:
    """The orders that add most to a part."""
    most = np.argsort(-np.abs(adds), kind="stable")[:MOST_BEHIND]
    ids = at.loaded.orders.ids[real.carts[most]].tolist()
    with shop_file.reading() as session:
        numbers = numbers_of(session, ids)
    return [
        BehindOrderDoc(
            order_id=order,
            number=numbers.get(order, ""),
            day=date.fromordinal(int(real.day[which])),
            amount=shown(float(adds[which])),
            as_today=shown(float(real.as_today[which])),
            planned=shown(float(real.planned[which])),
            charged=shown(float(real.charged[which])),
        )
        for order, which in zip(ids, most.tolist(), strict=True)
    ]


def record(room: CountingRoom, rows: Sequence[KeptForecastRow]) -> RecordDoc:
    """What became of the kept forecasts whose days are over, and how good those were that can be judged."""
    at, off, held_in = room.current(), list[float](), 0
    last, became = at.loaded.orders.last_day, list[BecameDoc]()
    for row in rows:
        if last is None or last < row.last_day:
            continue
        go_on()
        kept = KeptDoc.model_validate(row.told)
        try:
            real = _came(at, _as_kept(at, kept))
        except UnsoundPlanError:
            continue
        expected, kept_really = kept.expects.profit, float(real.charged.sum()) - kept.expects.besides
        inside = expected.low <= kept_really <= expected.high
        became.append(BecameDoc(id=row.id, kept=shown(kept_really), inside=inside))
        if kept.until <= row.first_day:
            held_in += inside
            off.append(abs(kept_really - expected.likely) / max(abs(expected.likely), 1.0))
    half_within = float(np.median(off)) if off else None
    return RecordDoc(forecasts=len(off), held=held_in, half_within=half_within, became=became)


def _to_come(seen: _Seen) -> str:
    """While it runs: what the days to come should bring."""
    kept, real, loaded = seen.kept, seen.real, seen.at.loaded
    rest = kept.forecast.over_time.days[seen.gone :]
    if not rest or not len(real.carts):
        return ""
    was = float(sum(one.kept - one.kept_today for one in rest))
    differs = float((real.planned - real.as_today).mean()) - (kept.expects.planned_each - kept.expects.today_each)
    found = still_to_come(seen.at, seen.before, kept, seen.plan, real, seen.gone)
    impact = was + differs * sum(one.orders for one in rest)
    if found is not None:
        impact = found.impact + differs * found.orders * found.at_work
    left = [] if found is None else found.left
    return to_come(impact, was, len(real.carts), left, loaded.currency, loaded.minor_digits)


def _offers(kept: KeptDoc, real: Came, part: float) -> list[HeldOfferDoc]:
    return [
        HeldOfferDoc(
            id=one.id,
            name=one.name,
            uses=held("uses", "Uses", one.uses, float(real.used[at].sum()), part),
            given_away=held("given_away", "Given away", one.given_away, float(real.given[at].sum()), part),
        )
        for at, one in enumerate(kept.expects.offers)
    ]


def _by_day(kept: KeptDoc, real: Came, gone: int) -> list[HeldDayDoc]:
    window = kept.forecast.over_time.days[:gone]
    first = window[0].day.toordinal() if window else 0
    number = real.day - first
    orders = np.bincount(number, minlength=len(window))
    kept_by_day = foot(np.bincount(number, weights=real.charged, minlength=len(window)).tolist())
    return [
        HeldDayDoc(
            day=one.day,
            orders_expected=one.orders,
            orders=int(orders[at]),
            kept_expected=one.kept,
            kept=kept_by_day[at],
        )
        for at, one in enumerate(window)
    ]


def _came_back(shop_file: ShopFile, at: Counted, row: KeptForecastRow, real: Came) -> CameBackDoc | None:
    """What was sent back and given back of the orders that came; None where none tells of it."""
    found = came_back(at.loaded, real.carts)
    with shop_file.reading() as session:
        refunded = refunded_over(session, row.first_day, row.last_day)
    if not found.returned and not found.refused and not refunded:
        return None
    digits = at.loaded.minor_digits
    return came_back_doc(found, refunded, at.loaded.currency, digits)


def _costs(at: Counted, real: Came) -> list[CostToldDoc]:
    """What carriers and those who see to payments asked for the orders that came, where that is not what is set."""
    loaded = at.loaded
    sides = {"delivery": cost_beside_tariffs(loaded), "payment": being_paid_beside_settings(loaded)}
    told = {key: one.of(real.carts) for key, one in sides.items()}
    return [
        cost_told_doc(key, one.orders, one.told, one.as_set, loaded.currency, loaded.minor_digits)
        for key, one in told.items()
        if abs(one.more) >= NEAR
    ]


def _kept_out(at: Counted, plan: Plan, real: Came, gone: int) -> DifferenceDoc | None:
    """What the plan's own offers did, read from orders they were not open to."""
    history, own = at.loaded.history, [plan.offers[number] for number in plan.own]
    ran = all_ran(Past(history.shop, history.batch, history.day_by_cart), own)
    lets_in = np.logical_or.reduce([one.lets_in for one in ran]) if ran else np.zeros(0, dtype=np.bool_)
    if not ran or lets_in[real.carts].all():
        return None
    first = plan.first_day - timedelta(days=DAYS_BEFORE)
    earlier = replace(plan, first_day=first, last_day=plan.first_day - timedelta(days=1), offers=plan.running)
    before = _came(at, earlier)
    found = read(real.charged, before.charged, lets_in[real.carts], lets_in[before.carts], gone, DAYS_BEFORE)
    return None if found is None else difference_doc(found, at.loaded.currency, at.loaded.minor_digits)


def _unknown(at: Counted, plan: Plan, real: Came) -> list[UnknownCodeDoc]:
    """Codes that orders of its days used and no offer of the plan knows."""
    known = {code for offer in plan.every for code in offer.given.accepted}
    used = at.loaded.batch.facts.code.some(real.carts).carts_by_code
    found = [
        UnknownCodeDoc(code=name, orders=len(carts)) for name, carts in used.items() if folded(name) not in known
    ]
    return sorted((one for one in found if one.orders), key=lambda one: (-one.orders, one.code))


def _odd(shop_file: ShopFile, at: Counted, real: Came) -> tuple[list[OddDoc], int]:
    """Orders that paid otherwise than the plan says, those furthest off, and how many more there are."""
    goods, delivery = real.goods_paid - real.goods_should, real.delivery_paid - real.delivery_should
    off = np.abs(goods) + np.abs(delivery)
    some = np.flatnonzero(off >= 1)
    furthest = some[np.argsort(-off[some], kind="stable")][:MOST_ODD]
    ids = at.loaded.orders.ids[real.carts[furthest]].tolist()
    with shop_file.reading() as session:
        numbers = numbers_of(session, ids)
    told = [
        OddDoc(
            order_id=order,
            number=numbers.get(order, ""),
            day=date.fromordinal(int(real.day[which])),
            paid=shown(float(real.goods_paid[which])),
            should=shown(float(real.goods_should[which])),
            delivery_paid=shown(float(real.delivery_paid[which])),
            delivery_should=shown(float(real.delivery_should[which])),
        )
        for order, which in zip(ids, furthest.tolist(), strict=True)
    ]
    return told, len(some) - len(told)
