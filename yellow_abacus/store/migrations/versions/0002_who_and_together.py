"""What offers may be held to (a shopper's group and tags, channel, way of paying), and what goes together"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"

NEW: dict[str, list[sa.Column]] = {
    "orders": [
        sa.Column("shopper_group", sa.String(), nullable=False, server_default=""),
        sa.Column("tags", sa.JSON(), nullable=False, server_default="[]"),
        sa.Column("channel", sa.String(), nullable=False, server_default=""),
        sa.Column("payment", sa.String(), nullable=False, server_default=""),
        sa.Column("currency", sa.String(), nullable=False, server_default=""),
    ],
    "shop": [
        sa.Column("self_applying", sa.String(), nullable=False, server_default="any"),
        sa.Column("codes_with_self_applying", sa.Boolean(), nullable=False, server_default=sa.true()),
    ],
    "plans": [sa.Column("apply", sa.String(), nullable=False, server_default="best")],
}


def upgrade() -> None:
    for table, columns in NEW.items():
        with op.batch_alter_table(table) as batch:
            for column in columns:
                batch.add_column(column)
