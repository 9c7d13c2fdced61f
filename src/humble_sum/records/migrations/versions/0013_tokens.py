"""Tokens on record, by their digests; who undid, put back or withdrew what"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "tokens",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False, unique=True),
        sa.Column("made", sa.Text(), nullable=False),
        sa.Column("expires", sa.Text(), nullable=True),
        sa.Column("revoked", sa.Text(), nullable=True),
    )
    with op.batch_alter_table("changes") as changes:
        changes.add_column(sa.Column("steps", sa.JSON(), nullable=False, server_default="[]"))
    with op.batch_alter_table("issues") as issues:
        issues.add_column(sa.Column("withdrawn_by", sa.Text(), nullable=False, server_default=""))


def downgrade() -> None:
    with op.batch_alter_table("issues") as issues:
        issues.drop_column("withdrawn_by")
    with op.batch_alter_table("changes") as changes:
        changes.drop_column("steps")
    op.drop_table("tokens")
