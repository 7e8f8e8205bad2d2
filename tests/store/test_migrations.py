import json

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import create_engine, text

from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.store.models import Base
from yellow_abacus.store.plans import plan_named
from yellow_abacus.store.shop_file import ShopFile, migration_config


def test_migrations_make_just_what_the_models_say(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    with shop.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


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


def test_a_shop_of_the_first_version_opens_with_its_contents(tmp_path):
    path = tmp_path / "old.sqlite"
    engine = create_engine(f"sqlite:///{path}")
    config = migration_config()
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        connection.execute(text("insert into goods (sku, product, option, categories) values ('A', 'Pot', '', '[]')"))
        connection.execute(
            text("insert into plans values (1, 'Old', '', '2027-03-01', '2027-03-02', :offers, 1)"),
            {"offers": json.dumps([OLD_OFFER])},
        )
    engine.dispose()
    shop = ShopFile(path)
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
