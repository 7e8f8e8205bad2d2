"""A forecast that was kept, and what came of it, as JSON. docs/files.md, "Afterwards"."""

from collections.abc import Callable, Sequence
from datetime import date, datetime
from math import ceil
from typing import Any, Literal

from pydantic import BaseModel

from yellow_abacus.core.forecast.expected import MixTerms
from yellow_abacus.core.forecast.outcome import Expectation, Outcome
from yellow_abacus.core.ground.money import foot, shown
from yellow_abacus.files.forecast_json import WholeForecastDoc
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc
from yellow_abacus.files.reason_words import day_in_words
from yellow_abacus.files.words import count, money, share, so_many
from yellow_abacus.learning.came import CameBack
from yellow_abacus.learning.estimate import Estimate
from yellow_abacus.learning.how_long import LONGEST
from yellow_abacus.learning.kept_out import Difference
from yellow_abacus.learning.splitting import LABELS, Key, Part

MOST_BEHIND = 12
"""So many orders behind a part of the difference are shown, those that add most to it."""
MOST_ODD = 50
"""So many orders that were charged otherwise are shown, those furthest off."""


class ExpectedDoc(BaseModel):
    """low, high: in 5 and 95 of 100 such cases it is less."""

    likely: float
    low: float
    high: float


class OfferExpectedDoc(BaseModel):
    """uses: orders; given_away: minor units."""

    id: str
    name: str
    uses: ExpectedDoc
    given_away: ExpectedDoc


class ExpectedOutcomeDoc(BaseModel):
    """What the plan's days were to come to: orders, and in minor units sales (goods with tax, after offers), what
    came off goods, what was charged for delivery (without tax) and things put in at what they cost, null in forecasts
    of older versions; and profit. today_each, planned_each: what an order keeps, as things stand and under the plan
    without `besides`, which is what the plan costs besides orders."""

    orders: ExpectedDoc
    sales: ExpectedDoc
    off: ExpectedDoc
    delivery: ExpectedDoc | None = None
    put_in: ExpectedDoc | None = None
    profit: ExpectedDoc
    offers: list[OfferExpectedDoc]
    today_each: float
    planned_each: float
    besides: float


class KeptDoc(BaseModel):
    """plan, running: as they stood. mix: what carts were expected. until: the day after the last order it was made
    from. forecast, expects: what it said; never computed again."""

    plan: PlanDoc
    running: list[OfferDoc]
    mix: MixTerms
    until: date
    forecast: WholeForecastDoc
    expects: ExpectedOutcomeDoc


class HeldDoc(BaseModel):
    """A figure that was expected, and what came. low, high: of what was expected; inside: whether it lies between."""

    key: str
    label: str
    expected: float
    low: float
    high: float
    came: float
    inside: bool


class HeldOfferDoc(BaseModel):
    id: str
    name: str
    uses: HeldDoc
    given_away: HeldDoc


class PartDoc(BaseModel):
    """A part of the difference in what was kept, minor units; the parts add up to it. exact: not rounded."""

    key: Key
    label: str
    amount: int
    exact: float


class BehindOrderDoc(BaseModel):
    """An order, and what it adds to a part, minor units. as_today, planned, charged: what it kept, priced without the
    plan, as the plan says, and as it was charged."""

    order_id: int
    number: str
    day: date
    amount: int
    as_today: int
    planned: int
    charged: int


class BehindDayDoc(BaseModel):
    """amount: what its orders add to the part, minor units, those missing below 0."""

    day: date
    orders_expected: float
    orders: int
    amount: int


class BehindDoc(BaseModel):
    """What a part of the difference is made of: days, or the orders that add most to it. Those, and `others_amount`
    of `others` more, add up to its `amount`. says: in words; each: expected of an order, minor units, null where
    nothing was."""

    key: Key
    label: str
    amount: int
    says: str
    each: int | None
    days: list[BehindDayDoc]
    orders: list[BehindOrderDoc]
    others: int
    others_amount: int


class HeldDayDoc(BaseModel):
    """kept: minor units, as charged; what a plan costs besides orders is left out."""

    day: date
    orders_expected: float
    orders: int
    kept_expected: int
    kept: int


class UnknownCodeDoc(BaseModel):
    code: str
    orders: int


class OddDoc(BaseModel):
    """An order that paid otherwise than the plan says, for its goods or for delivery; minor units."""

    order_id: int
    number: str
    day: date
    paid: int
    should: int
    delivery_paid: int
    delivery_should: int


class DifferenceDoc(BaseModel):
    """What the plan's offers did, read from orders they were not open to (`kept_out`): more orders, as a share, and
    what one kept more, minor units, with their 5 and 95 % points."""

    kept_out: int
    orders: ExpectedDoc
    each: ExpectedDoc
    says: str


class CameBackDoc(BaseModel):
    """Of the units of the orders that came and were not refused, those sent back so far, and as many as their return
    rates expect; of the orders, those refused on the way, and as many as ways to pay expect; what was given back of
    all, minor units."""

    units: int
    returned: int
    expected: float
    orders: int
    refused: int
    as_expected: float
    refunded: int
    says: str


class CostToldDoc(BaseModel):
    """What the orders that came cost by what they tell, and as it is set for them, minor units. orders: those of
    which both are known."""

    orders: int
    told: int
    as_set: int
    says: str


class AgainstDoc(BaseModel):
    """A kept forecast against the orders of its days. days_gone: of `days`, those up to the last order. to_come:
    while it runs, whether to carry on. told: the share of orders that tell what was paid. difference: null where
    nobody, or too few, were kept from its offers. others: further odd orders. came_back: null where no order tells of
    any. costs: of delivery and of being paid, where orders tell others than are set."""

    plan: str
    kept_at: datetime
    first_day: date
    last_day: date
    days: int
    days_gone: int
    currency: str
    minor_digits: int
    sentence: str
    to_come: str
    figures: list[HeldDoc]
    offers: list[HeldOfferDoc]
    split: list[PartDoc]
    by_day: list[HeldDayDoc]
    unknown_codes: list[UnknownCodeDoc]
    odd: list[OddDoc]
    difference: DifferenceDoc | None
    others: int
    told: float
    came_back: CameBackDoc | None
    costs: list[CostToldDoc]


class KeptLineDoc(BaseModel):
    """A kept forecast as it is listed. answer: what it said; profit: what it expected. knew: whether it was made when
    orders of its days were there. state: whether its days are over, under way, or still to come."""

    id: int
    plan: str
    at: datetime
    first_day: date
    last_day: date
    answer: str
    profit: int
    knew: bool
    state: Literal["over", "under_way", "to_come"]


def against_schema() -> dict[str, Any]:
    """The JSON Schema of a kept forecast held against what came."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **AgainstDoc.model_json_schema()}


def outcome_doc(outcome: Outcome, ids: Sequence[str], names: Sequence[str]) -> ExpectedOutcomeDoc:
    return ExpectedOutcomeDoc(
        orders=_expected(outcome.orders),
        sales=_expected(outcome.sales),
        off=_expected(outcome.off),
        delivery=_expected(outcome.delivery),
        put_in=_expected(outcome.put_in),
        profit=_expected(outcome.profit),
        offers=[
            OfferExpectedDoc(id=at, name=name, uses=_expected(one.uses), given_away=_expected(one.given_away))
            for at, name, one in zip(ids, names, outcome.offers, strict=True)
        ],
        today_each=outcome.today_each,
        planned_each=outcome.planned_each,
        besides=outcome.besides,
    )


def _expected(one: Expectation | Estimate) -> ExpectedDoc:
    return ExpectedDoc(likely=one.likely, low=one.low, high=one.high)


def difference_doc(found: Difference, currency: str, digits: int) -> DifferenceDoc:
    more, each = found.orders, found.each
    cash = [money(amount, currency, digits) for amount in (abs(each.likely), each.low, each.high)]
    less = "more" if each.likely >= 0 else "less"
    says = (
        f"{count(found.kept_out)} orders of these days were kept from its offers. Beside them, "
        f"{share(abs(more.likely))} {'more' if more.likely >= 0 else 'fewer'} orders came of those it was open to "
        f"(between {share(more.low)} and {share(more.high)}), and one kept {cash[0]} {less} "
        f"(between {cash[1]} and {cash[2]})."
    )
    return DifferenceDoc(kept_out=found.kept_out, orders=_expected(more), each=_expected(each), says=says)


def came_back_doc(found: CameBack, refunded: int, currency: str, digits: int) -> CameBackDoc:
    says = list[str]()
    if found.returned or refunded:
        back = _part(found.returned, found.units, "unit")
        says.append(f"{back} came back so far; their return rates expect {count(found.expected)}.")
    if found.refused:
        were = "was" if found.refused == 1 else "were"
        refused, as_expected = _part(found.refused, found.orders, "order"), count(found.as_expected)
        says.append(f"{refused} {were} refused on the way; your ways to pay expect {as_expected}.")
    if refunded:
        says.append(f"{money(refunded, currency, digits)} was given back to shoppers.")
    says.append("What you kept counts that as it was expected.")
    return CameBackDoc(**vars(found), refunded=refunded, says=" ".join(says))


COSTS = {"delivery": ("deliver", "your tariffs"), "payment": ("be paid for", "your ways to pay")}


def cost_told_doc(key: str, orders: int, told: float, as_set: float, currency: str, digits: int) -> CostToldDoc:
    """key: of COSTS."""
    what, by = COSTS[key]
    more = shown(told) - shown(as_set)
    says = (
        f"{orders:,} of these orders cost {money(shown(told), currency, digits)} to {what}, "
        f"{money(abs(more), currency, digits)} {'more' if more > 0 else 'less'} than {by} say; "
        f"what you kept counts {by}."
    )
    return CostToldDoc(orders=orders, told=shown(told), as_set=shown(as_set), says=says)


def _part(some: int, every: int, what: str) -> str:
    return f"{some:,} of {so_many(every, what)} ({share(some / every if every else 0.0)})"


def held(key: str, label: str, expected: ExpectedDoc, came: float, part: float) -> HeldDoc:
    """part: of the plan's orders, those expected on the days gone: a part of them varies more, for its size."""
    likely = expected.likely * part
    low, high = (likely + (end - expected.likely) * part**0.5 for end in (expected.low, expected.high))
    return HeldDoc(
        key=key, label=label, expected=likely, low=low, high=high, came=came, inside=bool(low <= came <= high)
    )


def part_docs(parts: Sequence[Part]) -> list[PartDoc]:
    amounts = foot([one.amount for one in parts])
    return [
        PartDoc(key=one.key, label=LABELS[one.key], amount=amount, exact=one.amount)
        for one, amount in zip(parts, amounts, strict=True)
    ]


SAYS: dict[Key, str] = {
    "volume": "Orders that came, less those expected, times what one was to keep",
    "prices": "What an order was to keep at the prices and costs of now, less as it was forecast; of all alike",
    "mix": "What each order keeps without the plan’s offers, less what one was to keep",
    "response": "What the plan’s offers do to each order, less what they were to do to one",
    "charged": "What each order kept as it was charged, less as the plan says",
}


def sentence(profit: HeldDoc, parts: Sequence[PartDoc], days: int, gone: int, currency: str, digits: int) -> str:
    """What became of it, in one sentence or two."""
    over = shown(profit.came - profit.expected)
    kept = money(profit.came, currency, digits, whole=True)
    more = money(abs(over), currency, digits, whole=True)
    way = f"{more} {'more' if over > 0 else 'less'} than expected" if over else "as expected"
    inside = "inside its range" if profit.inside else "outside its range"
    span = f"Over these {days} days" if gone >= days else f"In the first {gone} of {days} days"
    largest = max(parts, key=lambda one: abs(one.exact), default=None)
    why = ""
    if largest is not None and over:
        sign = "+" if largest.amount > 0 else ""
        amount = f"{sign}{money(largest.amount, currency, digits, whole=True)}"
        why = f" The largest part: {largest.label[0].lower()}{largest.label[1:]}, {amount}."
    return f"{span} you kept {kept}, {way}, {inside}.{why}"


def used_up(name: str) -> str:
    return f"“{name}” is used up."


def of_limit(name: str, most: int, left: int, ends: date | None, currency: str | None, digits: int) -> str:
    """What is left of a limit, and until when. currency: of what it may give away; None where uses are counted."""
    if currency is None:
        told = f"Of the {so_many(most, 'use')} of “{name}” {count(left)} are left"
    else:
        whole, rest = (money(one, currency, digits, whole=True) for one in (most, left))
        told = f"Of the {whole} that “{name}” may give away {rest} are left"
    return f"{told}, until {day_in_words(ends)} as things go." if ends else f"{told}, which should last."


def run_out(sku: str) -> str:
    return f"{sku}, which is put in, has run out."


def runs_out(sku: str, ends: date) -> str:
    return f"{sku}, which is put in, should last until {day_in_words(ends)}."


def to_come(impact: float, was: float, orders: int, left: list[str], currency: str, digits: int) -> str:
    """What the days to come should bring, and whether to carry on. impact: plan less today over those days, going by
    how shoppers responded so far; was: as it was forecast; minor units. orders: what that rests on. left: of limits
    and stock, in sentences."""

    def beside(amount: float) -> str:
        return f"{money(abs(amount), currency, digits, whole=True)} {'more' if amount >= 0 else 'less'}"

    none, none_before = (not shown(amount / 10**digits) for amount in (impact, was))
    stop = "Stop or change it, if profit is what it is for"
    whether = "It makes no difference any more" if none else "Carry on" if impact > 0 else stop
    keep = "as much as" if none else f"{beside(impact)} than"
    said = f"{whether}: the days to come should keep {keep} without it"
    before = "no difference" if none_before else beside(was)
    return " ".join([f"{said}, going by the {so_many(orders, 'order')} so far; {before} was forecast.", *left])


class HowLongDoc(BaseModel):
    """says: in one sentence. days: until as many more orders as break even can be told from chance; null where nobody
    would wait so long, or no number of orders breaks even. kept_from_days: until the impact itself can, where half of
    the shoppers are kept from it."""

    says: str
    days: int | None
    kept_from_days: int | None


class BecameDoc(BaseModel):
    """What became of a kept forecast whose days are over. kept: minor units; inside: whether that lies in its
    range."""

    id: int
    kept: int
    inside: bool


class RecordDoc(BaseModel):
    """How good kept forecasts were whose days are over, and which knew none of them. held: how often what was kept
    lay inside the range; half_within: half of them were off by so much of what was expected, or less; null where
    there is none. became: of all whose days are over."""

    forecasts: int
    held: int
    half_within: float | None
    became: list[BecameDoc]


def how_long_doc(needed: float | None, days: int | None, kept_from: float | None, runs: int) -> HowLongDoc:
    """needed: more orders to break even, a share. runs: the plan's days."""
    half = None if kept_from is None or kept_from > LONGEST else max(ceil(kept_from), 1)
    told = []
    if needed is not None and needed > 0:
        more = share(needed)
        if days is None:
            told.append(f"Orders alone will not tell whether it brings the {more} more that it needs.")
        else:
            after = f"{days} days of orders tell" if days > 1 else "1 day of orders tells"
            enough = "" if days <= runs else f", and it runs {runs}"
            told.append(f"{after} whether it brings the {more} more that it needs{enough}.")
    if half is not None:
        days_told = "1 day" if half == 1 else f"{half} days"
        told.append(f"Kept from half of your shoppers, {days_told} tell what it does to an order.")
    return HowLongDoc(says=" ".join(told), days=days, kept_from_days=half)


def against_text(told: AgainstDoc) -> str:
    """A kept forecast against what came, as text."""
    rows = [(one.label, one) for one in told.figures]
    for offer in told.offers:
        rows += [(f"{offer.name}, {one.label}", one) for one in (offer.uses, offer.given_away)]
    lines = [told.sentence, "", f"{'':28} {'expected':>14} {'low':>14} {'high':>14} {'came':>14}"]
    for label, one in rows:
        tell = _telling(one.key, told)
        figures = " ".join(f"{tell(value):>14}" for value in (one.expected, one.low, one.high, one.came))
        lines.append(f"{label[:28]:28} {figures}{'' if one.inside else '  outside'}")
    lines.append("")
    lines += [f"{one.label:44} {money(one.amount, told.currency, told.minor_digits):>14}" for one in told.split]
    lines += [f"No offer knows the code {one.code}: {one.orders} orders." for one in told.unknown_codes]
    if told.odd:
        lines.append(f"{len(told.odd) + told.others} orders paid otherwise than the plan says.")
    return "\n".join(lines)


def _telling(key: str, told: AgainstDoc) -> Callable[[float], str]:
    if key in ("orders", "uses"):
        return count
    return lambda value: money(value, told.currency, told.minor_digits, whole=True)
