"""Which orders an import has just as another had them before, and whether it has any that others have"""

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
    op.add_column("imports", sa.Column("overlaps", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.execute("""
        update imports set overlaps = true where changed > 0 or id in (
            select import_id from orders
            where number in (select number from orders group by number having count(*) > 1)
        )
    """)
