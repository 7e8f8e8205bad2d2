"""Which version of the shop's data each change made"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    with op.batch_alter_table("changes") as batch:
        batch.add_column(sa.Column("version", sa.Integer()))
