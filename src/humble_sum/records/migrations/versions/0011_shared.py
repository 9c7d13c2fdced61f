"""What packs have of others: the house style they follow, taxonomies that they name"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("shared", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("shared")
