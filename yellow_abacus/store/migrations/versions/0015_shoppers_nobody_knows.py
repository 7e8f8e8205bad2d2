"""How many orders are of shoppers nobody knows"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    with op.batch_alter_table("shop") as batch:
        batch.add_column(sa.Column("unknown_bp", sa.Integer()))
