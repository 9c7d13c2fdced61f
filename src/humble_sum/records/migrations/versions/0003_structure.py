"""Shares, placeholders, member lists, natural signs, indents and ties"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("columns") as columns:
        columns.add_column(sa.Column("share", sa.JSON(), nullable=True))
        columns.add_column(sa.Column("absent", sa.Boolean(), nullable=False, server_default=sa.false()))
    with op.batch_alter_table("lines") as lines:
        lines.add_column(sa.Column("natural", sa.Text(), nullable=False, server_default="either"))
        lines.add_column(sa.Column("indent", sa.Integer(), nullable=True))
        lines.add_column(sa.Column("absent", sa.Boolean(), nullable=False, server_default=sa.false()))
    with op.batch_alter_table("statements") as statements:
        statements.add_column(sa.Column("members", sa.JSON(), nullable=False, server_default="[]"))
    # Which change was applied last is told by the history's own flags.
    with op.batch_alter_table("packs") as packs:
        packs.drop_column("cursor")
    op.create_table(
        "ties",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("figures", sa.JSON(), nullable=False),
        sa.UniqueConstraint("pack", "code"),
    )
    op.create_index("ix_ties_pack", "ties", ["pack"])


def downgrade() -> None:
    op.drop_index("ix_ties_pack", "ties")
    op.drop_table("ties")
    with op.batch_alter_table("packs") as packs:
        packs.add_column(sa.Column("cursor", sa.Integer(), nullable=False, server_default="0"))
    with op.batch_alter_table("statements") as statements:
        statements.drop_column("members")
    with op.batch_alter_table("lines") as lines:
        for name in ("natural", "indent", "absent"):
            lines.drop_column(name)
    with op.batch_alter_table("columns") as columns:
        for name in ("share", "absent"):
            columns.drop_column(name)
