"""The digest of each issue's container, so that it is known without reading the container"""

import hashlib

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("issues") as issues:
        issues.add_column(sa.Column("digest", sa.Text(), nullable=False, server_default=""))
    table = sa.table("issues", sa.column("id"), sa.column("container"), sa.column("digest"))
    connection = op.get_bind()
    for (id,) in connection.execute(sa.select(table.c.id)).all():
        # One at a time: containers are large.
        container = connection.execute(sa.select(table.c.container).where(table.c.id == id)).scalar_one()
        digest = hashlib.sha256(container).hexdigest()
        connection.execute(table.update().where(table.c.id == id).values(digest=digest))


def downgrade() -> None:
    with op.batch_alter_table("issues") as issues:
        issues.drop_column("digest")
