"""Issues: editions as they went out"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "issues",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("edition", sa.Text(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("told", sa.JSON(), nullable=False),
        sa.Column("container", sa.LargeBinary(), nullable=False),
        sa.Column("withdrawn", sa.Text()),
        sa.Column("replaced", sa.Integer()),
        sa.UniqueConstraint("pack", "edition", "number"),
    )
    op.create_index("ix_issues_pack", "issues", ["pack"])


def downgrade() -> None:
    op.drop_index("ix_issues_pack", "issues")
    op.drop_table("issues")
