"""captions that keep their times"""

import sqlalchemy as sa
from alembic import op

revision = '0003'
down_revision = '0002'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('captions', sa.Column('locked', sa.Boolean(), nullable=False, server_default='0'))


def downgrade() -> None:
    op.drop_column('captions', 'locked')
