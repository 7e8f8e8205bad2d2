"""What codes the shop's software takes; goods of order lines are found at once"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    with op.batch_alter_table("shop") as batch:
        batch.add_column(sa.Column("code_shortest", sa.Integer(), nullable=False, server_default="3"))
        batch.add_column(sa.Column("code_longest", sa.Integer(), nullable=False, server_default="30"))
        batch.add_column(sa.Column("code_letters", sa.String(), nullable=False, server_default="any"))
        batch.add_column(sa.Column("code_marks", sa.String()))
    op.create_index("ix_order_lines_good_id", "order_lines", ["good_id"])
