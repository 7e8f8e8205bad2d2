from yellow_abacus.core.advice.snag import cash, many, part_of, say
from yellow_abacus.core.forecast.answer import CountFigure, MoneyFigure, ShareFigure, Words


def test_words_and_figures_alternate():
    assert say("Take ", cash(-250.0), " off ", many(3.0), " orders, ", part_of(0.25), ".") == (
        Words("Take "),
        MoneyFigure(250.0, "", "leak", lost=True),
        Words(" off "),
        CountFigure(3.0, ""),
        Words(" orders, "),
        ShareFigure(0.25, ""),
        Words("."),
    )


def test_money_is_told_without_a_sign():
    assert (cash(5.0).amount, cash(5.0).lost) == (5.0, False)
