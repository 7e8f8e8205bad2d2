"""Types of carts found in the history"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.create_table(
        "cart_types",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("centres", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cart_types")),
    )
