"""Steps of the bridge; that they add up to the impact over generated plans is in test_forecast."""

from collections import Counter
from dataclasses import fields, replace

import numpy as np

from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.forecast.bridge import STEPS, Sides, bridge, rows_of_step
from yellow_abacus.core.forecast.sums import AT, FIGURES
from yellow_abacus.core.forecast.takings import Takings

NOTHING = Takings(**{one.name: np.zeros((1, 1)) for one in fields(Takings)})


def takings(existing: dict[str, float], **besides: float) -> Takings:
    """existing: by row of the ledger, of orders that come anyway."""
    found = np.zeros((1, len(FIGURES)))
    for row, amount in existing.items():
        found[0, INDEX[row]] = amount
    found[0, AT["kept"]] = sum(existing.values())
    empty = {name: np.zeros((1, len(FIGURES))) for name in ("topped_up", "sent")}
    told = {"extra_of": np.zeros((1, 1, len(FIGURES))), "fixed": np.zeros(1)} | empty
    for name, amount in besides.items():
        told[name] = np.array([amount]) if name == "fixed" else np.array([[amount]])
    return replace(NOTHING, existing=found, **told)


def test_every_row_of_the_ledger_is_in_one_step():
    rows = Counter(row for step in STEPS for row in rows_of_step(step))
    assert rows == Counter(row.key for row in ROWS)
    assert rows_of_step("more_orders") == ()


def test_steps_tell_what_changed_on_orders_that_come_anyway_and_what_is_paid_besides():
    today = takings({"goods": 900.0, "goods_cost": -300.0, "picking": -20.0})
    planned = takings({"goods": 800.0, "goods_cost": -300.0, "picking": -25.0}, fixed=40.0, borrowed_of=7.0)
    sides = Sides(today, today, today, planned)
    found = {step.key: step.amount for step in bridge(sides, sides) if step.amount}
    assert found == {"given_away": -100, "other": -5, "borrowed": -7, "fixed": -40}
    assert [step.key for step in bridge(sides, sides)] == list(STEPS)


def test_orders_that_stay_away_come_before_what_is_given_to_the_rest():
    today, staying = takings({"goods": 900.0}), takings({"goods": 700.0})
    sides = Sides(today, today, staying, takings({"goods": 650.0}))
    found = {step.key: step.amount for step in bridge(sides, sides)}
    assert (found["volume"], found["given_away"]) == (-200, -50)


def test_what_is_lost_as_goods_sell_out_is_a_step_of_its_own():
    today, planned = takings({"goods": 880.0}), takings({"goods": 700.0})
    full_today, full = takings({"goods": 900.0}), takings({"goods": 800.0})
    steps = bridge(Sides(today, today, today, planned), Sides(full_today, full_today, full_today, full))
    found = {step.key: step.amount for step in steps}
    assert (found["given_away"], found["sold_out"]) == (-100, -80)
    assert sum(found.values()) == 700 - 880


def test_a_shop_in_which_something_is_otherwise_has_that_first():
    today, otherwise = takings({"goods": 900.0}), takings({"goods": 850.0})
    sides = Sides(today, otherwise, otherwise, takings({"goods": 840.0}))
    first, *rest = bridge(sides, sides)
    assert (first.key, first.amount) == ("otherwise", -50)
    assert sum(step.amount for step in rest) == -10
