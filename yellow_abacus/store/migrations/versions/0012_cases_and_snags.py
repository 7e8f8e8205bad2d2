"""Cases of a plan, and snags that are let be"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    with op.batch_alter_table("plans") as batch:
        for name in ("cases", "set_aside"):
            batch.add_column(sa.Column(name, sa.JSON(), nullable=False, server_default="[]"))
