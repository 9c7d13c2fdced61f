"""The plan sentence of a pack: who gives way in footing, and how far"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("policy", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("policy")
