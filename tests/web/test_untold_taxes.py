"""Tax classes that goods name and the shop does not have: kept, asked for at Delivery, and told with a forecast."""

import pytest

from tests.web.test_goods import body_of, good_of
from yellow_abacus import bring_in

GOODS = b"SKU,Price,Cost,Tax class\nA,12.00,0.5,Low\nB,12.00,0.5,\nC,12.00,0.5,Odd\n"
ORDERS = b"Order,Date,SKU,Quantity\n1,2026-03-01,A,1\n2,2026-03-02,C,1\n"


@pytest.fixture
def odd(empty, empty_shop):
    for kind, data in (("goods", GOODS), ("orders", ORDERS)):
        bring_in.save(empty_shop, bring_in.check(empty_shop, kind, data))
    return empty


def say(client, *classes: tuple[str, int]) -> None:
    settings = client.get("/api/delivery").json["settings"]
    settings["tax_classes"] += [{"name": name, "rate_bp": rate, "zones": []} for name, rate in classes]
    assert client.put("/api/settings", json=settings | {"tax_said": True}).status_code == 200


def to_say(client) -> tuple[list[str], list[str], str]:
    frame = client.get("/api/frame").json
    names = [f"{one['name']} {one['goods']}" for one in frame["unknown_tax_classes"]]
    return names, frame["to_say"], frame["missing_delivery"]["says"].partition(", 1 zone")[0]


def test_the_rates_of_classes_that_goods_name_are_to_be_said(odd):
    tax = "what tax is in your prices, the rates of 2 tax classes"
    assert to_say(odd) == (["Low 1", "Odd 1"], ["tax"], f"things to say: {tax}")
    say(odd)
    assert to_say(odd) == (["Low 1", "Odd 1"], ["tax"], "things to say: the rates of 2 tax classes")
    say(odd, ("Low", 500))
    assert to_say(odd) == (["Odd 1"], ["tax"], "things to say: the rate of tax class Odd")
    say(odd, ("Odd", 0))
    assert to_say(odd) == ([], [], "zone without an option or tariff")


def test_a_forecast_says_what_they_are_taxed_as_until_then(odd, plan):
    def told() -> list[str]:
        asked = plan["plan"] | {"offers": []}
        return [one for one in odd.post("/api/forecast", json=asked).json["caveats"] if "tax" in one]

    assert told() == ["No rate is said for tax classes Low, Odd: 2 SKUs that were ordered are taxed as Standard."]
    say(odd, ("Low", 500))
    assert told() == ["No rate is said for tax class Odd: 1 SKU that was ordered is taxed as Standard."]
    say(odd, ("Odd", 0))
    assert told() == []


def test_such_a_good_is_changed_and_keeps_its_class_but_no_other_is_given_one_nobody_names(odd):
    body = body_of(good_of(odd, "A"))
    assert odd.put("/api/goods/one?sku=A", json=body | {"list_price": 1100}).status_code == 200
    assert (good_of(odd, "A")["tax_class"], good_of(odd, "A")["list_price"]) == ("Low", 1100)
    refused = odd.put("/api/goods/one?sku=A", json=body | {"tax_class": "Other"})
    assert (refused.status_code, refused.json["errors"][0]["pointer"]) == (422, "/tax_class")
