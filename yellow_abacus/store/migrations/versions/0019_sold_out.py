"""What shoppers do when something is sold out"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"


def upgrade() -> None:
    with op.batch_alter_table("plans") as batch:
        batch.add_column(sa.Column("lost_if_sold_out_bp", sa.Integer()))
