"""words that captions leave out"""

import sqlalchemy as sa
from alembic import op

revision = '0009'
down_revision = '0008'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('words', sa.Column('left_out', sa.Boolean(), nullable=False, server_default='0'))


def downgrade() -> None:
    op.drop_column('words', 'left_out')
