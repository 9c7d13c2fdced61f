"""What is said of lines, columns and statements for footing, and who held, nudged and changed"""

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

ADDED: dict[str, list[tuple[str, Any, bool, str | None]]] = {
    "statements": [("policy", sa.JSON(), True, None)],
    "columns": [("footing", sa.JSON(), False, "{}")],
    "lines": [("footing", sa.JSON(), False, "{}")],
    "holds": [("author", sa.Text(), False, ""), ("made", sa.Text(), False, "")],
    "nudges": [("author", sa.Text(), False, "")],
    "changes": [("author", sa.Text(), False, "")],
}


def upgrade() -> None:
    for table, columns in ADDED.items():
        with op.batch_alter_table(table) as changed:
            for name, kind, empty, usual in columns:
                changed.add_column(sa.Column(name, kind, nullable=empty, server_default=usual))


def downgrade() -> None:
    for table, columns in ADDED.items():
        with op.batch_alter_table(table) as changed:
            for name, *_ in columns:
                changed.drop_column(name)
