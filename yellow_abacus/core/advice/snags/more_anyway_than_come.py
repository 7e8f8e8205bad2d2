"""Messages of whose buyers more are said to come anyway than orders are expected on those days."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, many, part_of, say
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.expected import Source
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.segments import carts_of
from yellow_abacus.core.ground.money import WHOLE_BP, Bools


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        sends = offer.response.sends
        if sends is None or offer.given.key is None:
            continue
        opens, days = scene.plan.open_for(scene.plan.offers[at])
        answer = sends.coming(days) * sends.size * sends.response_bp / WHOLE_BP
        come = _come_anyway(scene, sends, opens, int(np.count_nonzero(answer)))
        buyers = float(answer.sum())
        anyway = buyers * sends.anyway_bp / WHOLE_BP
        if anyway <= come:
            continue
        most = int(WHOLE_BP * come / buyers)
        less = replace(offer.response, sends=replace(sends, anyway_bp=most))
        yield Snag(
            say(
                "Of those its messages bring, ",
                many(anyway),
                " are said to come anyway; on those days only ",
                many(come),
                " such orders are expected.",
            ),
            at,
            ("response", "sends", "anyway_bp"),
            orders=anyway - come,
            mend=Mend(say("Say that ", part_of(most / WHOLE_BP), " come anyway"), replace(offer, response=less)),
        )


def _come_anyway(scene: Scene, sends: Sends, opens: int, days: int) -> float:
    """Orders expected of those it is sent to, over the days on which they come: from `opens` on, an ordinal."""
    expected, of_source = scene.forecaster.expected, dict[Source, float]()
    for day in map(date.fromordinal, range(opens, opens + days)):
        for source in expected.sources(day):
            of_source[source] = of_source.get(source, 0.0) + expected.volume.times(source.share).on(day)
    return sum(
        orders * float(source.by_cart[_of_those(sends, source.mix)].sum()) for source, orders in of_source.items()
    )


def _of_those(sends: Sends, mix: Mix) -> Bools:
    """Which carts are those of shoppers it is sent to."""
    first = mix.batch.facts.orders_before_by_cart == 0
    cohorts: Bools = {"any": np.ones_like(first), "first": first, "returning": ~first}[sends.to]
    return cohorts if sends.among is None else cohorts & carts_of(sends.among, mix)
