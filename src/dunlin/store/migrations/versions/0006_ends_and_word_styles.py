"""where a film's picture ends; words in italics, bold and underlined"""

import sqlalchemy as sa
from alembic import op

revision = '0006'
down_revision = '0005'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('films', sa.Column('picture_ends_ms', sa.Integer(), nullable=True))
    for style in ('italic', 'bold', 'underline'):
        op.add_column('words', sa.Column(style, sa.Boolean(), nullable=False, server_default='0'))


def downgrade() -> None:
    op.drop_column('films', 'picture_ends_ms')
    for style in ('italic', 'bold', 'underline'):
        op.drop_column('words', style)
