"""“Over” a figure at which orders stand exactly."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, many, say
from yellow_abacus.core.clauses.conditions import Measured


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        for number, condition in enumerate(offer.earned.conditions):
            if not isinstance(condition, Measured) or condition.bound != "over":
                continue
            measure = condition.measure_by_cart(scene.batch, scene.batch.worth_by_line, None)
            exactly = measure == condition.n * condition.per
            orders = float(scene.orders_by_cart[exactly].sum())
            if orders:
                conditions = list(offer.earned.conditions)
                conditions[number] = replace(condition, bound="at_least")
                mended = replace(offer, earned=replace(offer.earned, conditions=tuple(conditions)))
                yield Snag(
                    say(many(orders), " orders stand exactly at it, and “over” leaves them out."),
                    at,
                    ("earned", "conditions", number, "n"),
                    orders=orders,
                    mend=Mend(say("Say “or more”"), mended),
                )
