"""Orders belong to the import that brought them in, which can be taken back; an order may come in several"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "imports",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("file", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("new", sa.Integer(), nullable=False),
        sa.Column("changed", sa.Integer(), nullable=False),
        sa.Column("unchanged", sa.Integer(), nullable=False),
        sa.Column("live", sa.Boolean(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_imports")),
    )
    with op.batch_alter_table("orders") as batch:
        batch.add_column(sa.Column("import_id", sa.Integer()))
        batch.drop_constraint("uq_orders_number", type_="unique")
        batch.drop_constraint("fk_orders_zone_id_zones", type_="foreignkey")
        batch.create_index("ix_orders_number", ["number"])
        batch.create_index("ix_orders_import_id", ["import_id"])
