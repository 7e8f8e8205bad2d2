"""What goods are known by besides categories, and goods that are never discounted"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    with op.batch_alter_table("goods") as batch:
        batch.add_column(sa.Column("brand", sa.String(), nullable=False, server_default=""))
        batch.add_column(sa.Column("tags", sa.JSON(), nullable=False, server_default="[]"))
        batch.add_column(sa.Column("never_discounted", sa.Boolean(), nullable=False, server_default=sa.false()))
