import json
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, text

from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import likeliest_rows
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.store.faults import NotAShopFileError
from yellow_abacus.store.loading import load
from yellow_abacus.store.migrating import migration_config
from yellow_abacus.store.models import Base
from yellow_abacus.store.plans import plan_named
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.store.versions import newest_version


def test_migrations_make_just_what_the_models_say(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    with shop.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_the_newest_version_is_the_last_migration():
    assert newest_version() == ScriptDirectory.from_config(migration_config()).get_current_head()


OLD_OFFER = {
    "id": "old",
    "name": "",
    "note": "",
    "in_plan": True,
    "terms": {
        "gives": [{"kind": "percent_off", "percent_bp": 1200}],
        "earned": {"conditions": [{"n": 6500, "bound": "at_least", "of": {}, "kind": "spend"}], "repeat": "once"},
        "on": {"categories": [], "except_categories": [], "skus": [], "except_skus": [], "reduced": "in"},
        "limits": {"times": None, "units": None, "units_from": "cheapest", "amount": None},
        "given": {"by": "code", "code": "FERN-7"},
        "when": {"first_day": None, "last_day": None},
        "response": {"uptake_bp": 3500, "extra_bp": 4500},
    },
}
"""An offer as the first version wrote it."""


def old_shop(path: Path, version: str, *statements: str) -> ShopFile:
    """A shop file as an older version left it, opened with this one."""
    engine = create_engine(f"sqlite:///{path}")
    config = migration_config()
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, version)
        for statement in statements:
            connection.execute(text(statement))
    engine.dispose()
    return ShopFile(path)


def test_a_shop_that_cannot_be_brought_up_to_date_stays_as_it_was(tmp_path):
    path = tmp_path / "old.sqlite"
    old_zone = "insert into zones (id, name, charge, free_from, cost) values (1, 'Home', 490, 9000, 620.5)"
    with pytest.raises(NotAShopFileError):
        old_shop(path, "0003", old_zone, "create table tariffs (id integer)")
    with closing(sqlite3.connect(path)) as left:
        assert left.execute("select version_num from alembic_version").fetchone() == ("0003",)
        assert left.execute("select charge, free_from, cost from zones").fetchall() == [(490, 9000, 620.5)]
        assert "unit_cost" in [row[1] for row in left.execute("pragma table_info(goods)")]


def test_costs_of_an_older_shop_stay_what_they_were(tmp_path):
    shop_file = old_shop(
        tmp_path / "old.sqlite",
        "0003",
        "insert into shop (id, name, currency, minor_digits, prices_with_tax, tax_bp, payment_bp, payment_fixed,"
        " picking_per_order, codes_per_order, percent_of, delivery_from, data_version)"
        " values (1, 'Old', 'EUR', 2, 1, 2100, 150, 25, 110, 1, 'net', 'net', 7)",
        "insert into zones (id, name, charge, free_from, cost) values"
        " (1, 'Home', 490, 9000, 620.5), (2, 'Far', 1290, null, null), (3, 'Bare', null, null, null)",
        "insert into goods (sku, product, option, categories, list_price, unit_cost, weight)"
        " values ('A', 'Pot', '', '[]', 4000, 1650.25, 900)",
        "insert into orders (id, number, placed_at, zone_id, shopper, code)"
        " values (1, '1', '2026-03-01 10:00:00', 1, '', ''), (2, '2', '2026-03-02 10:00:00', 2, '', '')",
        "insert into order_lines (order_id, good_id, quantity) values (1, 1, 2), (2, 1, 3)",
    )
    with shop_file.reading() as session:
        loaded = load(session)
    found = likeliest_rows(loaded.shop, loaded.batch)
    priced = price(loaded.shop, found, ())
    rows = cost(loaded.shop, found, priced)
    assert priced.total.tolist() == [8490, 13_290]
    tax = [round(total * 0.21 / 1.21) for total in (8490, 13_290)]
    assert (priced.goods_tax + priced.delivery_tax).tolist() == tax
    assert rows[INDEX["goods_cost"]].tolist() == [-3300.5, -4950.75]
    assert rows[INDEX["delivery_cost"]].tolist() == [-620.5, 0.0]
    assert rows[INDEX["picking"]].tolist() == [-110.0, -110.0]
    assert rows[INDEX["payment"]] == pytest.approx([-(8490 * 0.015 + 25), -(13_290 * 0.015 + 25)])
    home, far, bare = loaded.shop.zones
    assert [len(zone.options) for zone in (home, far, bare)] == [1, 1, 0]
    assert home.options[0].free_from == 9000


def test_a_shop_of_the_first_version_opens_with_its_contents(tmp_path):
    offers = json.dumps([OLD_OFFER]).replace(":", "\\:")
    shop = old_shop(
        tmp_path / "old.sqlite",
        "0001",
        "insert into shop (id, name, currency, minor_digits, prices_with_tax, tax_bp, payment_bp, payment_fixed,"
        " picking_per_order, codes_per_order, percent_of, delivery_from, data_version)"
        " values (1, 'Old', 'EUR', 2, 1, 2100, 150, 25, 110, 1, 'net', 'net', 7)",
        "insert into goods (sku, product, option, categories) values ('A', 'Pot', '', '[]')",
        f"insert into plans values (1, 'Old', '', '2027-03-01', '2027-03-02', '{offers}', 1)",
    )
    with shop.engine.connect() as connection:
        assert connection.execute(text("select product from goods")).scalar_one() == "Pot"
        newest = connection.execute(text("select version_num from alembic_version")).scalar_one()
    assert newest >= "0001"
    with shop.reading() as session:
        row = plan_named(session, "Old")
        plan = PlanDoc.model_validate({name: getattr(row, name) for name in PlanDoc.model_fields})
    (offer,) = plan.plan().offers
    assert offer.given.key == "fern-7"
    assert (plan.apply, offer.limits.uses, offer.steps, offer.who.first_order) == ("best", None, (), False)
