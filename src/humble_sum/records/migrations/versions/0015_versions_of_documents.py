"""The version before of documents made elsewhere"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("documents", sa.Column("before", sa.LargeBinary(), nullable=True))


def downgrade() -> None:
    op.drop_column("documents", "before")
