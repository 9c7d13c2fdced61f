"""How each pack stands in its editions, as it was looked at last"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "standings",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("edition", sa.Text(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("version", sa.Text(), nullable=False),
        sa.Column("said", sa.JSON(), nullable=False),
        sa.UniqueConstraint("pack", "edition"),
    )
    op.create_index("ix_standings_pack", "standings", ["pack"])


def downgrade() -> None:
    op.drop_index("ix_standings_pack", "standings")
    op.drop_table("standings")
