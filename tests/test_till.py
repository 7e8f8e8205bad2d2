"""The Till: both sides of a cart, what an offer lacks, trials, and cases."""

import json
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from click.testing import CliRunner

from yellow_abacus.bring_in_json import plan_of
from yellow_abacus.cli import main
from yellow_abacus.core.clauses.alongside import Alongside
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.forecast.sums import AT, LEDGER
from yellow_abacus.core.offers import PercentOff, Terms
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import CaseDoc, DroppedDoc, OfferDoc, PlanDoc
from yellow_abacus.files.till_json import DrawBody
from yellow_abacus.store.plans import all_plans
from yellow_abacus.till.cases import check_cases
from yellow_abacus.till.drawing import NoSuchCartError, draw
from yellow_abacus.till.mending import mends
from yellow_abacus.till.ringing import Till
from yellow_abacus.till.trials import trials
from yellow_abacus.web.app import make_app

A_CENT_TOLD = 0.5 + 1e-6
"""How far what is told in whole cents is from what is counted."""


@pytest.fixture
def plans(demo_shop) -> dict[str, PlanDoc]:
    with demo_shop.reading() as session:
        return {row.name: plan_of(row) for row in all_plans(session)}


@pytest.fixture
def till(demo_shop, plans):
    room = CountingRoom(demo_shop).current()
    return lambda name="Balcony days", **change: Till(room, plans[name].model_copy(update=change))


def cart(*lines: tuple[str, int], **told) -> CartDoc:
    lines_told = [{"sku": sku, "quantity": units} for sku, units in lines]
    return CartDoc(lines=lines_told, zone="Home", time="2027-04-12T12:00", **told)


def test_a_thousand_orders_come_to_the_same_cents_at_the_till_in_files_and_in_the_forecast(till, demo_shop, tmp_path):
    at = till("Potting-up fortnight")
    loaded, day = at.room.loaded, at.doc.first_day
    with demo_shop.reading() as session:
        some = range(0, loaded.batch.axes.carts, loaded.batch.axes.carts // 1000)
        drawn = [draw(at, session, DrawBody(plan=at.doc, order=int(loaded.orders.ids[one]))).cart for one in some]
    assert len(drawn) >= 1000
    carts = [one.model_copy(update={"time": one.time.replace(day=day.day)}) for one in drawn]
    file = tmp_path / "carts.json"
    file.write_text(json.dumps({"carts": [one.model_dump(mode="json") for one in carts]}))
    told = CliRunner().invoke(
        main, ["price", "--shop", str(demo_shop.path), "--plan", at.doc.name, "--carts", str(file), "--json"]
    )
    assert told.exit_code == 0, told.output
    client, plan = make_app(demo_shop).test_client(), at.doc.model_dump(mode="json")
    outlook, offers = at.room.forecaster.outlook, at.offers
    bare, batch = outlook.on_day(day), outlook.mix.on_day(day).batch
    there = reached(offers, loaded.shop, batch)
    counted = costed_rows(loaded.shop, rows_of(loaded.shop, batch, offers, there), offers, at.doc.apply, there)
    for cart_told, in_file, order in zip(carts, json.loads(told.output)["carts"], some, strict=True):
        ways = client.post("/api/till", json={"plan": plan, "cart": cart_told.model_dump(mode="json")}).json["ways"]
        assert cents(way["plan"] for way in ways) == cents(in_file["outcomes"])
        for side in (way[name] for way in ways for name in ("plan", "today")):
            assert sum(row["amount"] for row in side["ledger"]) == side["kept"]
        mine = counted.cart_by_row == order
        figures, shares = counted.figures[:, mine], counted.share_by_row[mine]
        counted_kept = figures[LEDGER].sum(axis=0)
        for way in (each["plan"] for each in ways):
            off = sum(told["amount"] for line in way["lines"] for told in line["taken_off"])
            same = (figures[AT["goods_with_tax"]] == way["goods"]) & (figures[AT["goods_off"]] == off)
            same &= np.abs(counted_kept - way["kept"]) <= A_CENT_TOLD
            assert shares[same].sum() >= way["share"] - 1e-9
        kept = sum(way["plan"]["kept"] * way["share"] for way in ways)
        assert kept == pytest.approx(counted_kept @ shares, abs=A_CENT_TOLD)
        kept = sum(way["today"]["kept"] * way["share"] for way in ways)
        assert kept == pytest.approx(bare.figures.by_cart[LEDGER, order].sum(), abs=A_CENT_TOLD)


def cents(outcomes) -> dict[tuple, float]:
    """What each way of a cart comes to, and how many go it."""
    found: dict[tuple, float] = {}
    for one in outcomes:
        key = (one["option"], one["total"], one["goods"], one["delivery"], one["tax"], one["kept"])
        found[key] = round(found.get(key, 0.0) + one["share"], 9)
    return found


def test_the_reason_is_told_with_what_it_needs(till):
    at = till()
    (first, *_) = at.ring_up(cart(("HF-SEMAI-1", 5))).ways
    told = {at.names[one.offer]: one.text for one in first.plan.reasons}
    assert told["Packets by the handful"] == "1 unit short of 6 units"
    assert told["A packet with it"].endswith("short of €50")
    assert told["For the newsletter"] == "only for newsletter"
    late = at.ring_up(cart(("HF-SEMAI-1", 6)).model_copy(update={"time": None})).ways[0]
    assert next(one for one in late.plan.reasons if at.names[one.offer] == "Packets by the handful").text == (
        "takes €1.32 off"
    )


def test_what_an_offer_lacks_is_added_in_one_step_and_then_it_applies(till):
    at = till()
    for mend in mends(at, cart(("HF-SEMAI-1", 1))):
        reasons = at.ring_up(mend.cart).ways[0].plan.reasons
        assert next(one for one in reasons if one.offer == mend.offer).reason == "applied", mend.label
    labels = {at.names[one.offer]: one.label for one in mends(at, cart(("HF-SEMAI-1", 1)))}
    assert labels["Packets by the handful"] == "add 5 × HF-SEPUR-1"
    assert labels["For the newsletter"] == "come as such a shopper, type the code BALCONY-27"


def test_sets_that_were_held_against_each_other_are_told_the_best_first(till, plans):
    doc = plans["Potting-up fortnight"]
    alone = [
        one.model_copy(update={"in_plan": True, "terms": replace(one.terms, alongside=Alongside(never="all"))})
        for one in doc.offers
    ]
    at = till("Potting-up fortnight", offers=alone)
    ways = at.ring_up(cart(("HF-PLSTO-1", 2)).model_copy(update={"time": None})).ways
    for way in ways:
        costs = [one.pays - one.put_in for one in way.sets]
        assert len(costs) > 1
        assert costs == sorted(costs)
        assert [one.kept for one in way.sets] == [True] + [False] * (len(costs) - 1)
        assert way.sets[0].pays == way.plan.total
        assert {one.offer for one in way.steps} == set(way.sets[0].offers)
        assert "which saves the shopper more" in " ".join(one.text for one in way.plan.reasons)


def test_steps_take_off_what_the_slip_says_in_all(till):
    at = till("Potting-up fortnight")
    (way, *_) = at.ring_up(cart(("HF-SOFER-1", 9)).model_copy(update={"time": None})).ways
    assert [(at.names[one.offer], one.on) for one in way.steps] == [
        ("Spring twelve", "goods"),
        ("Free post", "delivery"),
    ]
    off = sum(one.amount for line in way.plan.lines for one in line.taken_off)
    assert way.today.goods - off == way.plan.goods


def test_trials_bring_shoppers_the_offer_is_for(till):
    found = trials(till())
    tried = {(one.label, till().names[one.offer]): one for one in found}
    for name in till().names.values():
        mine = [one for (_, offer), one in tried.items() if offer == name]
        assert {one.applies for one in mine} == {True, False}, name
    assert tried["a minute later", "Pot and plant"].text == "ended on 25 April"
    assert not tried["without its code", "For the newsletter"].applies
    assert tried["from Islands and far", "Pot and plant"].cart.zone == "Islands and far"


def test_a_case_says_what_comes_out_otherwise(till):
    at = till()
    ring = at.ring_up(cart(("HF-SEMAI-1", 10))).ways[0].plan
    applies = [one.offer for one in ring.reasons if one.reason == "applied"]
    case = CaseDoc(name="Ten", cart=cart(("HF-SEMAI-1", 10)), pays=ring.total, applies=applies)
    gone = case.model_copy(update={"cart": cart(("HF-GONE", 1))})
    (held,) = check_cases(till(cases=[case]))
    assert held.holds
    assert held.says == ""
    without = [one.model_copy(update={"in_plan": one.id not in applies}) for one in at.doc.offers]
    told, missing = check_cases(till(cases=[case, gone], offers=without))
    assert told.says == "pays €32.40, not €28.27; Packets by the handful does not apply"
    assert missing.says.startswith("The shop has no SKU “HF-GONE”.")
    assert missing.pays is None


def test_carts_of_the_history_come_as_asked(till, demo_shop):
    at = till()
    seeds, gift = (
        next(one.id for one in at.doc.offers if one.name == name)
        for name in ("Packets by the handful", "A packet with it")
    )
    with demo_shop.reading() as session:
        for turn in range(5):
            near = draw(at, session, DrawBody(plan=at.doc, near=gift, turn=turn)).cart
            reasons = at.ring_up(near).ways[0].plan.reasons
            assert next(one for one in reasons if one.offer == gift).reason == "short"
        typed = draw(at, session, DrawBody(plan=at.doc, way="category", label="Mostly Seeds"))
        assert typed.of.startswith("Order ")
        assert typed.cart.time is not None
        assert date(2027, 4, 12) <= typed.cart.time.date() <= at.doc.last_day
        with pytest.raises(NoSuchCartError, match="Mostly Bricks"):
            draw(at, session, DrawBody(plan=at.doc, way="category", label="Mostly Bricks"))
        with pytest.raises(NoSuchCartError, match="no such offer"):
            draw(at, session, DrawBody(plan=at.doc, near="gone"))
    assert seeds != gift


def test_what_runs_already_is_on_both_sides_and_what_is_dropped_on_todays_alone(demo_shop, plans):
    room, doc = CountingRoom(demo_shop).current(), plans["Balcony days"]
    percent = OfferDoc(id="ten", terms=Terms(gives=(PercentOff(1000),)))
    coded = OfferDoc(id="coded", terms=Terms(gives=(PercentOff(500),), given=Given("code", code="FRONDLET")))
    bare = doc.model_copy(update={"offers": []})
    bring = cart(("HF-SEMAI-1", 2))
    alone = Till(room, bare).ring_up(bring).ways[0].today
    both = Till(room, bare.beside([percent, coded])).ring_up(bring).ways[0]
    assert both.plan.total == both.today.total == alone.total - round(alone.goods * 0.1)
    assert [(one.offer, one.reason) for one in both.plan.reasons] == [("ten", "applied"), ("coded", "no_code")]
    dropped = bare.model_copy(update={"dropped": [DroppedDoc(offer="ten")]}).beside([percent, coded])
    typed = Till(room, dropped).ring_up(bring.model_copy(update={"codes": ["frondlet"]})).ways[0]
    assert typed.plan.total == alone.total - round(alone.goods * 0.05)
    assert typed.today.total < typed.plan.total
    assert [(one.offer, one.reason) for one in typed.plan.reasons] == [("coded", "applied")]
    instead = bare.model_copy(update={"offers": [OfferDoc(id="ten", terms=Terms(gives=(PercentOff(2000),)))]})
    found = Till(room, instead.beside([percent])).ring_up(bring).ways[0]
    assert found.plan.total == alone.total - round(alone.goods * 0.2)
    assert found.today.total == both.today.total
