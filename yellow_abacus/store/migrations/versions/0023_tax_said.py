"""Whether somebody said what tax is in prices: in shops there are already, yes"""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"


def upgrade() -> None:
    op.add_column("shop", sa.Column("tax_said", sa.Boolean(), server_default=sa.true(), nullable=False))
