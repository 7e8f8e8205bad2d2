"""The demo shop is what its generator makes, and comes in through the import everybody uses."""

from collections import Counter

from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.demo import FILES
from yellow_abacus.demo.generate import files
from yellow_abacus.store.loading import load


def test_the_shipped_files_are_what_the_generator_makes():
    for name, text in files().items():
        assert FILES.joinpath(name).read_text(encoding="utf-8") == text, (
            f"run python -m yellow_abacus.demo.generate: {name}"
        )


def test_the_demo_shop_has_the_shape_it_should(demo_shop):
    with demo_shop.reading() as session:
        loaded = load(session)
    assert loaded.batch.axes.carts == 12_000
    assert loaded.counted_days == 365
    assert 50 <= len(loaded.batch.goods.skus) <= 70
    assert len(loaded.batch.goods.categories) == 8
    assert Counter(zone.name for zone in loaded.shop.zones).keys() == {"Home", "Near abroad", "Islands and far"}
    assert Forecaster(expect(loaded.history)).missing_costs == 1
