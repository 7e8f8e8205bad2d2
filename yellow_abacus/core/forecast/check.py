"""What is wrong with a plan: every problem, with the path to the part and the mend.

The shapes (types, known kinds) are checked where plans are read; here is what makes sense. What concerns one offer
alone is in `check_offer`.
"""

from collections.abc import Iterator

from yellow_abacus.core.forecast.chances import MOST_CODES, MOST_TAKEN
from yellow_abacus.core.forecast.check_offer import check_offer, too_many
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.pricing.rows import MOST_WAYS, count_ways
from yellow_abacus.core.pricing.together import MOST_SETS, Together
from yellow_abacus.core.shop.shop import Shop

LONGEST_WINDOW = 366
MOST_OFFERS = 20


def check_plan(plan: Plan, shop: Shop, goods: Goods) -> list[Problem]:
    """Every problem of the plan in this shop; none means it can be forecast."""
    problems = [*_window(plan), *too_many(("offers",), "offers", len(plan.offers), MOST_OFFERS), *_codes(plan)]
    for number, offer in enumerate(plan.offers):
        problems += [problem.inside("offers", number) for problem in check_offer(offer, shop, goods)]
    problems += _names_of_others(plan)
    if plan.sharp is not None:
        problems += [problem.inside("sharp") for problem in plan.sharp.problems(shop, goods)]
    if not problems:
        problems += [*_together(plan, shop), *_choices(plan, goods)]
    return problems


def _window(plan: Plan) -> Iterator[Problem]:
    if plan.last_day < plan.first_day:
        yield Problem(("last_day",), "The plan ends before it starts.", "Choose a last day on or after the first.")
    elif plan.days > LONGEST_WINDOW:
        yield Problem(("last_day",), f"The plan runs {plan.days} days.", f"Plan {LONGEST_WINDOW} at most.")


def _codes(plan: Plan) -> Iterator[Problem]:
    """Offers may share a code or a list of codes; a code that opens two different doors is a clash."""
    keys = {offer.given.key for offer in plan.offers} - {None}
    yield from too_many(("offers",), "different codes", len(keys), MOST_CODES)
    taken = sum(offer.response.take_up_bp is not None for offer in plan.offers)
    yield from too_many(("offers",), "offers that shoppers have to take", taken, MOST_TAKEN)
    opens: dict[str, str] = {}
    for number, offer in enumerate(plan.offers):
        key = offer.given.key
        if key is None:
            continue
        clash = sorted(code for code in offer.given.accepted if opens.get(code, key) != key)
        if clash or any(
            other.given.key == key and other.given.accepted != offer.given.accepted for other in plan.offers[:number]
        ):
            which = f"The code {clash[0].upper()}" if clash else "The list of codes"
            yield Problem(
                ("offers", number, "given", "codes" if offer.given.by == "codes" else "code"),
                f"{which} is given by another offer in another way.",
                "Choose another, or share just the same code or list.",
            )
        opens |= dict.fromkeys(offer.given.accepted, key)


def _names_of_others(plan: Plan) -> Iterator[Problem]:
    ids = [offer.id for offer in plan.offers]
    known = {*ids, *(offer.id for offer in plan.running)}
    for number, offer in enumerate(plan.offers):
        if offer.id in ids[:number]:
            yield Problem(("offers", number, "id"), "Two offers have the same id.", "Give each its own.")
        for clause in ("never_with", "yields_to"):
            for other in getattr(offer.alongside, clause):
                if other == offer.id or other not in known:
                    yield Problem(
                        ("offers", number, "alongside", clause),
                        "It names itself." if other == offer.id else "It names an offer that is not in this plan.",
                        "Take that name off.",
                    )


def _together(plan: Plan, shop: Shop) -> Iterator[Problem]:
    together = Together(plan.offers, shop.settings)
    found = len(together.largest_sets(together.steady(range(len(plan.offers)))))
    if found > MOST_SETS:
        yield Problem(
            ("offers",),
            f"There are {found} ways these offers can go together on one order.",
            f"Let fewer of them exclude each other; {MOST_SETS} ways are the most.",
        )


def _choices(plan: Plan, goods: Goods) -> Iterator[Problem]:
    found = count_ways(plan.offers, goods)
    if found > MOST_WAYS:
        yield Problem(
            ("offers",),
            f"Shoppers can choose things to be put in {found} ways.",
            f"Let them choose from fewer; {MOST_WAYS} ways are the most.",
        )
