"""What carriers, and those who see to payments, asked of the shop for each order"""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"


def upgrade() -> None:
    op.add_column("orders", sa.Column("delivery_cost", sa.Integer()))
    op.add_column("orders", sa.Column("payment_cost", sa.Integer()))
