"""Columns headed by a date, and specimens of a pack's own"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("columns") as columns:
        columns.add_column(sa.Column("date", sa.Text(), nullable=True))
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("specimens", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("specimens")
    with op.batch_alter_table("columns") as columns:
        columns.drop_column("date")
