from decimal import Decimal

import pytest

from yellow_abacus.files.values import (
    BadCellError,
    are_rates,
    are_shares,
    guess_decimal_mark,
    is_currency_sign,
    parse_count,
    parse_flag,
    parse_length,
    parse_money,
    parse_number,
    parse_size,
    parse_weight,
)


@pytest.mark.parametrize(
    ("text", "mark", "value"),
    [
        ("12.50", ".", "12.50"),
        ("12,50", ",", "12.50"),
        ("1,234.50", ".", "1234.50"),
        ("1.234,50", ",", "1234.50"),
        ("1 234,50", ",", "1234.50"),
        ("1\u202f234,50 €", ",", "1234.50"),
        ("1'234.50", ".", "1234.50"),
        ("€ 1,234", ".", "1234"),
        ("1.234", ",", "1234"),
        ("EUR 7", ".", "7"),
        ("₹ 1,23,456.50", ".", "123456.50"),
        ("−3.5", ".", "-3.5"),
        ("(3.50)", ".", "-3.50"),
    ],
)
def test_numbers_in_many_forms(text, mark, value):
    assert parse_number(text, mark, is_currency_sign) == Decimal(value)


@pytest.mark.parametrize(
    ("text", "mark"),
    [
        ("1e5", "."),
        ("12,5", "."),
        ("12.5", ","),
        ("1.2.3", "."),
        ("ten", "."),
        ("", "."),
        ("1,23,45", "."),
        ("1,23,456", ","),
        ("9" * 40, "."),
    ],
)
def test_what_is_no_number_is_refused(text, mark):
    with pytest.raises(BadCellError):
        parse_number(text, mark, is_currency_sign)


@pytest.mark.parametrize(
    ("cells", "separator", "mark"),
    [
        (["12,50", "3"], ";", ","),
        (["12.50", "1,200.00"], ",", "."),
        (["1.200,00", "1.300"], ";", ","),
        (["1,200", "1,300", "2.5"], ",", "."),
        (["1.200.000"], ",", ","),
        (["Prezzo unit.", "12,50", "3,90 kr."], ",", ","),
        (["12.50, 3.49"], ";", "."),
        (["5", "7"], ",", "."),
        (["5", "7"], ";", ","),
    ],
)
def test_the_decimal_mark_is_found_from_the_whole_column(cells, separator, mark):
    assert guess_decimal_mark(cells, separator) == mark


def test_money_says_what_is_wrong():
    assert parse_money("12.3456", ".", 2, largest=10**9, extra_digits=2) == Decimal("1234.56")
    for text, says in [("-1", "below 0"), ("99999999999", "larger"), ("1.005", "2 decimals")]:
        with pytest.raises(BadCellError, match=says):
            parse_money(text, ".", 2, largest=10**9)


def test_counts_weights_and_flags():
    assert parse_count("1,200", ".", least=1, largest=5000) == 1200
    for text in ("0", "-2", "1.5", "9000000"):
        with pytest.raises(BadCellError):
            parse_count(text, ".", least=1, largest=5000)
    assert parse_weight("0.25 kg", ".", "g") == 250
    assert parse_weight("250", ".", "g") == 250
    assert parse_weight("0,25", ",", "kg") == 250
    for text in ("3 stone", "-1", "9000 kg"):
        with pytest.raises(BadCellError):
            parse_weight(text, ".", "g")
    assert [parse_flag(word) for word in ("Yes", "ja", "OUI", "Да", "0", "Nein", "Όχι")] == [
        *[True] * 4,
        *[False] * 3,
    ]
    for word in ("maybe", "-1", "1 %"):
        with pytest.raises(BadCellError):
            parse_flag(word)


@pytest.mark.parametrize(
    ("text", "unit", "grams"),
    [
        ("250", "g", 250),
        ("0.4", "kg", 400),
        ("0.4 kg", "g", 400),
        ("12 oz", "g", 340.194),
        ("2", "lb", 907.185),
        ("1.5 lbs", "g", 680.389),
    ],
)
def test_weights_in_every_unit(text, unit, grams):
    assert parse_weight(text, ".", unit) == grams


@pytest.mark.parametrize("text", ["-1 kg", "3 stone", "9000 kg", "heavy"])
def test_what_is_no_weight_is_refused(text):
    with pytest.raises(BadCellError):
        parse_weight(text, ".", "g")


@pytest.mark.parametrize(
    ("text", "unit", "millimetres"),
    [("30", "cm", 300), ("12.5 cm", "mm", 125), ("8 in", "mm", 203), ("0.4 m", "mm", 400), ("77", "mm", 77)],
)
def test_lengths_in_every_unit(text, unit, millimetres):
    assert parse_length(text, ".", unit) == millimetres


@pytest.mark.parametrize(
    ("text", "unit", "sides"),
    [
        ("30 x 20 x 12.5 cm", "mm", (300, 200, 125)),
        ("30×20×12", "cm", (300, 200, 120)),
        ("300*200*120", "mm", (300, 200, 120)),
        ("8 x 4 x 2 in", "cm", (203, 102, 51)),
    ],
)
def test_sizes_of_three_sides(text, unit, sides):
    assert parse_size(text, ".", unit) == sides


@pytest.mark.parametrize("text", ["30 x 20", "30 x 20 x tall", "1 x 2 x -3 cm"])
def test_what_is_no_size_is_refused(text):
    with pytest.raises(BadCellError):
        parse_size(text, ".", "cm")


@pytest.mark.parametrize(
    ("texts", "shares"),
    [
        (["0.1", "0", "0.25"], True),
        (["0,1", "", "0,0"], True),
        (["0.35", "0.00", "0.28"], False),
        (["0,35", "0,00"], False),
        (["0.35", "0.28"], False),
        (["0.35", "0.28", "0.12", "0.07", "0.33"], True),
        (["0.1", "1.2"], False),
        (["0", ""], False),
    ],
)
def test_shares_are_told_from_amounts_by_how_they_are_written(texts, shares):
    assert are_shares("Discount", texts) == shares


@pytest.mark.parametrize("heading", ["Rabatt €", "Discount (USD)", "Remise, EUR", "Sleva Kč", "Discount amount"])
def test_what_is_headed_as_money_tells_no_shares(heading):
    assert not are_shares(heading, ["0.5", "0.25"])
    assert not are_rates(heading, ["0.5", "0.25"])
