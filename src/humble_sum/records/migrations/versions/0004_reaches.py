"""Rules that reach kinds of lines, places and editions, rules switched off, and lines' own currencies"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("rules") as rules:
        rules.add_column(sa.Column("kind", sa.Text(), nullable=True))
        rules.add_column(sa.Column("places", sa.JSON(), nullable=False, server_default="[]"))
        rules.add_column(sa.Column("editions", sa.JSON(), nullable=False, server_default="[]"))
        rules.add_column(sa.Column("off", sa.Boolean(), nullable=False, server_default=sa.false()))
    with op.batch_alter_table("lines") as lines:
        lines.add_column(sa.Column("currency", sa.Text(), nullable=True))


def downgrade() -> None:
    with op.batch_alter_table("lines") as lines:
        lines.drop_column("currency")
    with op.batch_alter_table("rules") as rules:
        for name in ("kind", "places", "editions", "off"):
            rules.drop_column(name)
