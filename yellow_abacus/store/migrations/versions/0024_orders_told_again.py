"""Which orders an import has just as another had them before"""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"


def upgrade() -> None:
    op.create_table(
        "told_again",
        sa.Column("import_id", sa.Integer(), primary_key=True),
        sa.Column("order_id", sa.Integer(), primary_key=True),
        sqlite_with_rowid=False,
    )
