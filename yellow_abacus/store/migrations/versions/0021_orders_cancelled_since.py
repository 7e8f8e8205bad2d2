"""Orders that a later file leaves out, and how many an import tells with fewer units than before"""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"


def upgrade() -> None:
    op.add_column("orders", sa.Column("left_out", sa.Boolean(), server_default="0", nullable=False))
    op.add_column("imports", sa.Column("fewer", sa.Integer(), server_default="0", nullable=False))
