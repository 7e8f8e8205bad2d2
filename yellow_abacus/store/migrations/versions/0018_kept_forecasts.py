"""Forecasts that were kept"""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"


def upgrade() -> None:
    op.create_table(
        "kept_forecasts",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("plan", sa.String(), nullable=False),
        sa.Column("first_day", sa.Date(), nullable=False),
        sa.Column("last_day", sa.Date(), nullable=False),
        sa.Column("told", sa.JSON(), nullable=False),
    )
    op.create_index("ix_kept_forecasts_plan", "kept_forecasts", ["plan"])
