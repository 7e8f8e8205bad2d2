"""The prices goods really go at, in place of list prices"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    with op.batch_alter_table("goods") as batch:
        batch.add_column(sa.Column("going_price", sa.Integer()))
