"""The sentence, from figures that were never summed."""

from types import SimpleNamespace

import pytest

from yellow_abacus.core.forecast.answer import CountFigure, MoneyFigure, ShareFigure, Words, answer, aside
from yellow_abacus.core.forecast.break_even import BreakEven
from yellow_abacus.core.forecast.cart_types import BY_TYPE, OTHERS
from yellow_abacus.core.offers import Given, Offer, PercentOff, Response

NINE = BreakEven("at_least", 0.09)


def told(impact=-300.0, days=14, reached=5.0, even=NINE, offers=(), more=0.0, rods=None):
    return SimpleNamespace(
        plan=SimpleNamespace(days=days, offers=offers),
        impact=impact,
        reached=reached,
        more_orders=even,
        today=SimpleNamespace(orders=100.0),
        planned=SimpleNamespace(orders=100.0 + more),
        rods=rods or {"category": ()},
    )


def plainly(parts) -> str:
    """Money and counts as they are, shares in percent."""
    said = ""
    for part in parts:
        match part:
            case Words(text):
                said += text
            case MoneyFigure(amount, after):
                said += f"{amount:g}{after}"
            case ShareFigure(share, after):
                said += f"{share * 100:g}%{after}"
            case CountFigure(count, after):
                said += f"{count:g}{after}"
    return said


CODED = Offer((PercentOff(1000),), given=Given("code", "FERN"))


@pytest.mark.parametrize(
    ("forecast", "sentence"),
    [
        (
            told(),
            "Over these 14 days the plan keeps 300 less than today. It needs 9% more orders to break even.",
        ),
        (
            told(450.0, days=1),
            "On this one day the plan keeps 450 more than today. It breaks even at 9% more orders.",
        ),
        (
            told(0.2, even=BreakEven("no_matter")),
            "Over these 14 days the plan keeps just what today keeps. Extra orders make no difference to it.",
        ),
        (
            told(even=BreakEven("never"), offers=(CODED,)),
            "Over these 14 days, if everybody uses the code, the plan keeps 300 less than today."
            " No number of extra orders would make it break even.",
        ),
        (
            told(450.0, even=BreakEven("at_most", 0.2), offers=(Offer(CODED.gives, response=Response(uptake_bp=1)),)),
            "Over these 14 days the plan keeps 450 more than today."
            " It breaks even only up to 20% more orders: each extra one loses money.",
        ),
        (
            told(450.0, even=BreakEven("always")),
            "Over these 14 days the plan keeps 450 more than today. It would break even without one extra order.",
        ),
        (told(reached=0), "Over these 14 days the plan keeps 300 less than today. No order gets anything from it."),
    ],
)
def test_what_it_keeps_and_what_it_needs(forecast, sentence):
    assert plainly(answer(forecast, round(forecast.impact), 1)) == sentence


@pytest.mark.parametrize(
    ("forecast", "impact", "sentence"),
    [
        (
            told(-49.0, even=BreakEven("at_least", 0.00049)),
            0,
            "Over these 14 days the plan keeps, to within 100, what today keeps."
            " It needs less than 0.1% more orders to break even.",
        ),
        (
            told(-2.0, even=BreakEven("at_least", 0.0005)),
            -100,
            "Over these 14 days the plan keeps 100 less than today. It needs 0.1% more orders to break even.",
        ),
        (
            told(51.0, even=BreakEven("at_least", 0.0)),
            100,
            "Over these 14 days the plan keeps 100 more than today. It breaks even at less than 0.1% more orders.",
        ),
    ],
)
def test_what_is_too_little_to_be_shown(forecast, impact, sentence):
    """In whole hundreds: −2 may be shown as −100, where today falls just on the other side of a half."""
    assert plainly(answer(forecast, impact, 100)) == sentence


def rod(label: str, change: float) -> SimpleNamespace:
    return SimpleNamespace(label=label, change=change)


@pytest.mark.parametrize(
    ("forecast", "sentence"),
    [
        (told(more=12.0), "It sells 12 more orders."),
        (
            told(more=12.0, rods={"category": (rod("Soils", -80.0), rod("Seeds", -20.0))}),
            "It sells 12 more orders, and leaks most on carts of soils: 80 less than today.",
        ),
        (
            told(rods={"category": (rod("Soils", -80.0),), BY_TYPE: (rod("Heavy ones", -70.0), rod(OTHERS, -900.0))}),
            "It leaks most on carts of “Heavy ones”: 70 less than today.",
        ),
        (told(rods={"category": (rod("Soils", -1.4),)}), ""),
        (told(rods={"category": (rod("Soils", 30.0),)}), ""),
        (told(more=1.04), "It sells 1.04 more order."),
    ],
)
def test_what_it_sells_more_and_where_it_leaks(forecast, sentence):
    assert plainly(aside(forecast, 1)) == sentence


def test_a_leak_too_small_to_be_shown_is_not_told():
    loses = told(rods={"category": (rod("Soils", -49.0),)})
    assert plainly(aside(loses, 1)) == "It leaks most on carts of soils: 49 less than today."
    assert aside(loses, 100) == ()
