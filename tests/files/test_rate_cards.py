"""Rate cards of carriers, and of charges, in the shapes they come in, and steps of weight in words."""

import random

import pytest

from tests.files.workbooks import open_document, workbook
from yellow_abacus import bring_in

Card = dict[str, tuple[list[tuple[int | None, float]], float | None]]
"""By tariff: up to so many grams at so much, and each kilogram more."""


def read(shop, text: str, file: str = "card.csv") -> Card:
    checked = bring_in.check(shop, "tariffs", text.encode(), file=file)
    assert (checked.missing, checked.rejected) == ([], [])
    return {one.name: ([(step.upto, step.amount) for step in one.steps], one.per_kilogram) for one in checked.records}


TWO: Card = {"Home": ([(1000, 490), (5000, 690)], None), "Far": ([(1000, 1400), (5000, 2200)], None)}


@pytest.mark.parametrize(
    ("text", "card"),
    [
        ("Weight (kg),Home,Far\n1,4.90,14\n5,6.90,22\n", TWO),
        ("Gewicht;Home;Far\nbis 1 kg;4,90 €;14,00 €\nbis 5 kg;6,90 €;22,00 €\n", TWO),
        ("Weight,Home,Far\n0 - 1 kg,4.90,14\n1 - 5 kg,6.90,22\n", TWO),
        ("Weight,Home,Far\n1,4.90,14\n5,6.90,22\n", TWO),  # kilograms, as nobody says
        ("g,Home,Far\n1000,4.90,14\n5000,6.90,22\n", TWO),
        ("Zone,up to 1 kg,up to 5 kg\nHome,4.90,6.90\nFar,14,22\n", TWO),
        (",1kg,5kg\nHome,4.90,6.90\nFar,14,22\n", TWO),
        ("Zone / kg,1,5\nHome,4.90,6.90\nFar,14,22\n", TWO),
        ("Service,Transit days,1 kg,5 kg\nHome,2,4.90,6.90\nFar,5,14,22\n", TWO),
        ("Zone,From (kg),To (kg),Price\nHome,0,1,4.90\nHome,1,5,6.90\nFar,0,1,14\n,1,5,22\n", TWO),
        ("Tariff,Up to (kg),Price\nHome,1,4.90\nHome,5,6.90\nFar,1,14\nFar,5,22\n", TWO),
        ("kg,Home (EUR),Far (EUR)\n1,4.90,14\n5,6.90,22\n", TWO),
    ],
)  # fmt: skip
def test_a_card_is_read_in_any_shape(empty_shop, text, card):
    assert read(empty_shop, text) == card


def test_what_is_dearer_by_the_kilogram_and_what_is_not_taken(empty_shop):
    down = "kg,Home,Far\n1,4.90,14\n5,6.90,-\neach additional kg,0.60,\n"
    across = "Zone,1 kg,5 kg,each additional kg\nHome,4.90,6.90,0.60\nFar,14,n/a,\n"
    card = {"Home": ([(1000, 490), (5000, 690)], 60), "Far": ([(1000, 1400)], None)}
    assert read(empty_shop, down) == read(empty_shop, across) == card
    assert read(empty_shop, "Weight,Home,Far\n1 kg,4,9\nover 1 kg,7,20\n")["Home"] == (
        [(1000, 400), (None, 700)],
        None,
    )


def test_tariffs_are_called_by_all_that_names_them_and_a_card_of_one_by_its_file(empty_shop):
    several = "Service,Zone,kg,Price\nParcel,1,2,5\nParcel,2,2,9\nExpress,1,2,12\n"
    assert list(read(empty_shop, several)) == ["Parcel, Zone 1", "Parcel, Zone 2", "Express, Zone 1"]
    both = "Service,kg,Home,Far\nParcel,2,5,9\n,5,6,11\nExpress,2,12,19\n"
    assert list(read(empty_shop, both)) == ["Parcel, Home", "Parcel, Far", "Express, Home", "Express, Far"]
    assert list(read(empty_shop, "kg,1,2\n2,5,9\n5,6,11\n")) == ["Zone 1", "Zone 2"]
    assert read(empty_shop, "Weight (kg),Price\n2,5\n", "post rates.csv") == {"post rates": ([(2000, 500)], None)}


def test_steps_that_cost_nothing_beside_others_are_told(empty_shop):
    text = "kg,Home,Far,Collected\n1,4.90,14,0\n5,6.90,0,0\n10,0.00,,0\n"
    assert bring_in.check(empty_shop, "tariffs", text.encode()).says == [
        "2 steps of Home and Far cost 0: leave cells empty where the carrier takes nothing so heavy."
    ]
    assert (
        bring_in.check(empty_shop, "tariffs", text.replace(",0.00,", ",9,").replace(",0,0", ",9,0").encode()).says
        == []
    )


@pytest.mark.parametrize("title", ["", "Prices 2027;;;;\n"])
def test_services_stand_above_the_zones_of_each(empty_shop, title):
    down = f"{title};Post;;Express;\nWeight (kg);Home;Far;Home;Far\n2;5;9;12;19\n"
    assert list(read(empty_shop, down)) == ["Post, Home", "Post, Far", "Express, Home", "Express, Far"]


def test_currency_and_tax_of_all_headings_count_for_the_prices(empty_shop):
    with_tax = bring_in.check(empty_shop, "tariffs", b"kg,Home (incl. VAT),Far (incl. VAT)\n2,6,12\n")
    assert [step.amount for one in with_tax.records for step in one.steps] == [500, 1000]
    foreign = bring_in.check(empty_shop, "tariffs", b"kg,Home (USD),Far (USD)\n2,6,12\n")
    assert [one.field for one in foreign.rejected] == ["Price", "Price"]


@pytest.mark.parametrize("upto", ["-1", "2 dogs", "heavy", "1 - x"])
def test_a_step_that_tells_no_weight_is_refused(empty_shop, upto):
    (refused, *_) = bring_in.check(empty_shop, "tariffs", f"Tariff,Up to (kg),Price\nA,{upto},5\n".encode()).rejected
    assert (refused.row, refused.field) == (2, "Up to (g)")


@pytest.mark.parametrize("seed", range(40))
def test_cards_made_up_are_read_as_they_were_made(empty_shop, seed):
    r = random.Random(seed)
    zones = r.sample(["Home", "Near abroad", "Islands", "EU 1", "EU 2", "Switzerland", "World"], r.randint(2, 5))
    weights = sorted(r.sample([0.25, 0.5, 1, 2, 3, 5, 10, 20, 31.5], r.randint(2, 6)))
    price = {(zone, at): r.randint(200, 9000) for zone in zones for at in weights}
    mark, separator = r.choice([(".", ","), (",", ";"), (".", "\t")])

    def number(value: float) -> str:
        return f"{value:g}".replace(".", mark)

    def amount(zone: str, at: float) -> str:
        return f"{price[zone, at] / 100:.2f}".replace(".", mark) + sign

    sign = r.choice(["", "", " €"])
    told = r.choice(["{}kg", "{} kg", "up to {} kg", "bis {} kg", "max. {} kg", "< {} kg"])
    if r.random() < 0.5:
        heading = r.choice(["Weight", "Weight (kg)", "Gewicht", "kg", "Poids", "Peso (kg)"])
        steps = told if r.random() < 0.5 or "kg" not in heading else "{}"
        rows = [[heading, *zones]]
        rows += [[steps.format(number(at)), *(amount(zone, at) for zone in zones)] for at in weights]
    else:
        rows = [[r.choice(["Zone", "Destination", "", "Service"]), *(told.format(number(at)) for at in weights)]]
        rows += [[zone, *(amount(zone, at) for at in weights)] for zone in zones]
    wanted = {zone: ([(round(at * 1000), price[zone, at]) for at in weights], None) for zone in zones}
    assert read(empty_shop, "\n".join(separator.join(row) for row in rows)) == wanted


def charged(shop, data: bytes) -> dict[str, object]:
    checked = bring_in.check(shop, "charges", data, file="charges.csv")
    assert (checked.missing, checked.rejected) == ([], [])
    return {
        f"{one.zone} {one.option.name}": {
            "flat": lambda charge: charge.amount,
            "by_value": lambda charge: [(0, charge.amount), *((step.value, step.amount) for step in charge.steps)],
            "by_weight": lambda charge: [(step.upto, step.amount) for step in charge.steps],
        }[one.option.charge.kind](one.option.charge)
        for one in checked.records
    }


BY_WEIGHT = {"A Delivery": [(2000, 500), (9000, 700)], "B Delivery": [(2000, 900)]}


@pytest.mark.parametrize(
    ("text", "charges"),
    [
        ("Country;Shipping cost\nDE;4,90\nFR;9,90\n", {"DE Delivery": 490, "FR Delivery": 990}),
        ("Zone,Method,Order value from,Price\nA,Post,0,5\nA,Post,50,0\n", {"A Post": [(0, 500), (5000, 0)]}),
        ("Zone,Weight from (kg),Weight to (kg),Price\nA,0,2,5\nA,2,9,7\nB,0,2,9\n", BY_WEIGHT),
        ("Zone,0-2 kg,2-9 kg\nA,5,7\nB,9,\n", BY_WEIGHT),
        ("Weight (kg),A,B\n2,5,9\n9,7,\n", BY_WEIGHT),
        ("Zone,Method,up to 2 kg,over 2 kg\nA,Post,5,7\n", {"A Post": [(2000, 500), (2_000_000, 700)]}),
    ],
)  # fmt: skip
def test_charges_are_read_in_other_shapes(empty_shop, text, charges):
    assert charged(empty_shop, text.encode()) == charges


def test_countries_of_a_zone_stand_in_one_cell_or_in_rows(empty_shop):
    text = b'Zone,Country,Method,Price\nEU,"Austria, France",Post,9\nEU,Spain,Post,9\n'
    (one,) = bring_in.check(empty_shop, "charges", text).records
    assert one.places == ("Austria", "France", "Spain")


@pytest.mark.parametrize(
    ("rows", "field", "says"),
    [
        ("A,Post,5,,\nA,Post,7,,\n", "Charge", "is charged otherwise in row 2"),
        ("A,Post,0,50,\n", "From goods worth", "What is charged below 50.00 is not told"),
        ("A,Post,5,0,2\nA,Post,4,50,5\n", "Up to (g)", "tells steps of value and of weight"),
    ],
)
def test_charges_that_cannot_be_told_apart_are_refused(empty_shop, rows, field, says):
    text = f"Zone,Option,Charge,From goods worth,Up to (kg)\n{rows}"
    found = bring_in.check(empty_shop, "charges", text.encode()).rejected
    assert any(one.field == field and says in one.message for one in found)


def test_a_sheet_a_service_has_its_tariffs_called_by_both_where_their_zones_are_the_same(empty_shop):
    sheets = {
        name: [["Weight (kg)", "Home", "Far"], [1, 4.9 + more, 14 + more], [5, 6.9 + more, 22 + more]]
        for name, more in (("Standard", 0), ("Express", 5))
    }
    checked = bring_in.check(empty_shop, "tariffs", workbook(**sheets), file="card.xlsx")
    told = {one.name: [step.amount for step in one.steps] for one in checked.records}
    assert told == {
        "Standard, Home": [490, 690],
        "Standard, Far": [1400, 2200],
        "Express, Home": [990, 1190],
        "Express, Far": [1900, 2700],
    }


BY_VALUE = [["Method", "Order value from", "Price"], ["Post", 0, 5], ["Post", 60, 0]]
FLAT = [["Method", "Price"], ["Post", 9.5], ["Express", 20]]


@pytest.mark.parametrize(
    ("sheets", "charges"),
    [
        (
            {"Home": BY_VALUE, "Abroad": FLAT, "Notes": [["By", "Day"], ["Ada", 1]]},
            {"Home Post": [(0, 500), (6000, 0)], "Abroad Post": 950, "Abroad Express": 2000},
        ),
        (
            {zone: [["Weight (kg)", "Price"], [2, price], [9, 7]] for zone, price in (("A", 5), ("B 2.5", 6))},
            {"A Delivery": [(2000, 500), (9000, 700)], "B 2.5 Delivery": [(2000, 600), (9000, 700)]},
        ),
        ({"Rates": [["Zone", "Price"], ["A", 5]], "Extras": [["What", "Price"], ["Wrap", 2]]}, {"A Delivery": 500}),
        (
            {"Rates": [["Zone", "Price"], ["A", 5]], "Far": [["Zone", "Price"], ["B", 9]]},
            {"A Delivery": 500, "B Delivery": 900},
        ),
    ],
)
def test_charges_of_several_sheets_are_put_together_by_the_zones_they_are_called_by(empty_shop, sheets, charges):
    assert charged(empty_shop, workbook(**sheets)) == charges


def test_files_of_one_sheet_that_nobody_named_are_called_by_themselves(empty_shop):
    cells = [[str(cell) for cell in row] for row in FLAT]
    files = [("Home.xlsx", workbook(Sheet1=FLAT)), ("Abroad.ods", open_document(Sheet1=cells))]
    checked = bring_in.check(empty_shop, "charges", files[0][1], file=files[0][0], more=files[1:])
    assert {one.zone for one in checked.records} == {"Home", "Abroad"}


@pytest.mark.parametrize(
    ("heading", "cell", "read_as"),
    [("Up to", "2", "kilograms"), ("Up to", "2000", "grams"), ("Up to (kg)", "2", ""), ("Up to", "2 kg", "")],
)
def test_what_steps_without_a_unit_are_read_in_is_told(empty_shop, heading, cell, read_as):
    for kind, header in (("tariffs", "Tariff,Price"), ("charges", "Zone,Charge")):
        checked = bring_in.check(empty_shop, kind, f"{header},{heading}\nHome,5,{cell}\n".encode())
        assert checked.rejected == []
        says = [note for note in checked.notes if note.startswith("Steps of weight")]
        assert (f"read as {read_as}:" in says[0]) if read_as else not says


def test_a_card_a_file_has_its_tariff_called_by_that(empty_shop):
    cards = [
        (f"{name}.csv", f"Weight (kg),Price\n1,{price}\n".encode()) for name, price in (("Parcel", 5), ("Letter", 2))
    ]
    (name, data), *more = cards
    checked = bring_in.check(empty_shop, "tariffs", data, file=name, more=more)
    assert {one.name: one.steps[0].amount for one in checked.records} == {"Parcel": 500, "Letter": 200}
