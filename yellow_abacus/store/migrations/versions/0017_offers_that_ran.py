"""Offers that ran before"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"


def upgrade() -> None:
    op.create_table(
        "past_offers",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("offer_id", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("terms", sa.JSON(), nullable=False),
    )
