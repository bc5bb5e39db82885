"""a caption says itself what it looks like"""

import sqlalchemy as sa
from alembic import op

revision = '0011'
down_revision = '0010'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('captions', sa.Column('look', sa.JSON(), nullable=True))


def downgrade() -> None:
    op.drop_column('captions', 'look')
