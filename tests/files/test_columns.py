import tomllib
from pathlib import Path

import pytest

from yellow_abacus.files.columns import match_columns, missing_columns, not_understood
from yellow_abacus.files.fields import CODES, GOODS, ORDERS
from yellow_abacus.files.headings import is_of_a_total, unit_in
from yellow_abacus.files.values import WEIGHTS
from yellow_abacus.files.with_tax import taxed_by


def matched(header, fields):
    return {key: header[at] for key, (at,) in match_columns(header, fields).items()}


@pytest.mark.parametrize(
    "header",
    [
        "SKU;Product;Option;List price;Reduced price;Unit cost;Weight;Categories;Stock",
        "Artikelnummer;Bezeichnung;Ausführung;VK-Preis;Aktionspreis;EK;Gewicht (kg);Warengruppe;Lagerbestand",
        "Référence;Désignation;Couleur;Prix de vente;Prix promo;Prix d'achat;Poids_g;Famille;En stock",
        "ITEM_CODE;itemName;variant;retail-price;SALE PRICE;Landed Cost;weight g;department;On Hand",
    ],
)
def test_goods_headings_in_ordinary_trade_words(header):
    assert sorted(match_columns(header.split(";"), GOODS).values()) == [(at,) for at in range(9)]


def test_order_headings_in_ordinary_trade_words():
    header = ["Bestellung", "Datum", "Artikelnr", "Menge", "Einzelpreis", "Land", "Kunde", "Neukunde", "Gutschein"]
    assert set(match_columns(header, ORDERS)) == {
        "number", "date", "sku", "quantity", "unit_price", "zone", "shopper", "first_order", "code",
    }  # fmt: skip


def test_an_exact_heading_goes_before_a_loose_one_and_no_column_serves_twice():
    header = ["Price incl. something", "Price", "SKU", "Cost of purchase"]
    assert matched(header, GOODS) == {"sku": "SKU", "list_price": "Price", "purchase_cost": "Cost of purchase"}


def test_missing_required_columns_are_named():
    assert [field.label for field in missing_columns(match_columns(["Name"], GOODS), GOODS)] == ["SKU"]


@pytest.mark.parametrize(
    ("heading", "unit"), [("Weight (kg)", "kg"), ("weight_g", "g"), ("Weight", "g"), ("Weight lb", "lb")]
)
def test_the_unit_in_a_weight_heading(heading, unit):
    assert unit_in(heading, WEIGHTS, "g") == unit


@pytest.mark.parametrize(
    ("heading", "field"),
    [
        ("Stück-Preis", "unit_price"),
        ("Order-Number", "number"),
        ("Netto Stück Preis", "unit_price"),
        ("Auftrags Nr.", "number"),
    ],
)
def test_a_known_word_is_found_with_a_hyphen_or_space_inside_it(heading, field):
    assert match_columns([heading], ORDERS) == {field: (0,)}


@pytest.mark.parametrize(
    ("heading", "field"),
    [
        ("Prezzo unit.", "unit_price"),
        ("Cod. art.", "sku"),
        ("N. ordine", "number"),
        ("Sped.", "delivery_paid"),
        ("Discount (EUR)", "line_discount"),
        ("Montant TTC", "line_total"),
        ("Item SKU", "sku"),
    ],
)
def test_headings_cut_short_or_with_tax_and_currency(heading, field):
    assert match_columns([heading], ORDERS) == {field: (0,)}


TOLD_IN = ("headings_met", "whole_files")
MET, WHOLE = (tomllib.loads(Path(__file__).with_name(f"{name}.toml").read_text("utf-8")) for name in TOLD_IN)
OF_GOODS, OF_TAX = MET.pop("goods"), MET.pop("tax")
FIELDS = {*MET, *(key for one in WHOLE.values() for key, told in one.items() if isinstance(told, list))}


@pytest.mark.parametrize("field", OF_GOODS)
def test_headings_of_many_files_of_goods_are_known_by_themselves(field):
    found = {heading: match_columns([heading], GOODS) for heading in OF_GOODS[field]}
    assert found == {heading: {field: (0,)} for heading in OF_GOODS[field]}


@pytest.mark.parametrize("field", sorted(FIELDS))
def test_headings_of_many_shops_are_known_by_themselves(field):
    beside = [heading for one in WHOLE.values() for heading in one.get(field, ()) if not is_of_a_total(heading)]
    met = [*MET.get(field, ()), *beside]
    assert {heading: match_columns([heading], ORDERS) for heading in met} == {
        heading: {field: (0,)} for heading in met
    }


@pytest.mark.parametrize("told", OF_TAX)
def test_headings_say_whether_prices_are_with_tax(told):
    assert {heading: taxed_by([heading]) for heading in OF_TAX[told]} == dict.fromkeys(OF_TAX[told], told)


@pytest.mark.parametrize("heading", ["Desc.", "Pos.", "No.", "Before discount", "All items"])
def test_what_may_mean_several_things_is_not_guessed(heading):
    assert match_columns([heading], ORDERS) == {}


@pytest.mark.parametrize(("heading", "field"), [("Libellé", "product"), ("Artikelbezeichnung", "product")])
def test_product_names_in_other_languages(heading, field):
    assert match_columns([heading], GOODS) == {field: (0,)}


@pytest.mark.parametrize(
    ("header", "field", "taken"),
    [
        (["Preis netto", "VK brutto"], "list_price", "VK brutto"),
        (["Precio sin IVA", "Precio con IVA"], "list_price", "Precio con IVA"),
        (["Price ex VAT", "Sell price"], "list_price", "Sell price"),
        (["Price ex VAT", "Margin"], "list_price", "Price ex VAT"),
        (["EK brutto", "EK netto"], "purchase_cost", "EK netto"),
        (["Wholesale price", "Wholesale cost"], "purchase_cost", "Wholesale cost"),
        (["Price", "Now"], "reduced_price", "Now"),
        (["Precio", "Precio de coste"], "purchase_cost", "Precio de coste"),
        (["Prezzo d'acquisto", "Prezzo ingrosso", "Prezzo al pubblico"], "list_price", "Prezzo al pubblico"),
        (["Prezzo d'acquisto"], "list_price", None),
        (["Supplier price"], "list_price", None),
        (["Stock mínimo"], "stock", None),
        (["Réf. fournisseur", "Réf. article"], "sku", "Réf. article"),
        (["Description courte", "Nom du produit"], "product", "Nom du produit"),
        (["Articolo", "Cod. art."], "sku", "Cod. art."),
        (["Articolo", "Cod. art."], "product", "Articolo"),
    ],
)
def test_of_several_columns_of_goods_that_alone_which_is_meant(header, field, taken):
    assert matched(header, GOODS).get(field) == taken


@pytest.mark.parametrize(
    ("cost", "paid"),
    [
        ("Shipping cost", "Shipping charged"),
        ("Shipping cost (EUR)", "Shipping income"),
        ("Delivery cost", "Delivery paid by customer"),
        ("Postage cost", "Postage paid"),
        ("Freight cost", "Freight charged"),
        ("Versandkosten", "Versandkosten Kunde"),
        ("Verzendkosten", "Verzendkosten klant"),
        ("Coût de livraison", "Frais de port facturés"),
        ("Koszt dostawy", "Opłata za dostawę"),
    ],
)
def test_what_delivery_cost_the_shop_is_not_what_was_paid_for_it(cost, paid):
    for header in ([cost, paid], [paid, cost]):
        assert matched(header, ORDERS) == {"delivery_paid": paid, "delivery_cost": cost}
    assert matched([cost], ORDERS) == {"delivery_paid": cost}  # which is how most call what shoppers pay


@pytest.mark.parametrize(
    "heading",
    [
        *("Label cost", "Carrier charge", "Actual shipping cost", "Actual postage", "Shipping label price"),
        *("Freight paid to carrier", "Courier cost", "Labelkosten", "Coût transporteur", "Costo corriere"),
    ],
)
def test_what_a_carrier_asked_is_known_by_its_own_words(heading):
    assert matched([heading], ORDERS) == {"delivery_cost": heading}
    assert matched(["Shipping cost", heading], ORDERS) == {"delivery_cost": heading, "delivery_paid": "Shipping cost"}


@pytest.mark.parametrize(
    "header",
    [
        ["Versandkosten netto", "Versandkosten brutto"],
        ["Versand brutto", "Versandkosten netto"],
        ["Shipping (incl. VAT)", "Shipping cost excl. VAT"],
        ["Shipping cost", "Freight cost"],
    ],
)
def test_of_two_columns_that_may_be_what_shoppers_paid_neither_is_a_carriers(header):
    assert "delivery_cost" not in matched(header, ORDERS)


@pytest.mark.parametrize(
    "heading",
    [
        "Transaction fee",
        "Processing fees",
        "Payment fee",
        "Gateway fee",
        "Transaktionsgebühr",
        "Frais de transaction",
    ],
)
def test_what_being_paid_cost_is_known_by_its_words(heading):
    assert matched([heading, "Payment"], ORDERS) == {"payment_cost": heading, "payment": "Payment"}


@pytest.mark.parametrize("heading", ["Payment fee tax", "Transaction fee refund", "Customer payment fee", "Fee type"])
def test_a_fee_of_something_else_is_not_what_being_paid_cost(heading):
    assert matched([heading], ORDERS) == {}


@pytest.mark.parametrize("heading", ["Courier charge", "Shipping costs", "Paid shipping"])
def test_what_most_call_what_shoppers_pay_is_that(heading):
    assert matched([heading], ORDERS) == {"delivery_paid": heading}


@pytest.mark.parametrize("heading", ["Variant grams", "Size g", "Size (kg)", "Größe in mm"])
def test_a_column_in_grams_is_no_option(heading):
    assert "option" not in match_columns([heading], GOODS)


def test_columns_taken_for_nothing_are_named():
    header = ["SKU", "Shelf", "Price", ""]
    assert not_understood(header, match_columns(header, GOODS)) == ["Shelf"]


@pytest.mark.parametrize("heading", ["Codes", "Coupon code", "Rabattkod", "slevový kód"])
def test_a_file_of_codes_answers_to_the_words_orders_have_for_them(heading):
    assert matched(["Used", heading], CODES) == {"code": heading}
