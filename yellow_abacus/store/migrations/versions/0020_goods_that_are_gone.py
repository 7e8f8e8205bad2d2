"""Lines of imports taken back outlive their goods, whose ids stand for no others ever after"""

from alembic import op

revision = "0020"
down_revision = "0019"


def upgrade() -> None:
    for table in ("goods", "zones"):
        with op.batch_alter_table(table, recreate="always", table_kwargs={"sqlite_autoincrement": True}):
            pass
    with op.batch_alter_table("order_lines") as batch:
        batch.drop_constraint("fk_order_lines_good_id_goods", type_="foreignkey")
