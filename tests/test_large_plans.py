"""A plan whose gifts and limits run out one after another, in a shop of many carts: what was found is kept."""

from collections import Counter

from tests.bench.core_speed import changed
from yellow_abacus.core.forecast import outlook
from yellow_abacus.core.forecast.expected import MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.demo import FILES
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.store.loading import load

BUSY_DAY = 330.0
"""Orders, so that all that is limited in the demo plan ends within its days."""


def test_a_changed_number_finds_each_set_once(demo_shop, monkeypatch):
    monkeypatch.setattr(outlook, "ROWS_KEPT", 0)  # what a large shop keeps goes by its carts
    monkeypatch.setattr(outlook, "SUMS_KEPT", 3_500_000)  # enough, unless what all share is counted with each
    with demo_shop.reading() as session:
        room = Forecaster(expect(load(session).history, MixTerms(orders_a_day=BUSY_DAY)))
    plan = PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans[2].plan()
    found: Counter[object] = Counter()
    find = outlook.Outlook._find

    def counted(self, *what):
        found[(what[0].key, what[0].weights, tuple(offer.priced_part for offer in what[1]))] += 1
        return find(self, *what)

    monkeypatch.setattr(outlook.Outlook, "_find", counted)
    for percent_bp in (1_000, 1_100, 1_200):
        found.clear()
        room.forecast(changed(plan, percent_bp))
    assert len(found) >= 8
    assert set(found.values()) == {1}
