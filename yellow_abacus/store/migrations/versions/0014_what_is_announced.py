"""The least price goods may be advertised at, and what the shop's own software holds"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"


def upgrade() -> None:
    with op.batch_alter_table("goods") as batch:
        batch.add_column(sa.Column("least_advertised", sa.Integer()))
    with op.batch_alter_table("shop") as batch:
        batch.add_column(sa.Column("most_by_itself", sa.Integer()))
        batch.add_column(sa.Column("most_by_code", sa.Integer()))
        batch.add_column(sa.Column("zone_known", sa.Boolean(), nullable=False, server_default=sa.true()))
