"""Editions for other readers, dashboards, and rules that reach several statements or lines"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

TABLES = ("editions", "dashboards")
SEVERAL = ("statements", "lines")


def upgrade() -> None:
    for table in TABLES:
        op.create_table(
            table,
            sa.Column("id", sa.Integer(), primary_key=True),
            sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
            sa.Column("position", sa.Integer(), nullable=False),
            sa.Column("code", sa.Text(), nullable=False),
            sa.Column("said", sa.JSON(), nullable=False),
            sa.UniqueConstraint("pack", "code"),
        )
        op.create_index(f"ix_{table}_pack", table, ["pack"])
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("own_edition", sa.Text(), nullable=False, server_default="Statutory"))
    with op.batch_alter_table("rules") as rules:
        for name in SEVERAL:
            rules.add_column(sa.Column(name, sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    for table in TABLES:
        op.drop_table(table)
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("own_edition")
    with op.batch_alter_table("rules") as rules:
        for name in SEVERAL:
            rules.drop_column(name)
