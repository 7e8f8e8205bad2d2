"""First version"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:

    op.create_table(
        "changes",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("undone", sa.Boolean(), nullable=False),
        sa.Column("images", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_changes")),
    )
    op.create_table(
        "goods",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("sku", sa.String(), nullable=False),
        sa.Column("product", sa.String(), nullable=False),
        sa.Column("option", sa.String(), nullable=False),
        sa.Column("list_price", sa.Integer(), nullable=True),
        sa.Column("reduced_price", sa.Integer(), nullable=True),
        sa.Column("unit_cost", sa.Double(), nullable=True),
        sa.Column("weight", sa.Double(), nullable=True),
        sa.Column("categories", sa.JSON(), nullable=False),
        sa.Column("stock", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_goods")),
        sa.UniqueConstraint("sku", name=op.f("uq_goods_sku")),
    )
    op.create_table(
        "plans",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("first_day", sa.Date(), nullable=False),
        sa.Column("last_day", sa.Date(), nullable=False),
        sa.Column("offers", sa.JSON(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_plans")),
    )
    op.create_table(
        "shop",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("currency", sa.String(), nullable=False),
        sa.Column("minor_digits", sa.Integer(), nullable=False),
        sa.Column("prices_with_tax", sa.Boolean(), nullable=False),
        sa.Column("tax_bp", sa.Integer(), nullable=False),
        sa.Column("payment_bp", sa.Integer(), nullable=False),
        sa.Column("payment_fixed", sa.Double(), nullable=False),
        sa.Column("picking_per_order", sa.Double(), nullable=False),
        sa.Column("codes_per_order", sa.Integer(), nullable=False),
        sa.Column("percent_of", sa.String(), nullable=False),
        sa.Column("delivery_from", sa.String(), nullable=False),
        sa.Column("data_version", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop")),
    )
    op.create_table(
        "zones",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("charge", sa.Integer(), nullable=True),
        sa.Column("free_from", sa.Integer(), nullable=True),
        sa.Column("cost", sa.Double(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_zones")),
        sa.UniqueConstraint("name", name=op.f("uq_zones_name")),
    )
    op.create_table(
        "orders",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(), nullable=False),
        sa.Column("placed_at", sa.DateTime(), nullable=False),
        sa.Column("zone_id", sa.Integer(), nullable=False),
        sa.Column("shopper", sa.String(), nullable=False),
        sa.Column("first_order", sa.Boolean(), nullable=True),
        sa.Column("code", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["zone_id"], ["zones.id"], name=op.f("fk_orders_zone_id_zones")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_orders")),
        sa.UniqueConstraint("number", name=op.f("uq_orders_number")),
    )
    with op.batch_alter_table("orders", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_orders_placed_at"), ["placed_at"], unique=False)

    op.create_table(
        "order_lines",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("order_id", sa.Integer(), nullable=False),
        sa.Column("good_id", sa.Integer(), nullable=False),
        sa.Column("quantity", sa.Integer(), nullable=False),
        sa.Column("unit_price", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(["good_id"], ["goods.id"], name=op.f("fk_order_lines_good_id_goods")),
        sa.ForeignKeyConstraint(
            ["order_id"], ["orders.id"], name=op.f("fk_order_lines_order_id_orders"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_order_lines")),
    )
    with op.batch_alter_table("order_lines", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_order_lines_order_id"), ["order_id"], unique=False)
