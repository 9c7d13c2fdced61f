"""Points and signatures of reviewers; what stays of issues whose pack is deleted"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("points", "signatures", "document_answers"):
        op.create_table(
            name,
            sa.Column("id", sa.Integer(), primary_key=True),
            sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
            sa.Column("position", sa.Integer(), nullable=False),
            sa.Column("code", sa.Text(), nullable=False),
            sa.Column("said", sa.JSON(), nullable=False),
            sa.UniqueConstraint("pack", "code"),
        )
        op.create_index(f"ix_{name}_pack", name, ["pack"])
    texts = (
        *("pack", "entity", "period", "edition", "state", "made", "prepared_by", "reviewed_by"),
        *("recipients", "digest", "withdrawn_by", "deleted", "deleted_by"),
    )
    op.create_table(
        "deleted_issues",
        sa.Column("id", sa.Integer(), primary_key=True),
        *(sa.Column(name, sa.Text(), nullable=False) for name in texts),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("withdrawn", sa.Text(), nullable=True),
    )

    op.create_table(
        "documents",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("pack", sa.Text(), sa.ForeignKey("packs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("at", sa.Text(), nullable=False),
        sa.Column("author", sa.Text(), nullable=False),
        sa.UniqueConstraint("pack", "name"),
    )
    op.create_index("ix_documents_pack", "documents", ["pack"])


def downgrade() -> None:
    op.drop_index("ix_documents_pack", "documents")
    op.drop_table("documents")
    op.drop_table("deleted_issues")
    for name in ("document_answers", "signatures", "points"):
        op.drop_index(f"ix_{name}_pack", name)
        op.drop_table(name)
