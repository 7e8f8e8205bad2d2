"""How many orders of an import were of quite another day before"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"


def upgrade() -> None:
    op.add_column("imports", sa.Column("redated", sa.Integer(), server_default="0", nullable=False))
