"""Mixes of carts to expect, and which of them a plan uses"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "mixes",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("terms", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mixes")),
        sa.UniqueConstraint("name", name=op.f("uq_mixes_name")),
    )
    with op.batch_alter_table("plans") as batch:
        batch.add_column(sa.Column("mix", sa.String(), nullable=False, server_default=""))
