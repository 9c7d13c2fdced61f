"""Packs that are put away or taken out, and can be brought back"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("standing", sa.Text(), nullable=False, server_default="in_use"))


def downgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("standing")
