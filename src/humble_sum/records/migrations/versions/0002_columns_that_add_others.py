"""Columns that add others"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("columns") as columns:
        columns.add_column(sa.Column("adds", sa.JSON(), nullable=True))


def downgrade() -> None:
    with op.batch_alter_table("columns") as columns:
        columns.drop_column("adds")
