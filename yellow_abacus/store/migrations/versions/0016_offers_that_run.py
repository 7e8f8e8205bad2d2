"""Offers that run already, and what plans drop of them"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"


def upgrade() -> None:
    op.create_table(
        "running_offers",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("offer_id", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("terms", sa.JSON(), nullable=False),
    )
    with op.batch_alter_table("plans") as batch:
        batch.add_column(sa.Column("dropped", sa.JSON(), nullable=False, server_default="[]"))
