from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import create_engine, text

from yellow_abacus.store.models import Base
from yellow_abacus.store.shop_file import ShopFile, migration_config


def test_migrations_make_just_what_the_models_say(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    with shop.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_a_shop_of_the_first_version_opens_with_its_contents(tmp_path):
    path = tmp_path / "old.sqlite"
    engine = create_engine(f"sqlite:///{path}")
    config = migration_config()
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        connection.execute(text("insert into goods (sku, product, option, categories) values ('A', 'Pot', '', '[]')"))
    engine.dispose()
    shop = ShopFile(path)
    with shop.engine.connect() as connection:
        assert connection.execute(text("select product from goods")).scalar_one() == "Pot"
        newest = connection.execute(text("select version_num from alembic_version")).scalar_one()
    assert newest >= "0001"
