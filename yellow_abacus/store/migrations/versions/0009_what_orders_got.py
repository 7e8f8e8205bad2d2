"""What orders really got beside what was asked, and how files of known headings are read"""

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    for table, columns in NEW.items():
        with op.batch_alter_table(table) as batch:
            for column in columns:
                batch.add_column(column)
    op.create_table(
        "headings",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("headings", sa.String(), nullable=False),
        sa.Column("fields", sa.JSON(), nullable=False),
        sa.Column("reading", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_headings")),
        sa.UniqueConstraint("headings", name=op.f("uq_headings_headings")),
    )


NEW: dict[str, list[sa.Column[Any]]] = {
    "imports": [
        sa.Column("left_out", sa.Integer(), server_default="0", nullable=False),
        sa.Column("rounded", sa.Integer(), server_default="0", nullable=False),
    ],
    "orders": [
        sa.Column("status", sa.String(), server_default="", nullable=False),
        sa.Column("delivery_paid", sa.Integer()),
        sa.Column("refunded", sa.Integer(), server_default="0", nullable=False),
    ],
    "order_lines": [
        sa.Column("paid", sa.Integer()),
        sa.Column("returned", sa.Integer(), server_default="0", nullable=False),
    ],
}
